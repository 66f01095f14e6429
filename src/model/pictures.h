// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/camera.h"
#include "capture/frame.h"
#include "image/image.h"

#include <QImage>
#include <cstdint>

namespace ml {

/// Longest edge of pictures on screen; the window never shows more.
inline constexpr int kPreviewEdge = 1600;

[[nodiscard]] QImage toQImage(const Image<std::uint8_t>& rgb);
[[nodiscard]] QImage toQImage(ImageView<const std::uint16_t> srgbCodes);

/// A frame as the camera would show it, reduced to kPreviewEdge.
[[nodiscard]] QImage displayOf(const Frame& frame);

/// Overlays diagonal hatching where a channel is at white and dots where all are at black: patterns, not colours.
void markExtremes(QImage& picture);

/// Reflected reading at a place (0..1) of a frame, mean over a disc of `radius` (0..1 of the width).
[[nodiscard]] SpotMeasure readSpot(const Frame& frame, double x, double y, double radius);

} // namespace ml
