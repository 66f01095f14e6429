// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/lens_view.h"

#include "base/parallel.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kSensorWidthMm = 36;
constexpr double kRadians = std::numbers::pi / 180;
constexpr double kWidestDisc = 25; ///< Pixels; more takes too long and teaches nothing.

double focusDioptres(const LensView& view) {
  return view.aim.focusMetres > 0 ? 1 / view.aim.focusMetres : 0;
}

/// Columns are the camera's right, down and ahead in the world's right, down and ahead.
std::array<double, 9> rotationOf(const Aim& aim) {
  const double cy = std::cos(aim.yaw * kRadians), sy = std::sin(aim.yaw * kRadians);
  const double cp = std::cos(aim.pitch * kRadians), sp = std::sin(aim.pitch * kRadians);
  const double cr = std::cos(aim.roll * kRadians), sr = std::sin(aim.roll * kRadians);
  // First rolled about its own axis, then tilted, then turned.
  const std::array<double, 3> right{cr, sr, 0}, down{-sr, cr, 0}, ahead{0, 0, 1};
  std::array<double, 9> m{};
  int column = 0;
  for (const auto& a : {right, down, ahead}) {
    const double y = cp * a[1] - sp * a[2], z = sp * a[1] + cp * a[2];
    m[std::size_t(column)] = cy * a[0] + sy * z;
    m[std::size_t(3 + column)] = y;
    m[std::size_t(6 + column)] = -sy * a[0] + cy * z;
    ++column;
  }
  return m;
}

std::array<float, 4> cubic(float t) { // Catmull and Rom, 1974
  return {t * (-0.5f + t * (1 - 0.5f * t)), 1 + t * t * (1.5f * t - 2.5f), t * (0.5f + t * (2 - 1.5f * t)),
          t * t * (0.5f * t - 0.5f)};
}

} // namespace

double LensView::focalPixels() const {
  const double extension = 1 - focalMm / 1000 * focusDioptres(*this);
  return focalMm / kSensorWidthMm * width / std::max(0.2, extension);
}

double LensView::blurPixels(double dioptres) const {
  if (aim.focusMetres <= 0) return 0;
  const double f = focalMm / 1000, disc = f * f / aperture.value * std::abs(dioptres - focusDioptres(*this)); // metres
  return std::min(kWidestDisc, disc * 1000 / kSensorWidthMm * width);
}

Image<float> directionsOf(const LensView& view, int width, int height) {
  Image<float> places(view.columns(), view.rows(), 2);
  const auto m = rotationOf(view.aim);
  const double f = view.focalPixels();
  const double cx = places.width() * (0.5 - view.aim.shiftX), cy = places.height() * (0.5 + view.aim.shiftY);
  forEachBand(places.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < places.width(); ++x) {
        const double a = (x + 0.5 - cx) / f, b = (y + 0.5 - cy) / f;
        const double X = m[0] * a + m[1] * b + m[2], Y = m[3] * a + m[4] * b + m[5], Z = m[6] * a + m[7] * b + m[8];
        float* place = places.at(x, y);
        place[0] = float((std::atan2(X, Z) / (2 * std::numbers::pi) + 0.5) * width - 0.5);
        place[1] = float((std::atan2(Y, std::hypot(X, Z)) / std::numbers::pi + 0.5) * height - 0.5);
      }
  });
  return places;
}

Image<float> drawnAt(const Image<float>& picture, const Image<float>& places) {
  const int w = picture.width(), h = picture.height(), channels = picture.channels();
  Image<float> out(places.width(), places.height(), channels);
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.width(); ++x) {
        const float *place = places.at(x, y), u = std::floor(place[0]), v = std::floor(place[1]);
        const auto wx = cubic(place[0] - u), wy = cubic(place[1] - v);
        std::array<int, 4> columns, rows;
        for (int k = 0; k < 4; ++k) {
          columns[std::size_t(k)] = ((int(u) + k - 1) % w + w) % w;
          rows[std::size_t(k)] = std::clamp(int(v) + k - 1, 0, h - 1);
        }
        for (int c = 0; c < channels; ++c) {
          float sum = 0, low = picture.at(columns[1], rows[1])[c], high = low;
          for (std::size_t j = 0; j < 4; ++j)
            for (std::size_t i = 0; i < 4; ++i) {
              const float value = picture.at(columns[i], rows[j])[c];
              sum += wx[i] * wy[j] * value;
              if ((i == 1 || i == 2) && (j == 1 || j == 2)) low = std::min(low, value), high = std::max(high, value);
            }
          out.at(x, y)[c] = std::clamp(sum, low, high);
        }
      }
  });
  return out;
}

Image<float> nearestAt(const Image<float>& picture, const Image<float>& places) {
  const int w = picture.width(), h = picture.height(), channels = picture.channels();
  Image<float> out(places.width(), places.height(), channels);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      const float* place = places.at(x, y);
      const int u = (int(std::lround(place[0])) % w + w) % w, v = std::clamp(int(std::lround(place[1])), 0, h - 1);
      std::copy_n(picture.at(u, v), channels, out.at(x, y));
    }
  return out;
}

Image<float> withDepth(const Image<float>& sharp, const Image<float>& dioptres, const LensView& view) {
  const int w = sharp.width(), h = sharp.height();
  Image<float> radii(w, h, 1);
  float widest = 0;
  for (std::size_t i = 0; i < radii.size(); ++i) {
    radii.data()[i] = float(view.blurPixels(dioptres.data()[i]) / 2);
    widest = std::max(widest, radii.data()[i]);
  }
  if (widest < 0.5f) return sharp.clone();
  const int reach = int(std::ceil(widest));
  Image<float> out(w, h, 3);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        const float here = *dioptres.at(x, y), ownRadius = *radii.at(x, y);
        double sum[3] = {0, 0, 0}, weight = 0;
        for (int v = std::max(0, y - reach); v <= std::min(h - 1, y + reach); ++v)
          for (int u = std::max(0, x - reach); u <= std::min(w - 1, x + reach); ++u) {
            const bool behind = *dioptres.at(u, v) < here;
            const float radius = std::max(0.5f, behind ? std::min(*radii.at(u, v), ownRadius) : *radii.at(u, v));
            const float away = std::hypot(float(u - x), float(v - y));
            const double share = std::clamp(radius + 0.5f - away, 0.f, 1.f) / (radius * radius); // soft at the rim
            if (share <= 0) continue;
            for (int c = 0; c < 3; ++c) sum[c] += share * sharp.at(u, v)[c];
            weight += share;
          }
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(sum[c] / weight);
      }
  });
  return out;
}

} // namespace ml
