// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/combine_model.h"
#include "model/finish_compare.h"
#include "model/finish_tools.h"

namespace ml {

/// Finish: the recipe and whole moves of it. What is drawn, dragged and compared have classes of their own.
class FinishModel : public StationModel {
  Q_OBJECT

public:
  FinishModel(Desk& desk, FinishedPicture& picture, CombineModel& combine);

  [[nodiscard]] QString id() const override { return stations::kFinish; }
  [[nodiscard]] QString name() const override { return tr("Finish"); }
  [[nodiscard]] StationState state() const override { return stationStates(desk_.view()).finish; }
  [[nodiscard]] QString verdict() const override;
  [[nodiscard]] QStringList reasons() const override;
  [[nodiscard]] QImage picture() const override;
  [[nodiscard]] PictureMarks marks() const override;
  void addTo(LadderContent& content) const override;
  [[nodiscard]] Next next() const override {
    return {tr("On to Deliver"), desk_.view().combined.has_value() && !desk_.busy(), true};
  }
  void doNext() override { emit goTo(stations::kDeliver); }
  void enter() override;
  void leave() override { shown_ = false; }
  void dragBegins(QPointF at) override { tools.press(at); }
  void drag(QPointF at) override { tools.drag(at); }
  void dragEnds(QPointF at) override { tools.release(at); }
  void showDetail(const QRectF& part) override { finished.showDetail(part); }

  FinishedPicture& finished;
  FinishTools tools;
  FinishCompare compare;

  [[nodiscard]] const Recipe& recipe() const { return desk_.view().recipe; }
  void setRecipe(const Recipe& recipe, int drag = 0) { changeRecipe(desk_, recipe, drag); }
  /// Light at this EV100 goes to this tone of the paper.
  void pullTie(double ev100, double paper, int drag);
  void takeWhiteTrim();
  /// As metered, lighter, deeper, and round again.
  void nextStart();
  /// Patterns over what is at white or black.
  [[nodiscard]] bool showsClipping() const { return clipping_; }
  void showClipping(bool shown);
  /// Does what mends the worst finding.
  void remedy();
  /// Ours, then the user's own.
  [[nodiscard]] std::vector<Look> allLooks() const;
  void chooseLook(const std::string& id, double strength, int drag = 0);
  void saveLook(const QString& name);
  void copyToOtherViews();

private:
  void noteSeen();

  CombineModel& combine_;
  bool shown_ = false, clipping_ = false;
};

} // namespace ml
