// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/sorting.h"

#include <QAbstractScrollArea>
#include <QDialog>

class QLabel;
class QPushButton;

namespace ml {

/// The sets one under the other, each with its frames side by side; what is set aside lies below. One frame is current;
/// a frame can be dragged to another set.
class SortStrips : public QAbstractScrollArea {
  Q_OBJECT

public:
  SortStrips(Sorting& sorting, const Theme& theme, QWidget* parent = nullptr);

  struct Place {
    int row = 0, file = 0; ///< Rows count the sets, then what is set aside.
    friend bool operator==(const Place&, const Place&) = default;
  };
  [[nodiscard]] Place current() const { return current_; }
  [[nodiscard]] bool currentIsAside() const { return current_.row >= int(sorting_.grouping().sets.size()); }
  void setCurrent(Place place);
  /// Where a frame is drawn, in the viewport; empty when there is none.
  [[nodiscard]] QRect rectOf(Place place) const;
  void refresh();

signals:
  void currentChanged();

protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

private:
  [[nodiscard]] const FileGroup* group(int row) const;
  [[nodiscard]] int rows() const;
  [[nodiscard]] int perLine() const;
  [[nodiscard]] int rowTop(int row) const; ///< In the whole content.
  [[nodiscard]] int rowHeight(int row) const;
  [[nodiscard]] Place placeAt(QPoint at) const;
  void drawRow(QPainter& p, int row);
  void drawFrame(QPainter& p, const QRect& r, const FileFacts& file, bool current);

  Sorting& sorting_;
  const Theme& theme_;
  Place current_;
  QPoint pressedAt_;
  int dragTo_ = -1;
  bool pressed_ = false;
};

/// Dialog in which dropped files are sorted into sets before they become views.
class SortSheet : public QDialog {
  Q_OBJECT

public:
  SortSheet(Grouping grouping, const Theme& theme, QWidget* parent = nullptr);
  [[nodiscard]] const Grouping& grouping() const { return sorting_.grouping(); }
  [[nodiscard]] SortStrips& strips() { return *strips_; }

private:
  void refresh();
  QPushButton* button(const QString& name, const QString& text, const QKeySequence& key,
                      const std::function<void()>& work);

  Sorting sorting_;
  SortStrips* strips_;
  QLabel* summary_;
  QPushButton *split_, *join_, *position_, *aside_, *undo_, *make_;
};

} // namespace ml
