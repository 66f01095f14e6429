// SPDX-License-Identifier: GPL-3.0-or-later
// Shoot from a folder that another program fills.
#include "base/phrase.h"
#include "ingest/load_frame.h"
#include "model/shoot_model.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace fs = std::filesystem;

void ShootModel::watch(const QString& folder) {
  if (!desk_.free() || !watch_.start(folder)) return;
  nextWatchedSet();
}

void ShootModel::nextWatchedSet() {
  forgetSet();
  PositionWalk& walk = desk_.positions; // the next set is of the next position
  if (const auto missing = walk.missing();
      walk.several() && missing && walk.positions()[std::size_t(walk.at())].set >= 0)
    walk.goTo(*missing);
  const PlannedPosition here = walk.here();
  desk_.job.note(idOf(desk_.view()), Aspect::Sets, [&](View& v) {
    FrameSet& set = v.startSet(tr("From %1").arg(watch_.folderName()).toStdString(),
                               v.plan ? firedOf(*v.plan, BracketOrder::DarkFirst) : std::vector<ExposureSettings>{});
    set.row = here.row, set.column = here.column, set.plane = here.plane;
  });
}

void ShootModel::stopWatching() {
  watch_.stop();
  check_.ended = true;
  judgedUses_.clear(); // the set is over: what is missing is missing
  judgeAgain();
  emit changed();
}

void ShootModel::takeNext() {
  if (!desk_.free()) return;
  if (const auto file = watch_.next()) takeWatched(*file);
}

void ShootModel::takeWatched(const fs::path& file) {
  desk_.works.longWork.start([this, file, v = desk_.view(), sketches = check_.sketches, shelf = shelf_,
                              action = check_.verdict.action](const Progress& progress) -> std::function<void()> {
    progress.at(phrase("Take {}", file.filename().string()), 0.2);
    auto loaded = loadFrame(file);
    if (!loaded)
      return [this, file, e = loaded.error()] {
        watch_.giveBack(file);
        desk_.notices.fail(e);
      };
    turnLike(sketches, *loaded);
    auto frame = std::make_shared<const Frame>(std::move(*loaded));
    const auto sketch = sketchOf(*frame, judgeSetupOf(v).zones);
    if (isSeparator(*sketch, sketches.empty() ? nullptr : sketches.back().get()))
      return [this] {
        nextWatchedSet();
        desk_.notices.tell(tr("A hand before the lens: the next frames are another set."));
        takeNext();
      };
    // An exposure that comes a second time begins a new set, unless it is what the verdict asked for.
    const auto alike = [&](const ExposureSettings& s) {
      return std::abs((ev100(s) - ev100(frame->settings)).value) < 0.1;
    };
    const auto& planned = v.sets[std::size_t(v.activeSet)].planned; // two runs may share an exposure
    const auto there =
        std::count_if(sketches.begin(), sketches.end(), [&](const auto& s) { return alike(s->settings); });
    const bool again =
        !sketch->lit && there >= std::max<std::ptrdiff_t>(1, std::count_if(planned.begin(), planned.end(), alike));
    const bool asked = std::any_of(action.frames.begin(), action.frames.end(), alike);
    if (again && !asked)
      return [this, file] {
        nextWatchedSet();
        takeWatched(file);
      };
    View grown = v;
    auto& members = grown.sets[std::size_t(grown.activeSet)].frames;
    members.push_back({file, true});
    Sketches seen = sketches;
    seen.push_back(sketch);
    const std::vector<int> replaced = asked ? action.replaces : std::vector<int>{};
    for (const int i : replaced) members[std::size_t(i)].used = false;
    const bool all = v.plan && seen.size() >= v.plan->frames.size();
    ShootState state = judged(grown, seen, all);
    if (all) state.position = checkPosition(grown, seen, *shelf, progress);
    return [this, landed = Landed{file, frame, ShownFrame::imageOf(*frame), std::move(state), distributionOf(seen)},
            replaced] {
      frameLanded(landed, replaced);
      takeNext();
    };
  });
}

} // namespace ml
