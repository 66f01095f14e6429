// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "tone/rendering.h"

#include <map>
#include <string>

namespace ml {

/// Scene facts as string attributes of a radiance file, so that it is finished alike without its frames: `ev100OfUnit`,
/// `shownAs` (pairs "light:paper" as SceneFacts::metered, each to 4 decimals) `asItIs` ("yes") and `projection`
/// ("equirectangular sphere" or "verticals plumb"). Only what is known is written.
[[nodiscard]] std::map<std::string, std::string> textOf(const SceneFacts& facts);
/// Reads it back; what is missing, damaged or not rising is as unknown.
[[nodiscard]] SceneFacts factsFromText(const std::map<std::string, std::string>& text);

/// Ties that a rendering can be made of: at least four, at most 400, finite, both sides rising.
[[nodiscard]] bool soundTies(const std::vector<Tie>& ties);

} // namespace ml
