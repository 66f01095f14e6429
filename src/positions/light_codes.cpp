// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/light_codes.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "image/colour.h"
#include "image/fast_math.h"

#include <cmath>
#include <vector>

namespace ml {
namespace {

[[gnu::always_inline]] inline std::uint16_t encoded(float light, float perUnit) {
  const float held = std::max(light * perUnit + 4, 1.f);
  return std::uint16_t(std::min(65535.f, LightCodes::kSteps * fastLog2(held) + 1.5f));
}

ML_VECTOR_CLONES void lightOfRow(const float* stops, int count, float unit, float* __restrict light) {
  for (int i = 0; i < count; ++i) {
    const float l = (heldExp2(stops[i]) - 4) * unit;
    light[i] = l > 1e-30f ? l : 1e-30f;
  }
}

float medianTone(std::vector<float>& values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

} // namespace

float LightCodes::light(float code) const {
  return lightOfStops((code - 1) / kSteps);
}

float LightCodes::lightOfStops(float stops) const {
  return (heldExp2(stops) - 4) * unit;
}

void LightCodes::toLight(const float* stops, int count, float* light) const {
  lightOfRow(stops, count, unit, light);
}

std::vector<float> LightCodes::table() const {
  std::vector<float> out(65536);
  for (std::size_t c = 0; c < out.size(); ++c) out[c] = light(float(c));
  return out;
}

LightCodes LightCodes::of(ImageView<const float> rgb) {
  std::vector<float> tones;
  const int step = std::max(1, std::min(rgb.width, rgb.height) / 200);
  for (int y = step / 2; y < rgb.height; y += step)
    for (int x = step / 2; x < rgb.width; x += step)
      if (const float l = luminance(rgb.at(x, y)); l > 0) tones.push_back(l);
  const float middle = medianTone(tones);
  return {(middle > 0 && std::isfinite(middle) ? middle : 0.18f) / 16384};
}

Image<std::uint16_t> toLightCodes(ImageView<const float> rgb, float scale, const LightCodes& codes) {
  Image<std::uint16_t> out(rgb.width, rgb.height, 3);
  const float perUnit = scale / codes.unit;
  forEachBand(rgb.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const float* in = rgb.row(y);
      std::uint16_t* to = out.row(y);
      for (int i = 0; i < 3 * rgb.width; ++i) to[i] = encoded(in[i], perUnit);
    }
  });
  return out;
}

Image<float> comparedTones(const Image<std::uint16_t>& picture, const LightCodes& codes, float middle, int factor) {
  const int width = std::max(1, picture.width() / factor), height = std::max(1, picture.height() / factor);
  Image<float> out(width, height, 1);
  const float per = 1 / (middle * float(factor) * float(factor));
  const std::vector<float> light = codes.table();
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        float sum = 0;
        for (int v = 0; v < factor; ++v) {
          const std::uint16_t* in = picture.at(x * factor, y * factor + v);
          for (int u = 0; u < factor; ++u, in += 3) {
            const float rgb[3] = {light[in[0]], light[in[1]], light[in[2]]};
            sum += luminance(rgb);
          }
        }
        *out.at(x, y) = fastLog2(std::max(0.f, sum * per) + 1.f / 64);
      }
  });
  return out;
}

float medianLight(const Image<std::uint16_t>& picture, const LightCodes& codes) {
  std::vector<float> tones;
  for (int y = 4; y < picture.height(); y += 16)
    for (int x = 4; x < picture.width(); x += 16) {
      const std::uint16_t* in = picture.at(x, y);
      const float rgb[3] = {codes.light(in[0]), codes.light(in[1]), codes.light(in[2])};
      tones.push_back(luminance(rgb));
    }
  return medianTone(tones);
}

} // namespace ml
