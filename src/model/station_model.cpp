// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/station_model.h"

namespace ml {

StationModel::StationModel(Desk& desk) : desk_(desk) {
  connect(&desk_.frame, &ShownFrame::detailDrawn, this, &StationModel::detailDrawn);
}

void StationModel::showDetail(const QRectF& part) {
  desk_.frame.showDetail(part);
}

/// A frame that was shot, else what the finder sees.
QImage StationModel::picture() const {
  return desk_.frame.image().isNull() ? desk_.camera.finder() : desk_.frame.image();
}

void StationModel::enter() {
  if (!desk_.idle()) return;
  const FrameSet* set = activeSetOf(desk_.view());
  const int index = desk_.frame.index();
  if (set && index >= 0 && index < int(set->frames.size()))
    desk_.frame.load(index, set->frames[std::size_t(index)].file);
  else
    desk_.camera.drawFinder(desk_.view());
}

} // namespace ml
