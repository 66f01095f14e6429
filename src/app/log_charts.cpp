// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/log_charts.h"

#include <QPainter>
#include <QPainterPath>
#include <QSvgGenerator>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kLeft = 60, kBottom = 34, kTop = 26, kRight = 10;

/// A plot with its scale: figures upwards.
struct Plot {
  QPainter& p;
  QRectF inside;
  const Theme& theme;
  double most = 1;

  [[nodiscard]] double y(double value) const { return inside.bottom() - value / most * inside.height(); }
  void scale(double every, const QString& unit) const {
    for (double v = 0; v <= most * 1.0001; v += every) {
      p.setPen(QPen(theme.line, 1, v > 0 ? Qt::DotLine : Qt::SolidLine));
      p.drawLine(QPointF(inside.left(), y(v)), QPointF(inside.right(), y(v)));
      p.setPen(theme.quiet);
      p.drawText(QRectF(inside.left() - kLeft, y(v) - 8, kLeft - 6, 16), Qt::AlignRight | Qt::AlignVCenter,
                 QString::number(v) + (v + every > most * 1.0001 ? " " + unit : QString()));
    }
  }
  void below(double x, const QString& words, double width) const {
    p.setPen(theme.quiet);
    p.drawText(QRectF(x - width / 2, inside.bottom() + 4, width, 16), Qt::AlignCenter,
               p.fontMetrics().elidedText(words, Qt::ElideRight, int(width)));
  }
};

/// A step of 1, 2 or 5 of a power of ten, four or fewer up to `most`.
double niceStep(double most) {
  const double rough = most / 4, power = std::pow(10, std::floor(std::log10(rough)));
  for (const double step : {1.0, 2.0, 5.0})
    if (step * power >= rough) return step * power;
  return 10 * power;
}

void say(QPainter& p, const QRectF& box, const Theme& theme, const QString& words) {
  p.setPen(theme.quiet);
  p.drawText(box.adjusted(20, 20, -20, -20), Qt::AlignCenter | Qt::TextWordWrap, words);
}

void paintPace(Plot plot, const LogCases& cases) {
  const auto months = paceByMonth(cases);
  if (int(cases.views.size()) < kFewestCases || months.empty())
    return say(plot.p, plot.inside, plot.theme, QObject::tr("Ten views that were worked on show a pace."));
  plot.most = 1;
  for (const auto& month : months) plot.most = std::max({plot.most, month.siteMinutes, month.deskMinutes});
  const double every = niceStep(plot.most);
  plot.most = std::ceil(plot.most / every) * every;
  plot.scale(every, QObject::tr("min"));
  const double slot = plot.inside.width() / double(months.size());
  for (std::size_t i = 0; i < months.size(); ++i) {
    const double x = plot.inside.left() + (double(i) + 0.5) * slot, half = std::min(14.0, slot / 3);
    const auto bar = [&](double left, double value, const QBrush& fill) {
      plot.p.setPen(QPen(plot.theme.text, 1));
      plot.p.setBrush(fill);
      plot.p.drawRect(QRectF(QPointF(left, plot.y(value)), QPointF(left + half, plot.inside.bottom())));
    };
    if (months[i].siteMinutes > 0) bar(x - half, months[i].siteMinutes, plot.theme.text);
    if (months[i].deskMinutes > 0) bar(x, months[i].deskMinutes, QBrush(plot.theme.text, Qt::BDiagPattern));
    if (slot > 40 || i % std::size_t(std::ceil(44 / slot)) == 0)
      plot.below(x, QString::fromStdString(months[i].month), std::max(slot, 44.0));
  }
  plot.p.setPen(plot.theme.quiet);
  plot.p.drawText(QRectF(plot.inside.left(), plot.inside.bottom() + 18, plot.inside.width(), 15), Qt::AlignRight,
                  QObject::tr("full: on site, hatched: at the desk; middle of the month"));
}

void paintRanges(Plot plot, const LogCases& cases) {
  const auto bars = rangesByKind(cases);
  if (bars.empty())
    return say(plot.p, plot.inside, plot.theme,
               QObject::tr("Ten views of one kind whose light was read show its range."));
  plot.most = 4;
  for (const auto& bar : bars) plot.most = std::max(plot.most, bar.stops.high);
  plot.most = std::ceil(plot.most / 4) * 4;
  plot.scale(4, QObject::tr("stops"));
  const double slot = plot.inside.width() / double(bars.size());
  for (std::size_t i = 0; i < bars.size(); ++i) {
    const double x = plot.inside.left() + (double(i) + 0.5) * slot, half = std::min(18.0, slot / 3);
    plot.p.setPen(QPen(plot.theme.text, 1));
    plot.p.setBrush(QBrush(plot.theme.text, Qt::Dense5Pattern));
    plot.p.drawRect(
        QRectF(QPointF(x - half, plot.y(bars[i].stops.high)), QPointF(x + half, plot.y(bars[i].stops.low))));
    plot.p.setPen(QPen(plot.theme.accent, 2.5));
    plot.p.drawLine(QPointF(x - half, plot.y(bars[i].stops.middle)), QPointF(x + half, plot.y(bars[i].stops.middle)));
    plot.below(x, QObject::tr("%1 (%2)").arg(QString::fromStdString(bars[i].kind)).arg(bars[i].stops.cases), slot);
  }
  plot.p.setPen(plot.theme.quiet);
  plot.p.drawText(QRectF(plot.inside.left(), plot.inside.bottom() + 18, plot.inside.width(), 15), Qt::AlignRight,
                  QObject::tr("line: the middle view; box: half of all"));
}

void paintHand(Plot plot, const LogCases& cases) {
  const auto bins = handBins(cases);
  if (int(cases.hand.size()) < kFewestCases || bins.empty())
    return say(plot.p, plot.inside, plot.theme, QObject::tr("Ten frames from your hand show how long it holds."));
  plot.most = 100;
  plot.scale(25, QObject::tr("%"));
  const double from = bins.front().stops - 1, to = bins.back().stops + 1;
  const auto x = [&](double stops) { return plot.inside.left() + (stops - from) / (to - from) * plot.inside.width(); };
  if (const auto curve = handCurve(cases)) {
    QPainterPath line, band;
    std::vector<QPointF> below;
    for (int i = 0; i <= 100; ++i) {
      const double at = from + (to - from) * i / 100, logit = curve->slope * (curve->middle - at),
                   half = curve->logitBand(at);
      const auto share = [](double l) { return 100 / (1 + std::exp(-l)); };
      const QPointF middle(x(at), plot.y(share(logit))), high(x(at), plot.y(share(logit + half)));
      below.emplace_back(x(at), plot.y(share(logit - half)));
      i == 0 ? line.moveTo(middle) : line.lineTo(middle);
      i == 0 ? band.moveTo(high) : band.lineTo(high);
    }
    for (auto it = below.rbegin(); it != below.rend(); ++it) band.lineTo(*it);
    QColor soft = plot.theme.info;
    soft.setAlpha(50);
    plot.p.fillPath(band, soft);
    plot.p.setBrush(Qt::NoBrush);
    plot.p.setPen(QPen(plot.theme.info, 2));
    plot.p.drawPath(line);
    plot.p.setPen(QPen(plot.theme.accent, 1.5, Qt::DashLine));
    plot.p.drawLine(QPointF(x(curve->stops), plot.inside.top()), QPointF(x(curve->stops), plot.inside.bottom()));
  }
  for (const auto& bin : bins) {
    plot.p.setPen(QPen(plot.theme.ground, 1));
    plot.p.setBrush(plot.theme.text);
    const double size = 2.5 + std::min(4.0, std::sqrt(double(bin.all)) / 2);
    plot.p.drawEllipse(QPointF(x(bin.stops), plot.y(100.0 * bin.sharp / bin.all)), size, size);
    plot.below(x(bin.stops), QString("%1%2").arg(bin.stops > 0 ? "+" : "").arg(bin.stops), 44);
  }
  plot.p.setPen(plot.theme.quiet);
  plot.p.drawText(QRectF(plot.inside.left(), plot.inside.bottom() + 18, plot.inside.width(), 15), Qt::AlignRight,
                  QObject::tr("stops longer than 1 / focal length; dashed: four of five are sharp"));
}

} // namespace

QString nameOf(LogChart chart) {
  switch (chart) {
  case LogChart::Pace: return QObject::tr("Minutes for a view, by month");
  case LogChart::Ranges: return QObject::tr("Range of light, by kind of view");
  case LogChart::Hand: break;
  }
  return QObject::tr("Sharp frames from the hand");
}

void paintLogChart(QPainter& p, const QRectF& box, LogChart chart, const LogCases& cases, const Theme& theme) {
  p.setRenderHint(QPainter::Antialiasing);
  p.setFont(uiFont(10, true));
  p.setPen(theme.text);
  p.drawText(QRectF(box.left(), box.top(), box.width(), 20), Qt::AlignLeft | Qt::AlignVCenter, nameOf(chart));
  p.setFont(uiFont(8.5));
  const Plot plot{p, box.adjusted(kLeft, kTop, -kRight, -kBottom), theme, 1};
  switch (chart) {
  case LogChart::Pace: return paintPace(plot, cases);
  case LogChart::Ranges: return paintRanges(plot, cases);
  case LogChart::Hand: break;
  }
  paintHand(plot, cases);
}

bool writeLogChart(const QString& svg, LogChart chart, const LogCases& cases) {
  QSvgGenerator generator;
  generator.setFileName(svg);
  generator.setSize({640, 360});
  generator.setViewBox(QRect(0, 0, 640, 360));
  generator.setTitle(nameOf(chart));
  QPainter p;
  if (!p.begin(&generator)) return false;
  p.fillRect(QRect(0, 0, 640, 360), Qt::white);
  paintLogChart(p, QRectF(12, 8, 616, 344), chart, cases, Theme::paper());
  return p.end();
}

LogChartView::LogChartView(LogChart chart, QWidget* parent) : QWidget(parent), chart_(chart) {
  setMinimumHeight(grown(150));
  setAccessibleName(nameOf(chart));
}

void LogChartView::show(const LogCases& cases) {
  cases_ = cases;
  update();
}

void LogChartView::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

void LogChartView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  paintLogChart(p, QRectF(rect()).adjusted(4, 4, -4, -2), chart_, cases_, *theme_);
}

} // namespace ml
