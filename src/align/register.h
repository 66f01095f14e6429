// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/transform.h"
#include "base/progress.h"
#include "base/result.h"
#include "capture/frame.h"

#include <string>
#include <vector>

namespace ml {

enum class AlignMode { Off, Shift, Rigid, Similarity, Perspective, Auto };

/// How one frame lies on the reference.
struct Registration {
  Transform transform;           ///< Reference pixel -> this frame's pixel.
  double shiftX = 0, shiftY = 0; ///< At the picture's centre, pixels.
  double degrees = 0;
  double scale = 1;                 ///< Size against the reference at the centre.
  AlignMode model = AlignMode::Off; ///< What was fitted: the simplest that the residuals justify.
  double residual = 0;    ///< What places in the picture are still off by: median over blocks with structure, pixels.
  double correlation = 1; ///< Of the common structure after registration, 0..1.
  double informative = 0; ///< Share of pixels that carry common structure.
  bool assumed = false;   ///< Too little in common to measure: its neighbour's place is taken.
  bool usable = true;     ///< False: it shows something else or moved too far; leave it out.
  std::string note;       ///< A sentence when assumed or not usable.
};

/// Movements below this become exactly none.
inline constexpr double kStillPixels = 0.12;

/// Registers all frames (same size, sorted by exposure) on `reference`. Coarse to fine inverse-compositional
/// Gauss-Newton (Baker and Matthews, IJCV 2004) on tones both frames record: one frame's tones are brought to the
/// other's by the ratio of exposures and a correction learnt from the pictures, and both are clamped to the common
/// range. Frames are chained from neighbour to neighbour, then refined against the reference where enough is common.
/// Auto measures shift and rotation, and takes size (focus that breathed) or the full perspective (the camera moved)
/// when that makes what is left over clearly smaller. Movements below kStillPixels become exactly none.
Result<std::vector<Registration>> registerFrames(const std::vector<Frame>& frames, int reference, AlignMode mode,
                                                 const Progress& progress);

} // namespace ml
