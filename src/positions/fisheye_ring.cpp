// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/fisheye_ring.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ml {
namespace {

constexpr double kQuarterTurn = std::numbers::pi / 2, kWholeTurn = 2 * std::numbers::pi;
constexpr double kInsideRim = 0.985; ///< Of a circle's radius: beyond, its edge is in the pixel.

float bilinear(ImageView<const float> in, double x, double y) {
  const double cx = std::clamp(x, 0.0, in.width - 1.001), cy = std::clamp(y, 0.0, in.height - 1.001);
  const int ix = int(cx), iy = int(cy);
  const float fx = float(cx - ix), fy = float(cy - iy);
  const float *a = in.at(ix, iy), *b = in.at(ix, iy + 1);
  return (1 - fy) * ((1 - fx) * a[0] + fx * a[1]) + fy * ((1 - fx) * b[0] + fx * b[1]);
}

/// Half the width of the ring that both lenses show, radians.
double ringHalf(const FisheyePair& pair) {
  const double radius = std::min(pair.lenses[0].radius, pair.lenses[1].radius);
  return pair.angleAt(kInsideRim * radius) - kQuarterTurn;
}

/// A lens's own ring: columns by the angle about its axis, rows by that from it, `from` first.
Image<float> ownRing(ImageView<const float> tones, const FisheyePair& pair, int which, double from, double to,
                     int columns, int rows) {
  Image<float> out(columns, rows, 1);
  const FisheyeCircle& lens = pair.lenses[std::size_t(which)];
  for (int y = 0; y < rows; ++y) {
    const double r = pair.radiusAt(from + (to - from) * (y + 0.5) / rows);
    for (int x = 0; x < columns; ++x) {
      const double a = kWholeTurn * x / columns;
      *out.at(x, y) = bilinear(tones, lens.x + r * std::cos(a), lens.y + r * std::sin(a));
    }
  }
  return out;
}

/// Takes the mean over a twelfth of the way around from each row: what is left are things, not where light comes from.
void keepThings(Image<float>& ring) {
  const int w = ring.width(), reach = w / 24;
  std::vector<float> row;
  for (int y = 0; y < ring.height(); ++y) {
    row.assign(ring.row(y), ring.row(y) + w);
    double sum = 0;
    for (int k = -reach; k <= reach; ++k) sum += row[std::size_t((k + w) % w)];
    for (int x = 0; x < w; ++x) {
      ring.row(y)[x] = float(row[std::size_t(x)] - sum / (2 * reach + 1));
      sum += row[std::size_t((x + reach + 1) % w)] - row[std::size_t((x - reach + w) % w)];
    }
  }
}

double energy(const Image<float>& ring) {
  return std::inner_product(ring.data(), ring.data() + ring.size(), ring.data(), 1e-9);
}

/// A patch of one picture and, for each shift within `reach`, how alike the other one is there.
class Patch {
public:
  Patch(const RingPictures& rings, int column, int width, int reachX, int reachY)
      : rings_(rings), column_(column), width_(width), reachX_(reachX), reachY_(reachY),
        rows_(rings.lens[0].height() - 2 * reachY) {
    for (int y = 0; y < rows_; ++y)
      for (int x = 0; x < width_; ++x) values_.push_back(*at(0, x, y, 0, 0));
    const double mean = std::accumulate(values_.begin(), values_.end(), 0.0) / double(values_.size());
    for (float& v : values_) v -= float(mean), spread_ += double(v) * v;
  }
  /// Standard deviation, stops.
  [[nodiscard]] double texture() const { return std::sqrt(spread_ / double(values_.size())); }
  /// The best shift, fractions included; false: none is like it, or it lies at the end of the reach.
  bool find(double& dx, double& dy) const {
    constexpr double kAlike = 0.75;
    double best = kAlike;
    int bx = 0, by = 0;
    for (int v = -reachY_; v <= reachY_; ++v)
      for (int u = -reachX_; u <= reachX_; ++u)
        if (const double c = alike(u, v); c > best) best = c, bx = u, by = v;
    if (best <= kAlike || std::abs(bx) == reachX_ || std::abs(by) == reachY_) return false;
    dx = bx + peak(alike(bx - 1, by), best, alike(bx + 1, by));
    dy = by + peak(alike(bx, by - 1), best, alike(bx, by + 1));
    return true;
  }

private:
  [[nodiscard]] const float* at(int lens, int x, int y, int u, int v) const {
    const Image<float>& in = rings_.lens[std::size_t(lens)];
    const int w = in.width();
    return in.at(((column_ + x + u) % w + w) % w, y + reachY_ + v);
  }
  static double peak(double before, double top, double after) {
    const double bend = before - 2 * top + after;
    return bend < 0 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0;
  }
  [[nodiscard]] double alike(int u, int v) const {
    double sum = 0, squares = 0, product = 0;
    const float* own = values_.data();
    for (int y = 0; y < rows_; ++y)
      for (int x = 0; x < width_; ++x, ++own) {
        const double b = *at(1, x, y, u, v);
        sum += b, squares += b * b, product += b * *own;
      }
    const double n = double(values_.size());
    return product / std::sqrt(std::max(1e-12, spread_ * (squares - sum * sum / n)));
  }

  const RingPictures& rings_;
  int column_, width_, reachX_, reachY_, rows_;
  std::vector<float> values_;
  double spread_ = 0;
};

} // namespace

RingTurn turnBetweenRings(ImageView<const float> tones, const FisheyePair& pair) {
  constexpr int kColumns = 720, kRows = 9;
  const double half = 0.9 * ringHalf(pair);
  if (half <= 0) return {};
  Image<float> left = ownRing(tones, pair, 0, kQuarterTurn - half, kQuarterTurn + half, kColumns, kRows),
               right = ownRing(tones, pair, 1, kQuarterTurn + half, kQuarterTurn - half, kColumns, kRows);
  keepThings(left);
  keepThings(right);
  const double scale = std::sqrt(energy(left) * energy(right));
  RingTurn best;
  for (int turn = 0; turn < kColumns; ++turn) {
    double sum = 0;
    for (int y = 0; y < kRows; ++y) // seen from behind: the right lens goes around the other way
      for (int x = 0; x < kColumns; ++x)
        sum += left.row(y)[x] * right.row(y)[(kColumns + kColumns / 2 - x + turn) % kColumns];
    if (sum / scale > best.alike) best = {kWholeTurn * turn / kColumns, sum / scale};
  }
  if (best.radians > std::numbers::pi) best.radians -= kWholeTurn;
  return best;
}

Vector3 RingPictures::direction(double column, double row) const {
  const double around = column * pitch, angle = kQuarterTurn - half + (row + 0.5) * pitch;
  return {std::sin(angle) * std::cos(around), std::sin(angle) * std::sin(around), std::cos(angle)};
}

RingPictures ringPictures(ImageView<const float> tones, const FisheyePair& pair, double pitch) {
  RingPictures out;
  const int columns = std::max(64, int(std::lround(kWholeTurn / pitch)));
  const int rows = std::max(2, int(2 * ringHalf(pair) / (kWholeTurn / columns)));
  out.pitch = kWholeTurn / columns;
  out.half = rows * out.pitch / 2;
  for (int which = 0; which < 2; ++which) {
    Image<float>& into = out.lens[std::size_t(which)] = Image<float>(columns, rows, 1);
    forEachBand(rows, [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < columns; ++x) {
          double u, v;
          pair.pixel(which, out.direction(x, y), u, v);
          *into.at(x, y) = bilinear(tones, u, v);
        }
    });
  }
  return out;
}

RingMatches matchRings(ImageView<const float> tones, const FisheyePair& pair, double reach) {
  constexpr int kPatches = 72;
  constexpr double kTexture = 0.06;
  if (ringHalf(pair) < kLeastRing) return {};
  const RingPictures rings = ringPictures(tones, pair, 1 / pair.focal);
  const int columns = rings.lens[0].width(), rows = rings.lens[0].height();
  const int reachX = std::max(2, int(reach / rings.pitch)), reachY = std::max(2, std::min(reachX, rows / 5));
  if (rows < 2 * reachY + 4) return {};
  const int width = columns / kPatches;
  std::vector<RingMatch> matches(kPatches);
  std::vector<char> state(kPatches, 0); // 1: something to see, 2: found
  forEachBand(
      kPatches,
      [&](const Band& band) {
        for (int k = band.begin; k < band.end; ++k) {
          const Patch patch(rings, k * width, width, reachX, reachY);
          if (patch.texture() < kTexture) continue;
          state[std::size_t(k)] = 1;
          double dx, dy;
          if (!patch.find(dx, dy)) continue;
          state[std::size_t(k)] = 2;
          RingMatch& m = matches[std::size_t(k)];
          const double x = k * width + (width - 1) / 2.0, y = (rows - 1) / 2.0;
          pair.pixel(0, rings.direction(x, y), m.left[0], m.left[1]);
          pair.pixel(1, rings.direction(x + dx, y + dy), m.right[0], m.right[1]);
        }
      },
      4);
  RingMatches out;
  for (std::size_t k = 0; k < kPatches; ++k) {
    out.tried += state[k] > 0;
    if (state[k] == 2) out.matches.push_back(matches[k]);
  }
  return out;
}

} // namespace ml
