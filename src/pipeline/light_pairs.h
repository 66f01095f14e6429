// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "finish/white.h"

#include <filesystem>
#include <string>
#include <vector>

namespace ml {

/// A finished picture, and what it is called.
struct NamedPicture {
  std::string name;
  std::filesystem::path file; ///< Empty: there is none.
};

/// Two pictures one after the other of the same view, not moved, under two lights (lamps on, lamps off).
struct LightPair {
  std::size_t first = 0, second = 0;      ///< Indices of the pictures.
  std::optional<WallUnderTwoLights> wall; ///< Empty where they share no even surface.
};
/// What cannot be read pairs with nothing.
[[nodiscard]] std::vector<LightPair> pairLights(const std::vector<NamedPicture>& pictures, const StopFlag& stop);
[[nodiscard]] std::string sentence(const LightPair& pair, const std::vector<NamedPicture>& pictures);

} // namespace ml
