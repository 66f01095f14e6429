// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/profiles.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/slug.h"
#include "pipeline/report.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
Result<CameraProfile> readProfile(const fs::path& file) {
  auto text = readText(file);
  if (!text) return passOn(text.error());
  const auto document = nlohmann::json::parse(*text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(ErrorCode::FileUnreadable,
                phrase("`{}` is not a camera profile (JSON); export it again.", file.string()));
  auto profile = profileFromJson(document);
  if (!profile) return fail(profile.error().code, "`" + file.string() + "`: " + profile.error().message);
  return profile;
}

ProfileShelf::ProfileShelf(fs::path folder) : folder_(std::move(folder)) {
  read();
}

void ProfileShelf::read() {
  own_.clear();
  problems_.clear();
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder_, error)) {
    if (entry.path().extension() != ".json" || entry.path().filename().string().front() == '.') continue;
    if (auto profile = readProfile(entry.path()))
      own_.push_back(std::move(*profile));
    else
      problems_.push_back(profile.error().message);
  }
  std::sort(own_.begin(), own_.end(), [](const auto& a, const auto& b) { return a.name < b.name; });
}

std::vector<CameraProfile> ProfileShelf::all() const {
  std::vector<CameraProfile> list = shippedProfiles();
  list.insert(list.end(), own_.begin(), own_.end());
  return list;
}

std::optional<CameraProfile> ProfileShelf::find(const std::string& id) const {
  for (const auto& p : own_)
    if (p.id == id) return p;
  const auto* shipped = findProfile(id);
  return shipped ? std::optional(*shipped) : std::nullopt;
}

bool ProfileShelf::isOwn(const std::string& id) const {
  return std::any_of(own_.begin(), own_.end(), [&](const auto& p) { return p.id == id; });
}

Result<CameraProfile> ProfileShelf::keep(CameraProfile profile) {
  if (const auto reason = profile.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The camera profile cannot be kept: {}.", *reason));
  const bool edit = isOwn(profile.id);
  if (!edit) {
    const std::string base = slug(profile.name.empty() ? profile.id : profile.name, "own");
    profile.id = base;
    for (int n = 2; find(profile.id); ++n) profile.id = base + "-" + std::to_string(n);
  }
  std::error_code error;
  fs::create_directories(folder_, error);
  if (auto written = writeTextAtomically(folder_ / (profile.id + ".json"), toJson(profile).dump(2) + "\n"); !written)
    return passOn(written.error());
  read();
  return profile;
}

Result<void> ProfileShelf::remove(const std::string& id) {
  if (!isOwn(id)) return fail(ErrorCode::InvalidArgument, phrase("Only profiles of your own can be removed."));
  std::error_code error;
  fs::remove(folder_ / (id + ".json"), error);
  if (error) return fail(ErrorCode::CannotWrite, phrase("The profile cannot be removed ({}).", error.message()));
  read();
  return {};
}

Result<CameraProfile> ProfileShelf::import(const fs::path& file) {
  auto profile = readProfile(file);
  if (!profile) return profile;
  return keep(std::move(*profile));
}

Result<void> ProfileShelf::exportTo(const std::string& id, const fs::path& file) const {
  const auto profile = find(id);
  if (!profile) return fail(ErrorCode::InvalidArgument, phrase("There is no camera \"{}\".", id));
  return writeTextAtomically(file, toJson(*profile).dump(2) + "\n");
}

} // namespace ml
