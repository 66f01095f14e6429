// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/operators.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

/// Gaussian blur by separable truncated kernels.
Image<float> blurred(const Image<float>& in, double sigma) {
  const int r = std::max(1, int(std::ceil(2.5 * sigma)));
  std::vector<float> kernel(std::size_t(2 * r) + 1);
  float total = 0;
  for (int i = -r; i <= r; ++i) total += kernel[std::size_t(i + r)] = float(std::exp(-0.5 * i * i / (sigma * sigma)));
  for (float& k : kernel) k /= total;
  const int w = in.width(), h = in.height();
  Image<float> across(w, h, 1), out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float sum = 0;
        for (int i = -r; i <= r; ++i) sum += kernel[std::size_t(i + r)] * in.row(y)[std::clamp(x + i, 0, w - 1)];
        across.row(y)[x] = sum;
      }
  });
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      std::fill_n(out.row(y), w, 0.f);
      for (int i = -r; i <= r; ++i) {
        const float* row = across.row(std::clamp(y + i, 0, h - 1));
        for (int x = 0; x < w; ++x) out.row(y)[x] += kernel[std::size_t(i + r)] * row[x];
      }
    }
  });
  return out;
}

} // namespace

const char* nameOf(ToneOperator op) {
  switch (op) {
  case ToneOperator::Natural: return "natural";
  case ToneOperator::Reinhard: return "reinhard";
  case ToneOperator::Drago: return "drago";
  default: return "durand";
  }
}

double toneReinhard(double light, const LightStatistics& s) {
  const double scale = 0.18 / s.logAverage, l = light * scale, white = s.brightest * scale;
  return std::min(1.0, l * (1 + l / (white * white)) / (1 + l));
}

double toneDrago(double light, const LightStatistics& s) {
  constexpr double kBias = 0.85, kDisplay = 100;
  const double l = light / s.logAverage, most = s.brightest / s.logAverage;
  const double base = std::log(2 + 8 * std::pow(l / most, std::log(kBias) / std::log(0.5)));
  return std::min(1.0, kDisplay * 0.01 / std::log10(most + 1) * std::log(l + 1) / base);
}

double durandCompression(double darkest, double brightest) {
  return kDurandRange / std::max(kDurandRange, brightest - darkest);
}

Image<float> bilateral(const Image<float>& in, double sigmaSpace, double sigmaRange) {
  const auto [low, high] = std::minmax_element(in.data(), in.data() + in.size());
  const float lowest = *low, step = float(sigmaRange) / 2;
  const int layers = std::max(2, int(std::ceil((*high - lowest) / step)) + 1);
  Image<float> out(in.width(), in.height(), 1), before;
  const auto layerOf = [&](int k) {
    const float centre = lowest + float(k) * step;
    Image<float> weight(in.width(), in.height(), 1), value(in.width(), in.height(), 1);
    for (std::size_t i = 0; i < in.size(); ++i) {
      const double d = (in.data()[i] - centre) / sigmaRange;
      weight.data()[i] = float(std::exp(-0.5 * d * d));
      value.data()[i] = weight.data()[i] * in.data()[i];
    }
    const Image<float> weights = blurred(weight, sigmaSpace);
    Image<float> values = blurred(value, sigmaSpace);
    for (std::size_t i = 0; i < in.size(); ++i) values.data()[i] /= std::max(1e-12f, weights.data()[i]);
    return values;
  };
  before = layerOf(0);
  for (int k = 1; k < layers; ++k) {
    Image<float> now = layerOf(k);
    for (std::size_t i = 0; i < in.size(); ++i) {
      const float position = (in.data()[i] - lowest) / step - float(k - 1);
      if (position >= 0 && position <= 1)
        out.data()[i] = before.data()[i] + position * (now.data()[i] - before.data()[i]);
    }
    before = std::move(now);
  }
  return out;
}

} // namespace ml
