// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/transform.h"

#include <algorithm>
#include <cmath>

namespace ml {

Transform Transform::scaled(double factor) const {
  const double offset = (factor - 1) / 2;
  const Matrix3 up{factor, 0, offset, 0, factor, offset, 0, 0, 1};
  Transform out{multiply(multiply(up, h), inverse(up))};
  for (double& value : out.h) value /= out.h[8];
  return out;
}

double Transform::reach(int width, int height) const {
  double most = 0;
  for (const double x : {0.0, width - 1.0})
    for (const double y : {0.0, height - 1.0}) {
      double u, v;
      map(x, y, u, v);
      most = std::max(most, std::hypot(u - x, v - y));
    }
  return most;
}

} // namespace ml
