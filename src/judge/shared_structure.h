// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/detail.h"

#include <array>
#include <functional>
#include <optional>
#include <vector>

namespace ml {

/// A sharpness difference that pixels speak for: ln of the amplitude of `second`'s fine structure over `first`'s.
struct SharpnessStep {
  int first = 0, second = 0;
  double log = 0, sigma = 0;
};

/// Direction along which structure is looked at.
enum class StructureAxis { Across, Down };

/// The contrast that one code of a file makes at a light; empty: codes are fine enough.
using ContrastPerCode = std::function<double(double light)>;

/// Three pictures of one size that lie on each other, darkest first: the steps between each two of them; empty when
/// they show too little in common. Places whose structure is of a code or two in one of the files are left out:
/// compression takes it away.
[[nodiscard]] std::vector<SharpnessStep> stepsOfThree(const std::array<const Image<float>*, 3>& light,
                                                      StructureAxis axis, const ContrastPerCode& perCode);

/// Two pictures whose noise is that of their pixels (raw), the darker first.
[[nodiscard]] std::optional<SharpnessStep> stepOfTwo(const Image<float>& dark, const Image<float>& bright,
                                                     StructureAxis axis);

/// Two rendered pictures, the darker first, by strong edges alone: so strong that noise, its reduction and compression
/// have no say in them. Says less surely how much, but needs no third picture.
[[nodiscard]] std::optional<SharpnessStep> stepOfTwoByEdges(const Image<float>& dark, const Image<float>& bright,
                                                            StructureAxis axis, const ContrastPerCode& perCode);

} // namespace ml
