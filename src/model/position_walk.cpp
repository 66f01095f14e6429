// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/position_walk.h"

#include <QLocale>
#include <algorithm>
#include <cmath>

namespace ml {

PositionWalk::PositionWalk(JobModel& job, CameraSession& camera) : job_(job), camera_(camera) {
  connect(&job_, &JobModel::viewEntered, this, &PositionWalk::enter);
  connect(&job_, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    const bool mine = job_.hasView() && idOf(job_.view()) == view;
    if (mine && (aspect == Aspect::Sets || aspect == Aspect::Choices)) follow();
  });
  connect(&camera_, &CameraSession::entered, this, &PositionWalk::enter);
}

/// Where the set in hand was shot, else at the first that is missing.
void PositionWalk::enter() {
  at_ = -1;
  follow();
}

void PositionWalk::follow() {
  const bool many = job_.hasView() && camera_.canBePointed();
  positions_ = job_.hasView() ? viewPositions(job_.view()) : std::vector<ViewPosition>{ViewPosition{}};
  if (!many) positions_ = {ViewPosition{}};
  const int count = int(positions_.size());
  if (at_ < 0 || at_ >= count) {
    at_ = nextMissing(positions_, -1).value_or(0);
    if (const FrameSet* set = job_.hasView() ? activeSetOf(job_.view()) : nullptr)
      for (int i = 0; i < count; ++i)
        if (isAt(*set, positions_[std::size_t(i)].planned)) at_ = i;
  }
  point();
  emit moved();
}

void PositionWalk::goTo(int index) {
  if (index == at_ || index < 0 || index >= int(positions_.size())) return;
  at_ = index;
  point();
  emit moved();
}

void PositionWalk::point() {
  if (job_.hasView()) camera_.point(here().aim, job_.view());
}

QString PositionWalk::nameOf(int index) const {
  const PlannedPosition& p = positions_[std::size_t(index)].planned;
  QStringList parts;
  if (p.row) parts << tr("row %1, column %2").arg(p.row).arg(p.column);
  if (p.plane) parts << tr("plane %1").arg(p.plane);
  return parts.join(", ");
}

QString PositionWalk::wayTo(int index) const {
  const Aim &from = here().aim, &to = positions_[std::size_t(index)].planned.aim;
  const auto degrees = [](double d) { return QLocale().toString(std::abs(d), 'f', 0); };
  QStringList parts;
  const double turn = std::remainder(to.yaw - from.yaw, 360), tilt = to.pitch - from.pitch,
               shift = to.shiftY - from.shiftY;
  if (std::abs(turn) > 0.5)
    parts << (turn > 0 ? tr("turn %1 degrees to the right") : tr("turn %1 degrees to the left")).arg(degrees(turn));
  if (std::abs(tilt) > 0.5)
    parts << (tilt > 0 ? tr("tilt %1 degrees up") : tr("tilt %1 degrees down")).arg(degrees(tilt));
  if (shift != 0)
    parts << (shift > 0 ? tr("shift the lens up by half a frame") : tr("shift the lens down by half a frame"));
  if (std::abs(to.focusMetres - from.focusMetres) > 0.01)
    parts << (to.focusMetres >= 100 ? tr("focus far away") : tr("focus at %1 m").arg(to.focusMetres, 0, 'g', 3));
  return parts.join(tr(", "));
}

} // namespace ml
