// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"

#include <QFrame>

class QLabel;
class QProgressBar;
class QPushButton;
class QToolButton;

namespace ml {

/// The one sentence that is always true, the reasoning behind it on a click, and progress with a stop while work goes
/// on.
class VerdictBar : public QFrame {
  Q_OBJECT

public:
  explicit VerdictBar(QWidget* parent = nullptr);
  void show(const QString& verdict, const QString& reasoning);
  /// Before a job is open only progress and problems are shown.
  void showSentence(bool shown);
  void setBusy(bool busy);
  void setProgress(const QString& stage, double fraction);
  /// A problem: stays until dismissed or the next one.
  void complain(const QString& sentence);
  void forgive();
  void setTheme(const Theme& theme);
  [[nodiscard]] QString verdict() const;
  [[nodiscard]] QString complaint() const;

signals:
  void stopRequested();

protected:
  void paintEvent(QPaintEvent*) override;

private:
  const Theme* theme_ = &Theme::dusk();
  QLabel *sentence_, *reasoning_, *stage_, *complaint_;
  QToolButton* why_;
  QProgressBar* progress_;
  QPushButton* stop_;
  QWidget *head_, *work_, *problem_;
  bool sentenceShown_ = true;
  void fit();
};

} // namespace ml
