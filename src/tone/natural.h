#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "tone/base_layer.h"
#include "tone/curve.h"

#include <vector>

namespace ml {

/// What the operator knows of a scene: its base layer, how its light is distributed, and the ties chosen for it.
struct ToneAnalysis {
  BaseLayer base;
  double darkest = 0, brightest = 0;   ///< 0.2 and 99.8 percentile of log2 luminance.
  std::vector<float> histogram;        ///< Share of the picture at each kHistogramStep from `histogramStart` on.
  double histogramStart = 0;
  std::vector<Tie> ties;               ///< Automatic placement.
  static constexpr double kHistogramStep = 0.25;
};

struct ToneSettings {
  double exposure = 0;      ///< Stops added on paper.
  double balance = 1;       ///< 0: one exposure for all, as a single frame; 1: bright and dark brought together.
  double detail = 1;        ///< Gain of the detail layer.
  double saturation = 1;    ///< Of colour ratios.
  double warmth = 0;        ///< Stops of red over blue.
  friend bool operator==(const ToneSettings&, const ToneSettings&) = default;
};

/// `radiance`: linear Rec. 709, three channels. Works on a reduced copy: a fraction of a second at any size.
[[nodiscard]] ToneAnalysis analyseTone(ImageView<const float> radiance);

/// Ties after `settings`: what the Ladder draws and the operator applies.
[[nodiscard]] std::vector<Tie> placedTies(const ToneAnalysis& analysis, const ToneSettings& settings);

/// Natural operator: log luminance is split into base and detail; the base follows a smooth curve, the detail is kept;
/// colour ratios to luminance are kept (Schlick 1994; Durand and Dorsey, SIGGRAPH 2002, for the split), colours beyond the
/// display move towards their own luminance. The automatic curve spends paper tones where the scene has them, with the
/// slope held between 0.2 and 1 (after Ward Larson, Rushmeier, Piatko, IEEE TVCG 3, 1997).
/// Output: display-linear Rec. 709 in 0..1, same shape. Rows of a crop of a larger picture are not supported.
Result<Image<float>> toneNatural(ImageView<const float> radiance, const ToneAnalysis& analysis, const ToneSettings& settings,
                                 const Progress& progress);

} // namespace ml
