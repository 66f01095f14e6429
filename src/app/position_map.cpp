// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/position_map.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

namespace ml {
namespace {

constexpr int kGap = 3;

} // namespace

PositionMap::PositionMap(const PositionWalk& walk, QWidget* parent) : QWidget(parent), walk_(walk) {
  setObjectName("positionMap");
  setFocusPolicy(Qt::TabFocus);
  setAccessibleName(tr("Positions"));
}

void PositionMap::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

void PositionMap::refresh() {
  rows_ = columns_ = planes_ = 1;
  for (const auto& p : walk_.positions()) {
    rows_ = std::max(rows_, p.planned.row);
    columns_ = std::max(columns_, p.planned.column);
    planes_ = std::max(planes_, p.planned.plane);
  }
  focused_ = std::clamp(hasFocus() ? focused_ : walk_.at(), 0, int(walk_.positions().size()) - 1);
  const int width = std::clamp(grown(260) / (columns_ * planes_), grown(20), grown(48));
  setFixedSize(columns_ * planes_ * width, rows_ * std::clamp(grown(84) / rows_, grown(15), grown(30)));
  setAccessibleDescription(wordsOf(focused_));
  update();
}

QRectF PositionMap::cell(int index) const {
  const PlannedPosition& p = walk_.positions()[std::size_t(index)].planned;
  const double w = double(width()) / (columns_ * planes_), h = double(height()) / rows_;
  const int column = std::max(0, p.column - 1) * planes_ + std::max(0, p.plane - 1), row = std::max(0, p.row - 1);
  return QRectF(column * w, row * h, w, h).adjusted(0, 0, -kGap, -kGap);
}

int PositionMap::cellAt(QPointF at) const {
  for (int i = 0; i < int(walk_.positions().size()); ++i)
    if (cell(i).contains(at)) return i;
  return -1;
}

QString PositionMap::wordsOf(int index) const {
  const bool shot = walk_.positions()[std::size_t(index)].set >= 0;
  const QString name =
      tr("Position %1, %2: %3").arg(index + 1).arg(walk_.nameOf(index), shot ? tr("shot") : tr("to be shot"));
  return index == walk_.at() ? tr("%1; the camera looks there").arg(name) : name;
}

void PositionMap::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setFont(uiFont(9));
  for (int i = 0; i < int(walk_.positions().size()); ++i) {
    const QRectF r = cell(i).adjusted(1, 1, -1, -1);
    const bool shot = walk_.positions()[std::size_t(i)].set >= 0, here = i == walk_.at();
    p.setPen(QPen(here ? theme_->text : theme_->line, here ? 2 : 1));
    p.setBrush(shot ? QBrush(theme_->raised) : QBrush(Qt::NoBrush));
    p.drawRoundedRect(r, 2, 2);
    p.setPen(here || shot ? theme_->text : theme_->quiet);
    p.drawText(r, Qt::AlignCenter, shot ? QString("%1 %2").arg(i + 1).arg(QChar(0x2713)) : QString::number(i + 1));
    if (hasFocus() && i == focused_) {
      p.setPen(QPen(theme_->info, 1, Qt::DotLine));
      p.setBrush(Qt::NoBrush);
      p.drawRect(r.adjusted(2, 2, -2, -2));
    }
  }
}

void PositionMap::mousePressEvent(QMouseEvent* event) {
  if (const int i = cellAt(event->position()); i >= 0) emit chosen(i);
}

void PositionMap::keyPressEvent(QKeyEvent* event) {
  const int last = int(walk_.positions().size()) - 1;
  switch (event->key()) {
  case Qt::Key_Left:
  case Qt::Key_Up: focused_ = std::max(0, focused_ - 1); break;
  case Qt::Key_Right:
  case Qt::Key_Down: focused_ = std::min(last, focused_ + 1); break;
  case Qt::Key_Return:
  case Qt::Key_Enter:
  case Qt::Key_Space: emit chosen(focused_); return;
  default: QWidget::keyPressEvent(event); return;
  }
  setAccessibleDescription(wordsOf(focused_));
  update();
}

bool PositionMap::event(QEvent* event) {
  if (event->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(event);
    const int i = cellAt(help->pos());
    if (i < 0)
      QToolTip::hideText();
    else
      QToolTip::showText(help->globalPos(),
                         i == walk_.at() ? wordsOf(i) : tr("%1. From here: %2").arg(wordsOf(i), walk_.wayTo(i)), this);
    return true;
  }
  return QWidget::event(event);
}

} // namespace ml
