#include "capture/frame.h"

#include <algorithm>
#include <cmath>

namespace ml {

double relativeExposure(const ExposureSettings& s) {
  return s.time.value * s.iso.value / 100 / (s.aperture.value * s.aperture.value);
}

void BracketSet::sortByExposure() {
  std::stable_sort(frames.begin(), frames.end(), [](const Frame& a, const Frame& b) {
    const double ea = relativeExposure(a.settings), eb = relativeExposure(b.settings);
    return ea != eb ? ea < eb : a.path < b.path;
  });
}

double clippedShare(const Frame& frame) {
  std::size_t clipped = 0;
  const float* table = frame.table.linear.data();
  for (std::size_t i = 0; i < frame.codes.size(); i += 3) {
    bool any = false;
    for (int c = 0; c < 3; ++c) any = any || table[frame.codes.data()[i + c]] > 0.97f * frame.table.clipFrom * frame.saturation[c];
    clipped += any;
  }
  return 3 * double(clipped) / double(std::max<std::size_t>(1, frame.codes.size()));
}

CodeTable linearTable(int maxCode, double black, double white) {
  CodeTable table;
  table.linear.resize(std::size_t(maxCode) + 1);
  for (int code = 0; code <= maxCode; ++code) table.linear[code] = float((code - black) / (white - black));
  return table;
}

CodeTable srgbTable(int maxCode) {
  CodeTable table;
  table.linear.resize(std::size_t(maxCode) + 1);
  for (int code = 0; code <= maxCode; ++code) table.linear[code] = float(srgbDecode(double(code) / maxCode));
  table.clipFrom = float(srgbDecode(0.985));
  return table;
}

NoiseModel noiseOf(const CodeTable& table, double fullWell, double readNoise) {
  NoiseModel noise{1 / fullWell, readNoise * readNoise / (fullWell * fullWell)};
  // Least squares of the rounding variance (slope^2 / 12) against x, each sample relative to its own size.
  double sx = 0, n = 0;
  double smallest = 1;
  for (std::size_t code = 1; code < table.linear.size(); ++code) {
    const double x = table.linear[code], slope = x - table.linear[code - 1];
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
