// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/curve.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace ml {

ToneCurve::ToneCurve(std::vector<Tie> ties) : ties_(std::move(ties)), slopes_(ties_.size()) {
  assert(ties_.size() >= 2);
  const std::size_t n = ties_.size();
  std::vector<double> secants(n - 1);
  for (std::size_t i = 0; i + 1 < n; ++i)
    secants[i] = (ties_[i + 1].paper - ties_[i].paper) / (ties_[i + 1].scene - ties_[i].scene);
  slopes_[0] = secants[0];
  slopes_[n - 1] = secants[n - 2];
  for (std::size_t i = 1; i + 1 < n; ++i)
    slopes_[i] = secants[i - 1] * secants[i] <= 0 ? 0 : (secants[i - 1] + secants[i]) / 2;
  for (std::size_t i = 0; i + 1 < n; ++i) {
    if (secants[i] == 0) {
      slopes_[i] = slopes_[i + 1] = 0;
      continue;
    }
    const double a = slopes_[i] / secants[i], b = slopes_[i + 1] / secants[i], size = a * a + b * b;
    if (size > 9) {
      slopes_[i] = 3 * a / std::sqrt(size) * secants[i];
      slopes_[i + 1] = 3 * b / std::sqrt(size) * secants[i];
    }
  }
}

double ToneCurve::operator()(double scene) const {
  const std::size_t n = ties_.size();
  if (scene <= ties_.front().scene) return ties_.front().paper + slopes_.front() * (scene - ties_.front().scene);
  if (scene >= ties_.back().scene) return ties_.back().paper + slopes_.back() * (scene - ties_.back().scene);
  const auto above =
      std::upper_bound(ties_.begin(), ties_.end(), scene, [](double v, const Tie& tie) { return v < tie.scene; });
  const std::size_t i = std::min(std::size_t(above - ties_.begin()) - 1, n - 2);
  const double width = ties_[i + 1].scene - ties_[i].scene, t = (scene - ties_[i].scene) / width;
  const double t2 = t * t, t3 = t2 * t;
  return (2 * t3 - 3 * t2 + 1) * ties_[i].paper + (t3 - 2 * t2 + t) * width * slopes_[i] +
         (3 * t2 - 2 * t3) * ties_[i + 1].paper + (t3 - t2) * width * slopes_[i + 1];
}

} // namespace ml
