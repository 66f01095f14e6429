// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/warp.h"

#include "base/vector_clones.h"
#include "image/fast_math.h"
#include "image/interpolate.h"
#include "positions/light_codes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr int kStep = 8; ///< Geometry is exact at every 8th pixel of every 8th row, and straight between.
constexpr int kWide = 3 * kInterpolationTaps;
constexpr int kRead = 24; ///< Codes read of a row: 18 that count, and what fills vectors.
constexpr int kPhases = 512;

/// Weights by 512ths of a pixel.
struct PhaseWeights {
  struct Phase {
    float wide[kRead]; ///< Each three times, for interleaved channels; then 0.
    float plain[kInterpolationTaps];
  };
  std::vector<Phase> phases{kPhases + 1};
  PhaseWeights() {
    for (int i = 0; i <= kPhases; ++i) {
      Phase& p = phases[std::size_t(i)];
      interpolationWeights(float(i) / kPhases, p.plain);
      for (int k = 0; k < kRead; ++k) p.wide[k] = k < kWide ? p.plain[k / 3] : 0;
    }
  }
};

/// A place of the picture: the first of its six by six pixels, and where between the middle ones it lies.
struct Taps {
  const std::uint16_t* from;
  std::ptrdiff_t stride;
  const PhaseWeights::Phase *x, *y;
};

constexpr int kRun = 16; ///< Pixels that are weighted together.

constexpr float kEven = 0.4f * LightCodes::kSteps; ///< Between neighbours, below which both means are the same.

/// Weighted codes of three channels of `count` places, held near what the four pixels in the middle show. Where bright
/// meets dark the light is weighted: the mean of logarithms is not the logarithm of the mean.
ML_VECTOR_CLONES void interpolate(const Taps* taps, int count, float* __restrict out) {
  float weighted[kRun][kRead], low[kRun][8], high[kRun][8];
  bool even[kRun];
  for (int j = 0; j < count; ++j) {
    const Taps& t = taps[j];
    const std::uint16_t* one = t.from + 2 * t.stride + 6;
    const std::uint16_t* two = one + t.stride;
    for (int c = 0; c < 8; ++c) {
      const float a = one[c], b = one[3 + c], d = two[c], e = two[3 + c];
      const float ab = a < b ? a : b, de = d < e ? d : e, ba = a < b ? b : a, ed = d < e ? e : d;
      low[j][c] = ab < de ? ab : de, high[j][c] = ba < ed ? ed : ba;
    }
    even[j] = high[j][0] - low[j][0] < kEven && high[j][1] - low[j][1] < kEven && high[j][2] - low[j][2] < kEven;
    float sum[kRead] = {};
    for (int r = 0; r < kInterpolationTaps; ++r) {
      const std::uint16_t* row = t.from + r * t.stride;
      const float w = t.y->plain[r];
      if (even[j])
        for (int i = 0; i < kRead; ++i) sum[i] += w * float(row[i]);
      else
        for (int i = 0; i < kRead; ++i) sum[i] += w * fastExp2(float(row[i]) * (1 / LightCodes::kSteps));
    }
    for (int i = 0; i < kRead; ++i) weighted[j][i] = t.x->wide[i] * sum[i];
  }
  for (int j = 0; j < count; ++j)
    for (int c = 0; c < 3; ++c) {
      float value = 0;
      for (int k = 0; k < kInterpolationTaps; ++k) value += weighted[j][3 * k + c];
      if (!even[j]) value = LightCodes::kSteps * fastLog2(value > 1 ? value : 1);
      const float room = even[j] ? 0.25f * (high[j][c] - low[j][c]) : 0;
      out[3 * j + c] = std::clamp(value, low[j][c] - room, high[j][c] + room);
    }
}

/// Reads a picture at places of a row of the canvas, a run at a time.
class Reader {
public:
  explicit Reader(const Image<std::uint16_t>& picture) : picture_(picture) {}

  /// Adds a place inside the picture: its upper left neighbour and what is beyond, 512ths. Its codes will be `to`.
  void add(int x, int y, int beyondX, int beyondY, float* to) {
    static const PhaseWeights weights;
    const int px = x - 2, py = y - 2;
    Taps& taps = taps_[std::size_t(count_)];
    taps = {nullptr, std::ptrdiff_t(picture_.width()) * 3, &weights.phases[std::size_t(beyondX)],
            &weights.phases[std::size_t(beyondY)]};
    const bool whole =
        px >= 0 && py >= 0 && px + kRead / 3 <= picture_.width() && py + kInterpolationTaps <= picture_.height();
    if (whole)
      taps.from = picture_.at(px, py);
    else
      repeatEdge(px, py, edges_[std::size_t(count_)], taps);
    to_[std::size_t(count_)] = to;
    if (++count_ == kRun) flush();
  }
  void flush() {
    float values[3 * kRun];
    interpolate(taps_.data(), count_, values);
    for (int j = 0; j < count_; ++j) std::copy_n(values + 3 * j, 3, to_[std::size_t(j)]);
    count_ = 0;
  }

private:
  using Edge = std::array<std::uint16_t, kInterpolationTaps * kRead>;
  /// Neighbours beyond the picture's edge repeat.
  void repeatEdge(int px, int py, Edge& edge, Taps& taps) const {
    for (int r = 0; r < kInterpolationTaps; ++r)
      for (int k = 0; k < kRead / 3; ++k)
        std::copy_n(
            picture_.at(std::clamp(px + k, 0, picture_.width() - 1), std::clamp(py + r, 0, picture_.height() - 1)), 3,
            edge.data() + r * kRead + 3 * k);
    taps.from = edge.data();
    taps.stride = kRead;
  }
  const Image<std::uint16_t>& picture_;
  std::array<Taps, kRun> taps_{};
  std::array<Edge, kRun> edges_{};
  std::array<float*, kRun> to_{};
  int count_ = 0;
};

/// Where the pixels of a row lie in the picture.
struct RowPlaces {
  explicit RowPlaces(int width)
      : x(std::size_t(width) + kStep), y(x.size()), wholeX(x.size()), wholeY(x.size()), beyondX(x.size()),
        beyondY(x.size()), lens(x.size()) {}
  std::vector<double> x, y;
  std::vector<int> wholeX, wholeY, beyondX, beyondY; ///< The same, whole pixels and 512ths.
  std::vector<float> lens;                           ///< Stops that the lens adds there.
};

constexpr double kNowhere = -1e6; ///< A place that no picture holds.

/// Eight places from one node to the next, without that.
ML_VECTOR_CLONES void between(double from, double to, double* out) {
  for (int i = 0; i < kStep; ++i) out[i] = from + (to - from) * i * (1.0 / kStep);
}

struct FrameShape {
  double width, height;
};

/// Splits places into whole pixels and 512ths, and says what the lens adds.
ML_VECTOR_CLONES void split(const double* x, const double* y, int count, const FrameShape& shape, double fallOff2,
                            double fallOff4, RowPlaces& out) {
  int *const wx = out.wholeX.data(), *const wy = out.wholeY.data(), *const bx = out.beyondX.data(),
             *const by = out.beyondY.data();
  float* const lens = out.lens.data();
  const double middleX = (shape.width - 1) / 2, middleY = (shape.height - 1) / 2;
  const double perHalf2 = 4 / (shape.width * shape.width + shape.height * shape.height);
  for (int i = 0; i < count; ++i) {
    const double fx = __builtin_floor(x[i]), fy = __builtin_floor(y[i]);
    wx[i] = int(fx), wy[i] = int(fy);
    bx[i] = int((x[i] - fx) * kPhases + 0.5), by[i] = int((y[i] - fy) * kPhases + 0.5);
    const double dx = x[i] - middleX, dy = y[i] - middleY, rho2 = (dx * dx + dy * dy) * perHalf2;
    lens[i] = float(rho2 * (fallOff2 + rho2 * fallOff4));
  }
}

/// Where the pixels of a tile lie in the picture: exact at the nodes of a grid, straight between.
class Places {
public:
  Places(const CameraGeometry& camera, const DirectionAt& direction, const Roi& tile)
      : camera_(camera), direction_(direction), tile_(tile), columns_(tile.width / kStep + 2) {
    for (int y = 0; y < tile.height + kStep; y += kStep)
      for (int x = 0; x < columns_; ++x) nodes_.push_back(exact(x * kStep, y));
    row_.resize(std::size_t(columns_));
  }
  void ofRow(int y, RowPlaces& out) {
    const Node *above = &nodes_[std::size_t(y / kStep) * std::size_t(columns_)], *below = above + columns_;
    const double share = double(y % kStep) / kStep;
    for (int i = 0; i < columns_; ++i)
      row_[std::size_t(i)] = {above[i].x + (below[i].x - above[i].x) * share,
                              above[i].y + (below[i].y - above[i].y) * share, above[i].seen && below[i].seen};
    for (int i = 0; i + 1 < columns_; ++i) {
      const Node &left = row_[std::size_t(i)], &right = row_[std::size_t(i) + 1];
      const bool none = !above[i].seen && !above[i + 1].seen && !below[i].seen && !below[i + 1].seen;
      double *x = &out.x[std::size_t(i * kStep)], *toY = &out.y[std::size_t(i * kStep)];
      if (left.seen && right.seen)
        between(left.x, right.x, x), between(left.y, right.y, toY);
      else
        for (int k = 0; k < kStep; ++k) {
          const Node node = none ? Node{} : exact(i * kStep + k, y);
          x[k] = node.x, toY[k] = node.y;
        }
    }
  }

private:
  struct Node {
    double x = kNowhere, y = kNowhere;
    bool seen = false;
  };
  [[nodiscard]] Node exact(int x, int y) const {
    Node node;
    node.seen = camera_.pixel(direction_(tile_.x + x, tile_.y + y), node.x, node.y);
    return node;
  }
  const CameraGeometry& camera_;
  const DirectionAt& direction_;
  Roi tile_;
  int columns_;
  std::vector<Node> nodes_, row_;
};

/// From codes to stops, less what is taken from them.
ML_VECTOR_CLONES void toStops(float* row, const float* lens, int count, const float* gain) {
  for (int x = 0; x < count; ++x)
    for (int c = 0; c < 3; ++c) row[3 * x + c] = (row[3 * x + c] - 1) * (1 / LightCodes::kSteps) - gain[c] - lens[x];
}

} // namespace

Warped warp(const CameraGeometry& camera, const Image<std::uint16_t>& picture, const LightChange& change,
            const DirectionAt& direction, const Roi& tile) {
  Warped out{Image<float>(tile.width, tile.height, 3), Image<std::uint8_t>(tile.width, tile.height, 1), false, true};
  const int width = picture.width(), height = picture.height();
  const float gain[3] = {float(change.gain[0]), float(change.gain[1]), float(change.gain[2])};
  Places places(camera, direction, tile);
  Reader reader(picture);
  RowPlaces at(tile.width);
  for (int y = 0; y < tile.height; ++y) {
    float* to = out.stops.row(y);
    std::uint8_t* covered = out.covered.row(y);
    places.ofRow(y, at);
    split(at.x.data(), at.y.data(), tile.width, {double(width), double(height)}, change.fallOff2, change.fallOff4, at);
    for (std::size_t x = 0; x < std::size_t(tile.width); ++x) {
      covered[x] = at.x[x] > -0.5 && at.y[x] > -0.5 && at.x[x] < width - 0.5 && at.y[x] < height - 0.5;
      if (covered[x])
        reader.add(at.wholeX[x], at.wholeY[x], at.beyondX[x], at.beyondY[x], to + 3 * x);
      else
        std::fill_n(to + 3 * x, 3, 0.f);
    }
    reader.flush();
    toStops(to, at.lens.data(), tile.width, gain);
    const auto count = std::count(covered, covered + tile.width, std::uint8_t(1));
    out.any = out.any || count > 0;
    out.all = out.all && count == tile.width;
  }
  return out;
}

} // namespace ml
