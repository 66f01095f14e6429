// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/settings_list.h"
#include "base/phrase.h"

namespace ml {

std::vector<SettingItem> settingsFor(bool inTheHand) {
  std::vector<SettingItem> items{
      {"mode",
       wording("Exposure mode"),
       wording("Only the time may change from frame to frame: another aperture moves the zone of focus."),
       {wording("aperture fixed"), wording("time fixed"), "programme", "automatic"},
       "",
       wording("aperture fixed")},
      {"aperture",
       wording("Aperture"),
       wording("The middle of the range is sharpest; wide open loses depth, f/22 loses sharpness to diffraction."),
       {"f/2.8", "f/8", "f/22"},
       "",
       "f/8"},
      {"iso",
       "ISO",
       wording("The lowest has the least noise and the most range."),
       {"automatic", "100", "1600"},
       "",
       "100"},
      {"focus",
       wording("Focus"),
       wording("Autofocus may hunt between frames: focus once, then switch to manual."),
       {"automatic", "manual"},
       "",
       "manual"},
      {"balance",
       wording("White balance"),
       wording("Automatic balance may turn between frames."),
       {"automatic", "fixed"},
       "",
       "fixed"},
      {"files", wording("Files"), wording("Raw keeps the range of the sensor."), {"raw", "JPEG"}, "", "raw"},
      {"flash",
       wording("Flash"),
       wording("It fires in the dark frames and lights what the others show dark."),
       {"automatic", "off"},
       "",
       "off"},
      {"release",
       wording("Release"),
       wording("A finger on the button moves the camera."),
       {wording("by finger"), wording("timer or remote"), wording("fastest burst")},
       "",
       wording("timer or remote")},
      {"stabiliser",
       wording("Stabiliser"),
       wording("On a tripod it may set the picture moving."),
       {"on", "off"},
       "",
       "off"},
      {"bracketing",
       wording("Bracketing"),
       wording("The set is ordered here, not by turning dials."),
       {"off", "on"},
       "",
       "on"}};
  if (inTheHand) {
    const auto want = [&](const char* id, const char* right, const char* why) {
      for (auto& item : items)
        if (item.id == id) {
          item.right = right;
          item.why = why;
        }
    };
    for (auto& item : items)
      if (item.id == "iso") item.choices = {"automatic", "100", "400"};
    want("iso", "400", wording("From the hand the longest time must stay short enough; 250 to 500 indoors."));
    want("release", wording("fastest burst"),
         wording("The less time passes, the less the camera moves between frames."));
    want("stabiliser", "on", wording("It holds the hand still."));
  }
  for (auto& item : items) item.now = item.right;
  return items;
}

} // namespace ml
