// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/pyramid.h"
#include "align/transform.h"

#include <array>
#include <vector>

namespace ml {

/// Bilinear; what is compared is smooth, so nothing sharper is needed. False outside.
inline bool sampleLinear(const Image<float>& image, double x, double y, float& value) {
  if (!(x >= 0 && y >= 0)) return false;
  const int ix = int(x), iy = int(y);
  if (ix >= image.width() - 1 || iy >= image.height() - 1) return false;
  const float fx = float(x - ix), fy = float(y - iy);
  const float *a = image.at(ix, iy), *b = image.at(ix, iy + 1);
  value = (1 - fy) * ((1 - fx) * a[0] + fx * a[1]) + fy * ((1 - fx) * b[0] + fx * b[1]);
  return true;
}

/// Tones of the moving picture as the fixed one would show them: the exposure ratio, corrected tone by tone with the
/// median over places that both record (so a response curve that is not the assumed one does no harm). What clips in
/// the fixed picture counts as clipped where the exposures make that plausible.
class ToneMatch {
public:
  explicit ToneMatch(double exposureRatio);

  void learn(const Image<float>& fixed, const Image<float>& moving, const Transform& transform, const LightPyramid& pf,
             const LightPyramid& pm);

  /// Many at once, held between low and high.
  void map(const Image<float>& in, float low, float high, Image<float>& out) const;

  [[nodiscard]] float operator()(float tone) const;

private:
  static constexpr int kBins = 48;
  void fill(std::array<std::vector<float>, kBins>& ratios);

  float gain_;
  std::array<float, kBins> correction_{};
};

/// Both pictures in the tones of `fixed`, clamped to what both record.
struct CommonTones {
  Image<float> fixed, moving;
  float low = 0, high = 1;
  bool linear = false; ///< Both are light: their tones are told apart rightly.
};
[[nodiscard]] CommonTones commonTones(const Image<float>& fixed, const Image<float>& moving, const LightPyramid& pf,
                                      const LightPyramid& pm, const ToneMatch& match);

} // namespace ml
