// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/steps.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "ingest/estimate_exposure.h"

#include <cmath>
#include <filesystem>
#include <optional>

namespace ml {
namespace {

/// A step that the pixels contradict by more than this is remarked on, stops. A curve that is only assumed can bend a
/// two-stop step by half a stop.
constexpr double kWrongStep = 0.9;
constexpr double kRemarked = 0.5; ///< A remark does no harm: half of what somebody who walks explains suffices for it.

/// What the pixels say of each step between neighbours; empty where they share too few tones or the files say no times.
std::vector<std::optional<SeenStep>> stepsSeen(const OwnFrames& frames) {
  std::vector<std::optional<SeenStep>> seen(frames.size());
  forEachBand(
      int(frames.size()) - 1,
      [&](const Band& band) {
        const std::size_t i = std::size_t(band.begin);
        if (frames[i]->exposureKnown && frames[i + 1]->exposureKnown)
          seen[i] = estimateStops(*frames[i], *frames[i + 1]);
      },
      1);
  return seen;
}

/// Stops between what two neighbours' settings say and what their pixels show, that no shutter, lamp or curve explains;
/// a curve bends large steps by a share of themselves.
constexpr double kContradiction = 2, kBentByCurve = 0.35;

double stepSaid(const OwnFrames& frames, std::size_t i) {
  return std::log2(relativeExposure(frames[i + 1]->settings) / relativeExposure(frames[i]->settings));
}

/// Off by more than `most`, and not to be explained by somebody who walks. `far`: how far into what that explains it
/// must lie, 0..1.
bool isWrong(const SeenStep& seen, double said, double most, double far) {
  return std::abs(seen.stops - said) > most &&
         (said < std::lerp(seen.stops, seen.least, far) || said > std::lerp(seen.stops, seen.most, far));
}

std::string nameOf(const std::string& path) {
  return std::filesystem::path(path).filename().string();
}

std::string apart(const OwnFrames& frames, std::size_t i, double said, double seen) {
  return phrase("`{}` and `{}` are {:.1f} stops apart by their settings but {:.1f} by their pixels",
                nameOf(frames[i]->path), nameOf(frames[i + 1]->path), said, seen);
}

} // namespace

Steps stepsOf(const OwnFrames& frames) {
  Steps out;
  for (std::size_t i = 0; i + 1 < frames.size(); ++i) out.said.push_back(stepSaid(frames, i));
  out.seen = stepsSeen(frames);
  return out;
}

Result<void> checkSteps(const OwnFrames& frames, const Steps& steps) {
  for (std::size_t i = 0; i < steps.said.size(); ++i) {
    const auto& seen = steps.seen[i];
    const double said = steps.said[i];
    if (seen && isWrong(*seen, said, kContradiction + kBentByCurve * std::abs(said), 1))
      return fail(ErrorCode::Contradiction,
                  phrase("{}, more than any camera explains: check that they belong together and type their "
                         "times, or combine them even so.",
                         apart(frames, i, said, seen->stops)));
  }
  return {};
}

std::vector<std::string> doubtfulSteps(const OwnFrames& frames, const Steps& before) {
  std::vector<std::string> out;
  const auto now = stepsSeen(frames);
  for (std::size_t i = 0; i < before.said.size(); ++i) {
    // A curve that was learnt from wrong times may leave no tone to compare.
    const double said = before.said[i], bent = now[i] ? 0 : kBentByCurve * std::abs(said);
    const auto& seen = now[i] ? now[i] : before.seen[i];
    if (seen && isWrong(*seen, said, kWrongStep + bent, kRemarked))
      out.push_back(phrase("{}; check their times.", apart(frames, i, said, seen->stops)));
  }
  return out;
}

} // namespace ml
