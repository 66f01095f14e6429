// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/light_range.h"

#include "exposure/ev.h"
#include "image/colour.h"

#include <algorithm>
#include <vector>

namespace ml {

LightRange rangeOf(ImageView<const float> light, double candelasPerUnit) {
  std::vector<float> all;
  for (int y = 0; y < light.height; y += 2)
    for (int x = 0; x < light.width; x += 2) all.push_back(float(luminance(light.at(x, y))));
  std::sort(all.begin(), all.end());
  const auto at = [&](double share) {
    return ev100Of(std::max(1e-6, all[std::size_t(share * double(all.size() - 1))] * candelasPerUnit)).value;
  };
  return {at(0.02), at(0.98)};
}

} // namespace ml
