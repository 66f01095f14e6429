// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/first_path.h"

#include "practice/progress.h"

#include <algorithm>

namespace ml {

FirstPath::FirstPath(Workbench& workbench) : workbench_(workbench) {
  steps_ = {
      {stations::kLight, tr("Click the sky in the window: the brightest thing that must keep texture."),
       tr("What is brighter than the darkest frame can hold is white and empty for ever. So the sky decides the "
          "shortest "
          "time."),
       [](const View& v) { return !v.readings.empty(); }},
      {stations::kLight, tr("Click the darkest corner that must show something."),
       tr("What is darker than the longest frame can lift drowns in noise. So the corner decides the longest time."),
       [](const View& v) { return v.readings.size() >= 2; }},
      {stations::kFrames, tr("Look at the plan: how many frames, how far apart."),
       tr("The Light Ladder shows each frame as a column, from its noise to its clipping. Together they must cover "
          "from "
          "corner to sky; more frames than that only cost time."),
       [](const View& v) { return v.plan && v.framesSeen; }},
      {stations::kShoot, tr("Press Shoot, and wait for what the field check says."),
       tr("On location a spoiled frame costs half a minute. At home it costs the picture."),
       [](const View& v) {
         return !v.frames.empty() && v.activeSet >= 0 && !v.sets[std::size_t(v.activeSet)].answer.empty();
       }},
      {stations::kCombine, tr("Combine the frames."),
       tr("Each place is taken from the frames that recorded it best, and what moved from one of them, so that nobody "
          "stands there twice."),
       [](const View& v) { return v.combined.has_value(); }},
      {stations::kFinish, tr("Look at the finish: does it look like the place? Move one slider a little."),
       tr("Many small moves beat one big one. When it begins to look made, go back."),
       [](const View& v) { return v.combined && !v.finishSeen.empty() && !(v.recipe == Recipe()); }},
      {stations::kDeliver, tr("Deliver it as a picture for the web."),
       tr("The frames stay as they were; the recipe is kept, so that everything can be made again."),
       [](const View& v) { return !v.delivered.empty(); }}};
  connect(&workbench_, &Workbench::changed, this, &FirstPath::look);
}

bool FirstPath::begin() {
  if (workbench_.busy()) return false;
  const auto jobs = practiceFolder(workbench_.desk.jobsFolder);
  std::error_code error;
  for (int number = 1; number < 10000; ++number) {
    const auto folder = jobs / ("first-path-" + std::to_string(number));
    if (std::filesystem::exists(folder, error)) continue;
    auto job = Job::create(folder, tr("Practice: the first path").toStdString());
    if (!job) {
      workbench_.desk.notices.fail(job.error());
      return false;
    }
    if (auto view = job->addView("Reading room", "reading_room", "full-frame-24"); !view) {
      workbench_.desk.notices.fail(view.error());
      return false;
    }
    workbench_.desk.job.open(std::move(*job)); // ends the path of the job before
    running_ = true;
    step_ = 0;
    workbench_.goTo(stations::kLight);
    emit changed();
    return true;
  }
  return false;
}

void FirstPath::end() {
  running_ = false;
  emit changed();
}

/// Steps that are done are passed; one that was undone is not asked for again.
void FirstPath::look() {
  if (!running_ || !workbench_.hasView()) return;
  const int before = step_;
  while (step_ < int(steps_.size()) && steps_[std::size_t(step_)].done(workbench_.view())) ++step_;
  if (step_ != before) emit changed();
}

QString FirstPath::words() const {
  if (!running_) return {};
  if (finished()) return tr("Done: a finished picture of your own. Go on with the exercises, or with frames of yours.");
  return tr("%1 of %2: %3").arg(step_ + 1).arg(steps_.size()).arg(steps_[std::size_t(step_)].what);
}

QString FirstPath::why() const {
  return running_ && !finished() ? steps_[std::size_t(step_)].why : QString();
}

void FirstPath::goThere() {
  if (running_ && !finished()) workbench_.goTo(steps_[std::size_t(step_)].station);
}

} // namespace ml
