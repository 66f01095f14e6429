// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// What all but a fiftieth of a scene at either end lies between, EV100.
struct LightRange {
  double low = 0, high = 0;
  [[nodiscard]] double middle() const { return (low + high) / 2; }
};

/// Of linear Rec. 709 light, three channels; `candelasPerUnit`: cd/m^2 of the value 1.
[[nodiscard]] LightRange rangeOf(ImageView<const float> light, double candelasPerUnit);

} // namespace ml
