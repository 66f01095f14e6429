#pragma once
#include <QUndoCommand>
#include <functional>
#include <utility>

namespace ml {

/// Undo step that holds two values and knows how to apply one. Steps with the same id merge (one drag is one step); a step
/// that changes nothing vanishes.
template <class Value> class ValueCommand final : public QUndoCommand {
public:
  ValueCommand(const QString& text, Value before, Value after, std::function<void(const Value&)> apply, int mergeId)
      : QUndoCommand(text), before_(std::move(before)), after_(std::move(after)), apply_(std::move(apply)), id_(mergeId) {}

  void undo() override { apply_(before_); }
  void redo() override { apply_(after_); }
  int id() const override { return id_; }
  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = dynamic_cast<const ValueCommand*>(other);
    if (!next || next->id_ != id_) return false;
    after_ = next->after_;
    if constexpr (requires { before_ == after_; }) setObsolete(before_ == after_);
    return true;
  }

private:
  Value before_, after_;
  std::function<void(const Value&)> apply_;
  int id_;
};

} // namespace ml
