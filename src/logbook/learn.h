// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace ml {

/// Fewer cases teach nothing.
inline constexpr int kFewestCases = 10;

/// Middle and quartiles of figures; empty below kFewestCases.
struct LogSpread {
  double low = 0, middle = 0, high = 0;
  int cases = 0;
};
[[nodiscard]] std::optional<LogSpread> spreadOf(std::vector<double> figures);

/// A frame shot from the hand: how many stops longer than 1 / focal length (35 mm) it was exposed, and was it sharp.
struct HandFrame {
  double stops = 0;
  bool sharp = true;
};
/// Stops beyond 1 / focal length. Both above 0.
[[nodiscard]] double handStops(double seconds, double focal35);

/// How the chance that a frame is sharp falls with its time: 1 / (1 + exp(slope (stops - middle))).
struct HandCurve {
  double middle = 0, slope = 1;        ///< Half of all are sharp at `middle`; slope > 0.
  double stops = 0, low = 0, high = 0; ///< Where kHandChance of all are sharp, and its 95 % band.
  int cases = 0;
  [[nodiscard]] double chance(double stopsBeyond) const;
  /// Half width of the 95 % band of the logit there.
  [[nodiscard]] double logitBand(double stopsBeyond) const;
  double varMiddle = 0, varSlope = 0, covariance = 0; ///< Of the fit's two coefficients, see learn.cpp.
};
inline constexpr double kHandChance = 0.8; ///< As chanceOfSharpHand has it at the limit.

/// Maximum likelihood of the logistic curve by Newton's steps (McCullagh and Nelder, Generalized Linear Models, 1989,
/// ch. 4; band by the delta method), with a weak pull (as of two frames) towards one stop a factor of e^1.5, which
/// keeps it finite when sharp and soft frames do not overlap. Nothing below kFewestCases, nor while all were sharp or
/// all soft.
[[nodiscard]] std::optional<HandCurve> fitHand(const std::vector<HandFrame>& frames);

} // namespace ml
