// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/cell_mask.h"

#include "base/parallel.h"

#include <algorithm>

namespace ml {
namespace {

/// Cells set within `radius` along rows, then along columns: sums of a square, at a cost that does not depend on its
/// size.
Image<int> boxSums(const CellMask& mask, int radius) {
  const int w = mask.width(), h = mask.height();
  Image<int> across(w, h, 1), out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const std::uint8_t* in = mask.row(y);
      int sum = 0;
      for (int x = 0; x < std::min(radius, w); ++x) sum += in[x];
      for (int x = 0; x < w; ++x) {
        if (x + radius < w) sum += in[x + radius];
        if (x - radius - 1 >= 0) sum -= in[x - radius - 1];
        across.row(y)[x] = sum;
      }
    }
  });
  std::vector<int> sum(std::size_t(w), 0);
  for (int y = 0; y < std::min(radius, h); ++y)
    for (int x = 0; x < w; ++x) sum[std::size_t(x)] += across.row(y)[x];
  for (int y = 0; y < h; ++y) {
    const int *enters = y + radius < h ? across.row(y + radius) : nullptr,
              *leaves = y - radius - 1 >= 0 ? across.row(y - radius - 1) : nullptr;
    for (int x = 0; x < w; ++x) {
      if (enters) sum[std::size_t(x)] += enters[x];
      if (leaves) sum[std::size_t(x)] -= leaves[x];
      out.row(y)[x] = sum[std::size_t(x)];
    }
  }
  return out;
}

} // namespace

CellMask emptyMask(int width, int height) {
  CellMask mask(width, height, 1);
  mask.fill(0);
  return mask;
}

std::vector<std::vector<int>> components(const CellMask& mask) {
  const int w = mask.width(), h = mask.height();
  CellMask seen = emptyMask(w, h);
  std::vector<std::vector<int>> found;
  std::vector<int> stack;
  for (int start = 0; start < w * h; ++start) {
    if (!mask.data()[start] || seen.data()[start]) continue;
    found.emplace_back();
    stack.assign(1, start);
    seen.data()[start] = 1;
    while (!stack.empty()) {
      const int at = stack.back();
      stack.pop_back();
      found.back().push_back(at);
      for (int v = std::max(0, at / w - 1); v <= std::min(h - 1, at / w + 1); ++v)
        for (int u = std::max(0, at % w - 1); u <= std::min(w - 1, at % w + 1); ++u)
          if (const int next = v * w + u; mask.data()[next] && !seen.data()[next]) {
            seen.data()[next] = 1;
            stack.push_back(next);
          }
    }
  }
  return found;
}

CellMask dilated(const CellMask& mask, int radius) {
  const Image<int> sums = boxSums(mask, radius);
  CellMask out(mask.width(), mask.height(), 1);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = sums.data()[i] > 0;
  return out;
}

void dropSpecks(CellMask& mask, std::size_t least) {
  for (const auto& component : components(mask))
    if (component.size() < least)
      for (const int at : component) mask.data()[at] = 0;
}

void unite(CellMask& into, const CellMask& other) {
  for (std::size_t i = 0; i < into.size(); ++i) into.data()[i] |= other.data()[i];
}

Image<float> softShare(const CellMask& mask, int radius) {
  const int w = mask.width(), h = mask.height();
  const CellMask grown = dilated(mask, radius);
  const Image<int> sums = boxSums(grown, radius);
  Image<float> share(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const int across = std::min(w - 1, x + radius) - std::max(0, x - radius) + 1,
                down = std::min(h - 1, y + radius) - std::max(0, y - radius) + 1;
      *share.at(x, y) = *grown.at(x, y)
                            ? 0.f
                            : std::max(0.f, 1 - 2 * float(*sums.at(x, y)) /
                                                    float(across * down)); // a straight border covers half at first
    }
  return share;
}

} // namespace ml
