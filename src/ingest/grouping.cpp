#include "ingest/grouping.h"

#include "codec/code_image.h"
#include "exposure/ev.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <map>
#include <set>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Seconds on an arbitrary axis, or nothing when the file does not say.
std::optional<double> moment(const ShotMetadata& m) {
  int year, month, day, hour, minute, second;
  if (std::sscanf(m.takenAt.c_str(), "%d:%d:%d %d:%d:%d", &year, &month, &day, &hour, &minute, &second) != 6) return {};
  return ((((year * 12.0 + month) * 31 + day) * 24 + hour) * 60 + minute) * 60 + second + m.subSecond / 1000.0;
}

bool earlier(const FileFacts& a, const FileFacts& b) {
  if (a.path.parent_path() != b.path.parent_path()) return a.path.parent_path() < b.path.parent_path();
  const auto ta = moment(a.metadata), tb = moment(b.metadata);
  if (ta && tb && *ta != *tb) return *ta < *tb;
  return a.path.filename() < b.path.filename();
}

bool startsNewSet(const FileGroup& set, const FileFacts& next) {
  const FileFacts& last = set.files.back();
  if (last.path.parent_path() != next.path.parent_path()) return true;
  if (last.metadata.camera != next.metadata.camera) return true;
  const auto before = moment(last.metadata), now = moment(next.metadata);
  if (before && now && *now - *before - last.settings.time.value > kSetGapSeconds) return true;
  return std::any_of(set.files.begin(), set.files.end(), [&](const FileFacts& file) {
    return std::abs(ev100(file.settings).value - ev100(next.settings).value) < 0.1;
  });
}

std::string stemKey(const fs::path& file) { return (file.parent_path() / file.stem()).string(); }

} // namespace

std::vector<fs::path> collectFiles(const std::vector<fs::path>& paths, std::vector<LeftOut>& leftOut) {
  std::set<fs::path> files;
  for (const auto& path : paths) {
    std::error_code error;
    if (!fs::exists(path, error)) {
      leftOut.push_back({path, {ErrorCode::FileMissing, "`" + path.string() + "` is not there; check the name."}});
    } else if (fs::is_directory(path, error)) {
      for (const auto& entry : fs::directory_iterator(path, fs::directory_options::skip_permission_denied, error))
        if (entry.is_regular_file(error) && entry.path().filename().string().front() != '.') files.insert(entry.path());
    } else {
      files.insert(path);
    }
  }
  std::set<std::string> rawStems;
  for (const auto& file : files)
    if (const auto kind = sniff(file); kind && *kind == FileKind::Raw) rawStems.insert(stemKey(file));
  std::vector<fs::path> kept;
  for (const auto& file : files) {
    const auto kind = sniff(file);
    if (kind && *kind == FileKind::Jpeg && rawStems.count(stemKey(file))) continue;
    kept.push_back(file);
  }
  return kept;
}

Grouping groupFiles(const std::vector<fs::path>& files) {
  Grouping grouping;
  std::vector<FileFacts> facts;
  for (const auto& file : files) {
    if (auto fact = inspectFile(file))
      facts.push_back(std::move(*fact));
    else
      grouping.leftOut.push_back({file, fact.error()});
  }
  std::stable_sort(facts.begin(), facts.end(), earlier);
  for (auto& fact : facts) {
    if (grouping.sets.empty() || startsNewSet(grouping.sets.back(), fact)) grouping.sets.push_back({fact.path.stem().string(), {}});
    grouping.sets.back().files.push_back(std::move(fact));
  }
  return grouping;
}

} // namespace ml
