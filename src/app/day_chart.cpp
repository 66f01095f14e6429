// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/day_chart.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kTopAltitude = 70, kBottomAltitude = -20;
constexpr double kHours = 16, kBars = 0.38; ///< Height of the hour line; share of the views' bars.

/// Times to the right, altitudes upwards.
struct DayScale {
  QRectF sky;
  Span span;
  [[nodiscard]] double x(Moment t) const {
    return sky.left() + sky.width() * double((t - span.from).count()) / double((span.to - span.from).count());
  }
  [[nodiscard]] double y(double altitude) const {
    const double kept = std::clamp(altitude, kBottomAltitude, kTopAltitude);
    return sky.bottom() - (kept - kBottomAltitude) / (kTopAltitude - kBottomAltitude) * sky.height();
  }
};

void paintSky(QPainter& p, const DayScale& scale, const DayPicture& day, const Theme& theme) {
  // Below the horizon in three steps, as bands that a print keeps.
  const double edges[] = {kHorizonAltitude, kCivil, kNautical, kBottomAltitude};
  for (int i = 0; i < 3; ++i) {
    QColor shade = theme.text;
    shade.setAlpha(14 + 16 * i);
    p.fillRect(QRectF(QPointF(scale.sky.left(), scale.y(edges[i])), QPointF(scale.sky.right(), scale.y(edges[i + 1]))),
               shade);
  }
  QPainterPath path;
  constexpr int kSteps = 200;
  for (int i = 0; i <= kSteps; ++i) {
    const Moment t = scale.span.from + (scale.span.to - scale.span.from) * i / kSteps;
    const QPointF at(scale.x(t), scale.y(day.track->at(t).altitude));
    i == 0 ? path.moveTo(at) : path.lineTo(at);
  }
  p.setPen(QPen(theme.line, 1));
  p.drawLine(QPointF(scale.sky.left(), scale.y(0)), QPointF(scale.sky.right(), scale.y(0)));
  p.setPen(QPen(theme.info, 2));
  p.drawPath(path);
  p.setPen(theme.quiet);
  p.drawText(QRectF(scale.sky.left() + 4, scale.y(0) - 16, 90, 15), Qt::AlignLeft | Qt::AlignBottom,
             QObject::tr("horizon"));
}

void paintHours(QPainter& p, const DayScale& scale, const QRectF& box, const DayPicture& day, const Theme& theme) {
  const double hours = double((scale.span.to - scale.span.from).count()) / 3600;
  const int every = hours > 14 ? 4 : hours > 9 ? 3 : hours > 4 ? 2 : 1;
  const auto first = std::chrono::ceil<std::chrono::hours>(scale.span.from);
  for (Moment t = first; t <= scale.span.to; t += std::chrono::hours{every}) {
    p.setPen(QPen(theme.line, 1, Qt::DotLine));
    p.drawLine(QPointF(scale.x(t), box.top()), QPointF(scale.x(t), box.bottom() - kHours));
    p.setPen(theme.quiet);
    const double x = std::clamp(scale.x(t), box.left() + 18, box.right() - 18);
    p.drawText(QRectF(x - 24, box.bottom() - kHours, 48, kHours), Qt::AlignCenter,
               QString::fromStdString(clockAt(day.plan->zone, t)));
  }
}

/// A row for each view: its light as a thin line, its time as a bar with its name beside it.
void paintViews(QPainter& p, const DayScale& scale, const QRectF& rows, const DayPicture& day, const Theme& theme) {
  const auto& order = day.plan->order;
  if (order.empty()) return;
  const double height = std::min(20.0, rows.height() / double(order.size()));
  for (std::size_t i = 0; i < order.size(); ++i) {
    const auto& entry = order[i];
    const double y = rows.top() + double(i) * height;
    const QRectF bar(QPointF(scale.x(entry.begin), y + 3),
                     QPointF(std::max(scale.x(entry.end), scale.x(entry.begin) + 3), y + height - 3));
    QColor light = theme.info;
    light.setAlpha(90);
    p.setPen(QPen(light, 2));
    p.drawLine(QPointF(scale.x(entry.light.from), bar.center().y()),
               QPointF(scale.x(entry.light.to), bar.center().y()));
    const bool chosen = entry.view == day.chosen;
    p.setPen(Qt::NoPen);
    p.setBrush(chosen ? theme.accent : theme.text);
    p.drawRoundedRect(bar, 2, 2);
    const QString name = QString::fromStdString(day.visit->views[std::size_t(entry.view)].name);
    const double width = p.fontMetrics().horizontalAdvance(name) + 8;
    const bool right = bar.right() + width < rows.right();
    const QRectF words(right ? bar.right() + 5 : bar.left() - width - 1, y, width, height);
    QColor ground = theme.ground;
    ground.setAlpha(200);
    p.fillRect(words.adjusted(0, 3, -2, -3), ground);
    p.setPen(chosen ? theme.text : theme.quiet);
    p.drawText(words, Qt::AlignLeft | Qt::AlignVCenter, name);
  }
}

QPointF onCircle(const QPointF& centre, double radius, double bearing) {
  const double angle = bearing * std::numbers::pi / 180;
  return centre + QPointF(std::sin(angle), -std::cos(angle)) * radius;
}

} // namespace

void paintDay(QPainter& p, const QRectF& box, const DayPicture& day, const Theme& theme) {
  if (!day.plan || !day.track || day.plan->span.empty()) return;
  const double bars = std::min(box.height() * kBars, 20.0 * double(day.plan->order.size()) + 6);
  const DayScale scale{QRectF(box.left(), box.top(), box.width(), box.height() - kHours - bars), day.plan->span};
  paintHours(p, scale, box, day, theme);
  paintSky(p, scale, day, theme);
  paintViews(p, scale, QRectF(box.left(), scale.sky.bottom() + 3, box.width(), bars - 3), day, theme);
  if (day.now && *day.now >= scale.span.from && *day.now <= scale.span.to) {
    p.setPen(QPen(theme.accent, 1.5));
    p.drawLine(QPointF(scale.x(*day.now), box.top()), QPointF(scale.x(*day.now), box.bottom() - kHours));
  }
}

void paintCompass(QPainter& p, const QRectF& box, const DayPicture& day, const Theme& theme) {
  if (!day.plan || !day.track) return;
  const double radius = std::min(box.width(), box.height()) / 2 - 18;
  const QPointF centre = box.center();
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(theme.line, 1));
  for (const double altitude : {0.0, 30.0, 60.0})
    p.drawEllipse(centre, radius * (1 - altitude / 90), radius * (1 - altitude / 90));
  p.setPen(theme.quiet);
  const std::pair<double, QString> sides[] = {
      {0, QObject::tr("N")}, {90, QObject::tr("E")}, {180, QObject::tr("S")}, {270, QObject::tr("W")}};
  for (const auto& [bearing, name] : sides) {
    const QPointF at = onCircle(centre, radius + 10, bearing);
    p.drawText(QRectF(at.x() - 10, at.y() - 9, 20, 18), Qt::AlignCenter, name);
  }
  QPainterPath path;
  bool open = false;
  constexpr int kSteps = 160;
  for (int i = 0; i <= kSteps; ++i) { // the sun as one looks down on the place
    const auto sun = day.track->at(day.plan->span.from + (day.plan->span.to - day.plan->span.from) * i / kSteps);
    if (sun.altitude < 0) {
      open = false;
      continue;
    }
    const QPointF at = onCircle(centre, radius * (1 - sun.altitude / 90), sun.azimuth);
    open ? path.lineTo(at) : path.moveTo(at);
    open = true;
  }
  p.setPen(QPen(theme.info, 2));
  p.drawPath(path);
  for (const auto& entry : day.plan->order) {
    const auto& view = day.visit->views[std::size_t(entry.view)];
    const bool chosen = entry.view == day.chosen;
    if (chosen && entry.sun.altitude > -6) { // where it stands then
      p.setPen(QPen(theme.accent, 1.5));
      p.setBrush(theme.accent);
      p.drawEllipse(onCircle(centre, radius * (1 - std::max(0.0, entry.sun.altitude) / 90), entry.sun.azimuth), 4, 4);
    }
    if (!needsDirection(view.light.want)) continue;
    p.setPen(QPen(chosen ? theme.accent : theme.quiet, chosen ? 2 : 1));
    const QPointF tip = onCircle(centre, radius * 0.36, view.light.direction);
    p.drawLine(centre, tip);
    p.setBrush(chosen ? theme.accent : theme.quiet);
    p.drawPolygon(
        QPolygonF({tip, onCircle(tip, 9, view.light.direction + 155), onCircle(tip, 9, view.light.direction - 155)}));
  }
  p.setPen(Qt::NoPen);
  p.setBrush(theme.text);
  p.drawEllipse(centre, 2.5, 2.5);
}

DayChart::DayChart(QWidget* parent) : QWidget(parent) {
  setObjectName("dayChart");
  setAccessibleName(tr("The sun over the visit, and the views at their times"));
  setMinimumSize(380, 300);
}

void DayChart::show(const DayPicture& day) {
  day_ = day;
  update();
}

void DayChart::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

void DayChart::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setFont(uiFont(8.5));
  const QRectF all = QRectF(rect()).adjusted(6, 4, -6, -4);
  if (!day_.plan) {
    p.setPen(theme_->quiet);
    p.drawText(all, Qt::AlignCenter | Qt::TextWordWrap, tr("Here the sun's way and the order of the views will be."));
    return;
  }
  const double compass = std::min(all.height() * 0.42, 210.0);
  paintDay(p, all.adjusted(0, 0, 0, -compass - 4), day_, *theme_);
  paintCompass(p, QRectF(all.left(), all.bottom() - compass, all.width(), compass), day_, *theme_);
}

} // namespace ml
