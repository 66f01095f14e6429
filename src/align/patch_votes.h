// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/common_tones.h"
#include "align/transform.h"

#include <optional>

namespace ml {

/// Where most small patches of the fixed picture find themselves in the moving one, as a shift and a turn, pixels of
/// this level; nothing where too few agree. Each patch looks for itself by normalised correlation within a fifth of the
/// picture, and pairs of patches propose (as Fischler and Bolles, CACM 1981, but all pairs are tried, none at random).
/// Somebody who walked has few patches, however strong their edges are. Meant for pictures of a few hundred pixels.
[[nodiscard]] std::optional<Transform> agreedByPatches(const CommonTones& tones);

} // namespace ml
