// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/picture_marks.h"

#include <QImage>
#include <QPainterPath>
#include <QPolygonF>
#include <QWidget>

namespace ml {

/// The picture on a neutral ground, whole or at 100 %, with the places of readings.
class PictureView : public QWidget {
  Q_OBJECT

public:
  explicit PictureView(QWidget* parent = nullptr);
  void setPicture(const QImage& image);
  /// What a station draws over it, and what presses on it do.
  void setMarks(const PictureMarks& marks);
  /// Answers detailWanted: a part of the picture at its full size.
  void setDetail(const QImage& part, const QRectF& place);
  void setTheme(const Theme& theme);
  void setEmptyText(const QString& title, const QString& text);
  [[nodiscard]] const QImage& picture() const { return image_; }
  /// Where a place of the picture (0..1) lies in the widget.
  [[nodiscard]] QPointF widgetPlace(double x, double y) const;
  [[nodiscard]] bool actualSize() const { return actualSize_; }

public slots:
  void toggleActualSize();

signals:
  void clicked(QPointF at);
  void strokePainted(const QPolygonF& stroke); ///< 0..1 of the picture.
  void dragBegan(QPointF at);
  void dragged(QPointF at);
  void dragEnded(QPointF at);
  void detailWanted(const QRectF& visible);

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void resizeEvent(QResizeEvent*) override;

private:
  [[nodiscard]] QRectF pictureRect() const;
  void drawPlaces(QPainter& p) const;
  void drawMarks(QPainter& p) const;
  void drawBeside(QPainter& p) const;
  void nameBeside(QPainter& p, QPointF corner) const;
  void drawDragHint(QPainter& p) const;
  void askForDetail();
  [[nodiscard]] double dividerX() const;
  [[nodiscard]] QPointF picturePlace(QPointF at) const;
  [[nodiscard]] bool dragging() const;
  [[nodiscard]] bool painting() const { return marks_.pointer == PictureMarks::Pointer::Brush; }
  void drawMoved(QPainter& p) const;
  void drawSpots(QPainter& p) const;
  void drawSpot(QPainter& p, QPointF at, const QString& text, bool proposed) const;

  const Theme* theme_ = &Theme::dusk();
  QImage image_;
  QPolygonF stroke_;
  QPointF hover_{-1, -1};
  bool dragOn_ = false, onDivider_ = false;
  QPointF dragFrom_, dragTo_;
  PictureMarks marks_;
  QImage detail_;
  QRectF detailPlace_;
  double divider_ = 0.5;
  bool actualSize_ = false, dragged_ = false;
  QPointF pan_, pressedAt_, panAtPress_;
  QString emptyTitle_, emptyText_;
};

} // namespace ml
