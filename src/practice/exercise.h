// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace ml {

enum class ExerciseKind { ReadSpot, ChooseBracket, FindFaults, LeaveOut, Settings, Dusk, JudgeFinish, Sort };
[[nodiscard]] const std::vector<ExerciseKind>& exerciseKinds();
/// Never changes: "read-spot".
[[nodiscard]] const char* idOf(ExerciseKind kind);
[[nodiscard]] std::optional<ExerciseKind> exerciseKind(const std::string& id);
/// "Read a spot".
[[nodiscard]] std::string nameOf(ExerciseKind kind);

/// Something to practise with the simulated camera. The seed decides everything that is not said: the same exercise is
/// the same each time.
struct Exercise {
  std::string id, title;
  ExerciseKind kind = ExerciseKind::ReadSpot;
  int level = 1; ///< 1 plain .. 3 subtle.
  std::uint64_t seed = 1;
  double limitSeconds = 0; ///< 0: none.
  std::string world = "reading_room";
  std::string camera = "full-frame-24";
  std::string note; ///< A teacher's own words, shown with the task.
  /// Said instead of drawn from the seed; each only where its kind uses it.
  std::optional<double> low, high;                ///< Readings, EV100.
  std::optional<std::vector<std::string>> faults; ///< As `shoot --fault` has them; empty: a sound set.
  friend bool operator==(const Exercise&, const Exercise&) = default;
};

/// Those that ship, easy ones first.
[[nodiscard]] const std::vector<Exercise>& shippedExercises();

/// Errors: FileUnreadable (not JSON, newer version), InvalidArgument (a field that makes no sense); name `source`.
[[nodiscard]] Result<Exercise> exerciseFromJson(const std::string& text, const std::string& source);
[[nodiscard]] std::string toJson(const Exercise& exercise);

/// Shipped ones, then a teacher's from `*.json` in a folder, by name; files that cannot be read are named in
/// `problems`.
[[nodiscard]] std::vector<Exercise> allExercises(const std::filesystem::path& folder,
                                                 std::vector<std::string>& problems);
/// By id among them, or a file. Errors: InvalidArgument; of reading the file.
[[nodiscard]] Result<Exercise> findExercise(const std::string& idOrFile, const std::filesystem::path& folder);

} // namespace ml
