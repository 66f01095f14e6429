// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "session/job.h"
#include "session/job_lock.h"

#include <QObject>
#include <QUndoStack>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>

namespace ml {

/// What of a view changed.
enum class Aspect {
  Readings,  ///< Spots and what they read.
  Choices,   ///< What the planner is asked: camera, school, situation, file format.
  Plan,      ///< What it answered.
  Sets,      ///< Frames, their sets and how they are used.
  Combined,  ///< What they were combined to.
  Recipe,    ///< The finish.
  Delivered, ///< Files that were written.
  Journal,   ///< Time spent on it, and what happened.
  About,     ///< Its name, its notes, whether it takes part, which stations were looked at.
};

/// The job that is open, the view in hand, and the undo of every view. Views are changed only here: by `edit`, which
/// can be taken back, or by `note`, for what the world did (frames that came, files that were written). Each change is
/// told by viewChanged and kept by ViewSaver.
class JobModel : public QObject {
  Q_OBJECT

public:
  using QObject::QObject;
  ~JobModel() override;

  /// `view`: the folder of the one to begin with; else the first. `lock`: that of the job's folder; null: nobody else
  /// can write there.
  void open(Job job, const std::string& view = {}, std::shared_ptr<const JobLock> lock = nullptr);
  [[nodiscard]] bool isOpen() const { return job_.has_value(); }
  [[nodiscard]] const Job& job() const { return *job_; }
  [[nodiscard]] const std::shared_ptr<const JobLock>& lock() const { return lock_; }
  /// The job is only looked at: another program works on it, or its folder cannot be written. Nothing is changed then.
  [[nodiscard]] bool reading() const { return lock_ && lock_->state() != JobLock::State::Held; }
  [[nodiscard]] bool hasView() const { return current_ >= 0; }
  /// The view in hand; only with hasView.
  [[nodiscard]] const View& view() const { return job_->views()[std::size_t(current_)]; }
  [[nodiscard]] int viewIndex() const { return current_; }
  /// By its folder's name; null: there is none.
  [[nodiscard]] const View* find(const std::string& view) const;
  void select(int index);
  /// The view `step` further in the list; at an end nothing.
  void step(int step);
  void rename(const QString& name);
  void writeNotes(const QString& notes);
  /// A view beside the one in hand, which is in hand from then on. Errors: CannotWrite.
  Result<void> duplicate(int index, const QString& name);
  Result<void> add(const QString& name, const std::string& world, const std::string& camera);
  /// Out of the list; undo brings it back as long as the job is open. The last one stays.
  Result<void> remove(int index);
  [[nodiscard]] bool canBringBack() const { return !removed_.empty() && removedLast_; }
  Result<void> bringBack();

  /// A change of the view in hand, or of another; `place(View&, const Value&)` puts a value where it belongs. One drag
  /// is one step. Defined in view_edit.h.
  template <class Value, class Place>
  void edit(const std::string& view, Aspect aspect, const QString& words, Value before, Value after, Place place,
            int drag = 0);
  /// A change that nobody takes back.
  void note(const std::string& view, Aspect aspect, const std::function<void(View&)>& change);

  /// Of the view in hand; an empty one before there is any. Other views keep theirs.
  [[nodiscard]] QUndoStack& undoStack();

signals:
  void closing(); ///< Another job comes next.
  void leaving(); ///< Another view or job comes next; what is dirty is written now.
  void jobOpened();
  void viewEntered();
  void viewsChanged(); ///< One came or went.
  void viewChanged(const std::string& view, ml::Aspect aspect);
  void undoChanged();
  void refused(); ///< A change of a job that is only looked at.

private:
  void clearUndo();

  struct Removed {
    std::string folder;
    std::size_t index;
  };
  [[nodiscard]] Result<void> mayChange() const;

  std::optional<Job> job_;
  std::shared_ptr<const JobLock> lock_;
  std::vector<Removed> removed_;
  bool removedLast_ = false; ///< Nothing was changed or taken back since.
  int current_ = -1;
  std::map<std::string, std::unique_ptr<QUndoStack>> stacks_;
  QUndoStack none_;
};

/// A view's name in its job: that of its folder.
[[nodiscard]] inline std::string idOf(const View& view) {
  return view.folder.filename().string();
}

/// Null: nothing was shot yet.
[[nodiscard]] inline const FrameSet* activeSetOf(const View& view) {
  return view.activeSet < 0 ? nullptr : &view.sets[std::size_t(view.activeSet)];
}

} // namespace ml
