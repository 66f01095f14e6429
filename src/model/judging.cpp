// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/judging.h"

namespace ml {

ShootState judged(const View& view, std::vector<std::shared_ptr<const Sketch>> sketches, bool ended) {
  SetJudge judge(judgeSetupOf(view));
  for (const auto& sketch : sketches) judge.addSketch(sketch);
  if (view.activeSet >= 0) {
    const auto& members = view.sets[std::size_t(view.activeSet)].frames;
    for (std::size_t i = 0; i < members.size(); ++i)
      if (!members[i].used) judge.setAside(int(i));
  }
  return {std::move(sketches), judge.frames(), judge.verdict(ended), ended};
}

} // namespace ml
