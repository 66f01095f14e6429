// SPDX-License-Identifier: GPL-3.0-or-later
#include "exposure/ev.h"

#include <cmath>

namespace ml {

Stops apexAperture(FNumber n) {
  return {2 * std::log2(n.value)};
}
Stops apexTime(Seconds t) {
  return {-std::log2(t.value)};
}
Stops ev(FNumber n, Seconds t) {
  return apexAperture(n) + apexTime(t);
}
Stops ev100(FNumber n, Seconds t, Iso s) {
  return {ev(n, t).value - std::log2(s.value / 100)};
}
Stops ev100(const ExposureSettings& settings) {
  return ev100(settings.aperture, settings.time, settings.iso);
}

Seconds timeFor(Stops target, FNumber n, Iso s) {
  return {std::exp2(apexAperture(n).value - target.value - std::log2(s.value / 100))};
}

double luminanceOf(Stops ev100) {
  return 0.125 * std::exp2(ev100.value);
}
Stops ev100Of(double luminance) {
  return {std::log2(luminance / 0.125)};
}

std::vector<Stops> bracketOffsets(int count, Stops step, Stops centre) {
  std::vector<Stops> offsets;
  for (int i = 0; i < count; ++i) offsets.push_back({centre.value + step.value * (i - (count - 1) / 2.0)});
  return offsets;
}

Seconds brighter(Seconds t, Stops stops) {
  return {t.value * std::exp2(stops.value)};
}

} // namespace ml
