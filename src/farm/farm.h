// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "farm/manifest.h"

namespace ml {

/// How far a farm is, by what lies in its folder.
struct FarmState {
  std::size_t sets = 0, made = 0, failed = 0;
  std::vector<std::string> failures; ///< "name: sentence".
  std::vector<std::size_t> open;     ///< Sets that are neither made nor failed.
  bool joined = false;               ///< report.json is there.
};
[[nodiscard]] FarmState farmState(const FarmManifest& manifest, const std::filesystem::path& out);

/// What was made of the open sets in another way, or failed, counts no more.
void forgetStale(const FarmManifest& manifest, const std::vector<std::size_t>& open, const std::filesystem::path& out);

/// Makes one set, unless it is there; a failure is written down beside the manifest. Errors: CannotWrite, Stopped.
Result<SetOutcome> makeFarmSet(const FarmManifest& manifest, std::size_t set, const RunOptions& options,
                               const Progress& progress);

/// Joins the reports of all sets to report.json, as a run on one machine writes it.
Result<RunSummary> joinFarm(const FarmManifest& manifest, const RunOptions& options);

/// Hands the open sets to the Slurm workload manager: array jobs of one task a set, and one that joins when they are
/// over. `program`: this one, where every machine finds it. Gives the numbers of the jobs. Errors: InvalidArgument when
/// there is no sbatch, or with what it says.
Result<std::vector<std::string>> submitToSlurm(const std::filesystem::path& program, const std::filesystem::path& out,
                                               const std::vector<std::size_t>& open);
/// What Slurm says of the jobs that were handed over: "12 running, 30 waiting"; empty: nothing.
[[nodiscard]] std::string slurmSays(const std::filesystem::path& out);

} // namespace ml
