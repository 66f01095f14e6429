// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/picture_place.h"

#include <algorithm>

namespace ml {

void PicturePlace::setRoom(const QSizeF& widget, double density) {
  room_ = widget;
  density_ = density;
  keepInside();
}

void PicturePlace::setPicture(const QSizeF& pixels) {
  pixels_ = pixels;
  keepInside();
}

double PicturePlace::fitting() const {
  if (pixels_.isEmpty()) return 1;
  return std::max(1e-6, std::min((room_.width() - 2 * kMargin) / pixels_.width(),
                                 (room_.height() - 2 * kMargin) / pixels_.height()) *
                            density_);
}

QSizeF PicturePlace::shown() const {
  return pixels_ * (zoom() / density_);
}

QRectF PicturePlace::rect() const {
  if (pixels_.isEmpty()) return {};
  const QSizeF size = shown();
  const QPointF middle = whole() ? QPointF(0.5, 0.5) : middle_;
  return {QPointF(room_.width() / 2 - middle.x() * size.width(), room_.height() / 2 - middle.y() * size.height()),
          size};
}

QRectF PicturePlace::seen() const {
  const QRectF part = rect().intersected(QRectF(QPointF(0, 0), room_));
  return part.isEmpty() ? QRectF() : QRectF(toPicture(part.topLeft()), toPicture(part.bottomRight()));
}

QPointF PicturePlace::toPicture(QPointF widget) const {
  const QRectF r = rect();
  return r.isEmpty() ? QPointF() : QPointF((widget.x() - r.left()) / r.width(), (widget.y() - r.top()) / r.height());
}

QPointF PicturePlace::toWidget(QPointF picture) const {
  const QRectF r = rect();
  return {r.left() + picture.x() * r.width(), r.top() + picture.y() * r.height()};
}

void PicturePlace::showPixels(QPointF place) {
  zoom_ = 1;
  middle_ = place;
  keepInside();
}

void PicturePlace::zoomAt(QPointF widget, double factor) {
  const QPointF place = toPicture(widget);
  const double before = zoom(), wanted = before * factor;
  if (wanted <= fitting()) return showWhole();
  // 100 % is a place to stop at.
  zoom_ = (before - 1) * (wanted - 1) < 0 ? 1 : std::min(wanted, kMostZoom);
  const QSizeF size = shown();
  middle_ = {place.x() - (widget.x() - room_.width() / 2) / size.width(),
             place.y() - (widget.y() - room_.height() / 2) / size.height()};
  keepInside();
}

void PicturePlace::pan(QPointF by) {
  if (whole()) return;
  const QSizeF size = shown();
  middle_ -= QPointF(by.x() / size.width(), by.y() / size.height());
  keepInside();
}

/// No side of the picture comes further in than the middle of the room.
void PicturePlace::keepInside() {
  middle_ = {std::clamp(middle_.x(), 0.0, 1.0), std::clamp(middle_.y(), 0.0, 1.0)};
}

} // namespace ml
