// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/pyramid.h"
#include "capture/frame.h"
#include "judge/detail.h"
#include "positions/fisheye_circles.h"
#include "response/code_cells.h"

#include <array>
#include <memory>
#include <optional>

namespace ml {

/// A place of the picture that must keep its texture, or may clip. Place and radius in 0..1 of width and height, of the
/// width.
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
  double midTone = 0.18;       ///< Green of a surface that reads at the frame's EV, saturation = 1.
  int width = 0, height = 0;   ///< Of the frame.
  bool lit = false;            ///< By a flash.
  int orientation = 1;         ///< As its file says, or as the set's first frame does.
  int scale = 4;               ///< Frame pixels to a pixel of `light`.
  Image<float> light;          ///< Mean linear RGB of blocks, saturation of each channel = 1.
  Image<std::uint8_t> clipped; ///< Share of the block's pixels in which a channel stands at clipping, 0..255.
  Image<std::uint8_t> blown;   ///< Share of those in which nothing is left, 0..255.
  /// Of two fisheyes, in pixels of `light`: what lies about them is nothing that was seen.
  std::optional<std::array<FisheyeCircle, 2>> circles;
  LightPyramid pyramid;
  Detail detail;                ///< What sharpness is judged by.
  double independent = 1 / 3.0; ///< Samples of green to a pixel whose noise is their own: of a mosaic its photosites.
  double structured = 0;        ///< Share of blocks of 16 x 16 pixels that show more than noise.
  Image<float> cells;           ///< As flatCells, on this frame's own grid.
  int cellPitch = 4;            ///< Frame pixels.
  CodeTable table;              ///< How codes were read; `curveAssumed`: only assumed.
  bool curveAssumed = false;
  double clippedShare = 0; ///< Of the picture, places that may clip left out: texture is lost, not one channel alone.
  std::vector<double> zoneClipped; ///< Share of each zone.
  std::vector<double> zoneLevel;   ///< Mean of green in each zone, saturation = 1.
};

/// Of a mosaic only what its photosites said is read for light, clipping and structure: noise there is what the sensor
/// made, and nothing is guessed.
[[nodiscard]] std::shared_ptr<const Sketch> sketchOf(const Frame& frame, const std::vector<Zone>& zones);
/// Turns a frame as the first of its set: what tells a camera which side is up may change its mind within a set. A
/// frame whose pixels were turned already, and which says so, stays as it is.
void turnLike(const std::vector<std::shared_ptr<const Sketch>>& set, Frame& frame);

} // namespace ml
