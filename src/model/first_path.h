// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/workbench.h"

namespace ml {

/// The first ten minutes: from nothing to a finished picture of one's own, in the ferry house, with the why at each
/// step. It watches what is done and goes on by itself; nothing is locked meanwhile.
class FirstPath : public QObject {
  Q_OBJECT

public:
  struct Step {
    QString station; ///< Where it is done.
    QString what, why;
    std::function<bool(const View&)> done;
  };
  explicit FirstPath(Workbench& workbench);

  /// A practice job of its own, apart from all visits. False, and said, when it cannot be made.
  bool begin();
  void end();
  [[nodiscard]] bool running() const { return running_; }
  [[nodiscard]] int step() const { return step_; }
  [[nodiscard]] const std::vector<Step>& steps() const { return steps_; }
  [[nodiscard]] bool finished() const { return running_ && step_ == int(steps_.size()); }
  /// "2 of 7: ..."
  [[nodiscard]] QString words() const;
  [[nodiscard]] QString why() const;
  /// To where the step is done.
  void goThere();

signals:
  void changed();

private:
  void look();
  Workbench& workbench_;
  std::vector<Step> steps_;
  bool running_ = false;
  int step_ = 0;
};

} // namespace ml
