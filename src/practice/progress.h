// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "practice/exercise.h"

#include <cstdint>
#include <map>

namespace ml {

/// One time an exercise was done.
struct PracticeResult {
  std::string exercise; ///< Its id.
  std::int64_t at = 0;  ///< Seconds since 1970, UTC.
  double points = 0, seconds = 0;
  friend bool operator==(const PracticeResult&, const PracticeResult&) = default;
};

/// Kept in a file of its own, apart from all visits. One that is missing or damaged is empty. Errors of `keep`:
/// CannotWrite.
class PracticeRecord {
public:
  explicit PracticeRecord(std::filesystem::path file);
  [[nodiscard]] const std::vector<PracticeResult>& results() const { return results_; }
  Result<void> keep(const PracticeResult& result);

private:
  std::filesystem::path file_;
  std::vector<PracticeResult> results_;
};

/// When an exercise should come again: 1, 3, 7, 21, 60 days after it was passed once, twice, ... in a row (a box for
/// each, Leitner, So lernt man lernen, 1972; the days: common practice, no source); at once after a failure. Nothing:
/// never done.
[[nodiscard]] std::optional<std::int64_t> dueAt(const std::vector<PracticeResult>& results,
                                                const std::string& exercise);

/// What went wrong on location, by kind of fault as the logbook has it, and how often.
using FaultCounts = std::map<std::string, int>;
/// The kind of exercise that practises it.
[[nodiscard]] ExerciseKind practises(const std::string& fault);

/// What to practise next: overdue ones first, the longest overdue; then what was never done, easy before subtle, and of
/// one level first what went wrong most. Never empty-handed while there are exercises.
[[nodiscard]] const Exercise* nextExercise(const std::vector<Exercise>& exercises,
                                           const std::vector<PracticeResult>& results, const FaultCounts& wentWrong,
                                           std::int64_t now);

/// Beside the jobs folder: results, and exercises of one's own.
[[nodiscard]] std::filesystem::path practiceFile(const std::filesystem::path& jobs);
[[nodiscard]] std::filesystem::path exercisesFolder(const std::filesystem::path& jobs);
/// Where practice leaves its jobs: never among the visits.
[[nodiscard]] std::filesystem::path practiceFolder(const std::filesystem::path& jobs);

} // namespace ml
