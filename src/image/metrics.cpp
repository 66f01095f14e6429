// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/metrics.h"

#include <cmath>
#include <vector>

namespace ml {

double logRadianceError(ImageView<const float> a, ImageView<const float> b, float floor) {
  assert(a.width == b.width && a.height == b.height && a.channels == b.channels);
  double sum = 0, squares = 0;
  std::size_t count = 0;
  for (int y = 0; y < a.height; ++y) {
    const float *p = a.row(y), *q = b.row(y);
    for (int i = 0; i < a.width * a.channels; ++i) {
      if (!(p[i] > floor && q[i] > floor)) continue;
      const double d = std::log2(double(p[i]) / q[i]);
      sum += d;
      squares += d * d;
      ++count;
    }
  }
  const double mean = sum / double(count);
  return std::sqrt(std::max(0.0, squares / double(count) - mean * mean));
}

float quantile(const float* values, std::size_t count, double fraction) {
  assert(count > 0);
  std::vector<float> copy(values, values + count);
  const auto nth = copy.begin() + std::ptrdiff_t(std::clamp(fraction, 0.0, 1.0) * double(count - 1));
  std::nth_element(copy.begin(), nth, copy.end());
  return *nth;
}

} // namespace ml
