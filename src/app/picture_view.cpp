// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/picture_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace ml {

PictureView::PictureView(QWidget* parent) : QWidget(parent) {
  setObjectName("picture");
  setMinimumSize(320, 200);
  setAccessibleName(tr("Picture"));
}

void PictureView::setPicture(const QImage& image) {
  const bool same = image.size() == image_.size();
  image_ = image;
  detail_ = {};
  if (!same) pan_ = {};
  askForDetail();
  update();
}

void PictureView::setMarks(const PictureMarks& marks) {
  using enum PictureMarks::Pointer;
  const bool larger = marks.fullSize != marks_.fullSize;
  marks_ = marks;
  setMouseTracking(painting());
  switch (marks_.pointer) {
  case Brush: setCursor(Qt::BlankCursor); break;
  case Lift: setCursor(Qt::SizeVerCursor); break;
  case Spot:
  case Drag: setCursor(Qt::CrossCursor); break;
  default: setCursor(Qt::ArrowCursor); break;
  }
  if (larger) askForDetail();
  update();
}

bool PictureView::dragging() const {
  return marks_.pointer == PictureMarks::Pointer::Lift || marks_.pointer == PictureMarks::Pointer::Drag;
}

void PictureView::setDetail(const QImage& part, const QRectF& place) {
  if (!actualSize_) return;
  detail_ = part;
  detailPlace_ = place;
  update();
}

/// The visible part, when more pixels than are shown lie behind it.
void PictureView::askForDetail() {
  const QRectF r = pictureRect();
  if (!actualSize_ || marks_.fullSize.isEmpty() || image_.isNull() || r.isEmpty()) return;
  const QRectF seen = r.intersected(QRectF(rect()));
  if (seen.isEmpty()) return;
  emit detailWanted(QRectF((seen.left() - r.left()) / r.width(), (seen.top() - r.top()) / r.height(),
                           seen.width() / r.width(), seen.height() / r.height()));
}

double PictureView::dividerX() const {
  const QRectF r = pictureRect();
  return r.left() + divider_ * r.width();
}

void PictureView::resizeEvent(QResizeEvent*) {
  askForDetail();
}

void PictureView::drawMarks(QPainter& p) const {
  const QRectF r = pictureRect();
  QTransform onto;
  onto.translate(r.left(), r.top());
  onto.scale(r.width(), r.height());
  p.setBrush(Qt::NoBrush);
  const auto twice = [&](auto&& draw) {
    p.setPen(QPen(QColor(0, 0, 0, 150), 2.6));
    draw();
    p.setPen(QPen(QColor(255, 255, 255, 220), 1.1, Qt::DashLine));
    draw();
  };
  if (!marks_.guides.isEmpty()) {
    for (const auto& pen : {QPen(QColor(0, 0, 0, 70), 2), QPen(QColor(255, 255, 255, 120), 1)}) {
      p.setPen(pen);
      p.drawPath(onto.map(marks_.guides));
    }
  }
  if (!marks_.kept.isEmpty()) {
    QPainterPath away;
    away.addRect(r);
    QPainterPath kept;
    kept.addRect(onto.mapRect(marks_.kept));
    p.fillPath(away.subtracted(kept), QColor(20, 20, 20, 150));
    p.setPen(QPen(QColor(255, 255, 255, 220), 1.2));
    p.drawRect(onto.mapRect(marks_.kept));
  }
  for (const auto& outline : marks_.outlines) twice([&] { p.drawPath(onto.map(outline)); });
  for (const QPointF& ring : marks_.rings) twice([&] { p.drawEllipse(onto.map(ring), 12, 12); });
}

void PictureView::drawBeside(QPainter& p) const {
  if (marks_.beside.isNull()) return;
  const QRectF r = pictureRect();
  if (marks_.divider) {
    const double x = dividerX();
    p.save();
    p.setClipRect(QRectF(r.left(), r.top(), x - r.left(), r.height()));
    p.drawImage(r, marks_.beside);
    p.restore();
    p.setPen(QPen(QColor(0, 0, 0, 150), 3));
    p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
    p.setPen(QPen(Qt::white, 1.2));
    p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
    p.setBrush(QColor(20, 20, 20, 200));
    p.drawEllipse(QPointF(x, r.center().y()), 7, 7);
    nameBeside(p, r.topLeft());
    return;
  }
  // Side by side: the other on the left half, both whole.
  p.fillRect(rect(), theme_->surround);
  const double margin = 12, half = width() / 2.0;
  const auto fit = [&](double left) {
    const QSizeF size =
        QSizeF(image_.size()).scaled(QSizeF(half - 1.5 * margin, height() - 2 * margin), Qt::KeepAspectRatio);
    return QRectF(QPointF(left + (half - size.width()) / 2, (height() - size.height()) / 2), size);
  };
  p.drawImage(fit(0), marks_.beside);
  p.drawImage(fit(half), image_);
  nameBeside(p, fit(0).topLeft());
}

/// What the other picture is, in its corner.
void PictureView::nameBeside(QPainter& p, QPointF corner) const {
  if (marks_.besideName.isEmpty()) return;
  p.setFont(uiFont(9));
  const QRectF box(corner + QPointF(8, 8),
                   QSizeF(p.fontMetrics().horizontalAdvance(marks_.besideName) + 16, p.fontMetrics().height() + 6));
  p.setPen(Qt::NoPen);
  p.setBrush(QColor(20, 20, 20, 190));
  p.drawRoundedRect(box, 3, 3);
  p.setPen(QColor(240, 240, 240));
  p.drawText(box, Qt::AlignCenter, marks_.besideName);
}

void PictureView::drawDragHint(QPainter& p) const {
  if (!dragOn_ || marks_.dragShape == PictureMarks::DragShape::None) return;
  const QPointF a = widgetPlace(dragFrom_.x(), dragFrom_.y()), b = widgetPlace(dragTo_.x(), dragTo_.y());
  p.setBrush(Qt::NoBrush);
  for (const auto& pen : {QPen(QColor(0, 0, 0, 160), 3), QPen(Qt::white, 1.3)}) {
    p.setPen(pen);
    if (marks_.dragShape == PictureMarks::DragShape::Line)
      p.drawLine(a, b);
    else
      p.drawEllipse(a, std::abs(b.x() - a.x()), std::abs(b.y() - a.y()));
  }
}

QPointF PictureView::picturePlace(QPointF at) const {
  const QRectF r = pictureRect();
  return {(at.x() - r.left()) / r.width(), (at.y() - r.top()) / r.height()};
}

/// Two thin lines, dark and light, so that an outline is seen on any picture; no colour near it.
void PictureView::drawPlaces(QPainter& p) const {
  const QRectF r = pictureRect();
  QTransform onto;
  onto.translate(r.left(), r.top());
  onto.scale(r.width(), r.height());
  for (const auto& place : marks_.places) {
    const QPainterPath path = onto.map(place.outline);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(0, 0, 0, 150), 2.6));
    p.drawPath(path);
    p.setPen(QPen(QColor(255, 255, 255, 230), 1.1, place.painted ? Qt::DotLine : Qt::DashLine));
    p.drawPath(path);
    const QString number = QString::number(place.source + 1);
    p.setFont(uiFont(9, true));
    const QPointF at = onto.map(place.label);
    const QRectF tag(at - QPointF(10, 9), QSizeF(20, 18));
    p.setPen(Qt::NoPen);
    p.setBrush(QColor(0, 0, 0, 150));
    p.drawRoundedRect(tag, 4, 4);
    p.setPen(Qt::white);
    p.drawText(tag, Qt::AlignCenter, number);
  }
  if (!painting()) return;
  const double radius = marks_.brush * r.width();
  p.setPen(QPen(QColor(255, 255, 255, 90), 2 * radius, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  if (stroke_.size() == 1)
    p.drawPoint(onto.map(stroke_.front()));
  else if (!stroke_.isEmpty())
    p.drawPolyline(onto.map(stroke_));
  if (!r.contains(hover_)) return;
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 160), 2.4));
  p.drawEllipse(hover_, radius, radius);
  p.setPen(QPen(Qt::white, 1.1));
  p.drawEllipse(hover_, radius, radius);
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

void PictureView::toggleActualSize() {
  actualSize_ = !actualSize_;
  pan_ = {};
  detail_ = {};
  askForDetail();
  update();
}

QRectF PictureView::pictureRect() const {
  if (image_.isNull()) return {};
  const QSizeF size(image_.size());
  if (actualSize_) {
    const double ratio = devicePixelRatioF();
    const QSizeF shown = (marks_.fullSize.isEmpty() ? size : QSizeF(marks_.fullSize)) / ratio;
    return {QPointF(width() / 2.0, height() / 2.0) - QPointF(shown.width() / 2, shown.height() / 2) + pan_, shown};
  }
  const double margin = 18,
               scale = std::min((width() - 2 * margin) / size.width(), (height() - 2 * margin) / size.height());
  const QSizeF shown = size * scale;
  return {QPointF((width() - shown.width()) / 2, (height() - shown.height()) / 2), shown};
}

QPointF PictureView::widgetPlace(double x, double y) const {
  const QRectF r = pictureRect();
  return {r.left() + x * r.width(), r.top() + y * r.height()};
}

void PictureView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme_->surround);
  p.setRenderHint(QPainter::Antialiasing);
  if (image_.isNull()) {
    const QRect area = rect().adjusted(60, 0, -60, 0);
    p.setPen(theme_->text);
    p.setFont(uiFont(16, true));
    p.drawText(area.adjusted(0, 0, 0, -height() / 2 - 6), Qt::AlignHCenter | Qt::AlignBottom | Qt::TextWordWrap,
               emptyTitle_);
    p.setPen(theme_->quiet);
    p.setFont(uiFont(11));
    p.drawText(area.adjusted(0, height() / 2 + 6, 0, 0), Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
               emptyText_);
    return;
  }
  p.setRenderHint(QPainter::SmoothPixmapTransform, !actualSize_ || !marks_.fullSize.isEmpty());
  p.drawImage(pictureRect(), image_);
  if (!detail_.isNull()) {
    const QPointF from = widgetPlace(detailPlace_.left(), detailPlace_.top());
    const QSizeF size = QSizeF(detail_.size()) / devicePixelRatioF();
    p.setRenderHint(QPainter::SmoothPixmapTransform, false);
    p.drawImage(QRectF(QPointF(std::round(from.x()), std::round(from.y())), size), detail_);
  }
  drawBeside(p);
  if (!marks_.beside.isNull() && !marks_.divider) return;
  drawMarks(p);
  drawDragHint(p);
  drawPlaces(p);
  drawSpots(p);
  drawMoved(p);
}

void PictureView::drawSpots(QPainter& p) const {
  for (const auto& r : marks_.readings)
    if (r.x)
      drawSpot(p, widgetPlace(*r.x, *r.y), tr(r.atLeast ? "over EV %1" : "EV %1").arg(r.ev100.value, 0, 'f', 1), false);
  if (!marks_.proposals) return;
  for (const auto& z : {marks_.proposals->brightest, marks_.proposals->darkest})
    drawSpot(p, widgetPlace(z.x, z.y),
             tr(z.atLeast  ? "over EV %1"
                : z.atMost ? "under EV %1"
                           : "EV %1")
                 .arg(z.ev100.value, 0, 'f', 1),
             true);
}

void PictureView::drawMoved(QPainter& p) const {
  if (marks_.moved.isEmpty()) return;
  const QRectF box(widgetPlace(marks_.moved.left(), marks_.moved.top()),
                   widgetPlace(marks_.moved.right(), marks_.moved.bottom()));
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 160), 3));
  p.drawRoundedRect(box, 4, 4);
  p.setPen(QPen(QColor(255, 255, 255), 1.4, Qt::DashLine));
  p.drawRoundedRect(box, 4, 4);
  p.setFont(uiFont(9, true));
  const QRectF tag(box.left(), box.top() - 24, p.fontMetrics().horizontalAdvance(marks_.movedWhat) + 16, 20);
  p.setPen(Qt::NoPen);
  p.setBrush(QColor(20, 20, 20, 190));
  p.drawRoundedRect(tag, 4, 4);
  p.setPen(Qt::white);
  p.drawText(tag, Qt::AlignCenter, marks_.movedWhat);
}

/// Readings are rings; what is only proposed is a dashed ring.
void PictureView::drawSpot(QPainter& p, QPointF at, const QString& text, bool proposed) const {
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 160), 3));
  p.drawEllipse(at, 9, 9);
  p.setPen(QPen(QColor(255, 255, 255), 1.4, proposed ? Qt::DashLine : Qt::SolidLine));
  p.drawEllipse(at, 9, 9);
  p.setFont(uiFont(9, true));
  QRectF tag(at.x() + 12, at.y() - 10, p.fontMetrics().horizontalAdvance(text) + 16, 20);
  if (tag.right() > width() - 4) tag.moveRight(at.x() - 12);
  p.setPen(Qt::NoPen);
  p.setBrush(QColor(20, 20, 20, 190));
  p.drawRoundedRect(tag, 4, 4);
  p.setPen(Qt::white);
  p.drawText(tag, Qt::AlignCenter, text);
}

void PictureView::mousePressEvent(QMouseEvent* event) {
  pressedAt_ = event->position();
  panAtPress_ = pan_;
  dragged_ = false;
  onDivider_ = !marks_.beside.isNull() && marks_.divider && std::abs(event->position().x() - dividerX()) < 10;
  if (onDivider_) return;
  if (dragging() && event->button() == Qt::LeftButton && pictureRect().contains(event->position()) &&
      !(event->modifiers() & Qt::ControlModifier)) {
    dragOn_ = true;
    dragFrom_ = dragTo_ = picturePlace(event->position());
    emit dragBegan(dragFrom_);
    return;
  }
  if (painting() && event->button() == Qt::LeftButton && pictureRect().contains(event->position())) {
    stroke_ = QPolygonF({picturePlace(event->position())});
    update();
  }
}

void PictureView::mouseMoveEvent(QMouseEvent* event) {
  if (onDivider_) {
    divider_ = std::clamp(picturePlace(event->position()).x(), 0.0, 1.0);
    return update();
  }
  if (dragOn_) {
    dragTo_ = picturePlace(event->position());
    emit dragged(dragTo_);
    return update();
  }
  if (painting()) {
    hover_ = event->position();
    if (!stroke_.isEmpty()) stroke_ << picturePlace(event->position());
    return update();
  }
  if (!actualSize_ || !(event->buttons() & Qt::LeftButton)) return;
  pan_ = panAtPress_ + event->position() - pressedAt_;
  dragged_ = dragged_ || (event->position() - pressedAt_).manhattanLength() > 4;
  askForDetail();
  update();
}

void PictureView::mouseReleaseEvent(QMouseEvent* event) {
  const QRectF r = pictureRect();
  if (std::exchange(onDivider_, false)) return;
  if (std::exchange(dragOn_, false)) {
    update();
    return emit dragEnded(picturePlace(event->position()));
  }
  if (!stroke_.isEmpty()) {
    const QPolygonF done = std::exchange(stroke_, {});
    update();
    return emit strokePainted(done);
  }
  const bool clickable =
      marks_.pointer == PictureMarks::Pointer::Spot || marks_.pointer == PictureMarks::Pointer::Place;
  if (clickable && !dragged_ && event->button() == Qt::LeftButton && r.contains(event->position()))
    emit clicked(picturePlace(event->position()));
}

} // namespace ml
