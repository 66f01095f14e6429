// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations.h"

#include "app/frames_sheet.h"

namespace ml {

std::vector<StationFace> makeStations(Workbench& w) {
  return {
      {makeLightBench(w.light)},
      {makeFramesBench(w.frames), new FramesSheet(w.frames)},
      {makeShootBench(w.shoot, w.frames, w.interval)},
      {makeCombineBench(w.combine)},
      {makeFinishBench(w.finish)},
      {makeDeliverBench(w.deliver)},
  };
}

} // namespace ml
