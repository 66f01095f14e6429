#pragma once
#include "finish/recipe.h"

#include <cstdint>

namespace ml {

/// What the finished picture says of itself.
struct FinishReport {
  double whiteShare = 0;  ///< Share of pixels with a channel at the display's white.
  double blackShare = 0;  ///< Share of pixels with all channels at its black.
};

struct Finished {
  Image<std::uint16_t> picture; ///< sRGB-encoded codes 0..65535, three channels.
  FinishReport report;
};

/// Applies a recipe to linear Rec. 709 radiance. The analysis may come from a picture of another size of the same scene.
Result<Finished> finishPicture(ImageView<const float> radiance, const ToneAnalysis& analysis, const Recipe& recipe,
                               const Progress& progress);

} // namespace ml
