// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/register_pair.h"

#include <optional>
#include <vector>

namespace ml {

inline constexpr double kLeastInformative = 0.002; ///< Of the pixels.
inline constexpr double kLeastCorrelation = 0.35;
inline constexpr double kTooUncertain = 0.4; ///< Pixels that most places of a frame still need where it was placed.

/// The frame next to `index` on the way to the reference.
[[nodiscard]] constexpr int neighbourOf(int index, int reference) {
  return index < reference ? index + 1 : index - 1;
}

/// What those frames say that can be placed: most of them have moved, or most lie still; nothing where there are none.
enum class Held { Unknown, InHand, OnStand };
/// `fits`: of each frame by its neighbour; that of the reference is not asked.
[[nodiscard]] Held heldBy(const std::vector<PairFit>& fits, int reference, int width, int height);

/// Places frame `index` by what its neighbour nearer to the reference says of it, or directly on the reference where
/// that leaves no more over than the chain of neighbours. Not usable, with a sentence, where neither says enough.
[[nodiscard]] Registration place(const std::vector<Registration>& placed, const PairFit& byNeighbour,
                                 const std::optional<PairFit>& direct, int index, int reference, Held held, int width,
                                 int height);

} // namespace ml
