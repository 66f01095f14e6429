// SPDX-License-Identifier: GPL-3.0-or-later
#include "natural/natural_figures.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ml::test {
namespace {

/// CIE 15:2018: L* of an sRGB pixel (IEC 61966-2-1), white at 1.
Image<float> lightness(const Picture& p) {
  std::array<double, 256> linear{};
  for (int i = 0; i < 256; ++i) {
    const double v = i / 255.0;
    linear[std::size_t(i)] = v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
  }
  Image<float> out(p.width(), p.height(), 1);
  for (std::size_t i = 0; i < out.size(); ++i) {
    const std::uint8_t* c = p.data() + 3 * i;
    const double y = 0.2126 * linear[c[0]] + 0.7152 * linear[c[1]] + 0.0722 * linear[c[2]];
    out.data()[i] = float(y > 216.0 / 24389 ? 116 * std::cbrt(y) - 16 : 24389.0 / 27 * y);
  }
  return out;
}

/// Gaussian of standard deviation `sigma`, borders repeat.
Image<float> smooth(const Image<float>& in, double sigma) {
  const int reach = int(std::ceil(3 * sigma));
  std::vector<float> kernel;
  float total = 0;
  for (int k = -reach; k <= reach; ++k)
    kernel.push_back(float(std::exp(-k * k / (2 * sigma * sigma)))), total += kernel.back();
  Image<float> across(in.width(), in.height(), 1), out(in.width(), in.height(), 1);
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x) {
      float sum = 0;
      for (int k = -reach; k <= reach; ++k)
        sum += kernel[std::size_t(k + reach)] * *in.at(std::clamp(x + k, 0, in.width() - 1), y);
      *across.at(x, y) = sum / total;
    }
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x) {
      float sum = 0;
      for (int k = -reach; k <= reach; ++k)
        sum += kernel[std::size_t(k + reach)] * *across.at(x, std::clamp(y + k, 0, in.height() - 1));
      *out.at(x, y) = sum / total;
    }
  return out;
}

double quantile(std::vector<float> values, double q) {
  if (values.empty()) return 0;
  const auto at = values.begin() + std::ptrdiff_t(q * double(values.size() - 1));
  std::nth_element(values.begin(), at, values.end());
  return *at;
}

std::vector<float> valuesOf(const Image<float>& in) {
  return {in.data(), in.data() + in.size()};
}

/// Standard deviation of L* between scales of about 2 and 16 pixels, in blocks of 32.
struct Blocks {
  std::vector<double> contrast, mean;
};
Blocks blocksOf(const Image<float>& l) {
  constexpr int kBlock = 32;
  const Image<float> fine = smooth(l, 1), coarse = smooth(l, 8);
  Blocks out;
  for (int y = 0; y + kBlock <= l.height(); y += kBlock)
    for (int x = 0; x + kBlock <= l.width(); x += kBlock) {
      double sum = 0, squares = 0, mean = 0;
      for (int v = y; v < y + kBlock; ++v)
        for (int u = x; u < x + kBlock; ++u) {
          const double d = *fine.at(u, v) - *coarse.at(u, v);
          sum += d, squares += d * d, mean += *l.at(u, v);
        }
      constexpr double n = kBlock * kBlock;
      out.contrast.push_back(std::sqrt(std::max(0.0, squares / n - sum * sum / (n * n))));
      out.mean.push_back(mean / n);
    }
  return out;
}

bool clipped(const std::uint8_t* p) {
  return std::max({p[0], p[1], p[2]}) >= 252;
}

double disorderOf(const Image<float>& finished, const Image<float>& light) {
  constexpr int kPlace = 48;
  struct Place {
    double light, l;
  };
  std::vector<Place> places;
  for (int y = 0; y + kPlace <= light.height(); y += kPlace)
    for (int x = 0; x + kPlace <= light.width(); x += kPlace) {
      std::vector<float> stops, ls;
      for (int v = y; v < y + kPlace; v += 2)
        for (int u = x; u < x + kPlace; u += 2)
          stops.push_back(std::log2(std::max(1e-9f, *light.at(u, v)))), ls.push_back(*finished.at(u, v));
      if (quantile(stops, 0.9) - quantile(stops, 0.1) < 1)
        places.push_back({quantile(stops, 0.5), quantile(ls, 0.5)}); // an even place
    }
  long pairs = 0, wrong = 0;
  for (std::size_t i = 0; i < places.size(); ++i)
    for (std::size_t j = 0; j < places.size(); ++j)
      if (places[i].light > places[j].light + 1) ++pairs, wrong += places[i].l < places[j].l - 0.5;
  return pairs ? double(wrong) / double(pairs) : 0;
}

} // namespace

std::size_t meteredOf(const std::vector<Picture>& frames) {
  std::size_t best = 0;
  double least = 1e9;
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (const double off = std::abs(quantile(valuesOf(lightness(frames[i])), 0.5) - 55); off < least)
      least = off, best = i;
  return best;
}

NaturalFigures figuresOf(const Picture& finished, const std::vector<Picture>& frames, const Image<float>& light) {
  NaturalFigures out;
  const Image<float> l = lightness(finished);
  std::vector<Image<float>> of;
  for (const Picture& f : frames) of.push_back(lightness(f));
  const Image<float>& metered = of[meteredOf(frames)];
  double n = 0;
  std::vector<float> held;
  long white = 0;
  for (std::size_t i = 0; i < l.size(); ++i) {
    const double m = metered.data()[i], d = l.data()[i] - m;
    if (m >= 25 && m <= 85) out.signedL += d, out.absoluteL += std::abs(d), ++n;
    const bool lost =
        std::all_of(frames.begin(), frames.end(), [&](const Picture& f) { return clipped(f.data() + 3 * i); });
    if (!lost)
      held.push_back(l.data()[i]),
          white += std::min({finished.data()[3 * i], finished.data()[3 * i + 1], finished.data()[3 * i + 2]}) >= 254;
  }
  out.signedL /= std::max(1.0, n), out.absoluteL /= std::max(1.0, n);
  out.white = quantile(held, 0.95);
  out.atWhite = double(white) / double(l.size());
  const Blocks ours = blocksOf(l);
  std::vector<Blocks> theirs;
  for (const auto& frame : of) theirs.push_back(blocksOf(frame));
  std::vector<float> ratios;
  int within = 0;
  for (std::size_t b = 0; b < ours.contrast.size(); ++b) {
    std::size_t best = 0; // the frame that exposes this place best
    for (std::size_t i = 1; i < theirs.size(); ++i)
      if (std::abs(theirs[i].mean[b] - 55) < std::abs(theirs[best].mean[b] - 55)) best = i;
    if (theirs[best].contrast[b] < 0.4) continue; // nothing but noise and coding
    const double ratio = ours.contrast[b] / theirs[best].contrast[b];
    ratios.push_back(float(ratio));
    within += ratio >= 0.8 && ratio <= 1.25;
  }
  out.contrast = quantile(ratios, 0.5);
  out.within = ratios.empty() ? 1 : within / double(ratios.size());
  out.disorder = disorderOf(l, light);
  return out;
}

} // namespace ml::test
