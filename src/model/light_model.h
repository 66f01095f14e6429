// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/station_model.h"

#include <deque>

namespace ml {

/// Light: spots and what they read, through the finder, from a test frame or from frames of the user's own.
class LightModel : public StationModel {
  Q_OBJECT

public:
  explicit LightModel(Desk& desk);

  [[nodiscard]] QString id() const override { return stations::kLight; }
  [[nodiscard]] QString name() const override { return tr("Light"); }
  [[nodiscard]] StationState state() const override { return stationStates(desk_.view()).light; }
  [[nodiscard]] QString verdict() const override;
  [[nodiscard]] QStringList reasons() const override;
  [[nodiscard]] QImage picture() const override;
  [[nodiscard]] PictureMarks marks() const override;
  void addTo(LadderContent& content) const override;
  [[nodiscard]] Next next() const override;
  void doNext() override;
  void enter() override;
  void click(QPointF at) override { readSpot(at.x(), at.y()); }
  [[nodiscard]] std::vector<Choice> choicesAt(QPointF at) override;

  /// Reads a spot of the picture (0..1) and adds it.
  void readSpot(double x, double y);
  /// As parseReading takes it, at the chosen aperture and ISO 100. False when the text is no reading.
  bool typeReading(const QString& name, const QString& text);
  void renameReading(int index, const QString& name);
  void removeReading(int index);
  void setKeepTexture(int index, bool keep);
  void brightenFinder(double stops);
  /// Of the picture's width.
  [[nodiscard]] double spotRadius() const { return spotRadius_; }
  void setSpotRadius(double radius);
  /// Points the camera there; readings are of the position they were taken at.
  void lookAtPosition(int index);

  /// One frame at the finder's exposure, shown until the next reading is done on the finder again.
  void takeTestFrame();
  [[nodiscard]] bool showsTestFrame() const { return testFrame_ != nullptr; }
  void putTestFrameAway();
  [[nodiscard]] const QImage& testImage() const { return testImage_; }
  /// Darkest and brightest zone of the test frame.
  [[nodiscard]] const std::optional<ProposedZones>& proposals() const { return proposals_; }
  void takeProposals();

private:
  void addReading(const QString& words, SpotReading reading);
  void measureNext();
  void measured(double x, double y, const SpotMeasure& spot);
  [[nodiscard]] bool proposing() const { return proposals_ && desk_.view().readings.size() < 2; }

  std::deque<QPointF> spots_; ///< Clicked and not read yet.
  double spotRadius_ = 0.008;
  std::shared_ptr<const Frame> testFrame_;
  QImage testImage_;
  std::optional<ProposedZones> proposals_;
};

} // namespace ml
