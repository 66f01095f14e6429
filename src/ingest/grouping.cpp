// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/grouping.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "codec/code_image.h"
#include "exposure/ev.h"
#include "exposure/marks.h"
#include "ingest/copies.h"
#include "ingest/small_picture.h"

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

/// Do the offsets in the files tell a bracket (not all the same)?
bool bracketed(const FileGroup& set) {
  const auto& first = set.files.front().metadata.bias;
  return std::any_of(set.files.begin(), set.files.end(), [&](const FileFacts& f) {
    return first && f.metadata.bias && std::abs(f.metadata.bias->value - first->value) > 0.05;
  });
}

/// Why `next` does not belong to `set`; empty when it does.
std::string whyNew(const FileGroup& set, const FileFacts& next) {
  const FileFacts& last = set.files.back();
  if (last.path.parent_path() != next.path.parent_path()) return phrase("another folder");
  if (last.metadata.camera != next.metadata.camera) return phrase("another camera");
  if (last.width != next.width || last.height != next.height) return phrase("another picture size");
  const auto before = moment(last.metadata), now = moment(next.metadata);
  if (before && now && *now - *before - last.settings.time.value > kSetGapSeconds)
    return phrase("a pause of {:.0f} minutes", (*now - *before) / 60);
  // A window's frame with flash belongs to the frames without, whatever it was set to; it says nothing of the next one.
  const auto unlit = [](const FileFacts& f) { return !f.metadata.flash; };
  const bool anyUnlit = std::any_of(set.files.begin(), set.files.end(), unlit);
  if (next.metadata.flash && anyUnlit && last.exposureKnown && next.exposureKnown) return {};
  const auto &f0 = last.metadata.focalLengthMm, &f1 = next.metadata.focalLengthMm;
  if (f0 && f1 && std::abs(std::log2(*f1 / *f0)) > 0.02) return phrase("the focal length changed to {:.0f} mm", *f1);
  const FileFacts& own = anyUnlit ? *std::find_if(set.files.rbegin(), set.files.rend(), unlit) : last;
  if (own.metadata.aperture && next.metadata.aperture &&
      std::abs(std::log2(next.settings.aperture.value / own.settings.aperture.value)) > 0.1)
    return phrase("the aperture changed to {}", print(next.settings.aperture));
  for (const FileFacts& file : set.files) {
    if (file.metadata.flash && anyUnlit) continue;
    if (std::abs(ev100(file.settings).value - ev100(next.settings).value) < 0.1 && next.exposureKnown)
      return phrase("its exposure comes again");
    const auto &a = file.metadata.bias, &b = next.metadata.bias;
    if (set.files.size() > 1 && a && b && bracketed(set) && std::abs(a->value - b->value) < 0.05)
      return phrase("its bracket offset comes again");
  }
  return {};
}

/// Endings of what cameras and programs lay beside frames. In lower case, without the dot.
bool isCompanion(const fs::path& file) {
  static const std::set<std::string> endings{"avi",  "bin", "bup", "cpi", "csv",  "ctg",  "dat", "db",   "dop", "dsc",
                                             "exr",  "gpx", "hdr", "htm", "html", "idx",  "ifo", "ini",  "inp", "insv",
                                             "json", "log", "lrv", "m4v", "md",   "mdt",  "mkv", "modd", "mov", "mp3",
                                             "mp4",  "mpg", "mpl", "mts", "m2ts", "nksc", "pdf", "pp3",  "scn", "thm",
                                             "txt",  "vob", "wav", "xml", "xmp",  "zip"};
  std::string ending = file.extension().string();
  std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return !ending.empty() && endings.count(ending.substr(1));
}

/// The number at the end of a file's stem; -1: none.
long numberOf(const fs::path& file) {
  const std::string stem = file.stem().string();
  const auto end = stem.find_last_of("0123456789");
  if (end == std::string::npos) return -1;
  std::size_t begin = end;
  while (begin > 0 && std::isdigit(static_cast<unsigned char>(stem[begin - 1])) && end - begin < 8) --begin;
  return std::atol(stem.substr(begin, end - begin + 1).c_str());
}

/// Do the clocks of one folder's files (sorted by name) go against their numbers? A counter that began anew (9999,
/// 0001) is no contradiction, nor are two cameras in one folder.
bool clocksContradict(const std::vector<FileFacts>& files) {
  for (std::size_t i = 1; i < files.size(); ++i) {
    const FileFacts &a = files[i - 1], &b = files[i];
    const auto before = moment(a.metadata), now = moment(b.metadata);
    if (a.metadata.camera != b.metadata.camera || !before || !now || *now >= *before) continue;
    const long first = numberOf(a.path), second = numberOf(b.path);
    if (first >= 0 && second == first + 1) return true;
  }
  return false;
}

/// In the order they were taken, folder by folder.
void sortByTaking(std::vector<FileFacts>& facts) {
  std::stable_sort(facts.begin(), facts.end(), [](const FileFacts& a, const FileFacts& b) { return a.path < b.path; });
  for (auto begin = facts.begin(); begin != facts.end();) {
    const auto end = std::find_if(
        begin, facts.end(), [&](const FileFacts& f) { return f.path.parent_path() != begin->path.parent_path(); });
    if (!clocksContradict({begin, end})) std::stable_sort(begin, end, earlier);
    begin = end;
  }
}

constexpr int kDeepest = 8; ///< Folders below the one named; nobody's card is deeper.

std::string stemKey(const fs::path& file) {
  return (file.parent_path() / file.stem()).string();
}

/// People name folders, cameras name files: a set that has a folder to itself, beside other folders, is called by it.
void nameByFolders(std::vector<FileGroup>& sets) {
  std::map<fs::path, int> setsIn;
  for (const auto& set : sets) ++setsIn[set.files.front().path.parent_path()];
  if (setsIn.size() < 2) return;
  for (auto& set : sets)
    if (const fs::path folder = set.files.front().path.parent_path(); setsIn[folder] == 1 && folder.has_filename())
      set.name = folder.filename().string();
}

} // namespace

std::vector<fs::path> collectFiles(const std::vector<fs::path>& paths, std::vector<LeftOut>& leftOut,
                                   Subfolders subfolders, const StopFlag& stop) {
  std::set<fs::path> files;
  for (const auto& path : paths) {
    std::error_code error;
    if (!fs::exists(path, error)) {
      leftOut.push_back({path, {ErrorCode::FileMissing, phrase("`{}` is not there; check the name.", path.string())}});
    } else if (fs::is_directory(path, error)) {
      for (auto entry = fs::recursive_directory_iterator(path, fs::directory_options::skip_permission_denied, error);
           entry != fs::recursive_directory_iterator() && !stop.requested(); entry.increment(error)) {
        if (error) break;
        const bool hidden = entry->path().filename().string().front() == '.';
        if (entry->is_directory(error)) {
          if (hidden || subfolders == Subfolders::PassOver || entry.depth() >= kDeepest ||
              fs::exists(entry->path() / "job.json", error))
            entry.disable_recursion_pending();
        } else if (!hidden && entry->is_regular_file(error)) {
          if (isCompanion(entry->path()))
            leftOut.push_back(
                {entry->path(),
                 {ErrorCode::UnsupportedFormat,
                  phrase("`{}` lies beside the frames and is none; it is passed over.", entry->path().string())},
                 true});
          else
            files.insert(entry->path());
        }
      }
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

std::optional<double> secondsBetween(const FileFacts& before, const FileFacts& after) {
  const auto from = moment(before.metadata), to = moment(after.metadata);
  if (!from || !to) return {};
  return *to - *from - before.settings.time.value;
}

std::vector<LeftOut> withoutCompanions(const std::vector<LeftOut>& files) {
  std::vector<LeftOut> out;
  std::copy_if(files.begin(), files.end(), std::back_inserter(out), [](const LeftOut& f) { return !f.companion; });
  return out;
}

Grouping groupFiles(const std::vector<fs::path>& given, const Progress& progress) {
  Grouping grouping;
  const auto copies = copiesAmong(given, progress.stop);
  std::vector<fs::path> files;
  for (const auto& file : given)
    if (const auto copy = copies.find(file); copy == copies.end())
      files.push_back(file);
    else
      grouping.leftOut.push_back(
          {file,
           {ErrorCode::UnsupportedFormat,
            phrase("`{}` is the same file as `{}`; it is passed over.", file.string(), copy->second.string())},
           true});
  std::vector<Result<FileFacts>> read;
  for (std::size_t i = 0; i < files.size(); ++i) read.emplace_back(stopped());
  std::atomic<int> done{0};
  forEachBand(
      int(files.size()), progress.stop,
      [&](const Band& band) {
        for (int i = band.begin; i < band.end; ++i) read[std::size_t(i)] = inspectFile(files[std::size_t(i)]);
        progress.at(phrase("Read what the files say"), double(done += band.end - band.begin) / double(files.size()));
      },
      8);
  std::vector<FileFacts> facts;
  for (std::size_t i = 0; i < files.size(); ++i) {
    if (read[i])
      facts.push_back(std::move(*read[i]));
    else
      grouping.leftOut.push_back({files[i], read[i].error()});
  }
  sortByTaking(facts);
  for (auto& fact : facts) {
    const std::string why = grouping.sets.empty() ? std::string() : whyNew(grouping.sets.back(), fact);
    if (grouping.sets.empty() || !why.empty())
      grouping.sets.push_back({fact.path.stem().string(), {}, GroupKind::Set, why});
    grouping.sets.back().files.push_back(std::move(fact));
  }
  for (auto& set : grouping.sets)
    if (set.files.size() == 1) set.kind = GroupKind::Single;
  nameByFolders(grouping.sets);
  return grouping;
}

namespace {

/// The file of a group that shows most: the middle of its exposures.
const FileFacts& middleOf(const FileGroup& group) {
  std::vector<const FileFacts*> order;
  for (const auto& file : group.files) order.push_back(&file);
  std::stable_sort(order.begin(), order.end(),
                   [](auto a, auto b) { return ev100(a->settings).value > ev100(b->settings).value; });
  return *order[order.size() / 2];
}

Signature looked(const FileFacts& file) {
  constexpr int kEdge = 160;
  const auto picture = loadSmallPicture(file.path, kEdge);
  return picture ? signatureOf(*picture) : signatureOf(Image<std::uint8_t>(1, 1, 3));
}

constexpr double kAlike = 0.75;      ///< Correlation from which two pictures show the same view.
constexpr double kOverlapping = 0.6; ///< And from which they overlap.
constexpr double kEmpty = 0.02;      ///< Stops between neighbouring cells: a cap, a hand out of focus.

/// Long pauses inside a set: the camera may have been carried to another view with settings that happen not to repeat.
void splitAtPauses(Grouping& grouping) {
  for (std::size_t k = 0; k < grouping.sets.size(); ++k) {
    auto& files = grouping.sets[k].files;
    for (std::size_t i = 1; i < files.size(); ++i) {
      const auto before = moment(files[i - 1].metadata), now = moment(files[i].metadata);
      if (!before || !now || *now - *before - files[i - 1].settings.time.value < kPauseSeconds) continue;
      const Likeness alike = likenessOf(looked(files[i - 1]), looked(files[i]), 0.1);
      if (alike.correlation >= 0.5) continue;
      splitGroup(grouping, k, i);
      grouping.sets[k + 1].reason = phrase("a pause of {:.0f} s, and another view after it", *now - *before);
      break;
    }
  }
}

bool samePattern(const FileGroup& a, const FileGroup& b) {
  if (a.files.size() != b.files.size()) return false;
  for (std::size_t i = 0; i < a.files.size(); ++i)
    if (std::abs(ev100(a.files[i].settings).value - ev100(b.files[i].settings).value) > 0.1) return false;
  return true;
}

void nameKind(FileGroup& group, const FileGroup* before, const Signature& own, const Signature* previous) {
  group.kind = group.files.size() == 1 ? GroupKind::Single : GroupKind::Set;
  if (!before || !previous) return;
  if (group.kind == GroupKind::Set && before->files.size() > 1 && underAnotherLight(*previous, own)) {
    group.kind = GroupKind::OtherLight;
    return;
  }
  if (!samePattern(*before, group)) return;
  const Likeness there = likenessOf(*previous, own, 0.06);
  if (there.correlation >= kAlike) {
    group.kind = GroupKind::Repeat;
    return;
  }
  const Likeness moved = likenessOf(*previous, own, 0.8);
  if (moved.correlation >= kOverlapping && std::hypot(moved.shiftX, moved.shiftY) > 0.12 && group.files.size() > 1)
    group.kind = GroupKind::Panorama;
}

} // namespace

void lookAtGroups(Grouping& grouping, const Progress& progress) {
  splitAtPauses(grouping);
  std::vector<Signature> signatures(grouping.sets.size());
  std::atomic<int> done{0};
  const bool finished = forEachBand(
      int(signatures.size()), progress.stop,
      [&](const Band& band) {
        signatures[std::size_t(band.begin)] = looked(middleOf(grouping.sets[std::size_t(band.begin)]));
        progress.at(phrase("Look at the pictures"), double(++done) / double(signatures.size()));
      },
      1);
  if (!finished) return;
  std::vector<FileGroup> kept;
  const Signature* previous = nullptr;
  for (std::size_t i = 0; i < grouping.sets.size(); ++i) {
    FileGroup& group = grouping.sets[i];
    const bool blank = signatures[i].structure < kEmpty;
    const bool others = grouping.sets.size() > 1;
    if (blank && others && !group.files.empty()) {
      group.kind = GroupKind::Separator;
      group.reason = phrase("nothing to see but a hand, a cap or the dark: it marks the end of a set");
      grouping.aside.push_back(std::move(group));
      previous = nullptr;
      continue;
    }
    nameKind(group, kept.empty() ? nullptr : &kept.back(), signatures[i], previous);
    previous = &signatures[i];
    kept.push_back(std::move(group));
  }
  grouping.sets = std::move(kept);
}

// ---- The user's word

namespace {
void rename(FileGroup& group) {
  group.name = group.files.front().path.stem().string();
  if (group.files.size() == 1)
    group.kind = GroupKind::Single;
  else if (group.kind == GroupKind::Single || group.kind == GroupKind::Separator)
    group.kind = GroupKind::Set;
}
std::string byHand() {
  return phrase("set by you");
}

} // namespace

bool splitGroup(Grouping& grouping, std::size_t set, std::size_t file) {
  if (set >= grouping.sets.size() || file == 0 || file >= grouping.sets[set].files.size()) return false;
  FileGroup& first = grouping.sets[set];
  FileGroup second{"", {first.files.begin() + std::ptrdiff_t(file), first.files.end()}, GroupKind::Set, byHand()};
  first.files.resize(file);
  rename(first);
  rename(second);
  grouping.sets.insert(grouping.sets.begin() + std::ptrdiff_t(set) + 1, std::move(second));
  return true;
}

bool joinWithNext(Grouping& grouping, std::size_t set) {
  if (set + 1 >= grouping.sets.size()) return false;
  FileGroup &first = grouping.sets[set], &second = grouping.sets[set + 1];
  first.files.insert(first.files.end(), second.files.begin(), second.files.end());
  rename(first);
  grouping.sets.erase(grouping.sets.begin() + std::ptrdiff_t(set) + 1);
  return true;
}

bool moveFile(Grouping& grouping, std::size_t set, std::size_t file, std::size_t toSet) {
  if (set >= grouping.sets.size() || toSet >= grouping.sets.size() || set == toSet ||
      file >= grouping.sets[set].files.size())
    return false;
  auto& from = grouping.sets[set].files;
  auto& to = grouping.sets[toSet].files;
  to.push_back(std::move(from[file]));
  from.erase(from.begin() + std::ptrdiff_t(file));
  std::stable_sort(to.begin(), to.end(), earlier);
  rename(grouping.sets[toSet]);
  if (from.empty())
    grouping.sets.erase(grouping.sets.begin() + std::ptrdiff_t(set));
  else
    rename(grouping.sets[set]);
  return true;
}

bool togglePosition(Grouping& grouping, std::size_t set) {
  if (set == 0 || set >= grouping.sets.size()) return false;
  FileGroup& group = grouping.sets[set];
  group.kind = group.kind != GroupKind::Panorama ? GroupKind::Panorama
               : group.files.size() == 1         ? GroupKind::Single
                                                 : GroupKind::Set;
  group.reason = byHand();
  return true;
}

bool setAside(Grouping& grouping, std::size_t set) {
  if (set >= grouping.sets.size()) return false;
  grouping.sets[set].reason = byHand();
  grouping.aside.push_back(std::move(grouping.sets[set]));
  grouping.sets.erase(grouping.sets.begin() + std::ptrdiff_t(set));
  return true;
}

bool setFileAside(Grouping& grouping, std::size_t set, std::size_t file) {
  if (set >= grouping.sets.size() || file >= grouping.sets[set].files.size()) return false;
  if (grouping.sets[set].files.size() == 1) return setAside(grouping, set);
  FileGroup alone{"", {grouping.sets[set].files[file]}, GroupKind::Single, byHand()};
  rename(alone);
  grouping.sets[set].files.erase(grouping.sets[set].files.begin() + std::ptrdiff_t(file));
  rename(grouping.sets[set]);
  grouping.aside.push_back(std::move(alone));
  return true;
}

bool takeBack(Grouping& grouping, std::size_t aside) {
  if (aside >= grouping.aside.size()) return false;
  FileGroup group = std::move(grouping.aside[aside]);
  grouping.aside.erase(grouping.aside.begin() + std::ptrdiff_t(aside));
  group.kind = GroupKind::Set;
  group.reason = byHand();
  rename(group);
  const auto place = std::find_if(grouping.sets.begin(), grouping.sets.end(),
                                  [&](const FileGroup& g) { return earlier(group.files.front(), g.files.front()); });
  grouping.sets.insert(place, std::move(group));
  return true;
}

} // namespace ml
