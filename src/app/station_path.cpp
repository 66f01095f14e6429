// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/station_path.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace ml {
namespace {
constexpr int kTop = 26, kPitch = 46, kLineX = 24, kRadius = 7;
}

StationPath::StationPath(QWidget* parent) : QWidget(parent) {
  setObjectName("stations");
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::PointingHandCursor);
  setAccessibleName(tr("Stations"));
}

void StationPath::show(int current, std::vector<Step> steps) {
  current_ = current;
  steps_ = std::move(steps);
  setFixedHeight(2 * kTop + std::max(0, int(steps_.size()) - 1) * kPitch);
  setAccessibleDescription(current_ >= 0 && current_ < int(steps_.size()) ? steps_[std::size_t(current_)].name
                                                                          : QString());
  update();
}

void StationPath::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

QPoint StationPath::place(int station) const {
  return {kLineX + 20, kTop + station * kPitch};
}

void StationPath::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(theme_->line, 2));
  p.drawLine(kLineX, kTop, kLineX, kTop + (int(steps_.size()) - 1) * kPitch);
  for (int i = 0; i < int(steps_.size()); ++i) {
    const QPoint centre(kLineX, kTop + i * kPitch);
    const bool here = i == current_;
    const StationState state = steps_[std::size_t(i)].state;
    if (here) {
      QRadialGradient glow(centre, 22);
      QColor warm = theme_->accent;
      warm.setAlpha(110);
      glow.setColorAt(0, warm);
      warm.setAlpha(0);
      glow.setColorAt(1, warm);
      p.setPen(Qt::NoPen);
      p.setBrush(glow);
      p.drawEllipse(centre, 22, 22);
    }
    const QColor ink = here ? theme_->accent : state == StationState::Done ? theme_->text : theme_->quiet;
    p.setPen(QPen(ink, 2));
    p.setBrush(state == StationState::Done ? ink : theme_->ground);
    p.drawEllipse(centre, kRadius, kRadius);
    if (state == StationState::OutOfDate) { // half filled: done once, then something before it changed
      p.setBrush(ink);
      p.drawPie(QRect(centre.x() - kRadius, centre.y() - kRadius, 2 * kRadius, 2 * kRadius), 90 * 16, 180 * 16);
    }
    p.setPen(here ? theme_->text : state == StationState::Open ? theme_->quiet : theme_->text);
    p.setFont(uiFont(11, here));
    p.drawText(QRect(kLineX + 18, centre.y() - grown(11), width() - kLineX - 18, grown(20)), Qt::AlignVCenter,
               steps_[std::size_t(i)].name);
    if (state == StationState::OutOfDate) {
      p.setFont(uiFont(8));
      p.setPen(theme_->quiet);
      p.drawText(QRect(kLineX + 18, centre.y() + grown(7), width() - kLineX - 18, grown(14)), Qt::AlignVCenter,
                 tr("out of date"));
    }
  }
  if (hasFocus() && current_ >= 0) {
    p.setPen(QPen(theme_->info, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(QRect(4, kTop + current_ * kPitch - 20, width() - 8, 40), 6, 6);
  }
}

void StationPath::mousePressEvent(QMouseEvent* event) {
  const int index = (event->position().toPoint().y() - kTop + kPitch / 2) / kPitch;
  if (index >= 0 && index < int(steps_.size())) emit chosen(index);
}

void StationPath::keyPressEvent(QKeyEvent* event) {
  const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
  if (step == 0) return QWidget::keyPressEvent(event);
  const int next = current_ + step;
  if (next >= 0 && next < int(steps_.size())) emit chosen(next);
}

} // namespace ml
