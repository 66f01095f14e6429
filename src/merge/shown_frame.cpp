// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/shown_frame.h"

#include "base/vector_clones.h"
#include "image/colour.h"
#include "merge/share.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

/// Linear light to sRGB codes 0..1; entries are spaced by the square root of light: within 1e-4.
constexpr int kSteps = 4096;
const std::vector<float>& encoding() {
  static const std::vector<float> table = [] {
    std::vector<float> t(kSteps + 1);
    for (int i = 0; i <= kSteps; ++i) t[std::size_t(i)] = float(srgbEncode(double(i) * i / (double(kSteps) * kSteps)));
    return t;
  }();
  return table;
}

ML_VECTOR_CLONES void encodeRow(const float* linear, const float* table, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float at = std::sqrt(std::min(std::max(linear[i], 0.f), 1.f)) * kSteps;
    const int k = std::min(int(at), kSteps - 1);
    out[i] = table[k] + (at - float(k)) * (table[k + 1] - table[k]);
  }
}

ML_VECTOR_CLONES void mixRow(const float* r, const float* g, const float* b, float wr, float wg, float wb, int n,
                             float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = wr * r[i] + wg * g[i] + wb * b[i];
}

} // namespace

ShownFrame::ShownFrame(const PlacedFrame& placed, const Image<float>* share, int cell)
    : placed_(placed), share_(share), cell_(cell), plain_(placed.frame->toRec709 == kIdentity3) {
  if (!plain_ || !placed.frame->curveAssumed) return;
  std::vector<float> shown(std::size_t(placed.frame->table.size()));
  for (std::size_t i = 0; i < shown.size(); ++i) shown[i] = float(i) / float(shown.size() - 1);
  codes_.emplace(std::move(shown));
}

void ShownFrame::read(TileReader& reader, const Roi& where, FrameTile& tile, ShownTile& out) const {
  reader.read(where, false, tile);
  const int n = where.width;
  const float gain = 0.18f / placed_.frame->midTone;
  const Matrix3& m = placed_.frame->toRec709;
  Image<float>* const planes[3] = {&out.red, &out.green, &out.blue};
  std::vector<float> mixed(std::size_t(n), 0.f);
  for (int y = 0; y < where.height; ++y) {
    const float* light[3] = {tile.linear[0].row(y), tile.linear[1].row(y), tile.linear[2].row(y)};
    for (std::size_t c = 0; c < 3; ++c) {
      if (codes_) {
        std::copy_n(light[c], n, planes[c]->row(y));
        continue;
      }
      mixRow(light[0], light[1], light[2], gain * float(m[3 * c]), gain * float(m[3 * c + 1]),
             gain * float(m[3 * c + 2]), n, mixed.data());
      encodeRow(mixed.data(), encoding().data(), n, planes[c]->row(y));
    }
    float* use = out.use.row(y);
    if (!share_ || shareRow(*share_, cell_, where.x, where.y + y, n, use)) std::fill_n(use, n, 1.f);
    if (tile.allTrusted) continue;
    const float* trust = tile.trust[0].row(y);
    for (int x = 0; x < n; ++x)
      if (trust[x] < 0) use[x] = 0; // outside
  }
}

} // namespace ml
