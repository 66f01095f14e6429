// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/job_model.h"

#include <QUndoCommand>
#include <utility>

namespace ml {

/// One change of one view that can be taken back. Names the view by its folder and holds the smallest value that
/// changed. Edits under one drag number merge into one step; a step that changes nothing vanishes.
template <class Value, class Place> class ViewEdit final : public QUndoCommand {
public:
  /// `place(View&, const Value&)` puts the value where it belongs.
  ViewEdit(JobModel& job, std::string view, Aspect aspect, const QString& words, Value before, Value after, Place place,
           int drag)
      : QUndoCommand(words), job_(job), view_(std::move(view)), aspect_(aspect), before_(std::move(before)),
        after_(std::move(after)), place_(std::move(place)), drag_(drag) {}

  void undo() override { put(before_); }
  void redo() override { put(after_); }
  int id() const override { return drag_ > 0 ? drag_ : -1; }
  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = dynamic_cast<const ViewEdit*>(other);
    if (!next || next->drag_ != drag_ || next->view_ != view_) return false;
    after_ = next->after_;
    if constexpr (requires { before_ == after_; }) setObsolete(before_ == after_);
    return true;
  }

private:
  void put(const Value& value) {
    job_.note(view_, aspect_, [&](View& view) { place_(view, value); });
  }

  JobModel& job_;
  std::string view_;
  Aspect aspect_;
  Value before_, after_;
  Place place_;
  int drag_;
};

template <class Value, class Place>
void JobModel::edit(const std::string& view, Aspect aspect, const QString& words, Value before, Value after,
                    Place place, int drag) {
  if (reading()) {
    emit refused();
    emit undoChanged(); // what was typed or ticked shows what holds again
    return;
  }
  undoStack().push(new ViewEdit<Value, Place>(*this, view, aspect, words, std::move(before), std::move(after),
                                              std::move(place), drag));
}

} // namespace ml
