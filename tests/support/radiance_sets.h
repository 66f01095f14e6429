// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

#include <array>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

namespace ml::test {

/// An ordinary view (60 degrees wide) out of one of the radiance panoramas in tests/data/radiance, with invented fine
/// texture on top, seen by a camera that shifts and turns a little: evaluated exactly at any place, so that the truth
/// of a moved frame needs no resampling.
class RadianceView {
public:
  explicit RadianceView(const std::string& name, int width = 1536, int height = 1024);
  /// Light, three channels, where the camera stands `dx`, `dy` pixels and `degrees` from its first place; a walker at
  /// `walkerX` (share of the width; below 0: none).
  [[nodiscard]] Image<float> seen(double dx, double dy, double degrees, double walkerX) const;
  [[nodiscard]] double median() const { return median_; }

private:
  /// With nobody there; drawn once for each of the last poses, for that takes most of the time of a set.
  const Image<float>& still(double dx, double dy, double degrees) const;
  void lightAt(double x, double y, float rgb[3]) const;
  Image<float> panorama_; ///< Logarithms.
  int width_, height_;
  double yaw_ = 0, median_ = 1;
  mutable std::map<std::array<double, 3>, Image<float>> drawn_;
};

struct SetOptions {
  bool handHeld = false, walker = false;
  int frames = 5;
  double stopsApart = 2;
  int curve = 0;           ///< Which of the invented tone curves; -1: linear 16-bit TIFF.
  bool fullColour = false; ///< JPEG without chroma subsampling.
  unsigned seed = 1;
  std::string camera; ///< As Exif names it; empty: it does not.
};

/// A bracket of a view as files, with what is needed to judge what is made of it.
struct MadeSet {
  std::vector<std::filesystem::path> files; ///< Darkest first.
  int reference = 2;                        ///< Its truth is given.
  Image<float> truth;                       ///< What the reference frame saw, walker included.
  Image<std::uint8_t> walked;               ///< 1 where the walker stood in any frame, on the reference's grid.
  CodeTable curve;                          ///< The true one.
  NoiseModel sensor;
};
[[nodiscard]] MadeSet makeSet(const RadianceView& view, const SetOptions& options, const std::filesystem::path& folder);

inline constexpr const char* kViews[] = {"lobby", "apartment", "hall", "forest", "workshop", "sunset"};

} // namespace ml::test
