// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/denoise.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "base/vector_clones.h"
#include "image/colour.h"

#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr float kKernel[3] = {0.375f, 0.25f, 0.0625f}; ///< Half of the B3 spline's.

/// One of the 25 taps for a row: adds neighbours that lie `dx` to the side, at `inverse` = 1 / (tolerated
/// difference)^2.
ML_VECTOR_CLONES void addTap(const float* in, const float* near, const float* inverse, float tap, int n,
                             float* __restrict sum, float* __restrict weight) {
  for (int i = 0; i < n; ++i) {
    const float dr = near[3 * i] - in[3 * i], dg = near[3 * i + 1] - in[3 * i + 1],
                db = near[3 * i + 2] - in[3 * i + 2];
    const float d = (dr * dr + 2 * dg * dg + db * db) * inverse[i], w = tap / (1 + d * d);
    sum[3 * i] += w * near[3 * i];
    sum[3 * i + 1] += w * near[3 * i + 1];
    sum[3 * i + 2] += w * near[3 * i + 2];
    weight[i] += w;
  }
}

Image<float> smoothed(ImageView<const float> in, const std::vector<float>& tolerance, int step, const StopFlag& stop,
                      bool& stopped) {
  Image<float> out(in.width, in.height, 3);
  const int w = in.width, pad = 2 * step;
  stopped = !forEachBand(in.height, stop, [&](const Band& band) {
    std::vector<float> padded(std::size_t(3 * (w + 2 * pad))), inverse(std::size_t(w), 0.f), sum(std::size_t(3 * w)),
        weight(std::size_t(w), 0.f);
    for (int y = band.begin; y < band.end; ++y) {
      for (int x = 0; x < w; ++x) {
        const float light = std::max(1e-9f, luminance(in.at(x, y)));
        const int k = std::clamp(int((std::log2(light) + 40) * 4), 0, int(tolerance.size()) - 1);
        const float t = tolerance[std::size_t(k)] * light;
        inverse[std::size_t(x)] = 1 / std::max(1e-20f, t * t);
      }
      std::fill(sum.begin(), sum.end(), 0.f);
      std::fill(weight.begin(), weight.end(), 0.f);
      for (int j = -2; j <= 2; ++j) {
        const float* row = in.row(std::clamp(y + j * step, 0, in.height - 1));
        for (int x = -pad; x < w + pad; ++x)
          std::copy_n(row + 3 * std::clamp(x, 0, w - 1), 3, padded.data() + 3 * (x + pad));
        for (int i = -2; i <= 2; ++i)
          addTap(in.row(y), padded.data() + 3 * (pad + i * step), inverse.data(),
                 kKernel[std::abs(i)] * kKernel[std::abs(j)], w, sum.data(), weight.data());
      }
      for (int x = 0; x < w; ++x)
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = sum[std::size_t(3 * x + c)] / weight[std::size_t(x)];
    }
  });
  return out;
}

} // namespace

Result<Image<float>> denoised(ImageView<const float> radiance, const NoiseByLight& noise, double strength,
                              const Progress& progress) {
  std::vector<float> fine(4 * 80), coarse(4 * 80);
  for (std::size_t i = 0; i < fine.size(); ++i) {
    const double sigma = noise.at(double(i) / 4 - 40);
    fine[i] = float(5 * strength * sigma); // luminance noise; single channels have more
    coarse[i] = float(3 * strength * sigma);
  }
  bool stop = false;
  progress.at(phrase("Quiet the noise"), 0.1);
  Image<float> once = smoothed(radiance, fine, 1, progress.stop, stop);
  if (stop) return stopped();
  progress.at(phrase("Quiet the noise"), 0.5);
  Image<float> twice = smoothed(once.view(), coarse, 2, progress.stop, stop);
  if (stop) return stopped();
  return twice;
}

} // namespace ml
