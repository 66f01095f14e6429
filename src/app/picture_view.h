#pragma once
#include "app/theme.h"
#include "judge/scene_reading.h"
#include "model/moved_places.h"
#include "model/picture_marks.h"
#include "session/job.h"

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
  void setReadings(const std::vector<SpotReading>& readings);
  void setProposals(const std::optional<ProposedZones>& zones);
  /// A place to look at, 0..1 of the picture; empty: none.
  void setMoved(const QRectF& place, const QString& what);
  /// Outlines of what comes from one frame; a click on the picture is told as placeClicked.
  void setPlaces(const std::vector<MovedPlace>& places, bool clickable);
  /// Drags on the picture are told as dragBegan, dragged and dragEnded; `hint` is the shape drawn while dragging.
  enum class DragHint { None, Line, Oval };
  void setDragging(bool on, DragHint hint);
  void setMarks(const PictureMarks& marks);
  /// Another version of the picture beside it, or behind a divider that is dragged; null: none.
  void setBeside(const QImage& other, bool divider, const QString& name = {});
  /// The picture's full size, for 100 %; a part of it at that size is asked for by detailWanted and given back by setDetail.
  void setFullSize(const QSize& pixels);
  void setDetail(const QImage& part, const QRectF& place);
  /// A brush of this radius (share of the width) paints instead of clicking; 0: none.
  void setBrush(double radius);
  void setTheme(const Theme& theme);
  void setReading(bool reading);              ///< Clicks read a spot.
  void setEmptyText(const QString& title, const QString& text);
  [[nodiscard]] const QImage& picture() const { return image_; }
  /// Where a place of the picture (0..1) lies in the widget.
  [[nodiscard]] QPointF widgetPlace(double x, double y) const;
  [[nodiscard]] bool actualSize() const { return actualSize_; }

public slots:
  void toggleActualSize();

signals:
  void spotClicked(double x, double y);
  void placeClicked(double x, double y);
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
  void drawSpot(QPainter& p, QPointF at, const QString& text, bool proposed) const;

  const Theme* theme_ = &Theme::dusk();
  QImage image_;
  std::vector<SpotReading> readings_;
  std::optional<ProposedZones> proposals_;
  QRectF moved_;
  QString movedWhat_;
  std::vector<MovedPlace> places_;
  bool placesClickable_ = false;
  double brush_ = 0;
  QPolygonF stroke_;
  QPointF hover_{-1, -1};
  bool dragging_ = false, dragOn_ = false, dividing_ = false, onDivider_ = false;
  DragHint dragHint_ = DragHint::None;
  QPointF dragFrom_, dragTo_;
  PictureMarks marks_;
  QImage beside_, detail_;
  QString besideName_;
  QRectF detailPlace_;
  QSize fullSize_;
  double divider_ = 0.5;
  bool reading_ = false, actualSize_ = false, dragged_ = false;
  QPointF pan_, pressedAt_, panAtPress_;
  QString emptyTitle_, emptyText_;
};

} // namespace ml
