// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/picture_view.h"

#include <QContextMenuEvent>
#include <QDrag>
#include <QMimeData>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace ml {
namespace {

constexpr double kCrossStep = 0.02, kFineStep = 0.002, kPanStep = 60, kDividerStep = 0.02;

std::optional<QPointF> arrowOf(int key) {
  switch (key) {
  case Qt::Key_Left: return QPointF(-1, 0);
  case Qt::Key_Right: return QPointF(1, 0);
  case Qt::Key_Up: return QPointF(0, -1);
  case Qt::Key_Down: return QPointF(0, 1);
  default: return {};
  }
}

} // namespace

PictureView::PictureView(QWidget* parent) : QWidget(parent) {
  setObjectName("picture");
  setMinimumSize(320, 200);
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  setAccessibleName(tr("Picture"));
}

/// What lies behind the picture counts, not what is on screen.
void PictureView::measure() {
  place_.setPicture(marks_.fullSize.isEmpty() ? QSizeF(image_.size()) : QSizeF(marks_.fullSize));
  place_.setRoom(QSizeF(size()), devicePixelRatioF());
}

void PictureView::setPicture(const QImage& image) {
  image_ = image;
  detail_ = {};
  measure();
  askForDetail();
  update();
}

void PictureView::setMarks(const PictureMarks& marks) {
  using enum PictureMarks::Pointer;
  const bool larger = marks.fullSize != marks_.fullSize;
  marks_ = marks;
  if (chosen_ >= int(marks_.places.size())) chosen_ = -1;
  switch (marks_.pointer) {
  case Brush: setCursor(Qt::BlankCursor); break;
  case Lift: setCursor(Qt::SizeVerCursor); break;
  case Spot:
  case Drag: setCursor(Qt::CrossCursor); break;
  default: setCursor(Qt::ArrowCursor); break;
  }
  measure();
  if (larger) askForDetail();
  update();
}

void PictureView::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

void PictureView::setEmptyText(const QString& title, const QString& text) {
  emptyTitle_ = title;
  emptyText_ = text;
  update();
}

bool PictureView::dragging() const {
  return marks_.pointer == PictureMarks::Pointer::Lift || marks_.pointer == PictureMarks::Pointer::Drag;
}

bool PictureView::clickable() const {
  return marks_.pointer == PictureMarks::Pointer::Spot || marks_.pointer == PictureMarks::Pointer::Place;
}

double PictureView::dividerX() const {
  const QRectF r = place_.rect();
  return r.left() + divider_ * r.width();
}

// ---- Size

void PictureView::setDetail(const QImage& part, const QRectF& place) {
  detail_ = part;
  detailPlace_ = place;
  update();
}

/// The visible part, when more pixels than are shown lie behind it.
void PictureView::askForDetail() {
  constexpr double kWorthIt = 1.15;
  if (marks_.fullSize.isEmpty() || image_.isNull()) return;
  const double shown = place_.rect().width() * devicePixelRatioF();
  if (shown < kWorthIt * image_.width() && place_.zoom() < 1) return;
  if (const QRectF seen = place_.seen(); !seen.isEmpty()) emit detailWanted(seen);
}

void PictureView::placed() {
  detail_ = {};
  askForDetail();
  update();
  emit zoomChanged();
}

void PictureView::toggleActualSize() {
  if (place_.whole())
    place_.showPixels(chosen_ >= 0 ? marks_.places[std::size_t(chosen_)].label : cross_);
  else
    place_.showWhole();
  placed();
}

void PictureView::showWhole() {
  place_.showWhole();
  placed();
}

void PictureView::zoomBy(double factor) {
  const bool under = rect().contains(mapFromGlobal(QCursor::pos()));
  place_.zoomAt(under ? QPointF(mapFromGlobal(QCursor::pos())) : place_.toWidget(cross_), factor);
  placed();
}

void PictureView::resizeEvent(QResizeEvent*) {
  measure();
  askForDetail();
}

void PictureView::wheelEvent(QWheelEvent* event) {
  if (image_.isNull() || event->angleDelta().y() == 0) return event->ignore();
  place_.zoomAt(event->position(), std::pow(kZoomStep, event->angleDelta().y() / 120.0));
  placed();
}

bool PictureView::event(QEvent* event) {
  if (event->type() == QEvent::NativeGesture && !image_.isNull()) {
    const auto* pinch = static_cast<QNativeGestureEvent*>(event);
    if (pinch->gestureType() == Qt::ZoomNativeGesture) {
      place_.zoomAt(pinch->position(), 1 + pinch->value());
      placed();
      return true;
    }
  }
  return QWidget::event(event);
}

// ---- The hand

/// A press, by pointer or key, at a place of the picture.
void PictureView::press(QPointF at) {
  if (dragging()) {
    dragOn_ = true;
    dragFrom_ = dragTo_ = at;
    emit dragBegan(at);
  } else if (painting()) {
    stroke_ = QPolygonF({at});
    update();
  }
}

void PictureView::moveTo(QPointF at) {
  if (dragOn_) {
    dragTo_ = at;
    emit dragged(at);
  } else if (!stroke_.isEmpty()) {
    stroke_ << at;
  }
  update();
}

void PictureView::release(QPointF at) {
  if (std::exchange(dragOn_, false)) {
    update();
    emit dragEnded(at);
  } else if (!stroke_.isEmpty()) {
    const QPolygonF done = std::exchange(stroke_, {});
    update();
    emit strokePainted(done);
  }
}

void PictureView::mousePressEvent(QMouseEvent* event) {
  if (byKeys_) release(cross_);
  byKeys_ = false;
  pressedAt_ = movedAt_ = event->position();
  dragged_ = false;
  onDivider_ = !marks_.beside.isNull() && marks_.divider && std::abs(event->position().x() - dividerX()) < 10;
  if (onDivider_ || event->button() != Qt::LeftButton || !place_.rect().contains(event->position())) return;
  if (event->modifiers() & Qt::ControlModifier) return; // moves the picture whatever tool is in hand
  press(place_.toPicture(event->position()));
}

void PictureView::mouseMoveEvent(QMouseEvent* event) {
  hover_ = event->position();
  if (onDivider_) {
    divider_ = std::clamp(place_.toPicture(event->position()).x(), 0.0, 1.0);
    return update();
  }
  if (dragOn_ || !stroke_.isEmpty()) return moveTo(place_.toPicture(event->position()));
  if (painting() || !marks_.places.empty()) update();
  const bool held = event->buttons() & (Qt::LeftButton | Qt::MiddleButton);
  if (!held) return;
  dragged_ = dragged_ || (event->position() - pressedAt_).manhattanLength() > 4;
  if (!dragged_) return;
  if (place_.whole()) return carryOut();
  place_.pan(event->position() - std::exchange(movedAt_, event->position()));
  placed();
}

void PictureView::mouseReleaseEvent(QMouseEvent* event) {
  if (std::exchange(onDivider_, false)) return;
  if (dragOn_ || !stroke_.isEmpty()) return release(place_.toPicture(event->position()));
  if (!clickable() || dragged_ || event->button() != Qt::LeftButton || !place_.rect().contains(event->position()))
    return;
  cross_ = place_.toPicture(event->position());
  emit clicked(cross_);
}

void PictureView::leaveEvent(QEvent*) {
  hover_ = {-1, -1};
  update();
}

void PictureView::contextMenuEvent(QContextMenuEvent* event) {
  const bool keyed = event->reason() == QContextMenuEvent::Keyboard;
  const QPointF at = keyed ? place_.toWidget(cross_) : QPointF(event->pos());
  if (!image_.isNull()) emit menuWanted(place_.toPicture(at), mapToGlobal(at.toPoint()));
}

/// The picture as it is on screen, for other programs.
void PictureView::carryOut() {
  if (image_.isNull() || marks_.pointer != PictureMarks::Pointer::Look) return;
  auto* drag = new QDrag(this);
  auto* mime = new QMimeData;
  mime->setImageData(image_);
  drag->setMimeData(mime);
  drag->setPixmap(QPixmap::fromImage(image_.scaled(160, 160, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
  drag->exec(Qt::CopyAction);
}

// ---- The keys

void PictureView::moveCross(QPointF by) {
  cross_ = {std::clamp(cross_.x() + by.x(), 0.0, 1.0), std::clamp(cross_.y() + by.y(), 0.0, 1.0)};
  setAccessibleDescription(
      tr("%1 % across, %2 % down").arg(100 * cross_.x(), 0, 'f', 1).arg(100 * cross_.y(), 0, 'f', 1));
  if (byKeys_) moveTo(cross_);
  update();
}

/// From place to place, pixel by pixel.
void PictureView::goToPlace(int step) {
  const int count = int(marks_.places.size());
  chosen_ = chosen_ < 0 ? (step > 0 ? 0 : count - 1) : (chosen_ + step + count) % count;
  const MovedPlace& place = marks_.places[std::size_t(chosen_)];
  cross_ = place.label;
  setAccessibleDescription(tr("Place %1 of %2, from frame %3").arg(chosen_ + 1).arg(count).arg(place.number));
  place_.showPixels(place.label);
  placed();
}

void PictureView::keyPressEvent(QKeyEvent* event) {
  if (image_.isNull()) return QWidget::keyPressEvent(event);
  if (const auto arrow = arrowOf(event->key())) {
    const auto held = event->modifiers() & ~Qt::KeypadModifier;
    if (held == Qt::AltModifier && marks_.divider) {
      divider_ = std::clamp(divider_ + kDividerStep * arrow->x(), 0.0, 1.0);
      return update();
    }
    const bool places = marks_.pointer == PictureMarks::Pointer::Place && !marks_.places.empty();
    if (held == Qt::NoModifier && places) return goToPlace(arrow->x() + arrow->y() > 0 ? 1 : -1);
    if (held == Qt::ControlModifier || (marks_.pointer == PictureMarks::Pointer::Look && !place_.whole())) {
      place_.pan(*arrow * -kPanStep);
      return placed();
    }
    return moveCross(*arrow * (held == Qt::ShiftModifier ? kFineStep : kCrossStep));
  }
  if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && event->modifiers() == Qt::NoModifier) {
    if (clickable()) return emit clicked(cross_);
    if (byKeys_)
      release(cross_);
    else
      press(cross_);
    byKeys_ = !byKeys_ && (dragOn_ || !stroke_.isEmpty());
    return;
  }
  QWidget::keyPressEvent(event);
}

} // namespace ml
