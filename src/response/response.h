// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/placed_frame.h"
#include "response/code_cells.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// How much more or less light a frame shows than its settings say, and what its pixels know of that.
struct FrameLight {
  double stops =
      0; ///< More light than the settings say, 0 at the mean of all frames; shrunk where the pixels say little.
  double red = 0, blue = 0; ///< The same of the colours, beyond green's.
};

/// What the pixels know of the frames' light, free of what was assumed beforehand: precision matrices and the points
/// they hold, so that a hypothesis ("from the third frame on it was darker") can be weighed against it. A direction of
/// no precision cannot be told.
struct LightKnowledge {
  std::vector<double> precision;   ///< n x n, 1 / stops^2.
  std::vector<double> information; ///< precision times the frames' stops.
  struct Step {
    double stops = 0, sigma = 1e9; ///< sigma: its standard deviation; large: cannot be told.
  };
  /// How much lighter the frames marked in `later` are, each frame's own light being uncertain by `ownSigma` stops.
  [[nodiscard]] Step stepOf(const std::vector<char>& later, const std::vector<double>& ownSigma) const;
};

/// How a set's codes follow from light, found from the set itself.
struct Response {
  std::string start; ///< The known curve it was started from: "sRGB", "linear", "gamma 2.2".
  CodeTable table;   ///< Linear light, saturation = 1, for each channel.
  bool changed =
      false; ///< False: the known curve agrees with the frames as well as its noise lets it; `table` is that curve.
  std::size_t samples = 0; ///< Pairs of flat places seen by two frames.
  double disagreementBefore =
      0; ///< Of two frames on the same place with the assumed curve: robust root mean square, stops.
  double disagreementAfter = 0; ///< The same with `table`.
  int lowestCode = 0,
      highestCode = 0; ///< Codes between which there were samples; beyond, the curve is carried on smoothly.
};

/// Response and light of a set, found together.
struct Photometry {
  std::optional<Response> response;  ///< Empty for linear frames, or when the frames share too little to say.
  std::vector<FrameLight> light;     ///< One for each frame; zero when nothing is known.
  LightKnowledge overall, red, blue; ///< Empty when nothing is known.
};

/// Finds how codes follow from light and how much each frame's light departs from its settings, from flat places that
/// two frames show. In the spirit of Debevec and Malik (SIGGRAPH 1997) and of Mitsunaga and Nayar (CVPR 1999): the
/// logarithm of light is a known curve plus a spline that is common to the channels plus a small one for each channel.
/// Two exposures s stops apart cannot tell the curve from one with ripples of period s, nor a curve stretched from
/// exposures stretched alike (Grossberg and Nayar, PAMI 2003); the least third derivative and the least departure from
/// the settings are taken. Pairs that disagree beyond noise (things that moved) lose their weight. `frames`: how many
/// there are; `size`: codes of their tables; `linear`: the values are square roots of light, and there is no curve to
/// find.
[[nodiscard]] Photometry findPhotometry(const std::vector<CodePairs>& pairs, std::size_t frames, int size, bool linear);

/// The same for placed frames, darkest first, all rendered or all linear.
[[nodiscard]] Photometry findPhotometry(const std::vector<PlacedFrame>& frames);

/// Only the response; frames whose exposures are known. Empty when they share too little to say.
[[nodiscard]] std::optional<Response> recoverResponse(const std::vector<PlacedFrame>& frames);

} // namespace ml
