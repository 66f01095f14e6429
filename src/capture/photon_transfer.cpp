// SPDX-License-Identifier: GPL-3.0-or-later
#include "capture/photon_transfer.h"
#include "base/phrase.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace ml {

TransferPoint transferPoint(ImageView<const std::uint16_t> a, ImageView<const std::uint16_t> b, double black) {
  assert(a.width == b.width && a.height == b.height && a.channels == 1);
  const int x0 = a.width / 4, x1 = a.width - x0, y0 = a.height / 4, y1 = a.height - y0;
  double sum = 0, difference = 0, squares = 0;
  std::size_t count = 0;
  for (int y = y0; y < y1; ++y)
    for (int x = x0 + ((x0 + y + 1) & 1); x < x1; x += 2) { // RGGB: x + y odd is green
      const double va = *a.at(x, y), vb = *b.at(x, y), d = va - vb;
      sum += va + vb;
      difference += d;
      squares += d * d;
      ++count;
    }
  if (count == 0) return {};
  const double n = double(count), meanDifference = difference / n;
  return {sum / (2 * n) - black, (squares / n - meanDifference * meanDifference) / 2};
}

Result<SensorMeasurement> measureSensor(const TransferPoint& dark, const std::vector<TransferPoint>& flats,
                                        double saturation) {
  std::vector<TransferPoint> used;
  for (const auto& p : flats)
    if (p.mean > 0.05 * saturation && p.mean < 0.7 * saturation && p.variance > 0) used.push_back(p);
  if (used.size() < 2)
    return fail(ErrorCode::InvalidArgument,
                phrase("The flat frames do not suffice: at least two exposures between a twentieth and seven tenths of "
                       "saturation are needed, two frames of each. Shoot an evenly lit wall at several times."));
  // Through the dark point; a variance of n samples has the relative error sqrt(2 / n), so weights go with 1 /
  // variance^2.
  double above = 0, below = 0;
  for (const auto& p : used) {
    const double weight = 1 / (p.variance * p.variance), mean = p.mean - dark.mean;
    above += weight * mean * (p.variance - dark.variance);
    below += weight * mean * mean;
  }
  const double gain = above / below; // codes per electron
  if (!(gain > 0) || !std::isfinite(gain))
    return fail(
        ErrorCode::InvalidArgument,
        phrase("The noise does not grow with the light: these are not pairs of flat frames from one raw camera."));
  SensorMeasurement m;
  m.electronsPerCode = 1 / gain;
  m.fullWell = saturation / gain;
  m.readNoise = std::sqrt(std::max(0.0, dark.variance - 1.0 / 12)) / gain;
  for (const auto& p : used)
    m.fitError = std::max(m.fitError, std::abs(dark.variance + gain * (p.mean - dark.mean) - p.variance) / p.variance);
  m.points = std::move(used);
  return m;
}

} // namespace ml
