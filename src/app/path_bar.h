// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/first_path.h"

#include <QFrame>

class QLabel;
class QPushButton;

namespace ml {

/// Above the verdict while somebody walks the first path: the step, its why, and the way there.
class PathBar : public QFrame {
  Q_OBJECT

public:
  explicit PathBar(FirstPath& path, QWidget* parent = nullptr);
  void refresh();

private:
  FirstPath& path_;
  QLabel *words_, *why_;
  QPushButton *go_, *end_;
};

} // namespace ml
