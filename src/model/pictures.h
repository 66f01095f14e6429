// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/camera.h"
#include "capture/frame.h"
#include "image/image.h"

#include <QImage>
#include <QRectF>
#include <cstdint>

namespace ml {

/// Longest edge of pictures on screen; the window never shows more.
inline constexpr int kPreviewEdge = 1600;

[[nodiscard]] QImage toQImage(const Image<std::uint8_t>& rgb);
[[nodiscard]] QImage toQImage(ImageView<const std::uint16_t> srgbCodes);

/// A frame as the camera would show it, reduced to kPreviewEdge.
[[nodiscard]] QImage displayOf(const Frame& frame);
/// A part of it, pixel by pixel.
[[nodiscard]] QImage displayOf(const Frame& frame, const Roi& part);
/// Pixels of a part given in shares of the picture, one more to each side.
[[nodiscard]] Roi pixelsOf(const QRectF& part, int width, int height);

/// Share of a finished picture at each tone of paper: `steps` equal steps from white to `stops` below it, luminance.
[[nodiscard]] std::vector<float> paperTones(const QImage& finished, int steps, double stops);

/// Overlays diagonal hatching where a channel is at white and dots where all are at black: patterns, not colours.
void markExtremes(QImage& picture);

/// Reflected reading at a place (0..1) of a frame, mean over a disc of `radius` (0..1 of the width).
[[nodiscard]] SpotMeasure readSpot(const Frame& frame, double x, double y, double radius);

} // namespace ml
