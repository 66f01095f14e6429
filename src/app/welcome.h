// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"

#include <QFrame>
#include <QStringList>

class QVBoxLayout;

namespace ml {

/// Jobs that were open lately, latest first, as far as they are still there.
class RecentJobs {
public:
  struct Entry {
    QString folder, name;
  };
  [[nodiscard]] static std::vector<Entry> all();
  static void add(const QString& folder, const QString& name);
};

/// What is there before a job is open: the demo, frames of one's own, and jobs that were open lately.
class Welcome : public QFrame {
  Q_OBJECT

public:
  explicit Welcome(QWidget* parent = nullptr);
  /// Jobs that went are not offered.
  void refresh();

signals:
  void demoWanted();
  void framesWanted();
  void jobWanted(const QString& folder);

protected:
  void paintEvent(QPaintEvent*) override;

private:
  QVBoxLayout* recent_;
  class QPushButton *goOn_, *demo_;
};

} // namespace ml
