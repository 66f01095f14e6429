// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/finish_state.h"

#include "pipeline/noisier.h"

namespace ml {

std::shared_ptr<FinishState> FinishState::make(std::shared_ptr<const CombinedPicture> combined, const Recipe& recipe,
                                               const std::filesystem::path& frame, const Progress& progress) {
  auto state = std::make_shared<FinishState>();
  state->combined_ = std::move(combined);
  state->by_ = recipe;
  const CombinedPicture& whole = *state->combined_;
  const auto preview = whole.preview.view();
  if (recipe.geometry.lens && !frame.empty()) state->lens_ = lensFactsOf(frame, preview.width, preview.height);
  if (needsPreparation(recipe)) {
    const NoiseByLight noise = recipe.denoise > 0 ? measureNoise(preview) : NoiseByLight{};
    auto ready = prepared(preview, recipe, noise, state->lens(), progress);
    if (!ready) return nullptr;
    state->prepared_ = std::move(*ready);
    ToneAnalysis& analysis = state->analysis_;
    analysis = analyseTone(state->prepared_.view(), whole.facts);
    analysis.noise = whole.analysis.noise;
    const ShapeMap shape = shapeOf(recipe, state->prepared_.width(), state->prepared_.height(), state->lens());
    if (whole.noisier)
      analysis.noisier = noisierMap(*whole.noisier, shape, analysis.logLight.width(), analysis.logLight.height());
  }
  for (Hand* hand : {&state->drawing_, &state->judging_})
    hand->finisher = std::make_unique<Finisher>(state->analysis(), state->lens());
  return state;
}

FinishState::Drawn FinishState::draw(const Recipe& recipe, const Progress& progress) {
  const std::lock_guard lock(drawing_.use);
  if (progress.stopRequested()) return {};
  Drawn out{QImage(width(), height(), QImage::Format_RGB888), {}};
  const auto report =
      drawing_.finisher->finishBytes(picture(), recipe, {}, out.image.bits(), out.image.bytesPerLine(), progress);
  if (!report) return {};
  out.report = *report;
  return out;
}

Image<float> FinishState::light(const Recipe& recipe, const Progress& progress) {
  const std::lock_guard lock(judging_.use);
  auto light = judging_.finisher->finishLight(picture(), recipe, 0, progress);
  return light ? std::move(*light) : Image<float>();
}

std::optional<Judgement> FinishState::judge(const Recipe& recipe, const std::optional<GhostsLeft>& ghosts,
                                            const Progress& progress) {
  const Image<float> shown = light(recipe, progress);
  if (shown.empty() || progress.stopRequested()) return {};
  return judgeFinish(picture(), shown, analysis(), recipe, reportOf(shown), {lens(), ghosts});
}

Recipe asOneExposure(const Recipe& recipe) {
  Recipe single;
  single.tone.balance = 0;
  single.geometry = recipe.geometry;
  return single;
}

} // namespace ml
