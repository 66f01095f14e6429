// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/share.h"

#include "base/vector_clones.h"

#include <algorithm>

namespace ml {
namespace {

ML_VECTOR_CLONES void mixRows(const float* a, const float* b, float f, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = a[i] + f * (b[i] - a[i]);
}

} // namespace

bool shareRow(const Image<float>& share, int cell, int x0, int y, int count, float* out) {
  const float scale = 1.f / float(cell);
  const auto place = [scale](int pixel, int size, int& whole) {
    const float at = std::clamp((float(pixel) + 0.5f) * scale - 0.5f, 0.f, float(size - 1));
    whole = std::min(int(at), size - 2);
    return at - float(whole);
  };
  int iy, first, last;
  const float fy = place(y, share.height(), iy);
  (void)place(x0, share.width(), first);
  (void)place(x0 + count - 1, share.width(), last);
  const float *a = share.row(iy), *b = share.row(iy + 1);
  const auto one = [](float v) { return v == 1; };
  if (std::all_of(a + first, a + last + 2, one) && std::all_of(b + first, b + last + 2, one)) return true;
  std::vector<float> row(std::size_t(last - first + 2));
  mixRows(a + first, b + first, fy, int(row.size()), row.data());
  for (int i = 0; i < count; ++i) {
    int ix;
    const float fx = place(x0 + i, share.width(), ix), left = row[std::size_t(ix - first)];
    out[i] = left + fx * (row[std::size_t(ix - first) + 1] - left);
  }
  return false;
}

bool allSpeak(const std::vector<Source>& sources, const CellMask* moved, const Roi& tile, int margin) {
  const int cell = sources.front().shareCell;
  const auto all = [&](const auto& cells, auto value) {
    const int left = std::max(0, (tile.x - margin) / cell - 1), top = std::max(0, (tile.y - margin) / cell - 1);
    const int right = std::min(cells.width() - 1, (tile.x + tile.width + margin) / cell + 1),
              bottom = std::min(cells.height() - 1, (tile.y + tile.height + margin) / cell + 1);
    for (int y = top; y <= bottom; ++y)
      for (int x = left; x <= right; ++x)
        if (*cells.at(x, y) != value) return false;
    return true;
  };
  if (moved && !all(*moved, std::uint8_t{0})) return false;
  return std::all_of(sources.begin(), sources.end(), [&](const Source& s) { return !s.share || all(*s.share, 1.f); });
}

} // namespace ml
