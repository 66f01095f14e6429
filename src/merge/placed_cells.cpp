// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/placed_cells.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "merge/photosite_cells.h"
#include "merge/variance_curve.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr std::size_t kDarkestCode = 5; ///< Of 256; rendered and rounded, what is darker says little.

constexpr int kRowStep = 2; ///< Every other row of a cell tells enough of its mean.

/// Codes from which a channel counts as clipped.
std::array<int, 3> clipCodes(const Frame& frame) {
  std::array<int, 3> codes{};
  for (int c = 0; c < 3; ++c) {
    const float limit = 0.97f * frame.table.clipFrom * frame.saturation[std::size_t(c)],
                *table = frame.table.channel(c);
    codes[std::size_t(c)] = int(std::upper_bound(table, table + frame.table.size(), limit) - table);
  }
  return codes;
}

/// Where the blocks of a row of cells begin in a frame. Whole pixels; cells whose block leaves the frame are found by
/// the caller.
ML_VECTOR_CLONES void blockCorners(const double* h, double firstX, double y, double step, double middle, int n,
                                   int* __restrict left, int* __restrict top) {
  constexpr double kFar = 1 << 20; // keeps what is rounded positive
  for (int i = 0; i < n; ++i) {
    const double x = firstX + step * i, inverse = 1 / (h[6] * x + h[7] * y + h[8]);
    const double u = (h[0] * x + h[1] * y + h[2]) * inverse - middle,
                 v = (h[3] * x + h[4] * y + h[5]) * inverse - middle;
    left[i] = int(std::min(std::max(u, -1e5), 1e6) + (kFar + 0.5)) - int(kFar);
    top[i] = int(std::min(std::max(v, -1e5), 1e6) + (kFar + 0.5)) - int(kFar);
  }
}

/// Sums of a block's light by channel.
template <int kCell, class View>
BlockLight sumBlock(const View& codes, int left, int top, const float* const table[3],
                    const std::array<int, 3>& limit) {
  BlockLight sum;
  int any = 0;
  for (int j = 0; j < kCell; j += kRowStep) {
    const auto* code = codes.at(left, top + j);
    float red = 0, green = 0, blue = 0; // a chain of their own for each row: additions need not wait for each other
    for (int i = 0; i < kCell; ++i, code += 3) {
      red += table[0][code[0]], green += table[1][code[1]], blue += table[2][code[2]];
      any |= (code[0] >= limit[0]) | (code[1] >= limit[1]) << 1 | (code[2] >= limit[2]) << 2;
    }
    sum.red += red, sum.green += green, sum.blue += blue;
  }
  sum.clipped = std::uint8_t(any);
  return sum;
}

constexpr float kHuesOfThreads = 2; ///< What differences of colour within a block leave open of its own.

/// Calls work with the cell's size as a constant.
template <class Work> void withCellSize(int cell, const Work& work) {
  switch (cell) {
  case 4: return work(std::integral_constant<int, 4>{});
  case 5: return work(std::integral_constant<int, 5>{});
  case 6: return work(std::integral_constant<int, 6>{});
  case 7: return work(std::integral_constant<int, 7>{});
  default: return work(std::integral_constant<int, 8>{});
  }
}

/// Writes what a block says; `share` makes a mean of its sum.
class CellWriter {
public:
  CellWriter(const Frame& frame, float share, PlacedCells& cells)
      : redGain_(3 / frame.saturation[0]), blueGain_(3 / frame.saturation[2]), share_(share), cells_(cells) {}

  void outside(int x, int y) const {
    *cells_.radiance.at(x, y) = -1;
    *cells_.clipped.at(x, y) = kAllClipped;
    *cells_.chroma.at(x, y) = *cells_.red.at(x, y) = *cells_.green.at(x, y) = 0;
    if (!cells_.chromaRange.empty()) *cells_.chromaRange.at(x, y) = 0;
  }
  void write(int x, int y, const BlockLight& sum) const {
    const float all = sum.red + sum.green + sum.blue;
    *cells_.radiance.at(x, y) = std::max(0.f, all * share_);
    *cells_.chroma.at(x, y) = (sum.red * redGain_ - sum.blue * blueGain_) / std::max(1e-9f, all);
    *cells_.clipped.at(x, y) = sum.clipped;
    if (!cells_.chromaRange.empty()) *cells_.chromaRange.at(x, y) = 3 * sum.hues / std::max(1e-9f, all);
    *cells_.red.at(x, y) = sum.red / std::max(1e-9f, all);
    *cells_.green.at(x, y) = sum.green / std::max(1e-9f, all);
  }

private:
  float redGain_, blueGain_, share_;
  PlacedCells& cells_;
};

/// Where a block begins, moved into the frame by `slack` at most.
int heldIn(int begin, int side, int size, int slack) {
  if (begin < 0) return begin + slack >= 0 ? 0 : begin;
  return begin + side > size && begin + side - slack <= size ? size - side : begin;
}

/// Calls `read` with the place in the frame of each cell's block of `side` pixels about the cell's middle; what leaves
/// the frame by more than a cell does is outside.
template <class Read>
void forEachBlock(const PlacedFrame& placed, int cell, int side, const CellWriter& writer, int width, const Band& band,
                  const Read& read) {
  std::vector<int> left(std::size_t(width), 0), top(std::size_t(width), 0);
  const int slack = std::max(0, side - cell);
  const double cellMiddle = (cell - 1) / 2.0, middle = (side - 1) / 2.0;
  for (int y = band.begin; y < band.end; ++y) {
    blockCorners(placed.toFrame.data(), cellMiddle, y * cell + cellMiddle, cell, middle, width, left.data(),
                 top.data());
    for (int x = 0; x < width; ++x) {
      const int u = heldIn(left[std::size_t(x)], side, placed.frame->width(), slack),
                v = heldIn(top[std::size_t(x)], side, placed.frame->height(), slack);
      if (u < 0 || v < 0 || u + side > placed.frame->width() || v + side > placed.frame->height())
        writer.outside(x, y);
      else
        writer.write(x, y, read(u, v));
    }
  }
}

/// Mean light (all channels) and clipping of the block of pixels that lies nearest to each cell.
void readCells(const PlacedFrame& placed, int cell, PlacedCells& cells) {
  const Frame& frame = *placed.frame;
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  const std::array<int, 3> limit = clipCodes(frame);
  const int width = cells.radiance.width(), height = cells.radiance.height();
  if (frame.isMosaic()) {
    const PhotositeCells blocks(frame, limit);
    const CellWriter writer(frame, 1 / 3.f, cells);
    forEachBand(height, [&](const Band& band) {
      forEachBlock(placed, cell, PhotositeCells::kSide, writer, width, band,
                   [&](int u, int v) { return blocks.at(u, v); });
    });
    return;
  }
  const CellWriter writer(frame, 1 / (3.f * float(cell * ((cell + kRowStep - 1) / kRowStep))), cells);
  frame.codes.visit([&](auto codes) {
    withCellSize(cell, [&]<int kCell>(std::integral_constant<int, kCell>) {
      forEachBand(height, [&](const Band& band) {
        forEachBlock(placed, kCell, kCell, writer, width, band,
                     [&](int u, int v) { return sumBlock<kCell>(codes, u, v, table, limit); });
      });
    });
  });
}

/// Factor on a frame's radiance by its own light, learnt from cells that other frames record too. Two bins a stop.
class ToneCorrection {
public:
  static constexpr int kBins = 28;
  using Samples = std::array<std::vector<float>, kBins>;

  ToneCorrection() { factors_.fill(1); }
  static int bin(float light) {
    constexpr double kStops = 14;
    return std::clamp(int((std::log2(std::max(light, 1e-9f)) + kStops) * 2), 0, kBins - 1);
  }
  [[nodiscard]] float at(float light) const { return factors_[std::size_t(bin(light))]; }

  /// `samples`: ratios of what others say to what this frame says, by bin. Bins with few samples follow their
  /// neighbours. No factor beyond `most`.
  void learn(Samples& samples, float most) {
    constexpr std::size_t kEnough = 25;
    std::array<float, kBins> medians{};
    float last = 0;
    for (int i = kBins - 1; i >= 0; --i) { // from the bright end, where samples are good
      auto& s = samples[std::size_t(i)];
      if (s.size() >= kEnough) {
        std::nth_element(s.begin(), s.begin() + std::ptrdiff_t(s.size() / 2), s.end());
        last = std::clamp(s[s.size() / 2], 1 / most, most);
      }
      medians[std::size_t(i)] = last;
    }
    for (int i = 0; i < kBins; ++i) {
      if (medians[std::size_t(i)] == 0) medians[std::size_t(i)] = i > 0 ? medians[std::size_t(i) - 1] : 0;
      factors_[std::size_t(i)] = medians[std::size_t(i)] == 0 ? 1 : medians[std::size_t(i)];
    }
  }

private:
  std::array<float, kBins> factors_{};
};

/// Of a curve that was assumed, and of linear light, whose exposure alone is unsure. What one frame shows all over in a
/// tone of its own, somebody who stands there, must not be explained away.
constexpr float kMostOfCurve = 2, kMostOfLinear = 1.1f;

ToneCorrection learnTones(const PlacedCells& frame, const Image<float>& known, float most) {
  ToneCorrection::Samples samples;
  const std::size_t stride = known.size() / 200000 + 1;
  std::array<std::size_t, ToneCorrection::kBins> all{};
  for (std::size_t i = 0; i < known.size(); i += stride) {
    if (!frame.recorded.data()[i]) continue;
    const auto bin = std::size_t(ToneCorrection::bin(frame.radiance.data()[i]));
    ++all[bin];
    if (known.data()[i] > 0) samples[bin].push_back(known.data()[i] * float(frame.exposure) / frame.radiance.data()[i]);
  }
  // Light that the others mostly do not record, they record only where something moved: that teaches nothing.
  for (std::size_t bin = 0; bin < all.size(); ++bin)
    if (2 * samples[bin].size() < all[bin]) samples[bin].clear();
  ToneCorrection tone;
  tone.learn(samples, most);
  return tone;
}

ML_VECTOR_CLONES void extremes(const float* a, const float* b, const float* c, int n, float* __restrict low,
                               float* __restrict high) {
  for (int i = 0; i < n; ++i) {
    low[i] = std::min(std::min(a[i], b[i]), c[i]);
    high[i] = std::max(std::max(a[i], b[i]), c[i]);
  }
}

/// Greatest less least of the 3x3 cells around each; what lies outside the frame (-1) widens it, so that nothing is
/// decided there.
Image<float> rangeOf(const Image<float>& in) {
  const int w = in.width(), h = in.height();
  Image<float> out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    std::vector<float> low(std::size_t(w) + 2), high(std::size_t(w) + 2);
    for (int y = band.begin; y < band.end; ++y) {
      extremes(in.row(std::max(0, y - 1)), in.row(y), in.row(std::min(h - 1, y + 1)), w, low.data() + 1,
               high.data() + 1);
      low[0] = low[1], high[0] = high[1], low[std::size_t(w) + 1] = low[std::size_t(w)],
      high[std::size_t(w) + 1] = high[std::size_t(w)];
      float* row = out.row(y);
      for (int x = 0; x < w; ++x) {
        const std::size_t i = std::size_t(x);
        row[x] =
            std::max(std::max(high[i], high[i + 1]), high[i + 2]) - std::min(std::min(low[i], low[i + 1]), low[i + 2]);
      }
    }
  });
  return out;
}

/// From light to radiance.
void scale(PlacedCells& frame, const ToneCorrection& tone) {
  const float inverse = float(1 / frame.exposure);
  const int h = frame.radiance.height(), w = frame.radiance.width();
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float* light = frame.radiance.at(x, y);
        if (*light < 0) continue;
        const float factor = tone.at(*light) * inverse;
        *light *= factor;
        *frame.sigma.at(x, y) *= factor;
      }
  });
  frame.range = rangeOf(frame.radiance);
}

/// Noise of each cell, and whether it is recorded: unclipped and above the noise.
void findSigma(PlacedCells& cells, const Band& rows, const VarianceCurve& variance, float perCell, float least,
               float darkest) {
  for (int y = rows.begin; y < rows.end; ++y)
    for (int x = 0; x < cells.radiance.width(); ++x) {
      const float light = *cells.radiance.at(x, y), sigma = std::sqrt(variance.at(light) * perCell);
      *cells.sigma.at(x, y) = sigma;
      *cells.recorded.at(x, y) = !*cells.clipped.at(x, y) && light > std::max(least * sigma, darkest);
    }
}

} // namespace

std::vector<PlacedCells> placeCells(const std::vector<PlacedFrame>& frames, int cell, const std::vector<int>& order,
                                    const Progress& progress) {
  const int width = frames.front().frame->width() / cell, height = frames.front().frame->height() / cell;
  std::vector<PlacedCells> cells;
  for (const auto& placed : frames) {
    if (progress.stopRequested()) break;
    const Frame& frame = *placed.frame;
    PlacedCells c{Image<float>(width, height, 1),
                  Image<float>(width, height, 1),
                  Image<float>(width, height, 1),
                  Image<float>(width, height, 1),
                  {},
                  Image<float>(width, height, 1),
                  Image<float>(width, height, 1),
                  Image<std::uint8_t>(width, height, 1),
                  Image<std::uint8_t>(width, height, 1),
                  relativeExposure(frame.settings) * frame.midTone,
                  frame.codeError > 0};
    if (frame.isMosaic()) c.chromaRange = Image<float>(width, height, 1);
    readCells(placed, cell, c);
    Image<float> around = rangeOf(c.chroma);
    if (frame.isMosaic())
      for (std::size_t i = 0; i < around.size(); ++i) around.data()[i] += kHuesOfThreads * c.chromaRange.data()[i];
    c.chromaRange = std::move(around);
    // Neighbouring samples share demosaicing, and compression errors even more. Photosites share nothing; a third of
    // them says what the rarest colour does.
    const float perCell = frame.isMosaic() ? 1.5f / float(PhotositeCells::kSide * PhotositeCells::kSide)
                                           : (frame.codeError > 0 ? 4.f : 1.5f) * kRowStep / float(cell * cell),
                least = frame.codeError > 0 ? 4.f : 2.f;
    const VarianceCurve variance = varianceCurve(frame);
    const float darkest =
        frame.codeError > 0 ? frame.table.channel(1)[std::size_t(frame.table.size()) * kDarkestCode / 256] : 0.f;
    forEachBand(height, [&](const Band& band) { findSigma(c, band, variance, perCell, least, darkest); });
    cells.push_back(std::move(c));
  }
  if (progress.stopRequested()) return cells;
  Image<float> known(width, height, 1);
  known.fill(-1);
  for (std::size_t k = 0; k < order.size(); ++k) {
    PlacedCells& frame = cells[std::size_t(order[k])];
    const float most = frames[std::size_t(order[k])].frame->codeError > 0 ? kMostOfCurve : kMostOfLinear;
    scale(frame, k > 0 ? learnTones(frame, known, most) : ToneCorrection{});
    for (std::size_t i = 0; i < known.size(); ++i)
      if (known.data()[i] <= 0 && frame.recorded.data()[i]) known.data()[i] = frame.radiance.data()[i];
  }
  return cells;
}

} // namespace ml
