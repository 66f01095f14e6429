// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ingest/grouping.h"
#include "model/desk.h"

#include <QObject>
#include <QStringList>
#include <QTimer>
#include <map>

namespace ml {

/// How a job comes onto the desk: opened, made from frames, or the demo; and what is read when a view is entered.
class JobOpening : public QObject {
  Q_OBJECT

public:
  explicit JobOpening(Desk& desk);

  /// `view`: the folder of the one to begin with; empty: the first.
  bool openJob(const std::filesystem::path& folder, const std::string& view = {});
  /// The ferry house in `jobs` (the user's job folder): opened when it is there, else made.
  bool openDemo(const std::filesystem::path& jobs);
  /// A new job in `jobs` from frames or folders of the user's own; one view for each set found. Runs in the background.
  void takeFiles(const QStringList& paths, const std::filesystem::path& jobs);
  /// Makes a job with a view for each set. Follows `sorted`, after the user has looked.
  void takeSorted(const Grouping& grouping, const std::string& name, const std::filesystem::path& jobs);

  /// Reads what the view in hand needs; answered by viewRead.
  void readView();

signals:
  /// Files fell into more than one plain set: to be looked at, then given to takeSorted.
  void sorted(const ml::Grouping& grouping, const QString& name, const QString& jobs);
  /// A view was entered and what it needs was read.
  void viewRead(const std::vector<ml::ExposureSettings>& shot,
                const std::shared_ptr<const ml::CombinedPicture>& picture);

private:
  void open(Job job, const std::string& view = {});
  void takeOver();

  Desk& desk_;
  std::map<std::string, std::shared_ptr<const World>> worlds_; ///< That were seen: the ferry house has three.
  QTimer untilFree_;                                           ///< While another window works on the job.
};

} // namespace ml
