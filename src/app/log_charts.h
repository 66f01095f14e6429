// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "logbook/learnt.h"

#include <QWidget>

class QPainter;

namespace ml {

enum class LogChart { Pace, Ranges, Hand };
inline constexpr LogChart kLogCharts[] = {LogChart::Pace, LogChart::Ranges, LogChart::Hand};

/// Pace by month, ranges by kind of view, sharpness from the hand with its band. Says what is missing where there are
/// fewer than kFewestCases.
void paintLogChart(QPainter& p, const QRectF& box, LogChart chart, const LogCases& cases, const Theme& theme);
/// False when it cannot be written.
[[nodiscard]] bool writeLogChart(const QString& svg, LogChart chart, const LogCases& cases);
[[nodiscard]] QString nameOf(LogChart chart);

class LogChartView : public QWidget {
  Q_OBJECT

public:
  explicit LogChartView(LogChart chart, QWidget* parent = nullptr);
  void show(const LogCases& cases);
  void setTheme(const Theme& theme);

protected:
  void paintEvent(QPaintEvent*) override;

private:
  LogChart chart_;
  LogCases cases_;
  const Theme* theme_ = &Theme::dusk();
};

} // namespace ml
