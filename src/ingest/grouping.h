#pragma once
#include "ingest/load_frame.h"

#include <string>
#include <vector>

namespace ml {

/// A file that takes no part, and why.
struct LeftOut {
  std::filesystem::path path;
  Error reason;
};

struct FileGroup {
  std::string name;             ///< Stem of the first file.
  std::vector<FileFacts> files; ///< In the order they were taken.
};

struct Grouping {
  std::vector<FileGroup> sets;
  std::vector<LeftOut> leftOut;
};

/// Files named, and those lying directly in the folders named; hidden files are passed over. When a raw and a JPEG share
/// a stem the raw is taken. Sorted by name. Missing paths appear in `leftOut`.
[[nodiscard]] std::vector<std::filesystem::path> collectFiles(const std::vector<std::filesystem::path>& paths,
                                                              std::vector<LeftOut>& leftOut);

/// A new set begins when an exposure comes a second time, the camera changes, or more than kSetGapSeconds pass.
inline constexpr double kSetGapSeconds = 300;
[[nodiscard]] Grouping groupFiles(const std::vector<std::filesystem::path>& files);

} // namespace ml
