// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/shape.h"

#include "base/parallel.h"
#include "image/resample.h"

#include <Eigen/Dense>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

double radians(double degrees) {
  return degrees * std::numbers::pi / 180;
}

Spot2 project(const Matrix3& m, Spot2 p) {
  const double z = m[6] * p.x + m[7] * p.y + m[8];
  return {(m[0] * p.x + m[1] * p.y + m[2]) / z, (m[3] * p.x + m[4] * p.y + m[5]) / z};
}

/// K R K^-1 for a camera turned by roll about its axis, pitch about the horizontal and yaw about the vertical.
Matrix3 turned(const Geometry& g, double focal) {
  const double r = radians(g.roll * g.strength), p = radians(g.pitch * g.strength), w = radians(g.yaw * g.strength);
  const Matrix3 roll{std::cos(r), -std::sin(r), 0, std::sin(r), std::cos(r), 0, 0, 0, 1};
  const Matrix3 pitch{1, 0, 0, 0, std::cos(p), -std::sin(p), 0, std::sin(p), std::cos(p)};
  const Matrix3 yaw{std::cos(w), 0, std::sin(w), 0, 1, 0, -std::sin(w), 0, std::cos(w)};
  const Matrix3 k{focal, 0, 0, 0, focal, 0, 0, 0, 1}, back{1 / focal, 0, 0, 0, 1 / focal, 0, 0, 0, 1};
  return multiply(k, multiply(roll, multiply(pitch, multiply(yaw, back))));
}

float gridValue(const Image<float>& grid, double x, double y, int channel) {
  const double u = std::clamp(x, 0.0, 1.0) * (grid.width() - 1), v = std::clamp(y, 0.0, 1.0) * (grid.height() - 1);
  const int i = std::min(int(u), grid.width() - 2), j = std::min(int(v), grid.height() - 2);
  const float fx = float(u - i), fy = float(v - j);
  const auto at = [&](int a, int b) { return grid.at(a, b)[channel]; };
  return (1 - fy) * ((1 - fx) * at(i, j) + fx * at(i + 1, j)) + fy * ((1 - fx) * at(i, j + 1) + fx * at(i + 1, j + 1));
}

/// Catmull-Rom sum over four rows and columns around (u, v), held near the middle four samples; channels [first, last).
void cubicAt(ImageView<const float> in, float u, float v, int first, int last, float gain, float* out) {
  const int x = int(std::floor(u)), y = int(std::floor(v));
  float wx[4], wy[4];
  cubicWeights(u - float(x), wx);
  cubicWeights(v - float(y), wy);
  const float* rows[4];
  std::ptrdiff_t columns[4];
  for (int k = 0; k < 4; ++k) {
    rows[k] = in.row(std::clamp(y + k - 1, 0, in.height - 1));
    columns[k] = 3 * std::ptrdiff_t(std::clamp(x + k - 1, 0, in.width - 1));
  }
  for (int c = first; c < last; ++c) {
    float sum = 0;
    for (int j = 0; j < 4; ++j) {
      const float* row = rows[j] + c;
      sum += wy[j] *
             (wx[0] * row[columns[0]] + wx[1] * row[columns[1]] + wx[2] * row[columns[2]] + wx[3] * row[columns[3]]);
    }
    const float a = rows[1][columns[1] + c], b = rows[1][columns[2] + c], d = rows[2][columns[1] + c],
                e = rows[2][columns[2] + c];
    const float low = std::min(std::min(a, b), std::min(d, e)), high = std::max(std::max(a, b), std::max(d, e));
    out[c] = gain * std::clamp(sum, 0.8f * low, 1.2f * high);
  }
}

constexpr int kStretch = 32; ///< Pixels of a row over which places and gains follow a parabola: within 1e-3 of a pixel
                             ///< for any lens and turn a picture can have.

/// A smooth function of x by its values at 0, half and all of kStretch.
struct Parabola {
  float start = 0, slope = 0, bend = 0;
  Parabola() = default;
  Parabola(double a, double b, double c)
      : start(float(a)), slope(float((4 * b - 3 * a - c) / kStretch)),
        bend(float((2 * a + 2 * c - 4 * b) / (kStretch * kStretch))) {}
  [[nodiscard]] float at(int i) const { return start + float(i) * (slope + bend * float(i)); }
};

} // namespace

std::optional<Matrix3> homography(const std::array<Spot2, 4>& from, const std::array<Spot2, 4>& to) {
  for (const auto& p : {from, to})
    for (std::size_t i = 0; i < 4; ++i) { // no three on a line
      const Spot2 &a = p[i], &b = p[(i + 1) % 4], &c = p[(i + 2) % 4];
      if (std::abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) < 1e-9) return {};
    }
  Eigen::Matrix<double, 8, 8> a = Eigen::Matrix<double, 8, 8>::Zero();
  Eigen::Matrix<double, 8, 1> b;
  for (int i = 0; i < 4; ++i) {
    const auto &p = from[std::size_t(i)], &q = to[std::size_t(i)];
    a.row(2 * i) << p.x, p.y, 1, 0, 0, 0, -q.x * p.x, -q.x * p.y;
    a.row(2 * i + 1) << 0, 0, 0, p.x, p.y, 1, -q.y * p.x, -q.y * p.y;
    b(2 * i) = q.x;
    b(2 * i + 1) = q.y;
  }
  const Eigen::FullPivLU<Eigen::Matrix<double, 8, 8>> lu(a);
  if (!lu.isInvertible()) return {};
  const Eigen::Matrix<double, 8, 1> h = lu.solve(b);
  return Matrix3{h(0), h(1), h(2), h(3), h(4), h(5), h(6), h(7), 1};
}

ShapeMap::ShapeMap(const Geometry& g, int width, int height, const LensMap* lens, double focal)
    : geometry_(g), lens_(g.lens && lens && !(lens->places.empty() && lens->gain.empty()) ? lens : nullptr),
      width_(width), height_(height) {
  const double half = std::max(width, height) / 2.0;
  aspectX_ = width / 2.0 / half;
  aspectY_ = height / 2.0 / half;
  turns_ = g.roll != 0 || g.pitch != 0 || g.yaw != 0 || g.corners.size() == 4;
  turn_ = turned(g, focal);
  if (g.corners.size() == 4) {
    // The quadrangle becomes the level rectangle of its mean edges, about its own middle.
    std::array<Spot2, 4> corner;
    for (std::size_t i = 0; i < 4; ++i)
      corner[i] = {(2 * g.corners[i].x - 1) * aspectX_, (2 * g.corners[i].y - 1) * aspectY_};
    const auto length = [&](int a, int b) {
      return std::hypot(corner[std::size_t(a)].x - corner[std::size_t(b)].x,
                        corner[std::size_t(a)].y - corner[std::size_t(b)].y);
    };
    const double w = (length(0, 1) + length(3, 2)) / 4, h = (length(0, 3) + length(1, 2)) / 4;
    const double cx = (corner[0].x + corner[1].x + corner[2].x + corner[3].x) / 4,
                 cy = (corner[0].y + corner[1].y + corner[2].y + corner[3].y) / 4;
    if (const auto h4 =
            homography({Spot2{cx - w, cy - h}, {cx + w, cy - h}, {cx + w, cy + h}, {cx - w, cy + h}}, corner))
      turn_ = multiply(turn_, *h4);
  }
  const bool bends = lens_ || g.distortion != 0;
  channelsDiffer_ = lens_ || g.redFringe != 0 || g.blueFringe != 0;
  if (turns_ || bends || channelsDiffer_) {
    // Enlarged just so far that the rim lies inside: halving between 1 and 8.
    double low = 1, high = 8;
    if (!inside(low)) {
      for (int i = 0; i < 40; ++i) (inside((low + high) / 2) ? high : low) = (low + high) / 2;
      zoom_ = high;
    }
  }
  identity_ = !turns_ && !bends && !channelsDiffer_ && g.vignetting == 0 && g.cropX == 0 && g.cropY == 0 &&
              g.cropWidth == 1 && g.cropHeight == 1;
  outWidth_ = std::max(1, int(std::lround(width * g.cropWidth)));
  outHeight_ = std::max(1, int(std::lround(height * g.cropHeight)));
}

bool ShapeMap::inside(double zoom) const {
  ShapeMap trial = *this;
  trial.zoom_ = zoom;
  trial.geometry_.cropX = trial.geometry_.cropY = 0;
  trial.geometry_.cropWidth = trial.geometry_.cropHeight = 1;
  for (int i = 0; i <= 32; ++i)
    for (const Spot2 p : {Spot2{i / 32.0, 0}, {i / 32.0, 1}, {0, i / 32.0}, {1, i / 32.0}})
      for (int c = 0; c < 3; ++c) {
        const Spot2 q = trial.source(p, c);
        if (!(q.x >= -1e-9 && q.x <= 1 + 1e-9 && q.y >= -1e-9 && q.y <= 1 + 1e-9)) return false;
      }
  return true;
}

/// Crop, zoom and turn; in half long edges from the middle.
Spot2 ShapeMap::straightened(Spot2 p) const {
  const Spot2 whole{geometry_.cropX + p.x * geometry_.cropWidth, geometry_.cropY + p.y * geometry_.cropHeight};
  const Spot2 q{(2 * whole.x - 1) * aspectX_ / zoom_, (2 * whole.y - 1) * aspectY_ / zoom_};
  return turns_ ? project(turn_, q) : q;
}

Spot2 ShapeMap::source(Spot2 finished, int channel) const {
  Spot2 p = straightened(finished);
  if (geometry_.distortion != 0) {
    const double scale = 1 + geometry_.distortion * (p.x * p.x + p.y * p.y);
    p.x *= scale, p.y *= scale;
  }
  const double fringe = channel == 0 ? geometry_.redFringe : channel == 2 ? geometry_.blueFringe : 0;
  if (fringe != 0) p.x *= 1 + fringe / 1000, p.y *= 1 + fringe / 1000;
  Spot2 unit{(p.x / aspectX_ + 1) / 2, (p.y / aspectY_ + 1) / 2};
  if (!lens_ || lens_->places.empty()) return unit;
  return {gridValue(lens_->places, unit.x, unit.y, 2 * channel) + (unit.x - std::clamp(unit.x, 0.0, 1.0)),
          gridValue(lens_->places, unit.x, unit.y, 2 * channel + 1) + (unit.y - std::clamp(unit.y, 0.0, 1.0))};
}

Spot2 ShapeMap::toFinished(Spot2 combined) const {
  if (identity_) return combined;
  Spot2 p{0.5, 0.5};
  constexpr double kStep = 1e-5;
  for (int i = 0; i < 30; ++i) {
    const Spot2 at = toCombined(p), right = toCombined({p.x + kStep, p.y}), down = toCombined({p.x, p.y + kStep});
    const double a = (right.x - at.x) / kStep, b = (down.x - at.x) / kStep, c = (right.y - at.y) / kStep,
                 d = (down.y - at.y) / kStep;
    const double ex = combined.x - at.x, ey = combined.y - at.y, det = a * d - b * c;
    if (std::abs(det) < 1e-12) break;
    p.x += (d * ex - b * ey) / det;
    p.y += (a * ey - c * ex) / det;
    if (std::abs(ex) + std::abs(ey) < 1e-7) break;
  }
  return p;
}

double ShapeMap::gainAt(Spot2 p) const {
  double gain = lens_ && !lens_->gain.empty() ? gridValue(lens_->gain, p.x, p.y, 0) : 1;
  if (geometry_.vignetting != 0) {
    const double x = (2 * p.x - 1) * aspectX_, y = (2 * p.y - 1) * aspectY_,
                 r2 = (x * x + y * y) / (aspectX_ * aspectX_ + aspectY_ * aspectY_);
    gain *= std::exp2(geometry_.vignetting * r2 * r2 * (2 - r2)); // little in the middle, all in the corners
  }
  return gain;
}

Result<Image<float>> shaped(ImageView<const float> in, const ShapeMap& map, const Progress& progress) {
  Image<float> out(map.width(), map.height(), 3);
  const bool apart = map.channelsDiffer();
  const bool done = forEachBand(map.height(), progress.stop, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x0 = 0; x0 < map.width(); x0 += kStretch) {
        const auto finished = [&](int dx) { return Spot2{(x0 + dx + 0.5) / map.width(), (y + 0.5) / map.height()}; };
        Parabola u[3], v[3], gain;
        for (int c = apart ? 0 : 1; c < (apart ? 3 : 2); ++c) {
          const Spot2 a = map.source(finished(0), c), b = map.source(finished(kStretch / 2), c),
                      d = map.source(finished(kStretch), c);
          u[c] = Parabola(a.x * in.width - 0.5, b.x * in.width - 0.5, d.x * in.width - 0.5);
          v[c] = Parabola(a.y * in.height - 0.5, b.y * in.height - 0.5, d.y * in.height - 0.5);
          if (c == 1) gain = Parabola(map.gainAt(a), map.gainAt(b), map.gainAt(d));
        }
        float* to = out.at(x0, y);
        const int n = std::min(kStretch, map.width() - x0);
        for (int i = 0; i < n; ++i, to += 3) {
          if (!apart)
            cubicAt(in, u[1].at(i), v[1].at(i), 0, 3, gain.at(i), to);
          else
            for (int c = 0; c < 3; ++c) cubicAt(in, u[c].at(i), v[c].at(i), c, c + 1, gain.at(i), to);
        }
      }
  });
  if (!done) return stopped();
  return out;
}

} // namespace ml
