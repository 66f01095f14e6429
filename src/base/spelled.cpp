// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/spelled.h"

#include "base/phrase.h"

#include <algorithm>
#include <array>

namespace ml {

std::string spelled(std::size_t count, std::size_t most) {
  static constexpr std::array kWords{wording("No"),    wording("One"),  wording("Two"), wording("Three"),
                                     wording("Four"),  wording("Five"), wording("Six"), wording("Seven"),
                                     wording("Eight"), wording("Nine"), wording("Ten"), wording("Eleven"),
                                     wording("Twelve")};
  return count <= std::min(most, kWords.size() - 1) ? phrase(kWords[count]) : std::to_string(count);
}

} // namespace ml
