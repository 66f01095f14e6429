// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/locations.h"
#include "base/phrase.h"

#include <cstdlib>

namespace ml {
namespace fs = std::filesystem;
namespace {

std::optional<fs::path> fromEnvironment(const char* name) {
  const char* value = std::getenv(name);
  return value && *value ? std::optional<fs::path>(value) : std::nullopt;
}

/// What is installed beside the program; empty: it runs from where it was built.
fs::path installedShare() {
  std::error_code error;
  const auto program = fs::read_symlink("/proc/self/exe", error);
  return error ? fs::path() : program.parent_path().parent_path() / "share/mellow-lantern";
}

} // namespace

fs::path sharedFile(const std::string& installed, const std::string& inSource) {
  std::error_code error;
  for (const fs::path& file : {installedShare() / installed, fs::path(ML_SOURCE_ROOT) / inSource})
    if (fs::exists(file, error)) return file;
  return {};
}

std::optional<fs::path> findWorld(const std::string& id) {
  if (id.empty() || id.find('/') != std::string::npos || id == "..") return {};
  std::vector<fs::path> roots;
  if (const auto own = fromEnvironment("MELLOW_LANTERN_WORLDS")) roots.push_back(*own);
  std::error_code error;
  roots.push_back(installedShare() / "worlds");
  roots.push_back(fs::path(ML_SOURCE_ROOT) / "worlds");
  for (const auto& root : roots)
    if (fs::exists(root / id / "world.json", error)) return root / id;
  return {};
}

fs::path jobsFolder() {
  if (const auto own = fromEnvironment("MELLOW_LANTERN_JOBS")) return *own;
  if (const auto data = fromEnvironment("XDG_DATA_HOME")) return *data / "mellow-lantern/jobs";
  return fromEnvironment("HOME").value_or("/tmp") / ".local/share/mellow-lantern/jobs";
}

fs::path profilesFolder(const fs::path& jobs) {
  return jobs.parent_path() / "cameras";
}
fs::path looksFolder(const fs::path& jobs) {
  return jobs.parent_path() / "looks";
}
fs::path curvesFolder(const fs::path& jobs) {
  return jobs.parent_path() / "curves";
}

std::filesystem::path areasFolder(const std::filesystem::path& jobs) {
  return jobs.parent_path() / "areas";
}

Result<void> checkSpace(const std::filesystem::path& folder, double bytes) {
  std::filesystem::path there = folder;
  std::error_code error;
  while (!std::filesystem::exists(there, error) && there.has_relative_path()) there = there.parent_path();
  const auto space = std::filesystem::space(there, error);
  if (error || double(space.available) >= bytes) return {};
  return fail(ErrorCode::CannotWrite,
              phrase("`{}` needs about {:.1f} GB more and has {:.1f}; free some space or move the job.",
                     folder.string(), bytes / 1e9, double(space.available) / 1e9));
}

} // namespace ml
