// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/ladder.h"

#include <QWidget>

namespace ml {

/// The Light Ladder: the scene's light, the readings, the frames and the paper on one vertical scale of stops. Each
/// kind of mark has a lane of its own: the scale, the scene's light, the frames with what each gave beside it, and
/// names. Keys: left and right choose a frame, up and down a tie, Shift with them pulls it.
class LadderWidget : public QWidget {
  Q_OBJECT

public:
  explicit LadderWidget(QWidget* parent = nullptr);
  void show(const LadderData& data, int shownFrame);
  void setTheme(const Theme& theme);
  [[nodiscard]] const LadderData& data() const { return data_; }
  QSize sizeHint() const override { return {310, 600}; }

signals:
  void frameChosen(int index);
  /// The light at this EV is dragged to this tone of paper (stops).
  void tieDragged(double ev, double paper, int dragId);

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void contextMenuEvent(QContextMenuEvent*) override;

private:
  [[nodiscard]] double yOf(double ev) const;
  [[nodiscard]] double paperY(double stops) const;
  [[nodiscard]] double paperAt(double y) const;
  /// The tie whose paper end is nearest; -1: none within reach.
  [[nodiscard]] int tieAt(QPointF at) const;
  [[nodiscard]] QRectF columnRect(int index) const;
  void drawScale(QPainter& p) const;
  void drawWanted(QPainter& p) const;
  void drawLegend(QPainter& p) const;
  void drawGlow(QPainter& p) const;
  void drawUncovered(QPainter& p) const;
  void drawColumns(QPainter& p) const;
  void drawColumn(QPainter& p, int index) const;
  void drawGivenBy(QPainter& p, int index) const;
  void drawFeet(QPainter& p) const;
  void drawTies(QPainter& p) const;
  [[nodiscard]] double pitch() const;
  [[nodiscard]] double columnsRight() const;
  void chooseColumn(int step);
  void chooseTie(int step);
  void pullChosenTie(double stops);
  void drawGiven(QPainter& p) const;
  void drawPinLines(QPainter& p) const;
  void drawPins(QPainter& p) const;
  [[nodiscard]] std::vector<LadderData::Pin> pinsFromTheTop() const;
  [[nodiscard]] std::vector<double> namePlaces(const std::vector<LadderData::Pin>& pins) const;
  void drawPaper(QPainter& p) const;
  void drawEmpty(QPainter& p) const;
  void carryOut();

  const Theme* theme_ = &Theme::dusk();
  LadderData data_;
  int shownFrame_ = -1;
  int heldTie_ = -1, drag_ = 0;
  QPointF pressedAt_;
  double heldEv_ = 0, heldPaper_ = 0;
  int keyTie_ = -1; ///< Chosen by keys.
};

} // namespace ml
