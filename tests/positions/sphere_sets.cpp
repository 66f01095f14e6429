// SPDX-License-Identifier: GPL-3.0-or-later
#include "sphere_sets.h"

#include "codec/exif.h"
#include "codec/tiff_file.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <numbers>
#include <random>
#include <stdexcept>
#include <string>

namespace ml::test {

Image<float> sphereOf(const RoundRoom& room, int width) {
  const int height = width / 2;
  Image<float> out(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const double yaw = ((x + 0.5) / width - 0.5) * 2 * std::numbers::pi,
                   down = ((y + 0.5) / height - 0.5) * std::numbers::pi;
      const auto light = room.light({std::sin(yaw) * std::cos(down), std::sin(down), std::cos(yaw) * std::cos(down)});
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(light[std::size_t(c)]);
    }
  return out;
}

namespace {

constexpr double kPi = std::numbers::pi;

using Ray = std::array<double, 3>;

/// A turn by yaw to the right, then pitch up, then roll with the right side down, of what lies before a camera.
Ray turned(const Ray& v, double yaw, double pitch, double roll) {
  const double r = roll * kPi / 180, p = pitch * kPi / 180, y = yaw * kPi / 180;
  const Ray a{std::cos(r) * v[0] - std::sin(r) * v[1], std::sin(r) * v[0] + std::cos(r) * v[1], v[2]};
  const Ray b{a[0], std::cos(p) * a[1] - std::sin(p) * a[2], std::sin(p) * a[1] + std::cos(p) * a[2]};
  return {std::cos(y) * b[0] + std::sin(y) * b[2], b[1], std::cos(y) * b[2] - std::sin(y) * b[0]};
}

/// Codes of frame `k` of three, two stops apart, some noise; `from(x, y)` is the light of a pixel, `grain(x, y)` a
/// number of its own.
template <class From, class Grain>
void writeFrames(const std::filesystem::path& folder, int width, const From& from, const Grain& grain) {
  const int height = width / 2;
  std::filesystem::create_directories(folder);
  for (int k = 0; k < 3; ++k) {
    Image<std::uint16_t> codes(width, height, 3);
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; ++x) {
        std::mt19937 random(std::uint32_t(7 * grain(x, y) + k));
        std::normal_distribution<double> normal;
        for (int c = 0; c < 3; ++c) {
          const double v =
              std::clamp(0.1 * std::exp2(2.0 * k) * double(from(x, y)[c]) + 0.002 * normal(random), 0.0, 1.0);
          codes.at(x, y)[c] =
              std::uint16_t(65535 * (v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055) + 0.5);
        }
      }
    const auto file = folder / ("s" + std::to_string(k) + ".tif");
    ShotMetadata said;
    said.time = Seconds{std::exp2(2.0 * k) / 128};
    said.aperture = FNumber{8};
    said.iso = Iso{100};
    if (!writeTiff16(file, std::as_const(codes).view(), {}) || !writeExif(file, said))
      throw std::runtime_error("cannot write " + file.string());
  }
}

} // namespace

void shootSphere(const RoundRoom& room, const std::filesystem::path& folder, int width, int turned) {
  const Image<float> light = sphereOf(room, width);
  const auto from = [&](int x) { return (x + turned) % width; };
  writeFrames(
      folder, width, [&](int x, int y) { return light.at(from(x), y); },
      [&](int x, int y) { return y * width + from(x); });
}

bool TwoLenses::pixel(int which, int width, const Ray& direction, double& x, double& y) const {
  Ray d = direction;
  if (which == 1) { // back to the right lens: each turn undone, the last first
    d = turned(d, -180 - yaw, 0, 0);
    d = turned(d, 0, -pitch, 0);
    d = turned(d, 0, 0, -roll);
  }
  const double half = degrees / 2 * kPi / 180, radius = 0.48 * width / 2;
  const double angle = std::acos(std::clamp(d[2], -1.0, 1.0)), flat = std::max(1e-12, std::hypot(d[0], d[1]));
  const double r = radius * angle * (1 + bend * angle * angle) / (half * (1 + bend * half * half));
  x = (which + 0.5) * width / 2 - 0.5 + off[std::size_t(2 * which)] + r * d[0] / flat;
  y = width / 4.0 - 0.5 + off[std::size_t(2 * which + 1)] + r * d[1] / flat;
  return angle <= half;
}

LensesOff lensesOff(const TwoLenses& made, const FisheyePair& found, int width) {
  LensesOff out;
  const auto off = [&](int which, const Ray& direction) {
    double x, y, u, v;
    if (!made.pixel(which, width, direction, x, y)) return 0.0;
    found.pixel(which, direction, u, v);
    return std::hypot(x - u, y - v);
  };
  constexpr double kAhead[] = {-0.03, 0, 0.03};
  for (int k = 0; k < 360; ++k)
    for (const double ahead : kAhead) {
      const double a = k * kPi / 180, flat = std::sqrt(1 - ahead * ahead);
      const Ray direction{flat * std::cos(a), flat * std::sin(a), ahead};
      std::array<Ray, 2> said;
      for (int which = 0; which < 2; ++which) {
        double x, y;
        (void)made.pixel(which, width, direction, x, y);
        said[std::size_t(which)] = found.ray(which, x, y);
        out.ring = std::max(out.ring, off(which, direction));
      }
      for (std::size_t i = 0; i < 3; ++i)
        out.between += std::pow(found.focal * (said[0][i] - said[1][i]), 2) / (360 * std::size(kAhead));
    }
  out.between = std::sqrt(out.between);
  for (int k = 0; k < 360; k += 10)
    for (int angle = 5; angle < 90; angle += 5)
      for (int which = 0; which < 2; ++which) {
        const double a = k * kPi / 180, b = angle * kPi / 180;
        out.within = std::max(out.within, off(which, {std::sin(b) * std::cos(a), std::sin(b) * std::sin(a),
                                                      (which ? -1 : 1) * std::cos(b)}));
      }
  return out;
}

TwoLenses twoLenses(std::uint32_t seed, int width, double most) {
  std::mt19937 random(seed);
  const auto within = [&](double low, double high) { return low + (high - low) * (random() / 4294967296.0); };
  TwoLenses out;
  out.degrees = within(188, 206);
  out.bend = within(-most, most);
  for (double& o : out.off) o = within(-0.005, 0.005) * width;
  out.yaw = within(-1, 1), out.pitch = within(-1, 1);
  out.roll = (seed % 3 == 0 ? 90 : 0) + within(-2, 2);
  return out;
}

void shootTwoLenses(const RoundRoom& room, const TwoLenses& lenses, const std::filesystem::path& folder, int width) {
  constexpr int kRays = 2; // of a pixel, in both directions
  const int height = width / 2;
  const double half = lenses.degrees / 2 * kPi / 180, radius = 0.48 * height;
  const double full = half * (1 + lenses.bend * half * half);
  Image<float> light(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const int which = x >= height;
      double sum[3] = {};
      for (int v = 0; v < kRays; ++v)
        for (int u = 0; u < kRays; ++u) {
          const double dx = x - 0.5 + (u + 0.5) / kRays -
                            ((which + 0.5) * height - 0.5 + lenses.off[std::size_t(2 * which)]),
                       dy = y - 0.5 + (v + 0.5) / kRays - (height / 2.0 - 0.5 + lenses.off[std::size_t(2 * which + 1)]),
                       r = std::hypot(dx, dy);
          if (r > radius) continue;
          double low = 0, high = half; // the angle that lies at r
          for (int i = 0; i < 40; ++i) {
            const double middle = (low + high) / 2;
            (middle * (1 + lenses.bend * middle * middle) / full < r / radius ? low : high) = middle;
          }
          Ray d{r > 0 ? std::sin(low) * dx / r : 0, r > 0 ? std::sin(low) * dy / r : 0, std::cos(low)};
          if (which == 1) d = turned(d, 180 + lenses.yaw, lenses.pitch, lenses.roll);
          const auto seen = room.light(d, which == 1 ? lenses.apart : Ray{});
          for (std::size_t c = 0; c < 3; ++c) sum[c] += seen[c] / (kRays * kRays);
        }
      for (int c = 0; c < 3; ++c) light.at(x, y)[c] = float(sum[c]);
    }
  writeFrames(
      folder, width, [&](int x, int y) { return light.at(x, y); }, [&](int x, int y) { return y * width + x; });
}

} // namespace ml::test
