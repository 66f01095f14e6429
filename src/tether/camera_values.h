// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"

#include <optional>
#include <string>
#include <vector>

namespace ml {

/// One line of a camera's list: what the camera calls it, and what it stands for.
struct ListedValue {
  std::string word;
  double value = 0;           ///< Seconds, f-number or ISO; exact marks.
  double least = 0, most = 0; ///< What the word may be rounded from; equal to `value` where it is not.
};

/// Reads the words of a camera's lists. Words that name no value ("Bulb", "Auto") are not in the result.
/// "1/125", "0.0040s" (tenths of a millisecond, rounded), "0,5", "1.3", "30", "8/10".
[[nodiscard]] std::vector<ListedValue> listedTimes(const std::vector<std::string>& words);
/// "f/8", "8", "5,6".
[[nodiscard]] std::vector<ListedValue> listedApertures(const std::vector<std::string>& words);
/// "100", "ISO 200"; "Auto" is none.
[[nodiscard]] std::vector<ListedValue> listedIsos(const std::vector<std::string>& words);
/// The word for exposures that last as long as they are told to.
[[nodiscard]] std::optional<std::string> bulbWord(const std::vector<std::string>& words);

/// Is that word the standard's own (all bits set) and not a maker's? Then the exposure is an open capture.
[[nodiscard]] bool isOpenTime(const std::string& word);

/// The listed value nearest to `wanted` on a scale of stops; null: the list is empty.
[[nodiscard]] const ListedValue* nearestListed(const std::vector<ListedValue>& list, double wanted);
/// How far, as log2, `wanted` lies from what the word may mean.
[[nodiscard]] double offFrom(const ListedValue& listed, double wanted);

} // namespace ml
