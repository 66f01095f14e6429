// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/verdict_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QProgressBar>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {

VerdictBar::VerdictBar(QWidget* parent) : QFrame(parent) {
  setObjectName("verdictBar");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(22, 12, 16, 12);
  column->setSpacing(6);
  head_ = new QWidget;
  auto* line = new QHBoxLayout(head_);
  line->setContentsMargins(0, 0, 0, 0);
  sentence_ = new QLabel;
  sentence_->setObjectName("verdict");
  sentence_->setWordWrap(true);
  sentence_->setFont(uiFont(12.5, true));
  sentence_->setMinimumHeight(grown(44));
  sentence_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  why_ = new QToolButton;
  why_->setObjectName("why");
  why_->setText(tr("Why"));
  why_->setCheckable(true);
  why_->setProperty("role", "plain");
  why_->setToolTip(tr("Show the figures behind this sentence"));
  line->addWidget(sentence_, 1);
  line->addWidget(why_, 0, Qt::AlignTop);
  column->addWidget(head_);

  reasoning_ = new QLabel;
  reasoning_->setObjectName("reasoning");
  reasoning_->setProperty("role", "quiet");
  reasoning_->setWordWrap(true);
  reasoning_->hide();
  column->addWidget(reasoning_);

  work_ = new QWidget;
  auto* working = new QHBoxLayout(work_);
  working->setContentsMargins(0, 0, 0, 0);
  stage_ = new QLabel;
  stage_->setObjectName("stage");
  stage_->setMinimumWidth(grown(190));
  progress_ = new QProgressBar;
  progress_->setObjectName("progress");
  progress_->setRange(0, 1000);
  progress_->setTextVisible(false);
  stop_ = new QPushButton(tr("Stop"));
  stop_->setObjectName("stop");
  stop_->setShortcut(Qt::Key_Escape);
  working->addWidget(stage_);
  working->addWidget(progress_, 1);
  working->addWidget(stop_);
  column->addWidget(work_);
  work_->hide();

  problem_ = new QWidget;
  auto* trouble = new QHBoxLayout(problem_);
  trouble->setContentsMargins(0, 0, 0, 0);
  complaint_ = new QLabel;
  complaint_->setObjectName("complaint");
  complaint_->setWordWrap(true);
  auto* dismiss = new QPushButton(tr("Close"));
  dismiss->setObjectName("dismiss");
  trouble->addWidget(complaint_, 1);
  trouble->addWidget(dismiss);
  column->addWidget(problem_);
  problem_->hide();

  connect(why_, &QToolButton::toggled, reasoning_, &QLabel::setVisible);
  connect(stop_, &QPushButton::clicked, this, &VerdictBar::stopRequested);
  connect(dismiss, &QPushButton::clicked, this, &VerdictBar::forgive);
}

void VerdictBar::show(const QString& verdict, const QString& reasoning) {
  sentence_->setText(verdict);
  reasoning_->setText(reasoning);
}

void VerdictBar::showSentence(bool shown) {
  sentenceShown_ = shown;
  head_->setVisible(shown);
  reasoning_->setVisible(shown && why_->isChecked());
  fit();
}

/// Nothing to say, nothing to see.
void VerdictBar::fit() {
  setVisible(sentenceShown_ || !work_->isHidden() || !problem_->isHidden());
}

void VerdictBar::setBusy(bool busy) {
  work_->setVisible(busy);
  fit();
  if (!busy) progress_->setValue(0);
}

void VerdictBar::setProgress(const QString& stage, double fraction) {
  stage_->setText(stage);
  progress_->setValue(int(fraction * 1000));
}

void VerdictBar::complain(const QString& sentence) {
  complaint_->setText(sentence);
  problem_->show();
  fit();
}

void VerdictBar::forgive() {
  problem_->hide();
  fit();
}

void VerdictBar::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

QString VerdictBar::verdict() const {
  return sentence_->text();
}
QString VerdictBar::complaint() const {
  return problem_->isHidden() ? QString() : complaint_->text();
}

void VerdictBar::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme_->panel);
  p.setPen(theme_->line);
  p.drawLine(0, height() - 1, width(), height() - 1);
  p.fillRect(QRect(0, 14, 3, height() - 28), problem_->isHidden() ? theme_->info : theme_->accent);
}

} // namespace ml
