#include "finish/recipe.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;

std::optional<std::string> Recipe::invalidReason() const {
  const auto outside = [](double v, double low, double high) { return !(v >= low && v <= high); };
  if (outside(tone.exposure, -6, 6)) return "exposure must lie between -6 and 6 stops";
  if (outside(tone.balance, 0, 1.5)) return "balance must lie between 0 and 1.5";
  if (outside(tone.detail, 0, 3)) return "detail must lie between 0 and 3";
  if (outside(tone.saturation, 0, 2)) return "saturation must lie between 0 and 2";
  if (outside(tone.warmth, -2, 2)) return "warmth must lie between -2 and 2 stops";
  if (outside(sharpening, 0, 2)) return "sharpening must lie between 0 and 2";
  return {};
}

const std::vector<Look>& looks() {
  static const std::vector<Look> all = [] {
    const auto look = [](std::string id, std::string name, ToneSettings tone) { return Look{id, std::move(name), Recipe{id, tone, 0.35}}; };
    return std::vector<Look>{look("natural", "Natural", {}),
                             look("quiet", "Quiet: deeper shadows, brighter windows", {0, 0.8, 1, 0.94, 0}),
                             look("open", "Open: a lighter room", {0.3, 1.1, 1.05, 1, 0.05}),
                             look("monochrome", "Monochrome", {0, 1, 1.1, 0, 0})};
  }();
  return all;
}

const Look* findLook(const std::string& id) {
  const auto found = std::find_if(looks().begin(), looks().end(), [&](const Look& l) { return l.id == id; });
  return found == looks().end() ? nullptr : &*found;
}

std::string toJson(const Recipe& r) {
  return json{{"version", 1}, {"look", r.look}, {"exposure", r.tone.exposure}, {"balance", r.tone.balance}, {"detail", r.tone.detail},
              {"saturation", r.tone.saturation}, {"warmth", r.tone.warmth}, {"sharpening", r.sharpening}}
      .dump(2);
}

Result<Recipe> recipeFromJson(std::string_view text) {
  try {
    const json j = json::parse(text);
    if (j.value("version", 0) != 1) return fail(ErrorCode::InvalidArgument, "The recipe was written by another version; make it again here.");
    Recipe r;
    r.look = j.value("look", r.look);
    r.tone.exposure = j.value("exposure", r.tone.exposure);
    r.tone.balance = j.value("balance", r.tone.balance);
    r.tone.detail = j.value("detail", r.tone.detail);
    r.tone.saturation = j.value("saturation", r.tone.saturation);
    r.tone.warmth = j.value("warmth", r.tone.warmth);
    r.sharpening = j.value("sharpening", r.sharpening);
    if (const auto reason = r.invalidReason()) return fail(ErrorCode::InvalidArgument, "The recipe cannot be used: " + *reason + ".");
    return r;
  } catch (const json::exception& error) {
    return fail(ErrorCode::InvalidArgument, std::string("The recipe is not understood (") + error.what() + ").");
  }
}

} // namespace ml
