// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/phrase.h"
#include "finish/denoise.h"
#include "finish/finish.h"
#include "finish/foot.h"
#include "finish/heal.h"
#include "image/sphere.h"

#include <utility>

namespace ml {

bool samePreparation(const Recipe& a, const Recipe& b) {
  return a.denoise == b.denoise && a.geometry == b.geometry && a.healings == b.healings && a.foot == b.foot;
}

bool needsPreparation(const Recipe& r) {
  return r.denoise > 0 || !(r.geometry == Geometry{}) || !r.healings.empty() || r.foot > 0;
}

bool staysSphere(const SceneFacts& facts, const Recipe& recipe) {
  return facts.sphere && recipe.geometry == Geometry{} && recipe.areas.empty();
}

Result<Image<float>> prepared(ImageView<const float> radiance, const Recipe& recipe, const NoiseByLight& noise,
                              const LensFacts* lens, const Progress& progress) {
  Image<float> picture;
  const auto current = [&]() -> ImageView<const float> {
    return picture.empty() ? radiance : std::as_const(picture).view();
  };
  if (!recipe.healings.empty() || recipe.foot > 0) {
    picture = Image<float>(radiance.width, radiance.height, 3);
    for (int y = 0; y < radiance.height; ++y) std::copy_n(radiance.row(y), 3 * radiance.width, picture.row(y));
    heal(picture, recipe.healings);
    coverFoot(picture, recipe.foot);
  }
  if (recipe.denoise > 0) {
    auto quiet = denoised(current(), noise, recipe.denoise, progress);
    if (!quiet) return passOn(quiet.error());
    picture = std::move(*quiet);
  }
  const ShapeMap shape(recipe.geometry, radiance.width, radiance.height, lens ? &lens->map : nullptr,
                       lens ? lens->focal : kAssumedFocal);
  if (!shape.identity()) {
    progress.at(phrase("Straighten"), 0.8);
    auto straight = shaped(current(), shape, progress);
    if (!straight) return passOn(straight.error());
    picture = std::move(*straight);
  }
  if (picture.empty()) { // nothing was to be done
    picture = Image<float>(radiance.width, radiance.height, 3);
    for (int y = 0; y < radiance.height; ++y) std::copy_n(radiance.row(y), 3 * radiance.width, picture.row(y));
  }
  return picture;
}

ShapeMap shapeOf(const Recipe& recipe, int width, int height, const LensFacts* lens) {
  const Geometry& g = recipe.geometry;
  return ShapeMap(g, std::max(1, int(std::lround(width / g.cropWidth))),
                  std::max(1, int(std::lround(height / g.cropHeight))), lens ? &lens->map : nullptr,
                  lens ? lens->focal : kAssumedFocal);
}

namespace {

/// Everything local sees over the wrap and the poles.
Result<Finished> finishSphere(ImageView<const float> radiance, const Recipe& recipe, const SceneFacts& facts,
                              const Progress& progress) {
  const int margin = sphereMargin(radiance.width);
  const Image<float> around = withSphereMargins(radiance, margin);
  auto finished = finishPicture(around.view(), analyseTone(around.view(), facts, margin), recipe, progress);
  if (finished) finished->picture.crop({margin, margin, radiance.width, radiance.height});
  return finished;
}

} // namespace

Result<Finished> finishRadiance(const PictureRows& radiance, const Recipe& recipe, const SceneFacts& facts,
                                const LensFacts* lens, const Progress& progress) {
  if (const auto reason = recipe.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The picture cannot be finished: {}.", *reason));
  const bool sphere = staysSphere(facts, recipe);
  if (!sphere && !needsPreparation(recipe))
    return finishPicture(radiance, analyseTone(radiance, facts), recipe, progress);
  Image<float> room;
  const ImageView<const float> whole = radiance.whole(room);
  if (!needsPreparation(recipe)) return finishSphere(whole, recipe, facts, progress);
  const auto ready =
      prepared(whole, recipe, recipe.denoise > 0 ? measureNoise(radiance) : NoiseByLight{}, lens, progress);
  if (!ready) return passOn(ready.error());
  if (sphere) return finishSphere(ready->view(), recipe, facts, progress);
  const ToneAnalysis analysis = analyseTone(ready->view(), facts);
  return Finisher(analysis, lens).finish(ready->view(), recipe, progress);
}

Result<Finished> finishPicture(const PictureRows& radiance, const ToneAnalysis& analysis, const Recipe& recipe,
                               const Progress& progress) {
  return Finisher(analysis).finish(radiance, recipe, progress);
}

} // namespace ml
