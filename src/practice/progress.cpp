// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/progress.h"

#include "base/atomic_file.h"
#include "practice/scoring.h"
#include "session/whole_number.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <tuple>

namespace ml {
using nlohmann::json;

PracticeRecord::PracticeRecord(std::filesystem::path file) : file_(std::move(file)) {
  const auto text = readText(file_);
  if (!text) return;
  const json document = json::parse(*text, nullptr, false);
  if (!document.is_object() || !document.contains("results") || !document["results"].is_array()) return;
  for (const auto& entry : document["results"]) {
    try {
      results_.push_back({entry.value("exercise", ""), wholeNumber(entry, "at"), entry.value("points", 0.0),
                          entry.value("seconds", 0.0)});
    } catch (const json::exception&) { // one line of it is damaged: the others stand
    }
  }
}

Result<void> PracticeRecord::keep(const PracticeResult& result) {
  results_.push_back(result);
  json list = json::array();
  for (const auto& r : results_)
    list.push_back({{"exercise", r.exercise}, {"at", r.at}, {"points", r.points}, {"seconds", r.seconds}});
  std::error_code error;
  std::filesystem::create_directories(file_.parent_path(), error);
  return writeTextAtomically(file_, json{{"version", 1}, {"practice", true}, {"results", list}}.dump(2) + "\n");
}

std::optional<std::int64_t> dueAt(const std::vector<PracticeResult>& results, const std::string& exercise) {
  constexpr std::int64_t kDay = 86400;
  constexpr std::int64_t kDays[] = {0, 1, 3, 7, 21, 60};
  std::optional<std::int64_t> last;
  std::size_t box = 0;
  for (const auto& result : results) {
    if (result.exercise != exercise) continue;
    last = result.at;
    box = result.points >= Score::kPassed ? std::min(box + 1, std::size(kDays) - 1) : 0;
  }
  if (!last) return {};
  return *last + kDays[box] * kDay;
}

ExerciseKind practises(const std::string& fault) {
  using enum ExerciseKind;
  static const std::map<std::string, ExerciseKind> kinds{{"highlights-clipped", ChooseBracket},
                                                         {"shadows-noisy", ChooseBracket},
                                                         {"wrong-time", Settings},
                                                         {"settings-drifted", Settings},
                                                         {"colour-drifted", Settings},
                                                         {"light-drifted", Dusk},
                                                         {"not-alike", Sort}};
  const auto it = kinds.find(fault);
  return it == kinds.end() ? FindFaults : it->second;
}

const Exercise* nextExercise(const std::vector<Exercise>& exercises, const std::vector<PracticeResult>& results,
                             const FaultCounts& wentWrong, std::int64_t now) {
  std::map<ExerciseKind, int> needed;
  for (const auto& [fault, count] : wentWrong) needed[practises(fault)] += count;
  const Exercise* best = nullptr;
  std::tuple<int, std::int64_t, int> bestRank;
  for (const auto& exercise : exercises) {
    const auto due = dueAt(results, exercise.id);
    std::tuple<int, std::int64_t, int> rank;
    if (due && *due <= now)
      rank = {0, *due, 0};
    else if (!due)
      rank = {1, exercise.level, -needed[exercise.kind]};
    else
      rank = {2, *due, 0}; // not yet, but rather than nothing
    if (!best || rank < bestRank) {
      best = &exercise;
      bestRank = rank;
    }
  }
  return best;
}

std::filesystem::path practiceFile(const std::filesystem::path& jobs) {
  return jobs.parent_path() / "practice.json";
}
std::filesystem::path exercisesFolder(const std::filesystem::path& jobs) {
  return jobs.parent_path() / "exercises";
}
std::filesystem::path practiceFolder(const std::filesystem::path& jobs) {
  return jobs.parent_path() / "practice";
}

} // namespace ml
