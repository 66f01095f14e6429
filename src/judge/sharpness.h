#pragma once
#include "judge/pair.h"

namespace ml {

/// How sharp the second of two pictures of one view is against the first.
struct SharpnessRatio {
  double log = 0;  ///< ln of the second's energy of fine structure over the first's; 0: alike. Negative: the second is softer.
  int blocks = 0;  ///< Blocks that figure rests on.
  bool says = false; ///< Enough of them for the picture's size.
};

/// Compares fine structure block by block where either shows more than noise explains, as contrast of light: `tones` takes out what the tone
/// curve does to it. Noise is measured in each picture. Most blocks must agree. Of the axes the one that differs more decides: a shake blurs
/// along its own direction only. Where noise hides the finest structure, that of half the resolution is compared.
[[nodiscard]] SharpnessRatio sharpnessRatio(const Sketch& first, const Sketch& second, const PairPlace& place, const ToneReading* tones);

} // namespace ml
