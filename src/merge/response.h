#pragma once
#include "merge/merge.h"

#include <array>
#include <optional>
#include <string>

namespace ml {

/// How a set's codes follow from light, found from the set itself.
struct Response {
  std::string start;               ///< The known curve it was started from: "sRGB", "linear", "gamma 2.2".
  CodeTable table;                 ///< Linear light, saturation = 1, for each channel.
  bool changed = false;            ///< False: the known curve agrees with the frames as well as its noise lets it; `table` is that curve.
  std::size_t samples = 0;         ///< Pairs of flat places seen by two frames.
  double disagreementBefore = 0;   ///< Of two frames on the same place with the assumed curve: robust root mean square, stops.
  double disagreementAfter = 0;    ///< The same with `table`.
  int lowestCode = 0, highestCode = 0; ///< Codes between which there were samples; beyond, the curve is carried on smoothly.
};

/// Recovers the response from frames whose exposures are known. In the spirit of Debevec and Malik (SIGGRAPH 1997) and of
/// Mitsunaga and Nayar (CVPR 1999): the logarithm of light is a known curve plus a spline that is common to the channels plus a small
/// one for each channel, fitted to pairs of codes that two frames show at the same flat place. Two exposures s stops apart cannot tell
/// the curve from one with ripples of period s (Grossberg and Nayar, PAMI 2003); the least third derivative is taken. Pairs that
/// disagree beyond noise (things that moved) lose their weight. Empty when the frames share too little to say.
[[nodiscard]] std::optional<Response> recoverResponse(const std::vector<PlacedFrame>& frames);

} // namespace ml
