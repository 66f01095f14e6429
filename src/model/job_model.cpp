// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/job_model.h"

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

void JobModel::open(Job job) {
  if (isOpen()) emit closing();
  emit leaving();
  clearUndo();
  job_ = std::move(job);
  current_ = -1;
  emit jobOpened();
  if (!job_->views().empty()) select(0);
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

void JobModel::note(const std::string& view, Aspect aspect, const std::function<void(View&)>& change) {
  if (!job_) return;
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
    connect(stack.get(), &QUndoStack::indexChanged, this, &JobModel::undoChanged);
  }
  return *stack;
}

} // namespace ml
