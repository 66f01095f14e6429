// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/areas.h"

#include <cstdint>
#include <limits>
#include <memory>

namespace ml {

/// What the finished picture says of itself.
struct FinishReport {
  double whiteShare = 0; ///< Share of pixels with a channel at the display's white.
  double blackShare = 0; ///< Share of pixels with all channels at its black.
};

struct Finished {
  Image<std::uint16_t> picture; ///< sRGB-encoded codes 0..65535, three channels.
  FinishReport report;
};

/// Do two recipes want the same done before tones are placed (healing, noise, shape)?
[[nodiscard]] bool samePreparation(const Recipe& a, const Recipe& b);
[[nodiscard]] bool needsPreparation(const Recipe& recipe);
/// A sphere that the recipe leaves one: nothing of its shape is changed, no area lies on it.
[[nodiscard]] bool staysSphere(const SceneFacts& facts, const Recipe& recipe);
/// Healing, noise reduction, shape, in this order. `noise` of the radiance itself. Errors: Stopped.
Result<Image<float>> prepared(ImageView<const float> radiance, const Recipe& recipe, const NoiseByLight& noise,
                              const LensFacts* lens, const Progress& progress);

/// The map between a picture that was prepared by `recipe` and the combined one.
[[nodiscard]] ShapeMap shapeOf(const Recipe& recipe, int preparedWidth, int preparedHeight, const LensFacts* lens);

/// Finishes pictures of one scene again and again while its recipe changes; keeps what changes seldom. Not for two
/// threads at once.
class Finisher {
public:
  /// `analysis`: of the prepared picture, at any size; must outlive this.
  explicit Finisher(const ToneAnalysis& analysis, const LensFacts* lens = nullptr) : analysis_(analysis), lens_(lens) {}

  /// 16-bit codes of a part of the prepared picture; an empty part means all of it.
  Result<Finished> finish(const PictureRows& prepared, const Recipe& recipe, const Progress& progress, Roi part = {});
  /// 8-bit codes for the screen into rows of `stride` bytes, three a pixel.
  Result<FinishReport> finishBytes(const PictureRows& prepared, const Recipe& recipe, Roi part, std::uint8_t* rgb,
                                   std::ptrdiff_t stride, const Progress& progress);
  /// Display-linear Rec. 709 with 1 at paper white and highlights up to `headroom` stops above: for screens with a high
  /// dynamic range.
  Result<Image<float>> finishLight(const PictureRows& prepared, const Recipe& recipe, double headroom,
                                   const Progress& progress);

private:
  const AreaMaps& areaMaps(const Recipe& recipe, int width, int height);
  template <class Write>
  Result<FinishReport> run(const PictureRows& prepared, const Recipe& recipe, Roi part, double headroom,
                           const Progress& progress, const Write& write);

  const ToneAnalysis& analysis_;
  const LensFacts* lens_;
  AreaSums areas_;
  Geometry knownGeometry_;
};

/// All at once: what a recipe makes of radiance as combined.
Result<Finished> finishRadiance(const PictureRows& radiance, const Recipe& recipe, const SceneFacts& facts,
                                const LensFacts* lens, const Progress& progress);
/// Applies a recipe to prepared radiance. The analysis may come from a picture of another size of the same scene.
Result<Finished> finishPicture(const PictureRows& prepared, const ToneAnalysis& analysis, const Recipe& recipe,
                               const Progress& progress);

} // namespace ml
