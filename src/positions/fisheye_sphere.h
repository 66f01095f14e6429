// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/codes.h"
#include "positions/fisheye_pair.h"

namespace ml {

/// Draws frames of two circles as equirectangular ones of the same size. One seam for all frames of a set, so that
/// nothing moves between them: laid by least difference through what both lenses show.
class FisheyeSphere {
public:
  /// `tones`: the frame the pair was found in, in its pixels; `factor`: how many times larger the frames are.
  FisheyeSphere(const FisheyePair& pair, ImageView<const float> tones, double factor);

  [[nodiscard]] const FisheyePair& pair() const { return pair_; }
  /// Codes between pixels by Catmull and Rom's cubic (Keys 1981, a = -1/2).
  [[nodiscard]] Codes drawn(const Codes& frame) const;
  /// The left lens's share of a direction, 0..1.
  [[nodiscard]] double leftShare(const Vector3& direction) const;

private:
  FisheyePair pair_;
  Image<float> share_; ///< Of the left lens, about the ring: columns around, rows from its side to the other's.
  double half_ = 0;    ///< Half the ring's width, radians.
};

} // namespace ml
