// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QListWidget>

namespace ml {

class DeliverModel;

/// What waits to be delivered, in order. Rows are dragged, or moved with Alt+Up and Alt+Down; Delete takes one out.
class QueueList : public QListWidget {
  Q_OBJECT

public:
  explicit QueueList(DeliverModel& deliver, QWidget* parent = nullptr);
  /// Reads the queue anew; the chosen order stays chosen. Not while a row is dragged.
  void refresh();
  void moveChosen(int rows);
  void removeChosen();

protected:
  void keyPressEvent(QKeyEvent*) override;
  void dropEvent(QDropEvent*) override;

private:
  [[nodiscard]] int chosen() const; ///< Id of the order; 0: none.
  DeliverModel& deliver_;
};

} // namespace ml
