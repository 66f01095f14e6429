// SPDX-License-Identifier: GPL-3.0-or-later
#include "round_room.h"

#include "base/parallel.h"

#include <cmath>
#include <numbers>

namespace ml::test {
namespace {

std::uint32_t mixed(std::uint32_t x) {
  x ^= x >> 16, x *= 0x7feb352dU, x ^= x >> 15, x *= 0x846ca68bU, x ^= x >> 16;
  return x;
}
double chance(std::uint32_t seed, int a, int b, int c) {
  return mixed(seed ^ mixed(std::uint32_t(a) * 73856093u ^ mixed(std::uint32_t(b) * 19349663u ^ std::uint32_t(c)))) /
         4294967296.0;
}

double valueNoise(std::uint32_t seed, double u, double v, int layer) {
  const int x = int(std::floor(u)), y = int(std::floor(v));
  double fx = u - x, fy = v - y;
  fx = fx * fx * (3 - 2 * fx), fy = fy * fy * (3 - 2 * fy);
  const auto at = [&](int i, int k) { return chance(seed, x + i, y + k, layer); };
  return (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
}

using V = std::array<double, 3>;
V rotated(const V& v, double degrees, int axis) {
  const double a = degrees * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
  if (axis == 0) return {v[0], c * v[1] - s * v[2], s * v[1] + c * v[2]};
  if (axis == 1) return {c * v[0] + s * v[2], v[1], -s * v[0] + c * v[2]};
  return {c * v[0] - s * v[1], s * v[0] + c * v[1], v[2]};
}

} // namespace

double RoundRoom::grain(double u, double v, int wall, int octaves) const {
  double sum = 0, size = 1, scale = 3;
  for (int i = 0; i < octaves; ++i, size *= 0.7, scale *= 2.1)
    sum += size * (valueNoise(seed_, u * scale + 31 * wall, v * scale + 17 * wall, i) - 0.5);
  return sum;
}

std::array<double, 3> RoundRoom::light(std::array<double, 3> d, std::array<double, 3> o) const {
  const double half[3] = {2, 1.2, 2};
  double nearest = 1e9;
  int axis = 0;
  for (int i = 0; i < 3; ++i) {
    if (std::abs(d[std::size_t(i)]) < 1e-9) continue;
    const double t = ((d[std::size_t(i)] > 0 ? half[i] : -half[i]) - o[std::size_t(i)]) / d[std::size_t(i)];
    if (t < nearest) nearest = t, axis = i;
  }
  const int wall = 2 * axis + (d[std::size_t(axis)] > 0);
  const auto along = [&](int i) { return o[std::size_t(i)] + nearest * d[std::size_t(i)]; };
  const double u = along((axis + 1) % 3), v = along((axis + 2) % 3);
  double stops = -1 + 1.1 * grain(u, v, wall, 6);
  // Patches: pictures, tiles and furniture, as rectangles of several sizes laid over each other.
  double hue = 0.1 * (wall - 2.5);
  for (int layer = 0; layer < 3; ++layer) {
    const double cell = 0.9 / (1 + layer);
    const int cu = int(std::floor(u / cell)), cv = int(std::floor(v / cell));
    const double lu = u / cell - cu, lv = v / cell - cv;
    const int key = 100 * wall + layer;
    const double left = 0.1 + 0.3 * chance(seed_, cu, cv, key), top = 0.1 + 0.3 * chance(seed_, cu, cv, key + 1000);
    if (chance(seed_, cu, cv, key + 2000) > 0.3 && lu > left && lu < left + 0.5 && lv > top && lv < top + 0.45) {
      stops += 2.4 * (chance(seed_, cu, cv, key + 3000) - 0.5);
      hue += 0.8 * (chance(seed_, cu, cv, key + 4000) - 0.5);
    }
  }
  // Windows in the two end walls.
  if (axis == 2 && std::abs(u - 0.3) < 0.5 && std::abs(v + 0.2) < 0.4) stops += 4.5;
  const double l = 0.18 * std::exp2(stops);
  return {l * std::exp2(0.5 * hue), l, l * std::exp2(-0.5 * hue)};
}

Image<float> shoot(const RoundRoom& room, const Shot& shot, int width, int height) {
  return shoot([&](const V& direction, const V& from) { return room.light(direction, from); }, shot, width, height);
}

Image<float> shoot(const World& world, const Shot& shot, int width, int height) {
  Image<float> out(width, height, 3);
  const double halfDiagonal = std::hypot(width, height) / 2;
  V turned[3]; // where the frame's own axes look
  for (std::size_t i = 0; i < 3; ++i)
    turned[i] = rotated(rotated(rotated({double(i == 0), double(i == 1), double(i == 2)}, shot.roll, 2), shot.pitch, 0),
                        shot.yaw, 1);
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        double sum[3] = {};
        const int n = shot.rays;
        for (int i = 0; i < n * n; ++i) {
          double u = x + (i % n + 0.5) / n - width / 2.0, v = y + (i / n + 0.5) / n - height / 2.0;
          const double gain = std::exp2(-shot.fallOff * (u * u + v * v) / (halfDiagonal * halfDiagonal));
          u += shot.shiftX, v += shot.shiftY;
          const double rho = std::hypot(u, v) / halfDiagonal;
          double r = rho;
          for (int k = 0; k < 30; ++k) { // fixed point
            const double before = r;
            r = rho / (1 + shot.k1 * r * r);
            if (std::abs(r - before) < 1e-14) break;
          }
          const double scale = rho > 0 ? r / rho : 1;
          V d;
          for (std::size_t k = 0; k < 3; ++k)
            d[k] = u * scale * turned[0][k] + v * scale * turned[1][k] + shot.focal * turned[2][k];
          const auto light = world(d, shot.from);
          for (int c = 0; c < 3; ++c) sum[c] += gain * light[std::size_t(c)] / (n * n);
        }
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(sum[c]);
      }
  });
  return out;
}

} // namespace ml::test
