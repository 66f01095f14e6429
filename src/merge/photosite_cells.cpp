// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/photosite_cells.h"

#include "base/vector_clones.h"
#include "mosaic/demosaic_tile.h"

#include <algorithm>

namespace ml {
namespace {

constexpr int kSide = PhotositeCells::kSide, kRows = kSide + 2, kLanes = 8; ///< A column on either side, one to spare.
constexpr float kWeights[kSide] = {0.5f, 1, 1, 1, 0.5f};
constexpr float kAllWeights = 4 * 4;

/// By column, the column before the block first. Of even rows of the block, then of odd ones: differences from the
/// greens beside, the least and the most of them, and the highest code.
struct Columns {
  float green[kLanes], apart[2][kLanes], least[2][kLanes], most[2][kLanes], high[2][kLanes];
};

/// `greens`: for even and odd rows of the block 1 where a photosite is green, else 0.
ML_VECTOR_CLONES void sumColumns(const std::uint16_t* first, std::ptrdiff_t stride, const float (*greens)[kLanes],
                                 Columns& out) {
  float codes[kRows][kLanes + 2];
  for (int j = 0; j < kRows; ++j) {
    codes[j][0] = codes[j][kLanes + 1] = 0;
    for (int i = 0; i < kLanes; ++i) codes[j][i + 1] = float(first[j * stride + i]);
  }
  for (int i = 0; i < kLanes; ++i) {
    out.green[i] = 0;
    for (int k = 0; k < 2; ++k) out.apart[k][i] = 0, out.least[k][i] = 1e9f, out.most[k][i] = -1e9f, out.high[k][i] = 0;
  }
  for (int j = 0; j < kSide; ++j) {
    const float *up = codes[j] + 1, *here = codes[j + 1] + 1, *down = codes[j + 2] + 1, weight = kWeights[j];
    const int k = j & 1;
    for (int i = 0; i < kLanes; ++i) {
      const float beside = 0.25f * (here[i - 1] + here[i + 1] + up[i] + down[i]), difference = here[i] - beside;
      out.green[i] += weight * (beside + greens[k][i] * difference);
      out.apart[k][i] += weight * difference;
      out.least[k][i] = out.least[k][i] < difference ? out.least[k][i] : difference;
      out.most[k][i] = out.most[k][i] > difference ? out.most[k][i] : difference;
      out.high[k][i] = out.high[k][i] > here[i] ? out.high[k][i] : here[i];
    }
  }
}

/// Of the photosites of one parity of rows that are not green: their colour's mean difference and how far they go
/// apart.
struct Hue {
  float mean = 0, apart = 0;
};
Hue hueOf(const Columns& c, int row, int firstColumn) {
  float sum = 0, weights = 0, least = 1e9f, most = -1e9f;
  for (int i = firstColumn; i < kSide; i += 2) {
    sum += kWeights[i] * c.apart[row][i + 1], weights += kWeights[i];
    least = std::min(least, c.least[row][i + 1]), most = std::max(most, c.most[row][i + 1]);
  }
  const float rows = row == 0 ? kWeights[0] + kWeights[2] + kWeights[4] : kWeights[1] + kWeights[3];
  return {sum / (weights * rows), most - least};
}

} // namespace

PhotositeCells::PhotositeCells(const Frame& frame, const std::array<int, 3>& limit)
    : sites_(frame.codes.photosites()), pattern_(frame.pattern), limit_(limit) {
  const float *light = frame.table.channel(1), last = float(frame.table.size() - 1);
  scale_ = (light[frame.table.size() - 1] - light[0]) / last;
  black_ = -light[0] / scale_;
}

BlockLight PhotositeCells::at(int left, int top) const {
  static constexpr float kGreens[2][2][kLanes] = {{{0, 1, 0, 1, 0, 1, 0, 1}, {1, 0, 1, 0, 1, 0, 1, 0}},
                                                  {{1, 0, 1, 0, 1, 0, 1, 0}, {0, 1, 0, 1, 0, 1, 0, 1}}};
  Columns columns;
  const auto colourAt = [&](int x, int y) { return pattern_[std::size_t(2 * (y & 1) + (x & 1))]; };
  const bool greenBefore = colourAt(left - 1, top) == 1;
  if (left > 0 && top > 0 && left - 1 + kLanes <= sites_.width && top + kSide < sites_.height) {
    sumColumns(sites_.at(left - 1, top - 1), sites_.stride, kGreens[greenBefore ? 1 : 0], columns);
  } else {
    std::uint16_t codes[kRows * kLanes];
    for (int j = 0; j < kRows; ++j)
      for (int i = 0; i < kLanes; ++i)
        codes[j * kLanes + i] = *sites_.at(mirrored(left - 1 + i, sites_.width), mirrored(top - 1 + j, sites_.height));
    sumColumns(codes, kLanes, kGreens[greenBefore ? 1 : 0], columns);
  }
  float green = 0;
  for (int i = 0; i < kSide; ++i) green += kWeights[i] * columns.green[i + 1];
  green /= kAllWeights;
  BlockLight out;
  for (int row = 0; row < 2; ++row) {
    const int column = colourAt(left, top + row) == 1 ? 1 : 0, c = colourAt(left + column, top + row);
    const Hue hue = hueOf(columns, row, column);
    (c == 0 ? out.red : out.blue) = std::max(0.f, (green + hue.mean - black_) * scale_);
    out.hues = std::max(out.hues, hue.apart * scale_);
    for (int i = 0; i < kSide; ++i) {
      const int colour = (i & 1) == column ? c : 1;
      const bool full = int(columns.high[row][i + 1]) >= limit_[std::size_t(colour)];
      out.clipped = std::uint8_t(out.clipped | int(full) << colour);
    }
  }
  out.green = std::max(0.f, (green - black_) * scale_);
  return out;
}

} // namespace ml
