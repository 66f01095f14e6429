// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "session/job.h"
#include "visit/visit.h"

#include <cstdint>
#include <map>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

namespace ml {

/// Something the field check found wrong with a frame.
struct LogFault {
  std::string kind; ///< As idOf(Flaw).
  int hour = -1;    ///< Of the day there, 0..23; -1: not known.
};

/// What the logbook keeps of one view of a visit.
struct LogView {
  std::string folder; ///< Its name in the job.
  std::string name, kind, light, notes;
  bool practice = false;             ///< Shot with the simulated camera: read, never counted.
  double darkest = 0, brightest = 0; ///< Readings that keep texture, EV100.
  bool hasRange = false;
  std::string plan;              ///< Its verdict.
  int planned = 0, fired = 0;    ///< Frames.
  int sets = 0, repeats = 0;     ///< Repeats: sets shot again at the same position.
  std::string answer, verdict;   ///< Of the field check.
  int combinedOf = 0, spoke = 0; ///< Frames combined, and those that said most anywhere.
  std::string combined, judgement;
  std::vector<std::string> finish; ///< What was changed from the automatic start, in words.
  std::vector<std::string> delivered;
  std::map<std::string, double> spent;   ///< Seconds at each station.
  std::map<std::string, double> offsets; ///< The finish against the automatic start, by name of the control.
  std::vector<FrameNote> frames;
  std::vector<LogFault> faults;
  std::vector<ViewEvent> events;

  [[nodiscard]] double siteSeconds() const;
  [[nodiscard]] double deskSeconds() const;
  [[nodiscard]] double range() const { return hasRange ? brightest - darkest : 0; }
};

/// One visit.
struct LogEntry {
  std::string folder; ///< Of the job, absolute; what tells visits apart.
  std::string name, place, date, lesson;
  double latitude = 0, longitude = 0;
  std::string timeZone = "UTC";
  std::vector<std::string> tags;
  std::vector<LogView> views;
};

/// `visit`: what people wrote of it; of jobs without, what the job itself says. A job's date is that of its visit, else
/// of the first thing that happened, else of its folder.
[[nodiscard]] LogEntry entryOf(const Job& job, const std::optional<Visit>& visit);
/// The same from the folder. Errors: of Job::open and readVisit.
[[nodiscard]] Result<LogEntry> entryOf(const std::filesystem::path& job);

[[nodiscard]] nlohmann::json toJson(const LogEntry& entry);
/// What is missing or makes no sense keeps its default.
[[nodiscard]] LogEntry entryFromJson(const nlohmann::json& json);
/// All words of it that can be searched.
[[nodiscard]] std::string wordsOf(const LogEntry& entry);

} // namespace ml
