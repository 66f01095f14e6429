// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/tmqi.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace ml::test {
namespace {

using Plane = Image<double>;

/// 11 x 11 Gaussian, 1.5 px, only where it fits.
Plane windowed(const Plane& in) {
  double k[11], total = 0;
  for (int i = 0; i < 11; ++i) total += k[i] = std::exp(-(i - 5) * (i - 5) / (2 * 1.5 * 1.5));
  Plane across(in.width() - 10, in.height(), 1), out(in.width() - 10, in.height() - 10, 1);
  for (int y = 0; y < across.height(); ++y)
    for (int x = 0; x < across.width(); ++x) {
      double sum = 0;
      for (int i = 0; i < 11; ++i) sum += k[i] / total * in.row(y)[x + i];
      across.row(y)[x] = sum;
    }
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      double sum = 0;
      for (int i = 0; i < 11; ++i) sum += k[i] / total * across.row(y + i)[x];
      out.row(y)[x] = sum;
    }
  return out;
}

template <class F> Plane mapped(const Plane& a, const Plane& b, F f) {
  Plane out(a.width(), a.height(), 1);
  for (std::size_t i = 0; i < a.size(); ++i) out.data()[i] = f(a.data()[i], b.data()[i]);
  return out;
}

double cumulative(double x, double mean, double sigma) {
  return 0.5 * std::erfc(-(x - mean) / (sigma * std::numbers::sqrt2));
}

double fidelityAt(const Plane& scene, const Plane& picture, double frequency) {
  const auto times = [](double a, double b) { return a * b; };
  const Plane m1 = windowed(scene), m2 = windowed(picture), s11 = windowed(mapped(scene, scene, times)),
              s22 = windowed(mapped(picture, picture, times)), s12 = windowed(mapped(scene, picture, times));
  const double csf = 100 * 2.6 * (0.0192 + 0.114 * frequency) * std::exp(-std::pow(0.114 * frequency, 1.1));
  const double mean = 128 / (1.4 * csf), spread = mean / 3;
  double sum = 0;
  for (std::size_t i = 0; i < m1.size(); ++i) {
    const double a = std::sqrt(std::max(0.0, double(s11.data()[i]) - double(m1.data()[i]) * m1.data()[i]));
    const double b = std::sqrt(std::max(0.0, double(s22.data()[i]) - double(m2.data()[i]) * m2.data()[i]));
    const double both = double(s12.data()[i]) - double(m1.data()[i]) * m2.data()[i];
    const double pa = cumulative(a, mean, spread), pb = cumulative(b, mean, spread);
    sum += (2 * pa * pb + 0.01) / (pa * pa + pb * pb + 0.01) * (both + 10) / (a * b + 10);
  }
  return sum / double(m1.size());
}

Plane halved(const Plane& in) {
  Plane out(in.width() / 2, in.height() / 2, 1);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x)
      out.row(y)[x] =
          (in.row(2 * y)[2 * x] + in.row(2 * y)[2 * x + 1] + in.row(2 * y + 1)[2 * x] + in.row(2 * y + 1)[2 * x + 1]) /
          4;
  return out;
}

double naturalnessOf(const Image<float>& picture) {
  double sum = 0, spreads = 0;
  int blocks = 0;
  for (std::size_t i = 0; i < picture.size(); ++i) sum += picture.data()[i];
  for (int y = 0; y + 11 <= picture.height(); y += 11)
    for (int x = 0; x + 11 <= picture.width(); x += 11, ++blocks) {
      double s = 0, q = 0;
      for (int v = 0; v < 11; ++v)
        for (int u = 0; u < 11; ++u)
          s += picture.row(y + v)[x + u], q += double(picture.row(y + v)[x + u]) * picture.row(y + v)[x + u];
      spreads += std::sqrt(std::max(0.0, (q - s * s / 121) / 120));
    }
  const double mean = sum / double(picture.size()), contrast = std::clamp(spreads / blocks / 64.29, 1e-9, 1.0);
  const double bright = std::exp(-(mean - 115.94) * (mean - 115.94) / (2 * 27.99 * 27.99));
  const double a = 4.4, b = 10.1, mode = (a - 1) / (a + b - 2);
  const auto beta = [&](double x) { return std::pow(x, a - 1) * std::pow(1 - x, b - 1); };
  return bright * beta(contrast) / beta(mode);
}

} // namespace

Tmqi tmqi(const Image<float>& scene, const Image<float>& picture) {
  const auto [low, high] = std::minmax_element(scene.data(), scene.data() + scene.size());
  const double from = *low, range = std::max(1e-12, double(*high) - from);
  Plane s(scene.width(), scene.height(), 1), p(scene.width(), scene.height(), 1);
  for (std::size_t i = 0; i < scene.size(); ++i)
    s.data()[i] = (scene.data()[i] - from) / range * 4294967295.0, p.data()[i] = picture.data()[i];
  constexpr double kWeights[] = {0.0448, 0.2856, 0.3001, 0.2363, 0.1333};
  Tmqi out;
  out.fidelity = 1;
  double frequency = 16;
  for (const double weight : kWeights) {
    out.fidelity *= std::pow(std::max(1e-6, fidelityAt(s, p, frequency)), weight);
    s = halved(s), p = halved(p);
    frequency /= 2;
  }
  out.naturalness = naturalnessOf(picture);
  out.quality = 0.8012 * std::pow(out.fidelity, 0.3046) + (1 - 0.8012) * std::pow(out.naturalness, 0.7088);
  return out;
}

} // namespace ml::test
