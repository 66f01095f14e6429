// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cmath>
#include <cstddef>

namespace ml {

/// Pearson's correlation of pairs, as they come.
struct Correlation {
  double a = 0, b = 0, aa = 0, bb = 0, ab = 0;
  std::size_t count = 0;
  void add(float first, float second) {
    a += first, b += second, aa += double(first) * first, bb += double(second) * second, ab += double(first) * second,
        ++count;
  }
  void add(const Correlation& o) { a += o.a, b += o.b, aa += o.aa, bb += o.bb, ab += o.ab, count += o.count; }
  /// 0 where one of them is all the same.
  [[nodiscard]] double value() const {
    const double n = double(count), va = aa - a * a / n, vb = bb - b * b / n;
    return n > 0 && va > 0 && vb > 0 ? (ab - a * b / n) / std::sqrt(va * vb) : 0;
  }
};

} // namespace ml
