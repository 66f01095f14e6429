#include "plan/schools.h"

#include <algorithm>

namespace ml {

const std::vector<School>& schools() {
  using enum SchoolShape;
  static const std::vector<School> all{
      {"auto", "Smallest set", Free, 0, {0}, "anyone: as many frames as the light asks for, and no more", "nothing", 0},
      {"one-frame", "One raw", Fixed, 1, {0}, "where the scene fits: shadows lifted, highlights held", "noise in the shadows; no help beyond the sensor", 0},
      {"three-by-two", "Three at two stops", Fixed, 3, {2}, "the everyday set for rooms and landscapes", "gaps beyond two stops each way and the sensor's own range", 0},
      {"five-by-two", "Five at two stops", Fixed, 5, {2}, "dark rooms with bright windows", "time, and what moves meanwhile", 0},
      {"small-steps", "Small steps", SmallSteps, 0, {0}, "when nothing moves: smoother joins, a cleaner merge", "time, space, ghosts", 0},
      {"five-by-one", "Five at one stop", Fixed, 5, {1}, "a short set with ample overlap", "little range for five frames", 0},
      {"seven-by-one", "Seven at one stop", Fixed, 7, {1}, "smooth steps over six stops", "time, space, ghosts", 0},
      {"nine-by-one", "Nine at one stop", Fixed, 9, {1}, "smooth steps over eight stops", "time, space, ghosts", 0},
      {"full-run", "Full run", FullRun, 0, {1}, "by hand, doubling the time until all is white", "many frames, and a hand on the camera", 0},
      {"darker-only", "Darker only", DarkerOnly, 0, {0}, "hand-held volume work: one bright frame, the others darker, as fast as the burst goes", "the shadows rest on one frame", 0},
      {"shifted", "One stop down", ShiftedCentre, 3, {2}, "to protect highlights the meter overlooks", "noise in the shadows", 0},
      {"two-sets", "Two sets", TwoSets, 3, {2}, "when the camera's bracket is too short: again, two stops darker", "more time between the first frame and the last", 0},
      {"two-exposures", "Two exposures", TwoExposures, 2, {0}, "one for the window, one for the room, joined by tone", "needs few, clean borders between the two", 0},
      {"two-moments", "Two moments", TwoExposures, 2, {0}, "the view from one moment, people from another", "masks by hand", 0},
      {"window-flash", "Window with flash", TwoExposures, 2, {0}, "a further frame with flash on the window frame, the darker of the two kept inside it", "flash, and a mask", 1},
      {"in-camera", "In the camera", InCamera, 3, {3}, "quick delivery", "no raw, no control", 0},
  };
  return all;
}

const School* findSchool(const std::string& id) {
  const auto& all = schools();
  const auto found = std::find_if(all.begin(), all.end(), [&](const School& s) { return s.id == id; });
  return found == all.end() ? nullptr : &*found;
}

} // namespace ml
