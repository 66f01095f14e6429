// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/job_model.h"

#include "model/view_edit.h"

#include <algorithm>

namespace ml {

JobModel::~JobModel() {
  clearUndo();
}

/// A stack that goes says that it changes, and nobody may ask it then.
void JobModel::clearUndo() {
  for (const auto& [view, stack] : stacks_) stack->disconnect(this);
  stacks_.clear();
}

void JobModel::open(Job job, const std::string& view, std::shared_ptr<const JobLock> lock) {
  if (isOpen()) emit closing();
  emit leaving();
  clearUndo();
  job_ = std::move(job);
  lock_ = std::move(lock);
  removed_.clear();
  removedLast_ = false;
  current_ = -1;
  emit jobOpened();
  if (job_->views().empty()) return;
  const View* first = find(view);
  select(first ? int(first - job_->views().data()) : 0);
}

const View* JobModel::find(const std::string& view) const {
  if (!job_) return nullptr;
  const auto found =
      std::find_if(job_->views().begin(), job_->views().end(), [&](const View& v) { return idOf(v) == view; });
  return found == job_->views().end() ? nullptr : &*found;
}

void JobModel::select(int index) {
  if (!job_ || index == current_ || index < 0 || index >= int(job_->views().size())) return;
  emit leaving();
  current_ = index;
  emit viewEntered();
  emit undoChanged();
}

void JobModel::step(int step) {
  select(current_ + step);
}

void JobModel::rename(const QString& name) {
  if (!hasView() || name.isEmpty() || name.toStdString() == view().name) return;
  edit(idOf(view()), Aspect::About, tr("name of the view"), view().name, name.toStdString(),
       [](View& v, const std::string& value) { v.name = value; });
}

void JobModel::writeNotes(const QString& notes) {
  if (!hasView() || notes.toStdString() == view().notes) return;
  edit(idOf(view()), Aspect::About, tr("notes"), view().notes, notes.toStdString(),
       [](View& v, const std::string& value) { v.notes = value; });
}

Result<void> JobModel::mayChange() const {
  if (!reading()) return {};
  return fail(ErrorCode::CannotWrite, whyOnlyReading(*lock_));
}

Result<void> JobModel::add(const QString& name, const std::string& world, const std::string& camera) {
  if (auto may = mayChange(); !may) return may;
  const auto added = job_->addView(name.toStdString(), world, camera);
  if (!added) return passOn(added.error());
  emit viewsChanged();
  select(int(*added));
  return {};
}

Result<void> JobModel::duplicate(int index, const QString& name) {
  if (auto may = mayChange(); !may) return may;
  emit leaving(); // what is copied is what is shown
  const auto added = job_->duplicateView(std::size_t(index), name.toStdString());
  if (!added) return passOn(added.error());
  if (current_ >= int(*added)) ++current_;
  emit viewsChanged();
  select(int(*added));
  return {};
}

Result<void> JobModel::remove(int index) {
  if (!job_ || index < 0 || index >= int(job_->views().size()) || job_->views().size() < 2) return {};
  if (auto may = mayChange(); !may) return may;
  emit leaving();
  const Removed gone{idOf(job_->views()[std::size_t(index)]), std::size_t(index)};
  if (auto done = job_->removeView(gone.index); !done) return done;
  removed_.push_back(gone);
  const bool inHand = index == current_;
  if (index < current_ || current_ == int(job_->views().size())) --current_;
  removedLast_ = true;
  emit viewsChanged();
  if (inHand) emit viewEntered();
  emit undoChanged();
  return {};
}

Result<void> JobModel::bringBack() {
  const Removed back = removed_.back();
  if (auto done = job_->bringBack(back.folder, back.index); !done) return done;
  removed_.pop_back();
  removedLast_ = !removed_.empty();
  if (current_ >= int(back.index)) ++current_;
  emit viewsChanged();
  select(int(std::min(back.index, job_->views().size() - 1)));
  emit undoChanged();
  return {};
}

void JobModel::note(const std::string& view, Aspect aspect, const std::function<void(View&)>& change) {
  if (!job_ || reading()) return;
  for (View& v : job_->views())
    if (idOf(v) == view) {
      change(v);
      emit viewChanged(view, aspect);
      return;
    }
}

QUndoStack& JobModel::undoStack() {
  if (!hasView()) return none_;
  auto& stack = stacks_[idOf(view())];
  if (!stack) {
    stack = std::make_unique<QUndoStack>();
    connect(stack.get(), &QUndoStack::indexChanged, this, [this] {
      removedLast_ = false;
      emit undoChanged();
    });
  }
  return *stack;
}

} // namespace ml
