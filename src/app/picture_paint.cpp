// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/picture_view.h"

#include "app/monitor_colour.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kNear = 70; ///< Of the pointer, from which a place is named.

/// Two thin lines, dark and light, so that an outline is seen on any picture; no colour near it.
void drawTwice(QPainter& p, const QPainterPath& path, double strength, Qt::PenStyle style) {
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, int(150 * strength)), 2.6));
  p.drawPath(path);
  p.setPen(QPen(QColor(255, 255, 255, int(230 * strength)), 1.2, style));
  p.drawPath(path);
}

void drawTag(QPainter& p, const QRectF& tag, const QString& text) {
  p.setPen(Qt::NoPen);
  p.setBrush(QColor(20, 20, 20, 190));
  p.drawRoundedRect(tag, 4, 4);
  p.setPen(Qt::white);
  p.drawText(tag, Qt::AlignCenter, text);
}

} // namespace

const QImage& ShownPicture::of(const QImage& srgb) {
  const MonitorColour& monitor = monitorColour();
  if (monitor.isSrgb()) return srgb;
  if (key_ != srgb.cacheKey() || colours_ != monitor.key())
    key_ = srgb.cacheKey(), colours_ = monitor.key(), shown_ = monitor.shown(srgb);
  return shown_;
}

QTransform PictureView::ontoWidget() const {
  const QRectF r = place_.rect();
  QTransform onto;
  onto.translate(r.left(), r.top());
  onto.scale(r.width(), r.height());
  return onto;
}

void PictureView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme_->surround);
  p.setRenderHint(QPainter::Antialiasing);
  if (image_.isNull()) return drawEmpty(p);
  p.setRenderHint(QPainter::SmoothPixmapTransform, place_.whole() || !marks_.fullSize.isEmpty());
  p.drawImage(place_.rect(), shown_.of(image_));
  drawDetail(p);
  drawBeside(p);
  if (!marks_.beside.isNull() && !marks_.divider) return;
  drawMarks(p);
  drawDragHint(p);
  drawPlaces(p);
  drawBrush(p);
  drawSpots(p);
  drawMoved(p);
  drawName(p, place_.rect().topLeft(), marks_.caption);
  drawCross(p);
}

void PictureView::drawEmpty(QPainter& p) const {
  const QRect area = rect().adjusted(60, 0, -60, 0);
  p.setPen(theme_->text);
  p.setFont(uiFont(16, true));
  p.drawText(area.adjusted(0, 0, 0, -height() / 2 - 6), Qt::AlignHCenter | Qt::AlignBottom | Qt::TextWordWrap,
             emptyTitle_);
  p.setPen(theme_->quiet);
  p.setFont(uiFont(11));
  p.drawText(area.adjusted(0, height() / 2 + 6, 0, 0), Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, emptyText_);
}

/// Pixel on pixel at 100 %.
void PictureView::drawDetail(QPainter& p) const {
  if (detail_.isNull()) return;
  const QPointF from = place_.toWidget(detailPlace_.topLeft());
  if (std::abs(place_.zoom() - 1) < 1e-9) {
    p.setRenderHint(QPainter::SmoothPixmapTransform, false);
    p.drawImage(
        QRectF(QPointF(std::round(from.x()), std::round(from.y())), QSizeF(detail_.size()) / devicePixelRatioF()),
        shownDetail_.of(detail_));
  } else {
    p.setRenderHint(QPainter::SmoothPixmapTransform, place_.zoom() < 2);
    p.drawImage(QRectF(from, place_.toWidget(detailPlace_.bottomRight())), shownDetail_.of(detail_));
  }
}

void PictureView::drawMarks(QPainter& p) const {
  const QRectF r = place_.rect();
  const QTransform onto = ontoWidget();
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
  for (std::size_t i = 0; i < marks_.rings.size(); ++i)
    twice([&] {
      const QPointF at = onto.map(marks_.rings[i]);
      p.drawEllipse(at, 12, 12);
      if (i < marks_.ringNames.size())
        p.drawText(QRectF(at.x() + 14, at.y() - 12, 40, 24), Qt::AlignLeft | Qt::AlignVCenter, marks_.ringNames[i]);
    });
}

void PictureView::drawBeside(QPainter& p) const {
  if (marks_.beside.isNull()) return;
  const QRectF r = place_.rect();
  if (marks_.divider) {
    const double x = dividerX();
    p.save();
    p.setClipRect(QRectF(r.left(), r.top(), x - r.left(), r.height()));
    p.drawImage(r, shownBeside_.of(marks_.beside));
    p.restore();
    p.setPen(QPen(QColor(0, 0, 0, 150), 3));
    p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
    p.setPen(QPen(Qt::white, 1.2));
    p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
    p.setBrush(QColor(20, 20, 20, 200));
    p.drawEllipse(QPointF(x, r.center().y()), 7, 7);
    drawName(p, r.topLeft(), marks_.besideName);
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
  p.drawImage(fit(0), shownBeside_.of(marks_.beside));
  p.drawImage(fit(half), shown_.of(image_));
  drawName(p, fit(0).topLeft(), marks_.besideName);
}

/// What a picture is, in its corner.
void PictureView::drawName(QPainter& p, QPointF corner, const QString& name) const {
  if (name.isEmpty()) return;
  p.setFont(uiFont(9));
  const QRectF box(corner + QPointF(8, 8),
                   QSizeF(p.fontMetrics().horizontalAdvance(name) + 16, p.fontMetrics().height() + 6));
  p.setPen(Qt::NoPen);
  p.setBrush(QColor(20, 20, 20, 190));
  p.drawRoundedRect(box, 3, 3);
  p.setPen(QColor(240, 240, 240));
  p.drawText(box, Qt::AlignCenter, name);
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

/// Quiet until the pointer or a key is near; then drawn in full, and named from outside.
void PictureView::drawPlaces(QPainter& p) const {
  const QTransform onto = ontoWidget();
  for (int i = 0; i < int(marks_.places.size()); ++i) {
    const MovedPlace& place = marks_.places[std::size_t(i)];
    const QPainterPath outline = onto.map(place.outline);
    const QRectF reach = outline.boundingRect().adjusted(-kNear, -kNear, kNear, kNear);
    const bool near = i == chosen_ || (hover_.x() >= 0 && reach.contains(hover_));
    drawTwice(p, outline, near ? 1 : 0.5, place.painted ? Qt::DotLine : near ? Qt::SolidLine : Qt::DashLine);
    if (near) drawPlaceTag(p, place, outline);
  }
}

/// Beside what it names, where there is room, with a line to it.
void PictureView::drawPlaceTag(QPainter& p, const MovedPlace& place, const QPainterPath& outline) const {
  const QString words = tr("frame %1").arg(place.number);
  p.setFont(uiFont(9, true));
  const QSizeF size(p.fontMetrics().horizontalAdvance(words) + 16, grown(20));
  const QRectF box = outline.boundingRect();
  QPointF at(box.right() + 18, box.top() - 14 - size.height());
  if (at.x() + size.width() > width() - 6) at.setX(box.left() - 18 - size.width());
  at = {std::clamp(at.x(), 6.0, std::max(6.0, width() - size.width() - 6)),
        std::clamp(at.y(), 6.0, std::max(6.0, height() - size.height() - 6))};
  const QRectF tag(at, size);
  const QPointF from(tag.center().x() < box.center().x() ? tag.right() : tag.left(), tag.center().y());
  QPointF to = box.center();
  double nearest = 1e18;
  for (const QPolygonF& ring : outline.toSubpathPolygons())
    for (const QPointF& point : ring)
      if (const double far = std::hypot(point.x() - from.x(), point.y() - from.y()); far < nearest)
        nearest = far, to = point;
  QPainterPath leader(from);
  leader.lineTo(to);
  drawTwice(p, leader, 1, Qt::SolidLine);
  drawTag(p, tag, words);
}

void PictureView::drawBrush(QPainter& p) const {
  if (!painting()) return;
  const QRectF r = place_.rect();
  const double radius = marks_.brush * r.width();
  p.setPen(QPen(QColor(255, 255, 255, 90), 2 * radius, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  if (stroke_.size() == 1)
    p.drawPoint(ontoWidget().map(stroke_.front()));
  else if (!stroke_.isEmpty())
    p.drawPolyline(ontoWidget().map(stroke_));
  const QPointF at = hasFocus() && hover_.x() < 0 ? place_.toWidget(cross_) : hover_;
  if (!r.contains(at)) return;
  QPainterPath ring;
  ring.addEllipse(at, radius, radius);
  drawTwice(p, ring, 1, Qt::SolidLine);
}

void PictureView::drawSpots(QPainter& p) const {
  for (const auto& r : marks_.readings)
    if (r.x)
      drawSpot(p, widgetPlace(*r.x, *r.y), (r.atLeast ? tr("over EV %1") : tr("EV %1")).arg(r.ev100.value, 0, 'f', 1),
               false);
  if (!marks_.proposals) return;
  for (const auto& z : {marks_.proposals->brightest, marks_.proposals->darkest})
    drawSpot(p, widgetPlace(z.x, z.y),
             (z.atLeast  ? tr("over EV %1")
              : z.atMost ? tr("under EV %1")
                         : tr("EV %1"))
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
  QRectF tag(box.left(), box.top() - grown(20) - 4, p.fontMetrics().horizontalAdvance(marks_.movedWhat) + 16,
             grown(20));
  if (tag.right() > width() - 4) tag.moveRight(width() - 4);
  if (tag.top() < 4) tag.moveTop(4);
  drawTag(p, tag, marks_.movedWhat);
}

/// Readings are rings; what is only proposed is a dashed ring.
void PictureView::drawSpot(QPainter& p, QPointF at, const QString& text, bool proposed) const {
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 160), 3));
  p.drawEllipse(at, 9, 9);
  p.setPen(QPen(QColor(255, 255, 255), 1.4, proposed ? Qt::DashLine : Qt::SolidLine));
  p.drawEllipse(at, 9, 9);
  p.setFont(uiFont(9, true));
  QRectF tag(at.x() + 12, at.y() - grown(10), p.fontMetrics().horizontalAdvance(text) + 16, grown(20));
  if (tag.right() > width() - 4) tag.moveRight(at.x() - 12);
  drawTag(p, tag, text);
}

/// Where the keys are, once they have the picture.
void PictureView::drawCross(QPainter& p) const {
  const bool used = clickable() || dragging() || painting();
  if (!hasFocus() || !used || chosen_ >= 0) return;
  const QPointF at = place_.toWidget(cross_);
  QPainterPath path;
  for (const QPointF arm : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)}) {
    path.moveTo(at + arm * 5);
    path.lineTo(at + arm * 15);
  }
  drawTwice(p, path, 1, Qt::SolidLine);
}

} // namespace ml
