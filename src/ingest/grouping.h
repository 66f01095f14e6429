// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "ingest/load_frame.h"

#include <map>
#include <string>
#include <vector>

namespace ml {

/// A file that takes no part, and why.
struct LeftOut {
  std::filesystem::path path;
  Error reason;
  bool companion = false; ///< What lies beside frames on a card (movies, sidecars, thumbnails, text): passed over,
                          ///< nothing is missing.
};
/// Those of which something is missing.
[[nodiscard]] std::vector<LeftOut> withoutCompanions(const std::vector<LeftOut>& files);

/// What a group of files is, as far as can be told.
enum class GroupKind {
  Set,        ///< A bracket.
  Repeat,     ///< The bracket before it, shot again.
  OtherLight, ///< The view before it, not moved, under another light (lamps on, lamps off).
  Panorama,   ///< The next position: overlaps with the one before.
  Single,
  Separator, ///< A hand or the cap before the lens: marks where a set ends, and is set aside.
};

struct FileGroup {
  std::string name;             ///< Stem of the first file.
  std::vector<FileFacts> files; ///< In the order they were taken.
  GroupKind kind = GroupKind::Set;
  std::string reason; ///< Why a group begins here; empty for the first.
};

struct Grouping {
  std::vector<FileGroup> sets;
  std::vector<FileGroup> aside; ///< Separators, and what the user set aside.
  std::vector<LeftOut> leftOut;
};

enum class Subfolders { Read, PassOver };

/// Files named, and those in the folders named and, when asked, below them (a camera's card keeps its frames in folders
/// of folders); hidden ones, and the jobs of this program, are passed over. When a raw and a JPEG share a stem the raw
/// is taken. Sorted by name. Missing paths appear in `leftOut`, and as companions what lies beside frames in folders
/// and is none: movies, sidecars, thumbnails, text.
[[nodiscard]] std::vector<std::filesystem::path> collectFiles(const std::vector<std::filesystem::path>& paths,
                                                              std::vector<LeftOut>& leftOut,
                                                              Subfolders subfolders = Subfolders::Read,
                                                              const StopFlag& stop = {});

/// Files are taken in the order of their clocks; where in a folder the clocks contradict the files' numbers (a clock
/// that was reset), or do not tell frames apart, in that of the numbers. A new set begins when the folder, the camera,
/// its focal length, the picture's size or the aperture changes, when an exposure or a bracket offset comes a second
/// time, or when more than kSetGapSeconds pass. A copy of another of `files` is left out (a companion; copiesAmong).
inline constexpr double kSetGapSeconds = 300;
[[nodiscard]] Grouping groupFiles(const std::vector<std::filesystem::path>& files, const Progress& progress = {});

/// From the end of one frame to the beginning of another by their clocks; empty when they do not say.
[[nodiscard]] std::optional<double> secondsBetween(const FileFacts& before, const FileFacts& after);

/// Looks at one picture of each group, and tells repeats, panorama positions and separators from sets; a pause of more
/// than kPauseSeconds inside a set splits it when the view changed. Files that cannot be read stay as they are.
inline constexpr double kPauseSeconds = 20;
void lookAtGroups(Grouping& grouping, const Progress& progress);

// ---- The user's word. Indices count `sets`; all return false, and change nothing, when there is nothing to do.

bool splitGroup(Grouping& grouping, std::size_t set, std::size_t file); ///< A new set begins with `file`.
bool joinWithNext(Grouping& grouping, std::size_t set);
bool moveFile(Grouping& grouping, std::size_t set, std::size_t file, std::size_t toSet);
/// Makes the set a further position of the view before it, or a view of its own again.
bool togglePosition(Grouping& grouping, std::size_t set);
bool setAside(Grouping& grouping, std::size_t set);
bool setFileAside(Grouping& grouping, std::size_t set, std::size_t file);
bool takeBack(Grouping& grouping, std::size_t aside); ///< A group set aside becomes a set again, in its place by time.

} // namespace ml
