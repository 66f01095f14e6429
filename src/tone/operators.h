// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "tone/placement.h"

#include "image/image.h"

#include <string>

namespace ml {

/// How light is placed: ours, or a published operator to compare with.
enum class ToneOperator { Natural, Reinhard, Drago, Durand };
inline constexpr ToneOperator kToneOperators[] = {ToneOperator::Natural, ToneOperator::Reinhard, ToneOperator::Drago,
                                                  ToneOperator::Durand};
[[nodiscard]] const char* nameOf(ToneOperator op); ///< "natural", "reinhard", "drago", "durand".

/// What a global operator needs of a scene, linear luminance.
struct LightStatistics {
  double logAverage = 1; ///< exp(mean(log L)).
  double brightest = 1;
};

/// Display luminance 0..1 of `light`. Reinhard, Stark, Shirley, Ferwerda, SIGGRAPH 2002, eq. 2 and 4 with key 0.18; the
/// brightest becomes white.
[[nodiscard]] double toneReinhard(double light, const LightStatistics& s);
/// Drago, Myszkowski, Annen, Chiba, Computer Graphics Forum 22, 2003, eq. 4 with bias 0.85 and a display maximum of 100
/// cd/m2; the world adaptation is the log average.
[[nodiscard]] double toneDrago(double light, const LightStatistics& s);

/// Durand and Dorsey, SIGGRAPH 2002: the base layer's range in log10 is brought to this, the detail kept; its top
/// becomes white.
inline constexpr double kDurandRange = 0.69897; ///< log10 of 5.
[[nodiscard]] double durandCompression(double darkestBaseLog10, double brightestBaseLog10);

/// Bilateral filter of one channel (Tomasi and Manduchi 1998; by layers of intensity as in Durand and Dorsey, section
/// 5).
[[nodiscard]] Image<float> bilateral(const Image<float>& in, double sigmaSpace, double sigmaRange);

} // namespace ml
