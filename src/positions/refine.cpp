// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/refine.h"

#include "image/resample.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace ml {
namespace {

constexpr int kHalf = 7, kSide = 2 * kHalf + 1, kPatch = kSide * kSide;
constexpr int kMostColumns = 60, kMostRows = 40; ///< Places looked at in a frame.
constexpr int kSpacing = 12;                     ///< Least distance between places, pixels of the compared pictures.
constexpr float kLeastTexture = 2e-4f; ///< Smaller eigenvalue of the mean gradient product, stops^2 a pixel^2.
constexpr double kReach = 4;           ///< Pixels.

struct Patch {
  float values[kPatch];
};
constexpr int kBorderedSide = kSide + 2;
/// A patch and one pixel around it.
struct BorderedPatch {
  float values[kBorderedSide * kBorderedSide];
};

/// How the surroundings of a place in a lie in b: an affine map, pixels of the compared pictures.
struct LocalMap {
  double x, y, xx, xy, yx, yy;
};

struct Pair {
  CameraGeometry a, b;
  double factor;
  [[nodiscard]] bool map(double x, double y, double& u, double& v) const {
    const auto full = [&](double p) { return (p + 0.5) * factor - 0.5; };
    const auto reduced = [&](double p) { return (p + 0.5) / factor - 0.5; };
    double px, py;
    if (!b.pixel(a.ray(full(x), full(y)), px, py)) return false;
    u = reduced(px), v = reduced(py);
    return true;
  }
  [[nodiscard]] std::optional<LocalMap> around(double x, double y) const {
    LocalMap m{};
    double rx, ry, dx, dy;
    constexpr double kStep = 4;
    if (!map(x, y, m.x, m.y) || !map(x + kStep, y, rx, ry) || !map(x, y + kStep, dx, dy)) return {};
    m.xx = (rx - m.x) / kStep, m.yx = (ry - m.y) / kStep, m.xy = (dx - m.x) / kStep, m.yy = (dy - m.y) / kStep;
    return m;
  }
};

bool inside(const Image<float>& in, double x, double y, double margin) {
  return x >= margin && y >= margin && x <= in.width() - 1 - margin && y <= in.height() - 1 - margin;
}

/// Smaller eigenvalue of the structure tensor of the patch (Shi and Tomasi 1994).
float textureAt(const Image<float>& in, int cx, int cy) {
  float xx = 0, xy = 0, yy = 0;
  for (int y = cy - kHalf; y <= cy + kHalf; y += 2)
    for (int x = cx - kHalf; x <= cx + kHalf; x += 2) {
      const float dx = 0.5f * (*in.at(x + 1, y) - *in.at(x - 1, y)), dy = 0.5f * (*in.at(x, y + 1) - *in.at(x, y - 1));
      xx += dx * dx, xy += dx * dy, yy += dy * dy;
    }
  const float half = (xx + yy) / 2, root = std::sqrt((xx - yy) * (xx - yy) / 4 + xy * xy);
  return (half - root) / ((kHalf + 1) * (kHalf + 1));
}

/// The plane that fits best removed (light that falls off is no texture).
void flatten(Patch& p) {
  float mean = 0, x = 0, y = 0;
  constexpr float kMoment = float(kPatch) * kHalf * (kHalf + 1) / 3; // sum of u^2 over the patch
  for (int v = -kHalf, i = 0; v <= kHalf; ++v)
    for (int u = -kHalf; u <= kHalf; ++u, ++i) {
      mean += p.values[i] / kPatch;
      x += p.values[i] * float(u) / kMoment;
      y += p.values[i] * float(v) / kMoment;
    }
  for (int v = -kHalf, i = 0; v <= kHalf; ++v)
    for (int u = -kHalf; u <= kHalf; ++u, ++i) p.values[i] -= mean + x * float(u) + y * float(v);
}

/// Flat, length one; false for a patch without texture.
bool normalise(Patch& p) {
  flatten(p);
  float sum = 0;
  for (const float v : p.values) sum += v * v;
  if (sum < 1e-8f) return false;
  for (float& v : p.values) v /= std::sqrt(sum);
  return true;
}

/// `in` at the places that `m`, moved by (dx, dy), has for a patch of `half` pixels about its middle; neighbours beyond
/// the edge repeat.
void sample(const Image<float>& in, const LocalMap& m, double dx, double dy, int half, float* out) {
  for (int v = -half; v <= half; ++v)
    for (int u = -half; u <= half; ++u) {
      const double x = m.x + dx + m.xx * u + m.xy * v, y = m.y + dy + m.yx * u + m.yy * v;
      const double fx = std::floor(x), fy = std::floor(y);
      const int x0 = int(fx) - 1, y0 = int(fy) - 1;
      float wx[4], wy[4], columns[4] = {};
      cubicWeights(float(x - fx), wx);
      cubicWeights(float(y - fy), wy);
      if (x0 >= 0 && y0 >= 0 && x0 + 4 <= in.width() && y0 + 4 <= in.height()) {
        for (int r = 0; r < 4; ++r) {
          const float* row = in.row(y0 + r) + x0;
          for (int k = 0; k < 4; ++k) columns[k] += wy[r] * row[k];
        }
      } else {
        for (int r = 0; r < 4; ++r) {
          const float* row = in.row(std::clamp(y0 + r, 0, in.height() - 1));
          for (int k = 0; k < 4; ++k) columns[k] += wy[r] * row[std::clamp(x0 + k, 0, in.width() - 1)];
        }
      }
      *out++ = wx[0] * columns[0] + wx[1] * columns[1] + wx[2] * columns[2] + wx[3] * columns[3];
    }
}

/// Slopes along the axes of the picture that `m` leads to, from differences along those of the patch.
void slopesOf(const BorderedPatch& seen, const LocalMap& m, Patch& gx, Patch& gy) {
  const auto det = float(m.xx * m.yy - m.xy * m.yx);
  const float xx = float(m.xx) / det, xy = float(m.xy) / det, yx = float(m.yx) / det, yy = float(m.yy) / det;
  for (int v = 0, i = 0; v < kSide; ++v)
    for (int u = 0; u < kSide; ++u, ++i) {
      const float* at = seen.values + (v + 1) * kBorderedSide + u + 1;
      const float du = 0.5f * (at[1] - at[-1]), dv = 0.5f * (at[kBorderedSide] - at[-kBorderedSide]);
      gx.values[i] = du * yy - dv * yx;
      gy.values[i] = dv * xx - du * xy;
    }
  flatten(gx);
  flatten(gy);
}

Patch middleOf(const BorderedPatch& bordered) {
  Patch out;
  for (int v = 0; v < kSide; ++v)
    std::copy_n(bordered.values + (v + 1) * kBorderedSide + 1, kSide, out.values + v * kSide);
  return out;
}

struct Found {
  double dx = 0, dy = 0, alike = -1;
  double xx = 0, xy = 0, yy = 0; ///< Covariance of (dx, dy), by how much the patches differ.
};

Found follow(const Image<float>& a, const Image<float>& b, int cx, int cy, const LocalMap& m) {
  Patch given;
  for (int v = -kHalf, i = 0; v <= kHalf; ++v)
    for (int u = -kHalf; u <= kHalf; ++u, ++i) given.values[i] = *a.at(cx + u, cy + v);
  Found out;
  if (!normalise(given)) return out;
  Patch seen, gx, gy;
  for (int round = 0; round < 12; ++round) {
    if (round % 4 == 0) {
      BorderedPatch wide;
      sample(b, m, out.dx, out.dy, kHalf + 1, wide.values);
      slopesOf(wide, m, gx, gy);
      seen = middleOf(wide);
    } else {
      sample(b, m, out.dx, out.dy, kHalf, seen.values);
    }
    flatten(seen);
    float sum = 0;
    for (const float v : seen.values) sum += v * v;
    if (sum < 1e-8f) return {};
    const float length = std::sqrt(sum);
    float xx = 0, xy = 0, yy = 0, rx = 0, ry = 0, dot = 0;
    for (int i = 0; i < kPatch; ++i) {
      const float e = given.values[i] - seen.values[i] / length, x = gx.values[i] / length, y = gy.values[i] / length;
      xx += x * x, xy += x * y, yy += y * y, rx += x * e, ry += y * e;
      dot += given.values[i] * seen.values[i] / length;
    }
    const float det = xx * yy - xy * xy;
    if (!(det > 1e-12f)) return {};
    // What is left of two patches of length one is their noise (and what they do not share).
    const float noise = std::max(0.f, 2 - 2 * dot) / (kPatch - 6);
    out.xx = noise * yy / det, out.xy = -noise * xy / det, out.yy = noise * xx / det;
    const double sx = (yy * rx - xy * ry) / det, sy = (xx * ry - xy * rx) / det;
    out.alike = dot;
    if (std::hypot(sx, sy) < 0.01) break;
    const double most = std::min(1.0, 1.5 / std::hypot(sx, sy));
    out.dx += sx * most, out.dy += sy * most;
    if (std::hypot(out.dx, out.dy) > kReach) return {out.dx, out.dy, 0};
  }
  return out;
}

/// The match with its weights; beyond what the patches say, geometry and sampling are good to a few hundredths.
Match matchOf(double ax, double ay, double bx, double by, const Found& found, double factor) {
  constexpr double kFloor = 0.04;
  Match out{ax, ay, bx, by};
  const double xx = factor * factor * (found.xx + kFloor * kFloor), xy = factor * factor * found.xy,
               yy = factor * factor * (found.yy + kFloor * kFloor), det = xx * yy - xy * xy;
  // Cholesky factor of the inverse covariance, transposed.
  out.w11 = std::sqrt(yy / det);
  out.w12 = -xy / det / out.w11;
  out.w22 = std::sqrt(std::max(1e-9, xx / det - out.w12 * out.w12));
  return out;
}

struct Textured {
  int x, y;
};
/// The most textured place of each cell that `pair` shares.
std::vector<Textured> texturedPlaces(const Image<float>& a, const Image<float>& b, const Pair& pair) {
  std::vector<Textured> out;
  const int margin = kHalf + 2, rows = std::clamp(a.height() / kSpacing, 1, kMostRows),
            columns = std::clamp(a.width() / kSpacing, 1, kMostColumns);
  for (int row = 0; row < rows; ++row)
    for (int column = 0; column < columns; ++column) {
      const int x0 = a.width() * column / columns, x1 = a.width() * (column + 1) / columns,
                y0 = a.height() * row / rows, y1 = a.height() * (row + 1) / rows;
      const int step = std::max(2, std::min(x1 - x0, y1 - y0) / 6);
      float best = kLeastTexture;
      std::optional<Textured> place;
      const double mx = (x0 + x1) / 2.0, my = (y0 + y1) / 2.0;
      const auto m = pair.around(mx, my);
      if (!m) continue;
      for (int y = y0; y < y1; y += step)
        for (int x = x0; x < x1; x += step) {
          const double u = m->x + m->xx * (x - mx) + m->xy * (y - my), v = m->y + m->yx * (x - mx) + m->yy * (y - my);
          if (!inside(a, x, y, margin) || !inside(b, u, v, margin + 1)) continue;
          if (const float t = textureAt(a, x, y); t > best) best = t, place = Textured{x, y};
        }
      if (place) out.push_back(*place);
    }
  return out;
}

} // namespace

double overlapOf(const Arrangement& arrangement, std::size_t a, std::size_t b) {
  const CameraGeometry one = arrangement.camera(a), other = arrangement.camera(b);
  constexpr int kSteps = 40;
  int seen = 0;
  for (int v = 0; v < kSteps; ++v)
    for (int u = 0; u < kSteps; ++u) {
      double x, y;
      const double px = (u + 0.5) * one.width() / kSteps - 0.5, py = (v + 0.5) * one.height() / kSteps - 0.5;
      seen +=
          other.pixel(one.ray(px, py), x, y) && x >= 0 && y >= 0 && x <= other.width() - 1 && y <= other.height() - 1;
    }
  return double(seen) / (kSteps * kSteps);
}

PairLook lookAtPair(const Arrangement& arrangement, const ComparedPictures& pictures, int a, int b, double leastAlike) {
  const Image<float>&one = pictures.tones[std::size_t(a)], &other = pictures.tones[std::size_t(b)];
  const Pair pair{arrangement.camera(std::size_t(a)), arrangement.camera(std::size_t(b)), double(pictures.factor)};
  const double factor = pictures.factor;
  const auto full = [&](double p) { return (p + 0.5) * factor - 0.5; };
  PairLook out;
  out.found.a = a, out.found.b = b;
  for (const Textured& place : texturedPlaces(one, other, pair)) {
    const auto local = pair.around(place.x, place.y);
    if (!local) continue;
    const Found found = follow(one, other, place.x, place.y, *local);
    ++out.tried;
    if (found.alike < leastAlike || !inside(other, local->x + found.dx, local->y + found.dy, kHalf)) continue;
    out.found.matches.push_back(
        matchOf(full(place.x), full(place.y), full(local->x + found.dx), full(local->y + found.dy), found, factor));
  }
  return out;
}

} // namespace ml
