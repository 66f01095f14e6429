#pragma once
#include "model/workbench.h"

#include <QFrame>

class QHBoxLayout;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace ml {

/// The tools of one station, below the picture. Shows what the workbench says; holds no state of its own.
class Bench : public QFrame {
  Q_OBJECT

public:
  explicit Bench(Workbench& workbench, const QString& name);
  /// Reads everything anew from the workbench.
  virtual void refresh() = 0;
  /// The thing to do next; the window gives it Ctrl+Return.
  [[nodiscard]] QPushButton* next() const { return next_; }

protected:
  /// A labelled column of controls.
  QVBoxLayout* group(const QString& title, int stretch = 0);
  void setNext(const QString& text, bool enabled);

  Workbench& workbench_;
  QHBoxLayout* row_;

private:
  QPushButton* next_;
};

[[nodiscard]] Bench* makeLightBench(Workbench& workbench);
[[nodiscard]] Bench* makeFramesBench(Workbench& workbench);
[[nodiscard]] Bench* makeShootBench(Workbench& workbench);
[[nodiscard]] Bench* makeCombineBench(Workbench& workbench);
[[nodiscard]] Bench* makeFinishBench(Workbench& workbench);
[[nodiscard]] Bench* makeDeliverBench(Workbench& workbench);

} // namespace ml
