// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/position_light.h"

#include "base/version.h"
#include "deliver/deliver.h"
#include "pipeline/combine_json.h"
#include "tone/facts_text.h"

#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Focal length in pixels by that of the same angle on film of 36 x 24 mm (Exif 2.3, FocalLengthIn35mmFilm: by the
/// diagonal).
double focalOf(const FileFacts& file, int width, int height) {
  const auto& focal = file.metadata.focalLength35mm;
  return focal && *focal > 0 ? *focal / std::hypot(36.0, 24.0) * std::hypot(width, height) : 0;
}

std::string wayOf(const CombineOptions& options) {
  CombineOptions own = options;
  own.joining = {}, own.unused = {}; // of the whole
  return fmt::format("{} {} {}", version(), toJson(own).dump(), options.edge);
}

std::string filesOf(const FileGroup& group) {
  std::string words;
  for (const auto& file : group.files) {
    std::error_code error;
    const auto size = fs::file_size(file.path, error);
    const auto changed = fs::last_write_time(file.path, error).time_since_epoch().count();
    words += fmt::format(" {} {} {}", file.path.string(), size, changed);
  }
  return words;
}

/// All that a position's light follows from.
std::string keyOf(const FileGroup& group, const CombineOptions& options) {
  return wayOf(options) + filesOf(group);
}

/// FNV-1a of 64 bits (Fowler, Noll and Vo; draft-eastlake-fnv).
std::uint64_t hashOf(const std::string& text) {
  std::uint64_t hash = 14695981039346656037ull;
  for (const char c : text) hash = (hash ^ std::uint8_t(c)) * 1099511628211ull;
  return hash;
}

} // namespace

bool isRadiance(const fs::path& file) {
  if (!holdsRadiance(file)) return false;
  const auto facts = inspectFile(file);
  return !facts || !facts->exposureKnown;
}

Result<PositionLight> positionLight(const FileGroup& group, const CombineOptions& options, const Progress& progress) {
  PositionLight out;
  if (group.files.size() == 1 && isRadiance(group.files[0].path)) {
    auto read = readRadiance(group.files[0].path, progress.stop);
    if (!read) return passOn(read.error());
    out.radiance = std::move(*read);
    out.facts = factsFromText(radianceNotes(group.files[0].path));
    out.metadataFrom = group.files[0].path;
    return out;
  }
  std::vector<fs::path> files;
  for (const auto& file : group.files) files.push_back(file.path);
  auto combined = combineFiles(files, options, progress);
  if (!combined) return passOn(combined.error());
  out.facts = sceneFacts(*combined);
  out.verdict = verdict(*combined);
  out.metadataFrom = combined->frames[std::size_t(combined->reference)].path;
  out.radiance = std::move(combined->radiance);
  out.focalKnown = focalOf(group.files[0], out.radiance.width(), out.radiance.height());
  return out;
}

fs::path KeptLight::fileOf(const FileGroup& group, const CombineOptions& options) const {
  return folder_ / fmt::format("{:016x}-{:016x}.exr", hashOf(filesOf(group)), hashOf(wayOf(options)));
}

std::optional<PositionLight> KeptLight::find(const FileGroup& group, const CombineOptions& options,
                                             const Progress& progress) const {
  if (folder_.empty()) return {};
  const std::string key = keyOf(group, options);
  const fs::path file = fileOf(group, options);
  std::error_code error;
  if (!fs::exists(file, error)) return {};
  const auto notes = radianceNotes(file);
  const auto note = [&](const char* name) {
    const auto found = notes.find(name);
    return found == notes.end() ? std::string{} : found->second;
  };
  if (note("key") != key) return {};
  auto light = readRadiance(file, progress.stop);
  if (!light) return {};
  PositionLight out;
  out.radiance = std::move(*light);
  out.facts = factsFromText(notes);
  out.verdict = note("verdict");
  out.metadataFrom = note("metadataFrom");
  out.focalKnown = std::strtod(note("focal").c_str(), nullptr);
  return out;
}

void KeptLight::keep(const FileGroup& group, const CombineOptions& options, const PositionLight& light) const {
  if (folder_.empty() || light.verdict.empty()) return; // a radiance picture is read as quickly as what is kept
  const double bytes = 6.0 * light.radiance.width() * light.radiance.height(); // at most: halves of three channels
  std::error_code error;
  fs::create_directories(folder_, error);
  constexpr double kRoomToLeave = 20; // the whole is written yet
  if (const auto room = fs::space(folder_, error); error || double(room.available) < kRoomToLeave * bytes) return;
  const std::string key = keyOf(group, options);
  RadianceOptions writing;
  writing.notes = textOf(light.facts);
  writing.notes["key"] = key;
  writing.notes["verdict"] = light.verdict;
  writing.notes["metadataFrom"] = light.metadataFrom.string();
  writing.notes["focal"] = fmt::format("{}", light.focalKnown);
  (void)deliverRadiance(light.radiance.view(), fileOf(group, options), writing);
}

void KeptLight::forgetOtherWays(const CombineOptions& options) const {
  const std::string mine = fmt::format("-{:016x}.exr", hashOf(wayOf(options)));
  std::error_code error;
  if (folder_.empty() || !fs::is_directory(folder_, error)) return;
  std::vector<fs::path> others;
  for (const auto& entry : fs::directory_iterator(folder_, error))
    if (!entry.path().filename().string().ends_with(mine)) others.push_back(entry.path());
  for (const auto& file : others) fs::remove(file, error);
}

} // namespace ml
