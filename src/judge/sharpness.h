// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/transform.h"
#include "judge/pair.h"

#include <vector>

namespace ml {

/// A frame of one view, and where it shows what the first of them shows.
struct ViewMember {
  const Sketch* sketch = nullptr;
  Transform fromFirst; ///< Pixel of the first -> pixel of this.
};

/// How sharp a frame is beside the others of its view.
struct FrameSharpness {
  double log = 0;   ///< ln of the energy of fine structure, against a figure that frames of the same group share.
  double sigma = 0; ///< Of it, by how much the places of the picture differ.
  int group = -1;   ///< Frames that can be compared; -1: with none.
};

/// Sharpness of frames that lie one or two steps of exposure from each other, darkest first. What two frames show in
/// common holds no noise, because noise is not alike in two frames: of three frames a, b and c, the energy that b
/// shares with c over the energy that a shares with c says how sharp b is against a. It needs no model of noise,
/// sharpening or noise reduction, only that they treat the frames alike. Two raw frames are also compared by what each
/// shows, less its noise; two rendered ones by their strong edges. Structure is a contrast of light: `tones` takes out
/// what the tone curve does to it. The middle of the blocks decides, so what moves by itself has no say. Of the axes
/// the one that differs more decides: a shake blurs along its own direction only.
[[nodiscard]] std::vector<FrameSharpness> sharpnessOf(const std::vector<ViewMember>& frames, const ToneReading* tones);

} // namespace ml
