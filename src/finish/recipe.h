#pragma once
#include "base/result.h"
#include "tone/natural.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ml {

/// How a radiance picture is finished. Small, stored as JSON beside the view; the same recipe gives the same bits.
struct Recipe {
  std::string look = "natural";
  ToneSettings tone;
  double sharpening = 0.35;   ///< Share of the fine detail added again for output.
  friend bool operator==(const Recipe&, const Recipe&) = default;
  [[nodiscard]] std::optional<std::string> invalidReason() const;
};

struct Look {
  std::string id, name;
  Recipe recipe;
};
/// Our own starting points; "natural" is first.
[[nodiscard]] const std::vector<Look>& looks();
[[nodiscard]] const Look* findLook(const std::string& id);

/// JSON with a `version`; fields this version does not know are kept by the caller. Errors: InvalidArgument.
[[nodiscard]] std::string toJson(const Recipe& recipe);
[[nodiscard]] Result<Recipe> recipeFromJson(std::string_view text);

} // namespace ml
