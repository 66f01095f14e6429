// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/queue_list.h"

#include "model/deliver_model.h"

#include <QDropEvent>
#include <QKeyEvent>

namespace ml {

QueueList::QueueList(DeliverModel& deliver, QWidget* parent) : QListWidget(parent), deliver_(deliver) {
  setObjectName("queue");
  setAccessibleName(tr("Waiting to be written"));
  setToolTip(tr("Drag to change the order (Alt+Up, Alt+Down); Delete takes a view out"));
  setDragDropMode(QAbstractItemView::InternalMove);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setTextElideMode(Qt::ElideRight);
  setSpacing(0);
}

int QueueList::chosen() const {
  return currentItem() ? currentItem()->data(Qt::UserRole).toInt() : 0;
}

void QueueList::refresh() {
  if (state() == QAbstractItemView::DraggingState) return;
  const int kept = chosen(), row = currentRow();
  const auto& orders = deliver_.orders();
  while (count() > int(orders.size())) delete takeItem(count() - 1);
  while (count() < int(orders.size())) addItem(QString());
  int now = -1;
  for (int i = 0; i < count(); ++i) {
    const DeliveryOrder& order = orders[std::size_t(i)];
    const QString line = deliver_.line(order);
    item(i)->setText(line);
    item(i)->setToolTip(order.problem.empty() ? line : QString::fromStdString(order.problem));
    item(i)->setData(Qt::UserRole, order.id);
    if (order.id == kept) now = i;
  }
  setCurrentRow(now >= 0 ? now : std::min(std::max(row, 0), count() - 1));
}

void QueueList::moveChosen(int rows) {
  deliver_.move(currentRow(), currentRow() + rows);
}

void QueueList::removeChosen() {
  if (const int id = chosen()) deliver_.remove(id);
}

void QueueList::keyPressEvent(QKeyEvent* event) {
  if (event->modifiers() == Qt::AltModifier && (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down))
    return moveChosen(event->key() == Qt::Key_Up ? -1 : 1);
  if (event->key() == Qt::Key_Delete) return removeChosen();
  QListWidget::keyPressEvent(event);
}

/// The queue moves the order, and the list shows the queue: rows are never moved by themselves.
void QueueList::dropEvent(QDropEvent* event) {
  const QModelIndex under = indexAt(event->position().toPoint());
  int to = under.isValid() ? under.row() : count() - 1;
  if (under.isValid() && dropIndicatorPosition() == QAbstractItemView::BelowItem && to < currentRow()) ++to;
  if (under.isValid() && dropIndicatorPosition() == QAbstractItemView::AboveItem && to > currentRow()) --to;
  const int from = currentRow();
  event->setDropAction(Qt::IgnoreAction); // else the row would be taken away
  event->accept();
  setState(QAbstractItemView::NoState);
  deliver_.move(from, to);
}

} // namespace ml
