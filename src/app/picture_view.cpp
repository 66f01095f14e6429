#include "app/picture_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <utility>

namespace ml {

PictureView::PictureView(QWidget* parent) : QWidget(parent) {
  setObjectName("picture");
  setMinimumSize(320, 200);
  setAccessibleName(tr("Picture"));
}

void PictureView::setPicture(const QImage& image) {
  image_ = image;
  update();
}

void PictureView::setReadings(const std::vector<SpotReading>& readings) {
  readings_ = readings;
  update();
}

void PictureView::setPlaces(const std::vector<MovedPlace>& places, bool clickable) {
  places_ = places;
  placesClickable_ = clickable;
  update();
}

void PictureView::setBrush(double radius) {
  brush_ = radius;
  setMouseTracking(radius > 0);
  setCursor(radius > 0 ? Qt::BlankCursor : reading_ ? Qt::CrossCursor : Qt::ArrowCursor);
  update();
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
  for (const auto& place : places_) {
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
  if (brush_ <= 0) return;
  const double radius = brush_ * r.width();
  p.setPen(QPen(QColor(255, 255, 255, 90), 2 * radius, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  if (stroke_.size() == 1) p.drawPoint(onto.map(stroke_.front()));
  else if (!stroke_.isEmpty()) p.drawPolyline(onto.map(stroke_));
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

void PictureView::setReading(bool reading) {
  reading_ = reading;
  setCursor(reading ? Qt::CrossCursor : Qt::ArrowCursor);
}

void PictureView::setEmptyText(const QString& title, const QString& text) {
  emptyTitle_ = title;
  emptyText_ = text;
  update();
}

void PictureView::toggleActualSize() {
  actualSize_ = !actualSize_;
  pan_ = {};
  update();
}

QRectF PictureView::pictureRect() const {
  if (image_.isNull()) return {};
  const QSizeF size(image_.size());
  if (actualSize_) {
    const double ratio = devicePixelRatioF();
    const QSizeF shown = size / ratio;
    return {QPointF(width() / 2.0, height() / 2.0) - QPointF(shown.width() / 2, shown.height() / 2) + pan_, shown};
  }
  const double margin = 18, scale = std::min((width() - 2 * margin) / size.width(), (height() - 2 * margin) / size.height());
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
    p.drawText(area.adjusted(0, 0, 0, -height() / 2 - 6), Qt::AlignHCenter | Qt::AlignBottom | Qt::TextWordWrap, emptyTitle_);
    p.setPen(theme_->quiet);
    p.setFont(uiFont(11));
    p.drawText(area.adjusted(0, height() / 2 + 6, 0, 0), Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, emptyText_);
    return;
  }
  p.setRenderHint(QPainter::SmoothPixmapTransform, !actualSize_);
  p.drawImage(pictureRect(), image_);
  drawPlaces(p);
  for (const auto& r : readings_)
    if (r.x) drawSpot(p, widgetPlace(*r.x, *r.y), tr(r.atLeast ? "over EV %1" : "EV %1").arg(r.ev100.value, 0, 'f', 1), false);
  if (proposals_)
    for (const auto& z : {proposals_->brightest, proposals_->darkest})
      drawSpot(p, widgetPlace(z.x, z.y), tr(z.atLeast ? "over EV %1" : z.atMost ? "under EV %1" : "EV %1").arg(z.ev100.value, 0, 'f', 1), true);
  if (!moved_.isEmpty()) {
    const QRectF box(widgetPlace(moved_.left(), moved_.top()), widgetPlace(moved_.right(), moved_.bottom()));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(0, 0, 0, 160), 3));
    p.drawRoundedRect(box, 4, 4);
    p.setPen(QPen(QColor(255, 255, 255), 1.4, Qt::DashLine));
    p.drawRoundedRect(box, 4, 4);
    p.setFont(uiFont(9, true));
    const QRectF tag(box.left(), box.top() - 24, p.fontMetrics().horizontalAdvance(movedWhat_) + 16, 20);
    p.setPen(Qt::NoPen);
    p.setBrush(QColor(20, 20, 20, 190));
    p.drawRoundedRect(tag, 4, 4);
    p.setPen(Qt::white);
    p.drawText(tag, Qt::AlignCenter, movedWhat_);
  }
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

void PictureView::setProposals(const std::optional<ProposedZones>& zones) {
  proposals_ = zones;
  update();
}

void PictureView::setMoved(const QRectF& place, const QString& what) {
  moved_ = place;
  movedWhat_ = what;
  update();
}

void PictureView::mousePressEvent(QMouseEvent* event) {
  pressedAt_ = event->position();
  panAtPress_ = pan_;
  dragged_ = false;
  if (brush_ > 0 && event->button() == Qt::LeftButton && pictureRect().contains(event->position())) {
    stroke_ = QPolygonF({picturePlace(event->position())});
    update();
  }
}

void PictureView::mouseMoveEvent(QMouseEvent* event) {
  if (brush_ > 0) {
    hover_ = event->position();
    if (!stroke_.isEmpty()) stroke_ << picturePlace(event->position());
    return update();
  }
  if (!actualSize_ || !(event->buttons() & Qt::LeftButton)) return;
  pan_ = panAtPress_ + event->position() - pressedAt_;
  dragged_ = dragged_ || (event->position() - pressedAt_).manhattanLength() > 4;
  update();
}

void PictureView::mouseReleaseEvent(QMouseEvent* event) {
  const QRectF r = pictureRect();
  if (!stroke_.isEmpty()) {
    const QPolygonF done = std::exchange(stroke_, {});
    update();
    return emit strokePainted(done);
  }
  if (placesClickable_ && !dragged_ && event->button() == Qt::LeftButton && r.contains(event->position())) {
    const QPointF at = picturePlace(event->position());
    return emit placeClicked(at.x(), at.y());
  }
  if (!reading_ || dragged_ || event->button() != Qt::LeftButton || !r.contains(event->position())) return;
  emit spotClicked((event->position().x() - r.left()) / r.width(), (event->position().y() - r.top()) / r.height());
}

} // namespace ml
