// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QDialog>

class QLineEdit;
class QListWidget;

namespace ml {

class Commands;

/// Every command with its key; typing narrows the list, Return does what is chosen.
class CommandList : public QDialog {
  Q_OBJECT

public:
  CommandList(const Commands& commands, QWidget* parent);

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void narrow(const QString& words);
  void run();

  const Commands& commands_;
  QLineEdit* search_;
  QListWidget* list_;
};

} // namespace ml
