#pragma once
#include "model/value_command.h"
#include "model/workbench.h"

namespace ml {

template <class Apply, class Value>
void Workbench::pushChange(const QString& text, Value before, Value after, Apply apply, int mergeId) {
  undo_.push(new ValueCommand<Value>(text, std::move(before), std::move(after), apply, mergeId));
}

} // namespace ml
