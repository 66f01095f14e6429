// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "logbook/entry.h"
#include "logbook/learnt.h"

#include <QString>
#include <functional>
#include <optional>

namespace ml {

/// What a search shows of a visit.
struct LogRow {
  std::int64_t id = 0;
  std::string folder, name, place, date, lesson;
  std::vector<std::string> tags;
  int views = 0, frames = 0, repeats = 0, faults = 0, delivered = 0;
  double siteSeconds = 0, deskSeconds = 0;
};

enum class LogOrder { Newest, Oldest, Name, Longest };

/// What is looked for; empty fields ask nothing.
struct LogQuery {
  std::string words =
      {}; ///< All of them, each as the beginning of a word; letters with and without accents are the same.
  std::string tag = {}, kind = {}, year = {};
  bool withFaults = false;
  LogOrder order = LogOrder::Newest;
  int limit = 500;
};

/// All visits, to be searched and counted: an index in SQLite (with full-text search) of what lies in the job folders.
/// Nothing is only here: it is rebuilt from the jobs when it is lost or damaged. A logbook belongs to the thread it was
/// opened in. Errors: CannotWrite (read-only, or held by another program for longer than kWait), FileUnreadable.
class Logbook {
public:
  static constexpr int kWaitMs = 3000;

  /// Opens or makes it. What cannot be read is put aside as "<name>.damaged" and begun anew: `wasRebuilt`. A file that
  /// cannot be written is opened for reading.
  static Result<Logbook> open(const std::filesystem::path& file);
  Logbook(Logbook&&) noexcept;
  Logbook& operator=(Logbook&&) noexcept;
  ~Logbook();

  [[nodiscard]] bool readOnly() const { return readOnly_; }
  /// It is new or was damaged: the jobs are to be read again.
  [[nodiscard]] bool isNew() const { return isNew_; }

  /// In place of what it held of that folder; all or nothing.
  Result<void> put(const LogEntry& entry);
  /// Many at once.
  Result<void> put(const std::vector<LogEntry>& entries);
  /// Reads every job in these folders, and in the folders of the visits it knows. Jobs that cannot be read keep what
  /// was known of them and are returned as sentences. A stop leaves it as it was.
  Result<std::vector<std::string>> rebuild(const std::vector<std::filesystem::path>& roots, const Progress& progress);

  [[nodiscard]] Result<std::vector<LogRow>> search(const LogQuery& query) const;
  [[nodiscard]] Result<LogEntry> entry(std::int64_t id) const;
  [[nodiscard]] Result<std::vector<std::string>> tags() const;
  [[nodiscard]] Result<std::vector<std::string>> years() const;
  /// The cases everything learnt is counted from.
  [[nodiscard]] Result<LogCases> cases() const;
  [[nodiscard]] Result<int> count() const;

private:
  Logbook() = default;
  Result<void> prepare(const std::filesystem::path& file);
  Result<void> write(const LogEntry& entry);
  Result<void> inOneStep(const std::function<Result<void>()>& work);

  QString connection_;
  bool readOnly_ = false, isNew_ = false;
};

/// Where it is kept: beside the jobs folder.
[[nodiscard]] std::filesystem::path logbookFile(const std::filesystem::path& jobs);

} // namespace ml
