// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ingest/watched_folder.h"
#include "model/notices.h"

#include <QObject>
#include <QTimer>
#include <optional>
#include <vector>

namespace ml {

/// A folder that somebody else writes frames to. Complete files come one at a time, in their order, each when it is
/// asked for.
class FolderWatch : public QObject {
  Q_OBJECT

public:
  explicit FolderWatch(Notices& notices, QObject* parent = nullptr);

  /// False, and said, when it is no folder.
  bool start(const QString& folder);
  void stop();
  [[nodiscard]] bool watching() const { return folder_.has_value(); }
  [[nodiscard]] QString folder() const;
  [[nodiscard]] QString folderName() const;
  /// The next complete file; none: a later look may find one.
  [[nodiscard]] std::optional<std::filesystem::path> next();
  /// It could not be read yet.
  void giveBack(const std::filesystem::path& file);

signals:
  void look(); ///< Time to ask for the next.

private:
  Notices& notices_;
  std::optional<WatchedFolder> folder_;
  std::vector<std::filesystem::path> waiting_;
  bool lost_ = false;
  QTimer timer_;
};

} // namespace ml
