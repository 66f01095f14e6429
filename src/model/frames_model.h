// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/station_model.h"
#include "model/ways.h"
#include "plan/camera_settings.h"
#include "plan/comparison.h"
#include "plan/shot_list.h"
#include "session/plan_choices.h"

namespace ml {

/// Frames: what the planner is asked and what it answers. Plans anew whenever readings or choices of a view change,
/// however they did.
class FramesModel : public StationModel {
  Q_OBJECT

public:
  explicit FramesModel(Desk& desk);

  [[nodiscard]] QString id() const override { return stations::kFrames; }
  [[nodiscard]] QString name() const override { return tr("Frames", "station"); }
  [[nodiscard]] StationState state() const override { return stationStates(desk_.view()).frames; }
  [[nodiscard]] QString verdict() const override;
  [[nodiscard]] QStringList reasons() const override;
  void addTo(LadderContent& content) const override { content.columns = LadderContent::Columns::Planned; }
  [[nodiscard]] Next next() const override { return {tr("On to Shoot"), desk_.view().plan.has_value(), true}; }
  void doNext() override { emit goTo(stations::kShoot); }
  void enter() override;

  [[nodiscard]] PlanChoices choices() const { return choicesOf(desk_.view()); }
  void choose(const PlanChoices& choices);
  void setHandHeld(bool handHeld);
  void setFormat(FrameFormat format);
  /// All schools on this scene; null when there is no plan. Kept until something changes.
  [[nodiscard]] const Comparison* comparison() const;
  /// The same as rows, the recommended first, then, where there is one, the user's own bracket.
  [[nodiscard]] const std::vector<Way>& ways() const;
  void chooseWay(const std::string& id);
  [[nodiscard]] std::vector<CameraSetting> settingsToMake() const;
  [[nodiscard]] std::vector<std::string> warnings() const;
  [[nodiscard]] std::optional<ShotList> shots() const;

  /// Profiles of the user's own were changed on the shelf.
  void profilesChanged();
  /// Derives full well and read noise of the current camera from flat and dark raw files, as a profile of the user's
  /// own.
  void measureSensor(const QStringList& files);

private:
  void forgetComparison();
  void replan(const std::string& view);
  void edit(const QString& words, const PlanChoices& choices);
  [[nodiscard]] std::optional<double> cardMegabytes() const;

  QString problem_; ///< Why there is no plan though there are readings.
  mutable std::optional<Comparison> comparison_;
  mutable std::vector<Way> ways_; ///< Empty: to be made anew.
  mutable Alternative own_;       ///< The plan in force, where it is the user's own.
};

} // namespace ml
