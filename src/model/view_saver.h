// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/job_model.h"
#include "model/lane.h"
#include "model/notices.h"

#include <QObject>
#include <QTimer>
#include <set>

namespace ml {

/// Writes what changed of the job's views: in the background within kSaveWithin, and at once on `flush`. A crash loses
/// at most that. What could not be written is said, and tried again with the next change and at the end.
class ViewSaver : public QObject {
  Q_OBJECT

public:
  static constexpr int kSaveWithinMs = 300;
  ViewSaver(JobModel& job, Lane& lane, Notices& notices, QObject* parent = nullptr);
  ~ViewSaver() override;

  /// All that changed is on disk, or it was said why not. Before a view is left, read by other work, or the program
  /// ends.
  void flush();
  [[nodiscard]] bool waiting() const { return timer_.isActive(); }

private:
  enum class File { Plan, Frames, Combined, Finish, Journal };
  using Dirty = std::set<std::pair<std::string, File>>;
  static File fileOf(Aspect aspect);
  static Result<void> save(const View& view, File file);
  void mark(const std::string& view, Aspect aspect);
  void saveInBackground();

  JobModel& job_;
  Lane& lane_;
  Notices& notices_;
  Dirty dirty_;
  QTimer timer_;
};

} // namespace ml
