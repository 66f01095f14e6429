// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/look_around_window.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace ml {

LookAroundWindow::LookAroundWindow(const FinishModel& finish, QWidget* parent) : QDialog(parent), around_(finish) {
  setObjectName("lookAround");
  setWindowTitle(tr("Look around"));
  setAccessibleDescription(tr("Drag or use the arrow keys to turn, the wheel or plus and minus to go closer."));
  setAttribute(Qt::WA_DeleteOnClose);
  setFocusPolicy(Qt::StrongFocus);
  resize(grown(900), grown(600));
  connect(&around_, &LookAround::changed, this, qOverload<>(&QWidget::update));
}

void LookAroundWindow::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const double ratio = devicePixelRatioF();
  p.drawImage(rect(), around_.seen(int(width() * ratio), int(height() * ratio)));
  const QRect strip(0, height() - grown(26), width(), grown(26));
  p.fillRect(strip, QColor(0, 0, 0, 140));
  p.setFont(uiFont(9));
  p.setPen(Qt::white);
  const Gaze& gaze = around_.gaze();
  const auto degrees = [](double angle) { return QString("%1%2").arg(std::abs(angle), 0, 'f', 0).arg(QChar(0x00b0)); };
  p.drawText(strip.adjusted(12, 0, -12, 0), Qt::AlignVCenter | Qt::AlignLeft,
             tr("%1 %2, %3 %4")
                 .arg(degrees(gaze.yaw), gaze.yaw < 0 ? tr("left") : tr("right"), degrees(gaze.pitch),
                      gaze.pitch < 0 ? tr("down") : tr("up")));
  p.drawText(strip.adjusted(12, 0, -12, 0), Qt::AlignVCenter | Qt::AlignRight, tr("Drag to turn, wheel to go closer"));
}

void LookAroundWindow::mousePressEvent(QMouseEvent* event) {
  at_ = event->position();
}

void LookAroundWindow::mouseMoveEvent(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton)) return;
  const QPointF by = event->position() - at_;
  at_ = event->position();
  around_.drag(by.x(), by.y(), width());
}

void LookAroundWindow::wheelEvent(QWheelEvent* event) {
  constexpr double kStep = 120; // eighths of a degree, Qt
  around_.goCloser(event->angleDelta().y() / kStep);
}

void LookAroundWindow::keyPressEvent(QKeyEvent* event) {
  const double step = width() / 12.0;
  switch (event->key()) {
  case Qt::Key_Left: return around_.drag(step, 0, width());
  case Qt::Key_Right: return around_.drag(-step, 0, width());
  case Qt::Key_Up: return around_.drag(0, step, width());
  case Qt::Key_Down: return around_.drag(0, -step, width());
  case Qt::Key_Plus: return around_.goCloser(1);
  case Qt::Key_Minus: return around_.goCloser(-1);
  default: QDialog::keyPressEvent(event);
  }
}

} // namespace ml
