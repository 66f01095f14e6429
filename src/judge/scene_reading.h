// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/sketch.h"

#include <optional>
#include <vector>

namespace ml {

/// How much of the scene lies at each level of light.
struct SceneDistribution {
  static constexpr double kStep = 0.25;
  double start = 0;         ///< EV100 of the first bin's lower edge.
  std::vector<float> share; ///< Of the picture, bins of kStep stops; their sum is 1 - clipped - dark.
  double clipped = 0;       ///< Brighter than any frame records.
  double dark = 0;          ///< Lost in the noise of every frame.
};

/// From one test frame or a whole set of registered or still frames: each place is read from the longest exposure that
/// does not clip there. All sketches of one size.
[[nodiscard]] SceneDistribution distributionOf(const std::vector<std::shared_ptr<const Sketch>>& frames);

/// A zone worth reading, found in a test frame.
struct ProposedZone {
  double x = 0.5, y = 0.5; ///< 0..1
  Stops ev100{0};
  bool atLeast = false; ///< It clips in this frame.
  bool atMost = false;  ///< It drowns in noise in this frame.
};
/// Darkest and brightest areas of some size (a fortieth of the width): those that a hundredth of all areas lie beyond.
struct ProposedZones {
  ProposedZone darkest, brightest;
};
[[nodiscard]] std::optional<ProposedZones> proposeZones(const Sketch& frame);

/// A hand or a cap before the lens, as people mark the end of a set: next to nothing of fine structure, and nothing of
/// the view that `before` shows. Always false without a frame before.
[[nodiscard]] bool isSeparator(const Sketch& frame, const Sketch* before);

/// Share of cells that changed between two finder pictures, 0..1: the "hold still" helper fires when it falls below
/// kStillShare. 8-bit display codes, same size; noise and brightness differences are allowed for.
[[nodiscard]] double changedShare(ImageView<const std::uint8_t> before, ImageView<const std::uint8_t> after);
inline constexpr double kStillShare = 0.004;

} // namespace ml
