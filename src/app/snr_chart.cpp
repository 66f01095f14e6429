// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/snr_chart.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {
constexpr double kLeast = 1, kMost = 1000;
constexpr int kRight = 8;
/// For the names of a scale.
int scaleRoom() {
  return grown(30);
}
int lineRoom() {
  return grown(20);
}
} // namespace

SnrChart::SnrChart(QWidget* parent) : QWidget(parent) {
  setObjectName("snrChart");
  setAccessibleName(tr("SNR of the merged bracket"));
  setMinimumHeight(grown(120));
}

void SnrChart::show(std::vector<SnrPoint> curve, const MustKeep& wanted) {
  curve_ = std::move(curve);
  wanted_ = wanted;
  update();
}

void SnrChart::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

void SnrChart::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setFont(uiFont(8.5));
  p.setPen(theme_->quiet);
  p.drawText(QRect(0, 0, width(), grown(16)), Qt::AlignLeft | Qt::AlignVCenter,
             tr("SNR of all frames together, over the light"));
  if (curve_.size() < 2) return;
  const double from = curve_.front().reading.value, to = curve_.back().reading.value;
  const auto x = [&](double ev) { return scaleRoom() + (ev - from) / (to - from) * (width() - scaleRoom() - kRight); };
  const auto y = [&](double snr) {
    const double share = std::log(std::clamp(snr, kLeast, kMost) / kLeast) / std::log(kMost / kLeast);
    return height() - lineRoom() - share * (height() - lineRoom() - lineRoom());
  };
  QColor band = theme_->text;
  band.setAlpha(14);
  p.fillRect(QRectF(QPointF(x(wanted_.low.value), lineRoom()), QPointF(x(wanted_.high.value), height() - lineRoom())),
             band);
  for (const double snr : {1.0, 10.0, 40.0, 100.0, 1000.0}) {
    const bool target = snr == wanted_.snrTarget;
    p.setPen(QPen(target ? theme_->accent : theme_->line, target ? 1.4 : 1, target ? Qt::SolidLine : Qt::DotLine));
    p.drawLine(QPointF(scaleRoom(), y(snr)), QPointF(width() - kRight, y(snr)));
    p.setPen(theme_->quiet);
    p.drawText(QRectF(0, y(snr) - grown(8), scaleRoom() - 5, grown(16)), Qt::AlignRight | Qt::AlignVCenter,
               QString::number(snr));
  }
  const int every = to - from > 12 ? 4 : 2;
  for (int ev = int(std::ceil(from)); ev <= int(to); ++ev)
    if (ev % every == 0) {
      p.setPen(theme_->quiet);
      p.drawText(QRectF(x(ev) - 20, height() - lineRoom() + 3, 40, grown(15)), Qt::AlignCenter,
                 QString::number(ev).replace('-', QChar(0x2212)));
    }
  // The line breaks where a frame clips, and where nothing records the light.
  QPainterPath path;
  bool down = false;
  for (const auto& point : curve_) {
    if (point.snr < kLeast) {
      down = false;
      continue;
    }
    const QPointF at(x(point.reading.value), y(point.snr));
    down ? path.lineTo(at) : path.moveTo(at);
    down = true;
  }
  p.setPen(QPen(theme_->info, 2));
  p.setBrush(Qt::NoBrush);
  p.drawPath(path);
}

} // namespace ml
