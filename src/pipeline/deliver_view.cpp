// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/deliver_view.h"

#include "base/phrase.h"
#include "image/resample.h"
#include "image/sphere.h"
#include "ingest/lens_facts.h"
#include "pipeline/noisier.h"
#include "tone/facts_text.h"

#include <algorithm>
#include <utility>

namespace ml {

Result<Judgement> judgeView(const PictureRows& prepared, const ToneAnalysis& analysis, const Recipe& recipe,
                            const JudgedShape& shape, const Progress& progress) {
  const Roi size = fitted(prepared.width, prepared.height, kJudgedEdge);
  const Image<float> small = shrinkTo(prepared, size.width, size.height);
  const auto light = Finisher(analysis, shape.lens).finishLight(small.view(), recipe, 0, progress);
  if (!light) return passOn(light.error());
  return judgeFinish(small.view(), *light, analysis, recipe, reportOf(*light), shape);
}

SceneFacts factsOfRadiance(const std::filesystem::path& file) {
  return factsFromText(radianceNotes(file));
}

Result<Judgement> judgeRadiance(const PictureRows& radiance, const Recipe& recipe, const SceneFacts& facts,
                                const Progress& progress) {
  const Roi size = fitted(radiance.width, radiance.height, kJudgedEdge);
  Image<float> small = shrinkTo(radiance, size.width, size.height);
  if (needsPreparation(recipe)) {
    auto made =
        prepared(std::as_const(small).view(), recipe,
                 recipe.denoise > 0 ? measureNoise(std::as_const(small).view()) : NoiseByLight{}, nullptr, progress);
    if (!made) return passOn(made.error());
    small = std::move(*made);
  }
  return judgeView(std::as_const(small).view(), analyseTone(std::as_const(small).view(), facts), recipe, {}, progress);
}

namespace {

/// A finished picture in as many bits as the targets need.
struct FinishedFor {
  Image<std::uint16_t> codes;
  Image<std::uint8_t> bytes;
  FinishReport report;
};

Result<FinishedFor> finishFor(const std::vector<Target>& targets, Finisher& finisher, const PictureRows& picture,
                              const Recipe& recipe, const Progress& progress) {
  FinishedFor out;
  if (std::any_of(targets.begin(), targets.end(), needsDeepCodes)) {
    auto finished = finisher.finish(picture, recipe, progress);
    if (!finished) return passOn(finished.error());
    out.codes = std::move(finished->picture);
    out.report = finished->report;
    return out;
  }
  out.bytes = Image<std::uint8_t>(picture.width, picture.height, 3);
  const auto report =
      finisher.finishBytes(picture, recipe, {}, out.bytes.data(), 3 * std::ptrdiff_t(picture.width), progress);
  if (!report) return passOn(report.error());
  out.report = *report;
  return out;
}

} // namespace

Result<Delivery> deliverView(const PictureRows& radiance, const DeliverRequest& request, const Progress& progress) {
  const Recipe& recipe = request.recipe;
  if (const auto reason = recipe.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The picture cannot be finished: {}.", *reason));
  const auto lens = recipe.geometry.lens && request.metadataFrom
                        ? lensFactsOf(*request.metadataFrom, radiance.width, radiance.height)
                        : std::nullopt;
  // Everything local sees over the wrap and the poles of a sphere, unless its shape is changed.
  const bool sphere = staysSphere(request.facts, recipe);
  const bool archive = std::any_of(request.targets.begin(), request.targets.end(),
                                   [](const Target& t) { return t.format == Target::Format::Exr; });
  Image<float> room, ready;
  ImageView<const float> whole;
  if (sphere || archive || needsPreparation(recipe)) whole = radiance.whole(room);
  if (needsPreparation(recipe)) {
    auto made = prepared(whole, recipe, recipe.denoise > 0 ? measureNoise(radiance) : NoiseByLight{},
                         lens ? &*lens : nullptr, progress.part(0, 0.25));
    if (!made) return passOn(made.error());
    ready = std::move(*made);
  }
  const int margin = sphere ? sphereMargin(radiance.width) : 0;
  if (sphere) ready = withSphereMargins(ready.empty() ? whole : std::as_const(ready).view(), margin);
  const Roi inside{margin, margin, radiance.width, radiance.height};
  const PictureRows picture = ready.empty() ? radiance : PictureRows(std::as_const(ready).view());
  ToneAnalysis analysis = analyseTone(picture, request.facts, margin);
  if (request.noisier) {
    const int width = analysis.logLight.width(), height = analysis.logLight.height();
    const ImageView<const float> noisier = std::as_const(*request.noisier).view();
    analysis.noisier =
        sphere ? noisierMap(withSphereMargins(noisier, margin * noisier.width / radiance.width), width, height)
        : ready.empty()
            ? noisierMap(*request.noisier, width, height)
            : noisierMap(*request.noisier, shapeOf(recipe, picture.width, picture.height, lens ? &*lens : nullptr),
                         width, height);
  }
  Finisher finisher(analysis, lens ? &*lens : nullptr);
  auto finished = finishFor(request.targets, finisher, picture, recipe, progress.part(0.25, 0.45));
  if (!finished) return passOn(finished.error());
  if (sphere && !finished->codes.empty()) finished->codes.crop(inside);
  if (sphere && !finished->bytes.empty()) finished->bytes.crop(inside);
  Delivery out;
  out.report = finished->report;
  const ToneAnalysis without = sphere ? analyseTone(radiance, request.facts) : ToneAnalysis{}; // without margins
  auto judged = judgeView(sphere ? radiance : picture, sphere ? without : std::as_const(analysis), recipe,
                          {lens ? &*lens : nullptr, request.ghosts}, progress.part(0.45, 0.5));
  if (!judged) return passOn(judged.error());
  out.judgement = std::move(*judged);
  const double each = 0.5 / double(std::max<std::size_t>(1, request.targets.size()));
  Progress now; // of the target that is written
  const Material material{std::as_const(finished->codes).view(),
                          std::as_const(finished->bytes).view(),
                          whole,
                          [&](double headroom) {
                            auto light = finisher.finishLight(picture, recipe, headroom, now.part(0, 0.3));
                            if (sphere && light) light->crop(inside);
                            return light;
                          },
                          textOf(request.facts),
                          request.metadataFrom,
                          request.wishes,
                          request.facts.sphere && recipe.geometry == Geometry{}};
  for (std::size_t i = 0; i < request.targets.size(); ++i) {
    const Target& target = request.targets[i];
    NameFacts facts = request.name;
    facts.width = picture.width - 2 * margin, facts.height = picture.height - 2 * margin;
    const auto name = fileName(request.pattern, facts, target);
    if (!name) return passOn(name.error());
    const std::filesystem::path file = request.replace ? request.folder / (*name + endingOf(target))
                                                       : freePath(request.folder, *name, endingOf(target));
    now = progress.part(0.5 + each * double(i), 0.5 + each * double(i + 1));
    now.at(phrase("Write {}", file.filename().string()), 0);
    if (auto done = deliverTarget(material, target, file, now); !done) return passOn(done.error());
    out.files.push_back(file);
    if (request.written) request.written(target, file);
  }
  return out;
}

} // namespace ml
