// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ways_chart.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

int headRoom() {
  return grown(58);
}
int footRoom() {
  return grown(50);
}
int waysScaleRoom() {
  return grown(30);
}

QColor faded(QColor c, int alpha) {
  c.setAlpha(alpha);
  return c;
}

} // namespace

WaysChart::WaysChart(QWidget* parent) : QWidget(parent) {
  setObjectName("ways");
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  setMinimumHeight(grown(240));
  setCursor(Qt::PointingHandCursor);
  setAccessibleName(tr("Ways to bracket this scene"));
}

void WaysChart::show(std::vector<Way> ways, const LadderData::Stretch& scale, const LadderData::Stretch& wanted) {
  ways_ = std::move(ways);
  scale_ = scale;
  wanted_ = wanted;
  if (!hasFocus())
    for (int i = 0; i < int(ways_.size()); ++i)
      if (ways_[std::size_t(i)].chosen) focused_ = i;
  focused_ = std::clamp(focused_, 0, std::max(0, int(ways_.size()) - 1));
  say();
  update();
}

void WaysChart::setTheme(const Theme& theme) {
  theme_ = &theme;
  update();
}

double WaysChart::yOf(double ev) const {
  const double share = (scale_.to - ev) / std::max(1.0, scale_.to - scale_.from);
  return headRoom() + std::clamp(share, 0.0, 1.0) * (height() - headRoom() - footRoom());
}

QRectF WaysChart::lane(int index) const {
  const double width = (this->width() - waysScaleRoom()) / std::max<double>(1, double(ways_.size()));
  return {waysScaleRoom() + index * width, 0, width, double(height())};
}

int WaysChart::laneAt(QPointF at) const {
  for (int i = 0; i < int(ways_.size()); ++i)
    if (lane(i).contains(at)) return i;
  return -1;
}

void WaysChart::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  drawScale(p);
  for (int i = 0; i < int(ways_.size()); ++i) drawLane(p, i);
}

/// Numbers at the left, and a quiet band over the light that must be kept.
void WaysChart::drawScale(QPainter& p) const {
  p.fillRect(QRectF(waysScaleRoom(), yOf(wanted_.to), width() - waysScaleRoom(), yOf(wanted_.from) - yOf(wanted_.to)),
             faded(theme_->text, 12));
  p.setFont(uiFont(8.5));
  for (int ev = int(std::ceil(scale_.from)); ev <= int(scale_.to); ++ev) {
    const double y = yOf(ev);
    p.setPen(QPen(faded(theme_->line, 70), 1));
    p.drawLine(QPointF(waysScaleRoom(), y), QPointF(width(), y));
    if (ev % 2 != 0) continue;
    p.setPen(theme_->quiet);
    p.drawText(QRectF(0, y - grown(8), waysScaleRoom() - 8, grown(16)), Qt::AlignRight | Qt::AlignVCenter,
               QString::number(ev).replace('-', QChar(0x2212)));
  }
  p.setPen(QPen(theme_->accent, 1, Qt::DashLine));
  for (const double ev : {wanted_.from, wanted_.to})
    p.drawLine(QPointF(waysScaleRoom(), yOf(ev)), QPointF(width(), yOf(ev)));
}

void WaysChart::drawLane(QPainter& p, int index) const {
  const Way& way = ways_[std::size_t(index)];
  const QRectF whole = lane(index), frame = whole.adjusted(3, 1, -3, -1);
  if (way.chosen || index == hovered_) {
    p.setPen(way.chosen ? QPen(theme_->info, 1.6) : QPen(theme_->line, 1));
    p.setBrush(way.chosen ? faded(theme_->info, 16) : QColor(Qt::transparent));
    p.drawRoundedRect(frame, 6, 6);
  }
  if (hasFocus() && index == focused_) {
    p.setPen(QPen(theme_->text, 1, Qt::DotLine));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(frame.adjusted(3, 3, -3, -3), 4, 4);
  }
  const auto line = [&](double y, double size, bool bold, const QColor& ink, const QString& words) {
    p.setFont(uiFont(size, bold));
    for (double smaller = size; smaller > 7 && p.fontMetrics().horizontalAdvance(words) > whole.width() - 10;)
      p.setFont(uiFont(smaller -= 0.5, bold));
    p.setPen(ink);
    p.drawText(QRectF(whole.left() + 4, y, whole.width() - 8, grown(18)), Qt::AlignCenter,
               p.fontMetrics().elidedText(words, Qt::ElideRight, int(whole.width() - 10)));
  };
  line(6, 9.5, true, theme_->text, way.name);
  line(grown(22), 9, false, theme_->quiet, way.frames);
  line(grown(38), 8.5, false, theme_->quiet, way.times);
  const double pitch = std::min(20.0, (whole.width() - 24) / std::max<double>(1, double(way.bars.size()))),
               bar = std::max(2.0, pitch - 4), left = whole.center().x() - pitch * double(way.bars.size()) / 2;
  for (const auto& gap : way.uncovered) {
    const QRectF band(whole.left() + 8, yOf(gap.to), whole.width() - 16, std::max(3.0, yOf(gap.from) - yOf(gap.to)));
    p.fillRect(band, QBrush(theme_->text, Qt::BDiagPattern));
  }
  for (std::size_t k = 0; k < way.bars.size(); ++k) {
    const QRectF r(left + double(k) * pitch + 2, yOf(way.bars[k].clip), bar,
                   std::max(2.0, yOf(way.bars[k].floor) - yOf(way.bars[k].clip)));
    QLinearGradient fill(r.bottomLeft(), r.topLeft());
    fill.setColorAt(0, faded(theme_->info, 70));
    fill.setColorAt(0.3, faded(theme_->info, 210));
    p.setPen(Qt::NoPen);
    p.setBrush(fill);
    p.drawRoundedRect(r, 2, 2);
  }
  line(height() - footRoom() + 6, 9, !way.missing.isEmpty(), theme_->text,
       way.missing.isEmpty() ? tr("covers all") : way.missing);
  line(height() - footRoom() + grown(24), 8.5, false, theme_->quiet, way.cost);
}

// ---- The hand

void WaysChart::mousePressEvent(QMouseEvent* event) {
  const int at = laneAt(event->position());
  if (at < 0) return;
  focused_ = at;
  emit chosen(ways_[std::size_t(at)].id);
}

void WaysChart::mouseMoveEvent(QMouseEvent* event) {
  const int at = laneAt(event->position());
  if (at != hovered_) hovered_ = at, update();
}

void WaysChart::keyPressEvent(QKeyEvent* event) {
  const int step = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
  if (step != 0 && !ways_.empty()) {
    focused_ = std::clamp(focused_ + step, 0, int(ways_.size()) - 1);
    say();
    return update();
  }
  if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Space) && event->modifiers() == Qt::NoModifier &&
      focused_ < int(ways_.size()))
    return emit chosen(ways_[std::size_t(focused_)].id);
  QWidget::keyPressEvent(event);
}

/// For those who hear it.
void WaysChart::say() {
  if (focused_ >= int(ways_.size())) return;
  const Way& way = ways_[std::size_t(focused_)];
  setAccessibleDescription(
      QStringList{way.name, way.frames, way.times, way.missing.isEmpty() ? tr("covers all") : way.missing, way.cost}
          .join(", "));
}

bool WaysChart::event(QEvent* event) {
  if (event->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(event);
    const int at = laneAt(help->pos());
    if (at < 0) return false;
    const Way& way = ways_[std::size_t(at)];
    QString words = way.why;
    if (!way.also.isEmpty()) words += "\n" + tr("The same here: %1.").arg(way.also.join(", "));
    QToolTip::showText(help->globalPos(), words, this);
    return true;
  }
  return QWidget::event(event);
}

} // namespace ml
