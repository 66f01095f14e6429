#pragma once
#include "align/pyramid.h"
#include "capture/frame.h"

#include <memory>

namespace ml {

/// A place of the picture that must keep its texture, or may clip. Place and radius in 0..1 of width and height, of the width.
struct Zone {
  std::string name;
  double x = 0.5, y = 0.5, radius = 0.02;
  bool keepTexture = true;
  Stops reading{0};
};

/// What judging keeps of a frame: enough to compare it with others, a hundredth of its size.
struct Sketch {
  ExposureSettings settings;
  NoiseModel noise;
  std::array<float, 3> saturation{1, 1, 1};
  double midTone = 0.18;         ///< Green of a surface that reads at the frame's EV, saturation = 1.
  bool rendered = false;         ///< JPEG and the like: its response curve is only assumed.
  int width = 0, height = 0;     ///< Of the frame.
  int scale = 4;                 ///< Frame pixels to a pixel of `light`.
  Image<float> light;            ///< Mean linear RGB of blocks, saturation of each channel = 1.
  Image<std::uint8_t> clipped;   ///< Share of the block's pixels that stand at clipping, 0..255.
  LightPyramid pyramid;
  /// Fine structure on blocks of kBlock x kBlock frame pixels, three channels: energy of second differences of green across and
  /// down, over its squared mean, and what noise makes of either; the first is -1 where the block is clipped or dark.
  static constexpr int kBlock = 16;
  Image<float> structure;
  double clippedShare = 0;       ///< Of the picture, places that may clip left out.
  std::vector<double> zoneClipped; ///< Share of each zone.
  std::vector<double> zoneLevel;   ///< Mean of green in each zone, saturation = 1.
};

[[nodiscard]] std::shared_ptr<const Sketch> sketchOf(const Frame& frame, const std::vector<Zone>& zones);

} // namespace ml
