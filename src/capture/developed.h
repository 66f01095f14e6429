// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"
#include "mosaic/developer.h"

namespace ml {

/// Of a mosaic: its photosites, which the frame keeps.
[[nodiscard]] PhotositeCodes photositesOf(const Frame& frame);

/// A mosaic as a frame of three colours; what is none comes back as it is.
[[nodiscard]] Frame developed(const Frame& frame);

/// A part of a mosaic as a frame of its own; the same pixels as of the whole.
[[nodiscard]] Frame developed(const Frame& frame, const Roi& part);

} // namespace ml
