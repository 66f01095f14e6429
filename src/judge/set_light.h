// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/pair.h"
#include "response/response.h"

#include <functional>
#include <memory>
#include <vector>

namespace ml {

/// A change of the scene's light, or of the camera's white balance, between two frames that were taken one after the
/// other.
struct LightStep {
  int before = -1;  ///< Place in the order of arrival: the frames from here on differ; -1: none.
  double stops = 0; ///< By so much they are lighter (or redder, bluer).
  double sigma = 0; ///< Standard deviation of that.
  enum class Clear { No, Perhaps, Yes } clear = Clear::No; ///< Perhaps: these files cannot tell.
};

/// What the frames of a set say of the camera's curve and of each frame's light.
struct SetLight {
  Photometry photometry;                    ///< Frames in the order of `members`.
  std::shared_ptr<const ToneReading> tones; ///< How sketches are to be read; null: as they are.
  LightStep light, colour;
  bool mayFlicker = false; ///< The light differs in frames short enough for lamps on mains to do it.
};

/// One frame that counts.
struct LightMember {
  const Sketch* sketch;
  int arrived; ///< Order of arrival.
};

struct LightLimits {
  double stops = 0.3; ///< A change of light that matters.
  double timeStops =
      0.07; ///< Standard deviation of a shutter's time about its mark (common practice, no source: up to 8 %).
  double colour = 0.1;      ///< Stops of red or blue over green.
  double ownColour = 0.025; ///< Standard deviation of a frame's colours by coding and curve.
};

/// `members` in the order of exposure, darkest first; `placed(i, j)` is the measured place of j on i, null where it is
/// not known.
[[nodiscard]] SetLight findSetLight(const std::vector<LightMember>& members,
                                    const std::function<const PairPlace*(std::size_t, std::size_t)>& placed,
                                    bool curveKnown, const LightLimits& limits);

} // namespace ml
