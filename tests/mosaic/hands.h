// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/placed_frame.h"
#include "image/colour.h"
#include "image/image.h"
#include "merge/merge.h"
#include "mosaic/scenes.h"

#include <string>
#include <vector>

namespace ml::test {

/// Where a camera in the hand points: its pixel p shows what the first frame's shows at R(degrees) (p - middle) +
/// middle + (dx, dy).
struct HandPose {
  double dx = 0, dy = 0, degrees = 0;
  /// The first frame's pixels to this one's.
  [[nodiscard]] Matrix3 toFrame(int width, int height) const;
};

inline constexpr const char* kHandScenes[] = {"apartment", "forest", "workshop", "venice",
                                              "city",      "lobby",  "chart",    "fabric"};

/// What a lens with a blur of `blur` pixels (standard deviation) and square photosites draw of a scene, seen from
/// there: camera colour before white balance, 1 at saturation. Every pose is drawn from the scene itself, on four times
/// as fine a grid: none is interpolated from another.
[[nodiscard]] Image<float> drawnByHand(const std::string& scene, int width, int height, double blur,
                                       const HandPose& pose);

/// A set of raw frames held in the hand, and what is made of it against the truth.
struct HandSet {
  HandSet(const std::string& name, int width, int height, double blur);
  /// At most five exposures; 1 is what the truth is exposed by, the middle one has its place. `off`: pixels by which
  /// the others are placed wrongly.
  void shoot(const std::vector<double>& exposures, double fullWell, double off = 0);
  [[nodiscard]] std::vector<PlacedFrame> placed(double misplacement) const;
  [[nodiscard]] Quality merged(double misplacement = 0.04, MotionMode motion = MotionMode::Auto) const;
  [[nodiscard]] Quality single() const; ///< Of the middle frame, developed.
  void forgetPattern();                 ///< As if the frames had been developed elsewhere.

  std::string scene;
  Image<float> truth;
  std::vector<Image<float>> seen;
  std::vector<Frame> frames;
  std::vector<HandPose> poses;
  int reference = 0;
};

} // namespace ml::test
