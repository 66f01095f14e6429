// SPDX-License-Identifier: GPL-3.0-or-later
#include "capture/frame.h"

#include <algorithm>
#include <cmath>

namespace ml {

namespace {
constexpr double kLookedAt = 1.5e6; ///< Pixels are enough to know a share.
}

CodeTable::CodeTable(std::vector<float> forAllChannels) {
  tables_.fill(std::make_shared<const std::vector<float>>(std::move(forAllChannels)));
}

CodeTable::CodeTable(std::array<std::vector<float>, 3> tables) {
  for (std::size_t c = 0; c < 3; ++c) tables_[c] = std::make_shared<const std::vector<float>>(std::move(tables[c]));
}

double relativeExposure(const ExposureSettings& s) {
  return s.time.value * s.iso.value / 100 / (s.aperture.value * s.aperture.value);
}

void BracketSet::sortByExposure() {
  std::stable_sort(frames.begin(), frames.end(), [](const Frame& a, const Frame& b) {
    const double ea = relativeExposure(a.settings), eb = relativeExposure(b.settings);
    return ea != eb ? ea < eb : a.path < b.path;
  });
}

void Frame::meansAround(int x, int y, float rgb[3]) const {
  const auto sites = codes.photosites();
  float sum[3] = {};
  int count[3] = {};
  for (int v = std::max(0, y - 1); v <= std::min(sites.height - 1, y + 1); ++v)
    for (int u = std::max(0, x - 1); u <= std::min(sites.width - 1, x + 1); ++u) {
      const int c = colourAt(u, v);
      sum[c] += table.channel(c)[*sites.at(u, v)], ++count[c];
    }
  for (int c = 0; c < 3; ++c) rgb[c] = sum[c] / float(std::max(1, count[c]));
  const int own = colourAt(x, y);
  rgb[own] = table.channel(own)[*sites.at(x, y)];
}

namespace {

/// Blocks of four photosites, by the colour that clips first.
double clippedShareOfMosaic(const Frame& frame, int step) {
  const auto sites = frame.codes.photosites();
  std::size_t clipped = 0, looked = 0;
  float limit[4];
  const float* table[4];
  for (int k = 0; k < 4; ++k) {
    const int c = frame.pattern[std::size_t(k)];
    limit[k] = 0.97f * frame.table.clipFrom * frame.saturation[std::size_t(c)], table[k] = frame.table.channel(c);
  }
  for (int y = 0; y + 1 < sites.height; y += step)
    for (int x = 0; x + 1 < sites.width; x += step, ++looked) {
      bool any = false;
      for (int k = 0; k < 4; ++k) any = any || table[k][*sites.at(x + (k & 1), y + (k >> 1))] > limit[k];
      clipped += any;
    }
  return double(clipped) / double(std::max<std::size_t>(1, looked));
}

} // namespace

double clippedShare(const Frame& frame) {
  std::size_t clipped = 0, looked = 0;
  const int step = std::max(1, int(std::sqrt(double(frame.width()) * frame.height() / kLookedAt)));
  if (frame.isMosaic()) return clippedShareOfMosaic(frame, std::max(2, step & ~1));
  frame.codes.visit([&](auto codes) {
    for (int y = 0; y < codes.height; y += step)
      for (int x = 0; x < codes.width; x += step, ++looked) {
        bool any = false;
        for (int c = 0; c < 3; ++c)
          any = any || frame.table.channel(c)[codes.at(x, y)[c]] > 0.97f * frame.table.clipFrom * frame.saturation[c];
        clipped += any;
      }
  });
  return double(clipped) / double(std::max<std::size_t>(1, looked));
}

double sampleVariance(const Frame& frame, double level) {
  if (frame.codeError <= 0) return frame.noise.variance(level);
  const float *table = frame.table.channel(1), *end = table + frame.table.size();
  const auto at =
      std::clamp<std::ptrdiff_t>(std::lower_bound(table, end, float(level)) - table, 1, frame.table.size() - 1);
  const std::ptrdiff_t from = std::max<std::ptrdiff_t>(0, at - 2),
                       to = std::min<std::ptrdiff_t>(frame.table.size() - 1, at + 1);
  const double slope = double(table[to] - table[from]) / double(to - from), coding = frame.codeError * slope;
  return frame.sensor.variance(level) + coding * coding;
}

CodeTable linearTable(int maxCode, double black, double white) {
  std::vector<float> linear(std::size_t(maxCode) + 1);
  for (int code = 0; code <= maxCode; ++code) linear[code] = float((code - black) / (white - black));
  return CodeTable(std::move(linear));
}

CodeTable srgbTable(int maxCode) {
  std::vector<float> linear(std::size_t(maxCode) + 1);
  for (int code = 0; code <= maxCode; ++code) linear[code] = float(srgbDecode(double(code) / maxCode));
  CodeTable table(std::move(linear));
  table.clipFrom = float(srgbDecode(0.985));
  return table;
}

NoiseModel noiseOf(const CodeTable& table, double fullWell, double readNoise) {
  NoiseModel noise{1 / fullWell, readNoise * readNoise / (fullWell * fullWell)};
  // Least squares of the rounding variance (slope^2 / 12) against x, each sample relative to its own size.
  double sx = 0, n = 0;
  double smallest = 1;
  const float* linear = table.channel(1);
  for (int code = 1; code < table.size(); ++code) {
    const double x = linear[code], slope = x - linear[code - 1];
    if (x <= 0) continue;
    const double rounding = slope * slope / 12;
    smallest = std::min(smallest, rounding);
    sx += rounding / x;
    n += 1;
  }
  noise.floor += smallest;
  if (n > 0) noise.photon += std::max(0.0, sx / n - smallest);
  return noise;
}

} // namespace ml
