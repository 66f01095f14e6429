// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/look_shelf.h"

#include "base/atomic_file.h"
#include "base/phrase.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;

namespace {

std::string fileNameOf(const std::string& name) {
  std::string out;
  for (const char c : name)
    out += std::isalnum(static_cast<unsigned char>(c)) || c == '-' || static_cast<unsigned char>(c) > 127 ? c : '-';
  return out;
}

} // namespace

const Look* LookShelf::find(const std::string& id) const {
  const auto found = std::find_if(looks_.begin(), looks_.end(), [&](const Look& l) { return l.id == id; });
  return found == looks_.end() ? nullptr : &*found;
}

Result<void> LookShelf::save(const std::string& name, const Recipe& recipe) {
  Recipe bare;
  bare.tone = recipe.tone;
  bare.tone.pulls.clear();
  bare.tone.warmth = bare.tone.tint = 0; // the white point is each picture's own
  bare.hues = recipe.hues;
  return keep(name, std::move(bare));
}

Result<void> LookShelf::saveArea(const std::string& name, const Area& area) {
  Recipe bare;
  bare.areas = {area};
  return keep(name, std::move(bare));
}

Result<void> LookShelf::keep(const std::string& name, Recipe bare) {
  if (fileNameOf(name).empty()) return fail(ErrorCode::InvalidArgument, phrase("It needs a name to be kept by."));
  bare.look = "own-" + fileNameOf(name);
  const json document{{"version", 1}, {"kind", "look"}, {"name", name}, {"recipe", json::parse(toJson(bare))}};
  auto done = writeTextAtomically(folder_ / (fileNameOf(name) + ".json"), document.dump(2));
  reload();
  return done;
}

Result<void> LookShelf::remove(const std::string& id) {
  const Look* look = find(id);
  std::error_code error;
  if (look && !fs::remove(folder_ / (id.substr(4) + ".json"), error))
    return fail(ErrorCode::CannotWrite, phrase("The look `{}` cannot be removed.", look->name));
  reload();
  return {};
}

void LookShelf::reload() {
  looks_.clear();
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder_, error)) {
    const auto text = readText(entry.path());
    if (!text || entry.path().extension() != ".json") continue;
    const json document = json::parse(*text, nullptr, false);
    if (!document.is_object() || !document.contains("recipe") || !document.contains("name") ||
        !document["name"].is_string())
      continue;
    if (auto recipe = recipeFromJson(document["recipe"].dump()))
      looks_.push_back(
          {"own-" + entry.path().stem().string(), document["name"].get<std::string>(), std::move(*recipe)});
  }
  std::sort(looks_.begin(), looks_.end(), [](const Look& a, const Look& b) { return a.name < b.name; });
}

} // namespace ml
