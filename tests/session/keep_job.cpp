// SPDX-License-Identifier: GPL-3.0-or-later
// Writes the job that is kept for a release, with a figure in every field that a later version must still read, and
// what it holds as expected.json: ml_keep_job tests/data/jobs/VERSION.
#include "base/atomic_file.h"
#include "session/job.h"

#include <cstdio>
#include <fmt/format.h>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace ml;
using nlohmann::json;

namespace {

void fillFirst(View& v) {
  v.readings = {
      {"sky", {14.25}, true, 0.3, 0.2, 0.2, false}, {"corner", {2.5}, true, {}, {}}, {"lamp", {17}, false, {}, {}}};
  PlanRequest request;
  request.low = {2.5};
  request.high = {14.25};
  v.plan = *planBracket(*findProfile("crop-20"), request);
  v.format = FrameFormat::Jpeg;
  v.notes = "The curtain was drawn after the third frame.";
  v.kind = "interior";
  v.isoCap = Iso{800};
  v.own = OwnBracket{5, 6, 12, Iso{200}};
  v.situation.handHeld = true;
  v.situation.focalMm = 24;
  FrameSet& set = v.startSet("Bracket", v.plan->frames);
  for (int i = 1; i <= int(v.plan->frames.size()); ++i)
    set.frames.push_back({v.framesFolder() / set.name / fmt::format("frame-{}.jpg", i), i != 2});
  set.verdict = "Holds.";
  set.answer = "holds";
  set.notes = {{"frame-1.jpg", 0.004, 36, true, 0.1, {"soft"}}};
  v.refreshFrames();
  CombineRecord record;
  record.frames = v.frameNames();
  record.ev100OfUnit = 9.5;
  record.verdict = "Combined from the frames; nothing moved.";
  v.combined = record;
  v.radianceStamp = "17";
  v.recipe.tone.exposure = 0.5;
  v.recipe.tone.warmth = 0.25;
  v.delivered = {{"reading-room.jpg", toJson(v.recipe), "17", "jpeg", "{view}"}};
  v.spent["light"] = 42;
  v.events = {{1790000000, "shot", "set-01", "4 frames"}};
}

json expectedOf(const Job& job) {
  json views = json::array();
  for (const View& v : job.views())
    views.push_back({{"name", v.name},
                     {"world", v.world},
                     {"readings", v.readings.size()},
                     {"planned", v.plan ? v.plan->frames.size() : 0},
                     {"frames", v.frameNames()},
                     {"combined", v.combined.has_value()},
                     {"exposure", v.recipe.tone.exposure},
                     {"delivered", v.delivered.size()}});
  return {{"name", job.name()}, {"views", views}};
}

} // namespace

int main(int count, char** arguments) {
  if (count != 2) return std::fputs("ml_keep_job FOLDER\n", stderr), 2;
  auto job = Job::create(arguments[1], "Two rooms");
  if (!job) return std::fprintf(stderr, "%s\n", job.error().message.c_str()), 1;
  for (const auto& [name, world] : {std::pair{"Reading room", "reading_room"}, {"Boat hall", ""}})
    if (const auto added = job->addView(name, world, "crop-20"); !added)
      return std::fprintf(stderr, "%s\n", added.error().message.c_str()), 1;
  View &first = job->views()[0], &second = job->views()[1];
  fillFirst(first);
  second.recipe.tone.exposure = -0.75;
  second.adoptFrames("Bracket", {"/card/a.dng", "/card/b.dng"});
  second.leftOut = true;
  std::ofstream(first.radianceFile()) << "stands for the picture\n";
  bool done = true;
  for (const View* v : {&first, &second})
    for (const auto& saved : {v->savePlan(), v->saveFrames(), v->saveCombined(), v->saveFinish(), v->saveJournal()})
      done = done && saved.has_value();
  std::ofstream(job->folder() / "expected.json") << expectedOf(*job).dump(1) << "\n";
  return done && job->save() ? 0 : 1;
}
