// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>
#include <string>
#include <vector>

namespace ml::zoo {

/// Where the camera stands against its first place.
struct Pose {
  double dx = 0, dy = 0, degrees = 0; ///< Pixels.
};

/// Somebody who walks through, or leaves that the wind moves; places in pixels of the first pose.
struct Mover {
  enum class Kind { Walker, Leaves } kind = Kind::Walker;
  double x = 0, y = 0, height = 100;
  double brightness = 1; ///< Of its cloth, over the scene's median.
  unsigned seed = 1;
};

inline constexpr const char* kPanoramas[] = {"apartment", "bridge",  "city",   "dawn",   "esplanade", "forest",
                                             "hall",      "lab",     "lobby",  "night",  "park",      "sky",
                                             "studio",    "sunrise", "sunset", "venice", "warehouse", "workshop"};

/// A view, 60 degrees wide, out of a radiance panorama of a real place (tests/data/radiance, CC0), with invented
/// things, edges and fine texture in it, seen through a lens that blurs by `blur` pixels (standard deviation). Rec.
/// 709, arbitrary scale.
class Scene {
public:
  Scene(const std::string& panorama, int width, int height, unsigned seed, double blur);

  [[nodiscard]] Image<float> seen(const Pose& pose, const std::vector<Mover>& movers = {}) const;
  [[nodiscard]] double median() const { return median_; } ///< Of green.
  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }

private:
  void drawPanorama(const std::string& panorama, unsigned seed);
  void drawThings(unsigned seed);
  void blur(double sigma);
  void lightAt(double x, double y, float rgb[3]) const;

  static constexpr int kMargin = 40, kFiner = 2; ///< Pixels around the view; canvas pixels to a pixel.
  int width_, height_;
  Image<float> canvas_;
  double median_ = 1;
};

} // namespace ml::zoo
