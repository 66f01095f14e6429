// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/sensor_simulation.h"

#include "base/parallel.h"
#include "camera/photon_noise.h"
#include "exposure/ev.h"
#include "image/colour.h"
#include "image/resample.h"
#include "plan/sensor_model.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <vector>

namespace ml {
namespace {

RowRandom rowRandom(std::uint64_t seed, int row) {
  RowRandom mix{seed * 0x9e3779b97f4a7c15ull + std::uint64_t(row)};
  mix();
  return {mix()};
}

/// Electrons collected where `mean` are expected, read noise included.
class Photosite {
public:
  Photosite(double readNoise, RowRandom random) : read_(readNoise), random_(random) {}
  double collect(double mean) { return photons(mean, random_) + read_ * normal(random_); }

private:
  double read_;
  RowRandom random_;
};

/// srgbEncode of 0..1 from a table, straight in between: within 0.005 of a code of 16 bits.
class DisplayCurve {
public:
  DisplayCurve() {
    for (int i = 0; i <= kSteps + 1; ++i) at_[std::size_t(i)] = float(srgbEncode(double(i) / kSteps));
  }
  double operator()(double light) const {
    const double at = std::clamp(light, 0.0, 1.0) * kSteps;
    const auto i = std::size_t(at);
    return at_[i] + (at - double(i)) * (at_[i + 1] - at_[i]);
  }

private:
  static constexpr int kSteps = 65536;
  std::vector<float> at_ = std::vector<float>(kSteps + 2);
};

/// Share of saturation made by 1 cd/m^2 in these settings.
double sharePerCandela(const CameraProfile& profile, const ExposureSettings& settings) {
  return 1 / luminanceOf(ev100(settings) + profile.rawHeadroom);
}

constexpr double kBorder = 0.02;

using Four = float __attribute__((vector_size(16))); ///< A pixel and a number that means nothing.

Four pixelAt(const float* at) {
  Four out;
  std::memcpy(&out, at, sizeof out);
  return out;
}

/// Catmull and Rom's cubic between pixels, never beyond what is there.
void seenAt(const Image<float>& world, double sx, double sy, float rgb[3]) {
  const int w = world.width(), h = world.height(), ix = int(std::floor(sx)), iy = int(std::floor(sy));
  const bool inside = ix >= 1 && iy >= 1 && ix + 3 < w && iy + 3 < h;
  float wx[4], wy[4], last[4] = {};
  cubicWeights(float(sx - ix), wx);
  cubicWeights(float(sy - iy), wy);
  const auto at = [&](int x, int y) {
    if (inside) return pixelAt(world.at(x, y));
    std::copy_n(world.at(std::clamp(x, 0, w - 1), std::clamp(y, 0, h - 1)), 3, last);
    return pixelAt(last);
  };
  Four sum{}, least = at(ix, iy), most = least;
  for (int j = 0; j < 4; ++j)
    for (int i = 0; i < 4; ++i) {
      const Four p = at(ix + i - 1, iy + j - 1);
      sum += wx[i] * wy[j] * p;
      least = p < least ? p : least;
      most = p > most ? p : most;
    }
  for (int c = 0; c < 3; ++c) rgb[c] = std::clamp(sum[c], least[c], most[c]);
}

} // namespace

Image<float> binomialBlur(const Image<float>& sharp) {
  const int w = sharp.width(), h = sharp.height();
  Image<float> out(w, h, 3);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const float *a = sharp.row(std::max(0, y - 1)), *b = sharp.row(y), *c = sharp.row(std::min(h - 1, y + 1));
      const auto column = [&](int i) { return a[i] + 2 * b[i] + c[i]; };
      for (int i = 0; i < 3 * w; ++i) {
        const int left = i < 3 ? i : i - 3, right = i >= 3 * w - 3 ? i : i + 3;
        out.row(y)[i] = std::max(0.f, (column(left) + 2 * column(i) + column(right)) / 16);
      }
    }
  });
  return out;
}

int seenWidth(int worldWidth) {
  return (worldWidth - 2 * int(worldWidth * kBorder)) / 2 * 2;
}
int seenHeight(int worldHeight) {
  return (worldHeight - 2 * int(worldHeight * kBorder)) / 2 * 2;
}

Image<float> seenBy(const Image<float>& world, const CameraPose& pose) {
  const int width = seenWidth(world.width()), height = seenHeight(world.height());
  Image<float> out(width, height, 3);
  const double cx = (world.width() - 1) / 2.0, cy = (world.height() - 1) / 2.0;
  const double cosine = std::cos(pose.angle), sine = std::sin(pose.angle);
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        const double u = x - (width - 1) / 2.0, v = y - (height - 1) / 2.0;
        const double sx = cx + cosine * u - sine * v + pose.dx, sy = cy + sine * u + cosine * v + pose.dy;
        seenAt(world, sx, sy, out.at(x, y));
      }
  });
  return binomialBlur(out);
}

Image<std::uint16_t> exposeMosaic(const Image<float>& scene, const CameraProfile& camera,
                                  const ExposureSettings& settings, std::uint64_t seed) {
  const double well = camera.fullWellAt(settings.iso), share = sharePerCandela(camera, settings);
  const int white = (1 << camera.bits) - 1;
  const double codesPerElectron = (white - kSensorBlack) / well;
  Image<std::uint16_t> mosaic(scene.width(), scene.height(), 1);
  forEachBand(scene.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      Photosite site(camera.readNoiseAt(settings.iso), rowRandom(seed, y));
      for (int x = 0; x < scene.width(); ++x) {
        const int c = (y & 1) + (x & 1); // R G / G B
        const float* rgb = scene.at(x, y);
        const double light =
            kSensorNeutral[c] * (kRec709ToSensor[3 * c] * rgb[0] + kRec709ToSensor[3 * c + 1] * rgb[1] +
                                 kRec709ToSensor[3 * c + 2] * rgb[2]);
        const double electrons = std::min(site.collect(std::min(light * share, 4.0) * well), well);
        *mosaic.at(x, y) =
            std::uint16_t(std::clamp(std::lround(kSensorBlack + electrons * codesPerElectron), 0l, long(white)));
      }
    }
  });
  return mosaic;
}

Image<std::uint16_t> exposeRendered(const Image<float>& scene, const CameraProfile& profile,
                                    const ExposureSettings& settings, std::uint64_t seed, int maxCode) {
  const double well = profile.fullWellAt(settings.iso), share = sharePerCandela(profile, settings);
  const double gain = std::exp2((profile.rawHeadroom - profile.jpegHeadroom).value);
  static const DisplayCurve encoded;
  Image<std::uint16_t> rendered(scene.width(), scene.height(), 3);
  forEachBand(scene.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      Photosite site(profile.readNoiseAt(settings.iso), rowRandom(seed, y));
      for (int i = 0; i < scene.width() * 3; ++i) {
        const double collected = site.collect(std::min(scene.row(y)[i] * share, 4.0) * well) / well;
        rendered.row(y)[i] = std::uint16_t(std::lround(encoded(collected * gain) * maxCode));
      }
    }
  });
  return rendered;
}

} // namespace ml
