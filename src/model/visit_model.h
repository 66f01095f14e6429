// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/desk.h"
#include "visit/words.h"

#include <QObject>
#include <QTimer>
#include <QUndoStack>
#include <functional>
#include <map>

namespace ml {

/// The visit the open job belongs to: where, when, which views in which light; and the order that was found. What is
/// written here is kept in the job's visit.json. Plans are made in the background; the newest one counts.
class VisitModel : public QObject {
  Q_OBJECT

public:
  using Clock = std::function<Moment()>;
  explicit VisitModel(Desk& desk, Clock clock = {});
  ~VisitModel() override;
  /// Instead of the machine's: for tests, and to play a visit through.
  void setClock(Clock clock) { clock_ = std::move(clock); }

  [[nodiscard]] bool isOpen() const { return open_; }
  [[nodiscard]] const Visit& visit() const { return visit_; }
  /// Null: none yet, or what is asked makes no sense (`problem`).
  [[nodiscard]] const VisitPlan* plan() const { return plan_ ? &*plan_ : nullptr; }
  [[nodiscard]] QString problem() const { return problem_; }
  /// The sun over the visit, for a chart; null as plan().
  [[nodiscard]] const SunTrack* track() const { return track_.get(); }
  [[nodiscard]] bool planning() const { return desk_.works.planning.running() || timer_.isActive(); }
  [[nodiscard]] Moment now() const { return clock_(); }
  /// Shooting goes on: between the beginning and the end of a visit that somebody planned.
  [[nodiscard]] bool underWay() const;

  /// The sentence at the top.
  [[nodiscard]] QString verdict() const;
  /// While shooting: what comes next and whether there is time.
  [[nodiscard]] QString nowWords() const;
  /// Of the photographer's own, from the logbook.
  /// `forecast`: what so many views take, in words.
  void setPace(std::vector<Pace> pace, std::function<std::string(int)> forecast);
  [[nodiscard]] const std::vector<Pace>& pace() const { return pace_; }
  [[nodiscard]] QString forecast() const;
  [[nodiscard]] QStringList zones() const;

  /// A change that can be taken back.
  void change(const QString& words, const std::function<void(Visit&)>& how);
  void changeView(int view, const QString& words, const std::function<void(VisitView&)>& how);
  void addView(const QString& name);
  void removeView(int view);
  /// Also plans again from now on what is left.
  void markDone(int view, bool done);
  /// What is still to do, from now on: after a view took longer than planned.
  void planAgain();
  /// Time has passed: a view that should be done and is not moves what follows.
  void tick();
  /// As the frames say where they were taken. False, and said, when none does.
  bool takePlaceFromFrames();
  [[nodiscard]] QUndoStack& undoStack() { return undo_; }
  /// Stops a minute that the sun told the plan of a view; nothing: it has told none.
  [[nodiscard]] std::optional<double> toldFade(const std::string& view) const {
    const auto it = fades_.find(view);
    return it == fades_.end() ? std::nullopt : std::optional(it->second);
  }

  /// Errors: CannotWrite; InvalidArgument while there is no plan.
  Result<void> writeCalendar(const std::filesystem::path& file) const;
  /// All is on disk.
  void flush();

signals:
  void changed();

private:
  void opened();
  void put(const Visit& visit);
  void takeViewsOfJob();
  void tellFades();
  void takeWhatWasShot(const std::string& view);
  void plan(bool fromNow);
  void startPlanning();
  void find(bool advise);
  void save();
  friend class VisitEdit;

  Desk& desk_;
  Clock clock_;
  bool open_ = false, dirty_ = false, fromNow_ = false, unreadable_ = false, planned_ = false;
  Visit visit_;
  std::optional<VisitPlan> plan_;
  std::shared_ptr<const SunTrack> track_;
  QString problem_;
  std::function<std::string(int)> forecast_;
  std::vector<Pace> pace_;
  QUndoStack undo_;
  QTimer timer_, ticking_;
  std::map<std::string, double> fades_; ///< Told to the plans of views, by folder; stops a minute.
};

} // namespace ml
