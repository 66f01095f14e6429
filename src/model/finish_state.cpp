#include "model/finish_state.h"

#include "pipeline/noisier.h"

namespace ml {
namespace {

/// Images cannot be copied by accident; an analysis is small and is copied on purpose.
ToneAnalysis cloned(const ToneAnalysis& a) {
  ToneAnalysis out;
  out.base = a.base.clone();
  out.form = a.form.clone();
  out.veil = a.veil.clone();
  out.darkest = a.darkest, out.brightest = a.brightest;
  out.histogram = a.histogram, out.kind = a.kind, out.statistics = a.statistics, out.noise = a.noise;
  out.rendering = a.rendering, out.even = a.even, out.colour = a.colour, out.byFrame = a.byFrame, out.held = a.held;
  out.placed = a.placed.clone();
  out.noisier = a.noisier.clone();
  out.cells = a.cells.clone();
  out.logLight = a.logLight.clone();
  return out;
}

} // namespace

std::shared_ptr<FinishState> FinishState::make(const Image<float>& preview, const Recipe& recipe, const ToneAnalysis& whole, const SceneFacts& facts,
                                               const std::filesystem::path& frame, const Image<float>& noisier, const Progress& progress) {
  auto state = std::make_shared<FinishState>();
  state->combined_ = &preview;
  state->by_ = recipe;
  if (recipe.geometry.lens && !frame.empty()) state->lens_ = lensFactsOf(frame, preview.width(), preview.height());
  if (needsPreparation(recipe)) {
    auto ready = prepared(preview.view(), recipe, recipe.denoise > 0 ? measureNoise(preview.view()) : NoiseByLight{}, state->lens(), progress);
    if (!ready) return nullptr;
    state->prepared_ = std::move(*ready);
    state->analysis_ = analyseTone(state->prepared_.view(), facts);
    state->analysis_.noise = whole.noise;
    state->analysis_.noisier = noisierMap(noisier, shapeOf(recipe, state->prepared_.width(), state->prepared_.height(), state->lens()), state->analysis_.logLight.width(),
                                          state->analysis_.logLight.height());
  } else {
    state->analysis_ = cloned(whole);
    state->analysis_.noisier = noisierMap(noisier, state->analysis_.logLight.width(), state->analysis_.logLight.height());
  }
  state->finisher_ = std::make_unique<Finisher>(state->analysis_, state->lens());
  return state;
}

FinishState::Drawn FinishState::draw(const Recipe& recipe, const Progress& progress) {
  const std::lock_guard lock(use_);
  Drawn out{QImage(width(), height(), QImage::Format_RGB888), {}};
  const auto report = finisher_->finishBytes(picture(), recipe, {}, out.image.bits(), out.image.bytesPerLine(), progress);
  if (!report) return {};
  out.report = *report;
  return out;
}

Image<float> FinishState::light(const Recipe& recipe, const Progress& progress) {
  const std::lock_guard lock(use_);
  auto light = finisher_->finishLight(picture(), recipe, 0, progress);
  return light ? std::move(*light) : Image<float>();
}

std::optional<Judgement> FinishState::judge(const Recipe& recipe, const std::optional<GhostsLeft>& ghosts, const Progress& progress) {
  const std::lock_guard lock(use_);
  const auto light = finisher_->finishLight(picture(), recipe, 0, progress);
  if (!light) return {};
  if (progress.stopRequested()) return {};
  return judgeFinish(picture(), *light, analysis_, recipe, reportOf(*light), {lens(), ghosts});
}

} // namespace ml
