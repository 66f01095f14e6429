// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/picture_marks.h"
#include "model/picture_place.h"

#include <QImage>
#include <QPainterPath>
#include <QPolygonF>
#include <QWidget>

namespace ml {

/// A picture in the colours of the screen, worked out once.
class ShownPicture {
public:
  [[nodiscard]] const QImage& of(const QImage& srgb);

private:
  qint64 key_ = 0, colours_ = 0;
  QImage shown_;
};

/// The picture on a neutral ground, whole or enlarged, with what a station draws over it. All that a pointer does there
/// the keyboard does too: arrow keys move a cross (or go from place to place), Return presses, and presses again to let
/// go.
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
  [[nodiscard]] QPointF widgetPlace(double x, double y) const { return place_.toWidget({x, y}); }
  [[nodiscard]] bool actualSize() const { return !place_.whole(); }
  [[nodiscard]] double zoom() const { return place_.zoom(); }
  /// Where keys press; in the middle until it was moved.
  [[nodiscard]] QPointF cross() const { return cross_; }
  /// The place of the picture that keys chose; -1: none.
  [[nodiscard]] int chosenPlace() const { return chosen_; }

public slots:
  void toggleActualSize();
  void zoomIn() { zoomBy(kZoomStep); }
  void zoomOut() { zoomBy(1 / kZoomStep); }
  void showWhole();

signals:
  void clicked(QPointF at);
  void strokePainted(const QPolygonF& stroke); ///< 0..1 of the picture.
  void dragBegan(QPointF at);
  void dragged(QPointF at);
  void dragEnded(QPointF at);
  void detailWanted(const QRectF& visible);
  void zoomChanged();
  void menuWanted(QPointF at, const QPoint& screen); ///< 0..1 of the picture.

protected:
  bool event(QEvent*) override;
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void leaveEvent(QEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void contextMenuEvent(QContextMenuEvent*) override;
  void resizeEvent(QResizeEvent*) override;

private:
  static constexpr double kZoomStep = 1.25;

  void measure();
  void zoomBy(double factor);
  void placed();
  void askForDetail();
  void press(QPointF at);
  void moveTo(QPointF at);
  void release(QPointF at);
  void moveCross(QPointF by);
  void goToPlace(int step);
  void carryOut();
  [[nodiscard]] bool dragging() const;
  [[nodiscard]] bool painting() const { return marks_.pointer == PictureMarks::Pointer::Brush; }
  [[nodiscard]] bool clickable() const;
  [[nodiscard]] double dividerX() const;

  // picture_paint.cpp
  [[nodiscard]] QTransform ontoWidget() const;
  void drawEmpty(QPainter& p) const;
  void drawDetail(QPainter& p) const;
  void drawMarks(QPainter& p) const;
  void drawBeside(QPainter& p) const;
  void drawName(QPainter& p, QPointF corner, const QString& name) const;
  void drawDragHint(QPainter& p) const;
  void drawPlaces(QPainter& p) const;
  void drawPlaceTag(QPainter& p, const MovedPlace& place, const QPainterPath& outline) const;
  void drawBrush(QPainter& p) const;
  void drawMoved(QPainter& p) const;
  void drawSpots(QPainter& p) const;
  void drawSpot(QPainter& p, QPointF at, const QString& text, bool proposed) const;
  void drawCross(QPainter& p) const;

  const Theme* theme_ = &Theme::dusk();
  PicturePlace place_;
  QImage image_;
  mutable ShownPicture shown_, shownDetail_, shownBeside_;
  QPolygonF stroke_;
  QPointF hover_{-1, -1}, cross_{0.5, 0.5};
  int chosen_ = -1;
  bool dragOn_ = false, onDivider_ = false, byKeys_ = false;
  QPointF dragFrom_, dragTo_;
  PictureMarks marks_;
  QImage detail_;
  QRectF detailPlace_;
  double divider_ = 0.5;
  bool dragged_ = false;
  QPointF pressedAt_, movedAt_;
  QString emptyTitle_, emptyText_;
};

} // namespace ml
