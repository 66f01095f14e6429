// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QPointF>
#include <QRectF>
#include <QSizeF>

namespace ml {

/// Where a picture lies in the widget that shows it: whole, or enlarged about a place. Sizes of the widget in its own
/// units, `density` pixels of the screen to one of them; the picture in its own pixels.
class PicturePlace {
public:
  void setRoom(const QSizeF& widget, double density);
  /// Another picture keeps the zoom and what is in the middle.
  void setPicture(const QSizeF& pixels);

  [[nodiscard]] bool whole() const { return zoom_ == 0; }
  /// Screen pixels to one of the picture.
  [[nodiscard]] double zoom() const { return whole() ? fitting() : zoom_; }
  /// Of the whole picture, in the widget; empty without a picture.
  [[nodiscard]] QRectF rect() const;
  /// The part of the picture that is seen, 0..1.
  [[nodiscard]] QRectF seen() const;
  [[nodiscard]] QPointF toPicture(QPointF widget) const;
  [[nodiscard]] QPointF toWidget(QPointF picture) const;

  void showWhole() { zoom_ = 0; }
  /// Pixel by pixel, with this place of the picture (0..1) in the middle.
  void showPixels(QPointF place);
  /// What lies at this place of the widget stays there.
  void zoomAt(QPointF widget, double factor);
  void pan(QPointF by);

  static constexpr double kMargin = 18, kMostZoom = 16;

private:
  [[nodiscard]] double fitting() const;
  [[nodiscard]] QSizeF shown() const;
  void keepInside();

  QSizeF room_, pixels_;
  double density_ = 1, zoom_ = 0;
  QPointF middle_{0.5, 0.5}; ///< Of the picture, in the middle of the widget; when it is not shown whole.
};

} // namespace ml
