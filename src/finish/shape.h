// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "finish/recipe.h"
#include "image/colour.h"
#include "image/lens_map.h"

namespace ml {

/// The way from the finished picture back to the picture as combined, and how large the finished picture is.
/// A camera turned by roll, pitch and yaw changes the picture by the homography K R K^-1 (Hartley and Zisserman,
/// Multiple View Geometry, 2nd ed., section 8.4.2). No place outside the picture is shown: what is turned is enlarged
/// until its rim lies inside.
class ShapeMap {
public:
  /// `width` x `height`: the picture as combined.
  ShapeMap(const Geometry& geometry, int width, int height, const LensMap* lens = nullptr,
           double focal = kAssumedFocal);
  [[nodiscard]] bool identity() const { return identity_; }
  [[nodiscard]] int width() const { return outWidth_; }
  [[nodiscard]] int height() const { return outHeight_; }
  /// (0..1) of the finished picture to (0..1) of the combined one; green channel.
  [[nodiscard]] Spot2 toCombined(Spot2 finished) const { return source(finished, 1); }
  /// And back, by Newton's method; to 1e-6 of the picture.
  [[nodiscard]] Spot2 toFinished(Spot2 combined) const;
  /// The place a channel (0 red .. 2 blue) is taken from.
  [[nodiscard]] Spot2 source(Spot2 finished, int channel) const;
  /// Gain at a place of the combined picture.
  [[nodiscard]] double gainAt(Spot2 combined) const;
  [[nodiscard]] bool channelsDiffer() const { return channelsDiffer_; }

private:
  [[nodiscard]] Spot2 straightened(Spot2 finished) const;
  [[nodiscard]] bool inside(double zoom) const;
  Geometry geometry_;
  const LensMap* lens_;
  int width_, height_, outWidth_ = 1, outHeight_ = 1;
  double aspectX_, aspectY_;  ///< Half edges in half long edges.
  Matrix3 turn_ = kIdentity3; ///< Finished to combined, in half long edges from the middle.
  double zoom_ = 1;
  bool identity_ = false, turns_ = false, channelsDiffer_ = false;
};

/// The picture in its finished shape; bicubic (Keys 1981), held near its neighbours so that no dark rings appear around
/// lamps. Errors: Stopped.
Result<Image<float>> shaped(ImageView<const float> radiance, const ShapeMap& map, const Progress& progress);

/// 3x3 homography that takes four points to four others. Hartley and Zisserman, section 4.1. Empty when three lie on a
/// line.
[[nodiscard]] std::optional<Matrix3> homography(const std::array<Spot2, 4>& from, const std::array<Spot2, 4>& to);

} // namespace ml
