// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/guide.h"

#include <QDialog>

class QLineEdit;
class QListWidget;

namespace ml {

class GuidePage;

/// The photographer's guide: tasks at the left, narrowed by what is searched; the chosen one at the right, with what is
/// searched marked. Stays open beside the window.
class GuideWindow : public QDialog {
  Q_OBJECT

public:
  explicit GuideWindow(QWidget* parent);
  /// Opens the task that belongs to a station or page.
  void showFor(const QString& station);

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void narrow();
  void showChosen();

  std::vector<GuideSection> sections_;
  QLineEdit* search_;
  QListWidget* tasks_;
  GuidePage* page_;
};

} // namespace ml
