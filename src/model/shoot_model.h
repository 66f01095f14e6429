// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/folder_watch.h"
#include "model/judging.h"
#include "model/position_check.h"
#include "model/station_model.h"
#include "plan/fit_times.h"

namespace ml {

/// All that is fired of a plan, run by run.
[[nodiscard]] std::vector<ExposureSettings> firedOf(const Plan& plan, BracketOrder order);

/// Shoot: the set in hand, how it comes to be (camera, watched folder), what the field check says of it and the one
/// thing to do next.
class ShootModel : public StationModel {
  Q_OBJECT

public:
  explicit ShootModel(Desk& desk);

  [[nodiscard]] QString id() const override { return stations::kShoot; }
  [[nodiscard]] QString name() const override { return tr("Shoot"); }
  [[nodiscard]] StationState state() const override { return stationStates(desk_.view()).shoot; }
  [[nodiscard]] QString verdict() const override;
  [[nodiscard]] QStringList reasons() const override;
  [[nodiscard]] PictureMarks marks() const override;
  [[nodiscard]] Next next() const override;
  void doNext() override;
  void enter() override;

  [[nodiscard]] BracketOrder order() const { return order_; }
  void setOrder(BracketOrder order) { order_ = order; }
  /// A new set as planned at the position in hand; with waitForLull it begins when next to nothing moves in the finder.
  void shoot();
  [[nodiscard]] bool waitsForLull() const { return waitForLull_; }
  void setWaitForLull(bool wait) { waitForLull_ = wait; }

  /// What is planned, in the order of firing.
  [[nodiscard]] std::vector<ExposureSettings> toFire() const;
  /// Settings of the frames of the active set, as they arrived.
  [[nodiscard]] const std::vector<ExposureSettings>& shot() const { return shot_; }
  [[nodiscard]] const ShootState& check() const { return check_; }
  void showFrame(int index);
  [[nodiscard]] int shownFrame() const { return desk_.frame.index(); }
  [[nodiscard]] bool isUsed(int index) const;
  void setFrameUsed(int index, bool used);
  void selectSet(int index);
  /// Points the camera at this position, and takes its set into the hand where there is one.
  void goToPosition(int index);
  void describeSet(const QString& label, int row, int column, int plane);
  /// Looks at the frames of the active set, unless that was done.
  void judgeActiveSet();
  /// What opening a view found of its frames.
  void opened(std::vector<ExposureSettings> shot);

  void watch(const QString& folder);
  void stopWatching();
  [[nodiscard]] QString watched() const { return watch_.folder(); }

signals:
  void frameArrived(int index);
  /// Of a set that was shot; false: something stopped it.
  void setEnded(bool complete);

private:
  /// The plan as the camera can shoot it; nothing: there is none.
  [[nodiscard]] std::optional<FittedPlan> fitted() const;
  using Sketches = std::vector<std::shared_ptr<const Sketch>>;
  void forgetSet();
  void startSet(const std::vector<ExposureSettings>& frames);
  void goOn();
  struct Firing {
    std::vector<ExposureSettings> frames;
    std::vector<int> replaces = {};
    bool whenStill = false, flash = false;
  };
  void shootFrames(const Firing& firing);
  /// The plan has a frame with flash on the window, and the set has none yet.
  [[nodiscard]] bool flashMissing() const;
  struct Landed {
    std::filesystem::path file;
    std::shared_ptr<const Frame> frame;
    QImage image;
    ShootState state;
    std::optional<SceneDistribution> scene;
  };
  void frameLanded(const Landed& landed, const std::vector<int>& replaces);
  void setDone(const std::optional<Error>& problem);
  void planned(const std::vector<ExposureSettings>& frames);
  void changeUse(const QString& words, const std::vector<int>& frames, bool used);
  void judgeAgain();
  [[nodiscard]] QString verdictOfSet() const;
  void takeNext();
  void takeWatched(const std::filesystem::path& file);
  void nextWatchedSet();

  std::shared_ptr<SketchShelf> shelf_ = std::make_shared<SketchShelf>();
  BracketOrder order_ = BracketOrder::DarkFirst;
  bool waitForLull_ = false;
  std::vector<ExposureSettings> shot_;
  ShootState check_;
  std::vector<bool> judgedUses_; ///< Which frames were used when they were judged.
  FolderWatch watch_;
};

} // namespace ml
