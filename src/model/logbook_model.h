// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "logbook/store.h"
#include "model/desk.h"
#include "model/visit_model.h"

#include <QObject>
#include <QTimer>

namespace ml {

/// The logbook as the window shows it: what was searched, the visit in hand, what was learnt. All that touches the file
/// runs in the background; the open job is written into it by itself.
class LogbookModel : public QObject {
  Q_OBJECT

public:
  static constexpr int kWriteWithinMs = 1500;
  explicit LogbookModel(Desk& desk);
  ~LogbookModel() override;

  /// Jobs below the practice folder are never written down.
  void setPracticeFolder(const std::filesystem::path& folder) { practice_ = folder; }

  [[nodiscard]] const LogQuery& query() const { return query_; }
  [[nodiscard]] const std::vector<LogRow>& rows() const { return rows_; }
  [[nodiscard]] const LogCases& cases() const { return cases_; }
  [[nodiscard]] const std::vector<Learnt>& lessons() const { return lessons_; }
  [[nodiscard]] const std::vector<std::string>& tags() const { return tags_; }
  [[nodiscard]] const std::vector<std::string>& years() const { return years_; }
  /// Null: none is chosen.
  [[nodiscard]] const LogEntry* entry() const { return entry_ ? &*entry_ : nullptr; }
  [[nodiscard]] std::int64_t entryId() const { return entryId_; }
  [[nodiscard]] QString verdict() const;
  [[nodiscard]] bool busy() const;

  /// Reads it for the first time, makes it from the jobs where it is lost.
  void open();
  void search(const LogQuery& query);
  void show(std::int64_t id);
  /// All jobs are read again.
  void rebuild();
  /// Visits that fit what is searched, as text in a file. `format`: csv, json, markdown.
  void exportTo(const QString& file, const QString& format);
  /// Tags and lesson of a visit, kept in its job: of the open one through `visit`, which can be taken back there.
  void keepWords(const std::string& folder, const std::vector<std::string>& tags, const std::string& lesson,
                 VisitModel& visit);
  /// Where finishes end, as a look of the user's own: a starting point for others, without a white point, which every
  /// picture has of its own. False, and said, when none was
  /// learnt.
  bool keepOwnStart(const QString& name);
  /// Entries of a year, oldest first; answered by yearRead.
  void readYear(const QString& year);
  /// The open job is written down now.
  void flush();

signals:
  void changed();
  void learnt(); ///< Cases and lessons are new.
  void yearRead(const std::vector<ml::LogEntry>& entries);

private:
  void writeDown();
  [[nodiscard]] bool writesDown() const;
  /// `work` gets the open logbook on another thread; what it returns runs here.
  void onBook(Lane& lane, std::function<std::function<void()>(Logbook&, const Progress&)> work);
  void readAll();

  Desk& desk_;
  std::filesystem::path practice_;
  LogQuery query_;
  std::vector<LogRow> rows_;
  LogCases cases_;
  std::vector<Learnt> lessons_;
  std::vector<std::string> tags_, years_;
  std::optional<LogEntry> entry_;
  std::int64_t entryId_ = 0;
  bool opened_ = false, dirty_ = false;
  QTimer timer_;
};

} // namespace ml
