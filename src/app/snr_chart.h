// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "plan/coverage.h"

#include <QWidget>

namespace ml {

/// How clean each level of light will be: SNR of the merged bracket over the scene's light, against the targets 10
/// and 40.
class SnrChart : public QWidget {
  Q_OBJECT

public:
  explicit SnrChart(QWidget* parent = nullptr);
  void show(std::vector<SnrPoint> curve, const MustKeep& wanted);
  void setTheme(const Theme& theme);
  QSize sizeHint() const override { return {280, 150}; }

protected:
  void paintEvent(QPaintEvent*) override;

private:
  const Theme* theme_ = &Theme::dusk();
  std::vector<SnrPoint> curve_;
  MustKeep wanted_;
};

} // namespace ml
