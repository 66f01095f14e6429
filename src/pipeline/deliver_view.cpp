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

/// A picture before its tones are placed: as combined, or prepared by the recipe, a sphere with what lies over its wrap
/// and poles. Everything local sees that, unless the shape is changed.
struct ReadyPicture {
  PictureRows rows;
  int margin = 0;               ///< On all sides.
  ImageView<const float> whole; ///< As combined; empty where nobody asks for it.
  Image<float> read, made;      ///< What they lie in.

  [[nodiscard]] bool sphere() const { return margin > 0; }
  [[nodiscard]] Roi inside() const { return {margin, margin, rows.width - 2 * margin, rows.height - 2 * margin}; }
};

Result<ReadyPicture> readied(const PictureRows& radiance, const DeliverRequest& request, const LensFacts* lens,
                             const Progress& progress) {
  const Recipe& recipe = request.recipe;
  const bool sphere = staysSphere(request.facts, recipe), prepare = needsPreparation(recipe);
  const bool archive = std::any_of(request.targets.begin(), request.targets.end(),
                                   [](const Target& t) { return t.format == Target::Format::Exr; });
  ReadyPicture out{radiance, sphere ? sphereMargin(radiance.width) : 0, {}, {}, {}};
  if (sphere || archive || prepare) out.whole = radiance.whole(out.read);
  if (prepare) {
    auto made =
        prepared(out.whole, recipe, recipe.denoise > 0 ? measureNoise(radiance) : NoiseByLight{}, lens, progress);
    if (!made) return passOn(made.error());
    out.made = std::move(*made);
    if (!archive) out.whole = {}, out.read = {};
  }
  if (sphere) out.made = withSphereMargins(out.made.empty() ? out.whole : std::as_const(out.made).view(), out.margin);
  if (!out.made.empty()) out.rows = std::as_const(out.made).view();
  return out;
}

ToneAnalysis analysed(const ReadyPicture& picture, const DeliverRequest& request, const LensFacts* lens) {
  ToneAnalysis out = analyseTone(picture.rows, request.facts, picture.margin);
  if (!request.noisier) return out;
  const int width = out.logLight.width(), height = out.logLight.height();
  const Image<float>& noisier = *request.noisier;
  if (picture.sphere()) {
    const int margin = picture.margin * noisier.width() / picture.inside().width;
    out.noisier = noisierMap(withSphereMargins(noisier.view(), margin), width, height);
  } else if (picture.made.empty()) {
    out.noisier = noisierMap(noisier, width, height);
  } else {
    const ShapeMap shape = shapeOf(request.recipe, picture.rows.width, picture.rows.height, lens);
    out.noisier = noisierMap(noisier, shape, width, height);
  }
  return out;
}

/// One file after the other; `now` is the progress of the one that is written.
Result<void> writeTargets(const Material& material, const DeliverRequest& request, const Roi& size,
                          const Progress& progress, Progress& now, Delivery& out) {
  const double each = 1.0 / double(std::max<std::size_t>(1, request.targets.size()));
  for (std::size_t i = 0; i < request.targets.size(); ++i) {
    const Target& target = request.targets[i];
    NameFacts facts = request.name;
    facts.width = size.width, facts.height = size.height;
    const auto name = fileName(request.pattern, facts, target);
    if (!name) return passOn(name.error());
    const std::filesystem::path file = request.replace ? request.folder / (*name + endingOf(target))
                                                       : freePath(request.folder, *name, endingOf(target));
    now = progress.part(each * double(i), each * double(i + 1));
    now.at(phrase("Write {}", file.filename().string()), 0);
    if (auto done = deliverTarget(material, target, file, now); !done) return done;
    out.files.push_back(file);
    if (request.written) request.written(target, file);
  }
  return {};
}

} // namespace

Result<Delivery> deliverView(const PictureRows& radiance, const DeliverRequest& request, const Progress& progress) {
  const Recipe& recipe = request.recipe;
  if (const auto reason = recipe.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The picture cannot be finished: {}.", *reason));
  const auto lensFacts = recipe.geometry.lens && request.metadataFrom
                             ? lensFactsOf(*request.metadataFrom, radiance.width, radiance.height)
                             : std::nullopt;
  const LensFacts* lens = lensFacts ? &*lensFacts : nullptr;
  const auto picture = readied(radiance, request, lens, progress.part(0, 0.25));
  if (!picture) return passOn(picture.error());
  const bool sphere = picture->sphere();
  const ToneAnalysis analysis = analysed(*picture, request, lens);
  Finisher finisher(analysis, lens);
  auto finished = finishFor(request.targets, finisher, picture->rows, recipe, progress.part(0.25, 0.45));
  if (!finished) return passOn(finished.error());
  if (sphere && !finished->codes.empty()) finished->codes.crop(picture->inside());
  if (sphere && !finished->bytes.empty()) finished->bytes.crop(picture->inside());
  Delivery out;
  out.report = finished->report;
  const ToneAnalysis without = sphere ? analyseTone(radiance, request.facts) : ToneAnalysis{}; // without margins
  auto judged = judgeView(sphere ? radiance : picture->rows, sphere ? without : analysis, recipe,
                          {lens, request.ghosts}, progress.part(0.45, 0.5));
  if (!judged) return passOn(judged.error());
  out.judgement = std::move(*judged);
  Progress now;
  const Material material{std::as_const(finished->codes).view(),
                          std::as_const(finished->bytes).view(),
                          picture->whole,
                          [&](double headroom) {
                            auto light = finisher.finishLight(picture->rows, recipe, headroom, now.part(0, 0.3));
                            if (sphere && light) light->crop(picture->inside());
                            return light;
                          },
                          textOf(request.facts),
                          request.metadataFrom,
                          request.wishes,
                          request.facts.sphere && recipe.geometry == Geometry{}};
  if (auto written = writeTargets(material, request, picture->inside(), progress.part(0.5, 1), now, out); !written)
    return passOn(written.error());
  return out;
}

} // namespace ml
