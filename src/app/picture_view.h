#pragma once
#include "app/theme.h"
#include "judge/scene_reading.h"
#include "model/moved_places.h"
#include "session/job.h"

#include <QImage>
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

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;

private:
  [[nodiscard]] QRectF pictureRect() const;
  void drawPlaces(QPainter& p) const;
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
  bool reading_ = false, actualSize_ = false, dragged_ = false;
  QPointF pan_, pressedAt_, panAtPress_;
  QString emptyTitle_, emptyText_;
};

} // namespace ml
