// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/workbench.h"

#include <QListWidget>

namespace ml {

/// The views of the job down the left side: small picture, name, where it stands. Choosing one goes there; what else is
/// done with a view lies in its menu (or the Menu key) and on F2 and Delete.
class ViewList : public QListWidget {
  Q_OBJECT

public:
  explicit ViewList(Workbench& workbench, QWidget* parent = nullptr);
  void refresh();
  void setTheme(const Theme& theme);

  void addView();
  void renameView();
  void duplicateView();
  void removeView();
  void editNotes();

protected:
  void keyPressEvent(QKeyEvent*) override;
  void contextMenuEvent(QContextMenuEvent*) override;

private:
  [[nodiscard]] const View& chosen() const;

  Workbench& workbench_;
  class ViewCard* card_;
};

/// The six stations of a view as small dots, done ones filled; drawn from `at` on to the right.
void drawStates(QPainter& p, const Theme& theme, QPointF at, const StationStates& states);

} // namespace ml
