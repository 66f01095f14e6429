// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/run.h"

#include <map>

namespace ml {

/// A run that many machines make: what is to be made, in "farm/manifest.json" of the folder for the pictures. All paths
/// in it are absolute and the same on every machine. Written once and then only read.
struct FarmManifest {
  struct Set {
    std::string name;
    std::vector<std::vector<std::filesystem::path>> groups; ///< Files of each set that is joined to it.
  };
  std::map<std::string, std::string> arguments; ///< Of the command line, as they make a RunOptions.
  std::string engine = "local";
  std::vector<Set> sets;
  std::vector<LeftOut> leftOut;
};

[[nodiscard]] std::filesystem::path farmFolder(const std::filesystem::path& out);
[[nodiscard]] FarmManifest manifestOf(const RunPlan& plan);
/// Errors: CannotWrite.
Result<void> saveManifest(const FarmManifest& manifest, const std::filesystem::path& out);
/// Errors: FileMissing, FileUnreadable with what to do.
[[nodiscard]] Result<FarmManifest> loadManifest(const std::filesystem::path& out);
[[nodiscard]] std::string toText(const FarmManifest& manifest);
[[nodiscard]] Result<FarmManifest> manifestFrom(const std::string& text);

/// The set as a run knows it: its files are looked at anew. Errors: those of reading, named.
[[nodiscard]] Result<RunView> viewOf(const FarmManifest::Set& set);

} // namespace ml
