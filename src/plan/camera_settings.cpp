// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_settings.h"

#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

std::string metres(double mm) {
  return std::isinf(mm) ? "far" : fmt::format("{:.2g} m", mm / 1000);
}

std::string depthLine(const Plan& plan, const Situation& s) {
  const Optics optics = s.opticsOn(plan.camera);
  const auto [near, far] = depthOfField(optics, plan.request.aperture, s.focusDistance * 1000);
  return fmt::format("sharp from {} to {}; focused at {}, all beyond half of it is sharp; a point spreads over {:.1f} "
                     "um ({:.1f} pixels)",
                     metres(near), metres(far), metres(hyperfocal(optics, plan.request.aperture)),
                     airyDiameterUm(plan.request.aperture),
                     airyDiameterUm(plan.request.aperture) / plan.camera.pixelPitchUm);
}

bool brightSun(const Plan& plan) {
  return plan.request.high.value >= 15.5;
}

} // namespace

std::vector<CameraSetting> cameraSettings(const Plan& plan, const Situation& s) {
  const bool bracketed = !plan.byHand && plan.fired > 1;
  const bool manual = plan.byHand || s.positions.panDegrees > 0 || s.fadeStopsPerMinute > 0;
  std::vector<CameraSetting> list;
  list.push_back({"Mode", manual ? "Manual" : "Aperture priority",
                  manual ? "all frames and positions must match" : "or manual; the aperture stays fixed"});
  list.push_back({"Aperture", print(plan.request.aperture), depthLine(plan, s)});
  list.push_back({"ISO", print(plan.iso()).substr(4) + ", automatic ISO off", "it must not drift inside the set"});
  list.push_back({"White balance", "Daylight, fixed", "one balance for all frames"});
  const auto [near, far] = depthOfField(s.opticsOn(plan.camera), plan.request.aperture, s.focusDistance * 1000);
  list.push_back({"Focus", fmt::format("{:.3g} m, manual ({} to {})", s.focusDistance, metres(near), metres(far)),
                  "autofocus may hunt between frames"});
  list.push_back(
      {"Files", plan.camera.hasRaw ? "Raw" : "JPEG, finest", plan.camera.hasRaw ? "" : "this camera writes no raw"});
  list.push_back({"Drive",
                  plan.count == 1 ? "Single"
                  : s.handHeld    ? "Burst, fastest"
                                  : "Burst",
                  plan.count > 1 ? "the whole set from one press" : ""});
  list.push_back({"Timer", s.handHeld ? "Off" : fmt::format("{:g} s, or a remote", s.timer.value),
                  s.handHeld ? "" : "no hand on the camera"});
  if (bracketed) {
    list.push_back({"Bracket", plan.count == 1 ? "Off" : fmt::format("{} frames", plan.count), ""});
    if (plan.count > 1)
      list.push_back({"Step", print(plan.step).substr(1) + (plan.step.value > 1 ? " stops" : " stop"), ""});
    list.push_back({"Centre", print(plan.centre), "the time of the middle frame, set in manual"});
    const double metered = (plan.request.low.value + plan.request.high.value) / 2;
    const Stops compensation{std::round(3 * (metered - ev100(plan.request.aperture, plan.centre, plan.iso()).value)) /
                             3};
    list.push_back({"Compensation", print(compensation) + " EV",
                    fmt::format("in aperture priority, for a meter that reads the middle of your readings, EV {:.1f}; "
                                "else until the centre shows",
                                metered)});
    if (plan.runs == 2)
      list.push_back({"Second run", fmt::format("{} EV compensation", print(plan.compensation)),
                      "shoot again without touching the tripod"});
  } else {
    std::string times;
    for (const auto& frame : plan.frames) times += (times.empty() ? "" : ", ") + print(frame.time);
    list.push_back({plan.count == 1 ? "Time" : "Times, one by one", times,
                    plan.count == 1 ? "" : "this camera's bracketing does not offer this set"});
  }
  return list;
}

std::vector<std::string> planWarnings(const Plan& plan, const Situation& s) {
  std::vector<std::string> out;
  const Optics optics = s.opticsOn(plan.camera);
  const Stability stability = stabilityOf(plan, s);
  if (s.handHeld && stability.chanceSharp < 0.8)
    out.push_back(fmt::format("{} is beyond the steady hand ({}): about {:.0f} % of frames are sharp. Lean on "
                              "something and shoot the set {} times, or use a tripod.",
                              print(plan.frames.back().time),
                              print(Seconds{timeAtThirds(nearestThirds(handHeldLimit(optics)))}),
                              100 * stability.chanceSharp, stability.repeats));
  for (const auto& m : stability.movements) {
    if (m.blurPixels > 3)
      out.push_back(
          fmt::format("{} blur by {:.0f} px in the longest frame; wait for a lull, or plan which frame shall own them.",
                      m.name, m.blurPixels));
    else if (m.ghostPixels > 3)
      out.push_back(fmt::format(
          "{} stand {:.0f} px apart between the first frame and the last; they will be taken from one frame.", m.name,
          m.ghostPixels));
  }
  if (stability.drift.value > 0.1)
    out.push_back(
        fmt::format("The light falls by {:.1f} stop while the set is shot; shoot the longest frames first, or fewer.",
                    stability.drift.value));
  const double airy = airyDiameterUm(plan.request.aperture);
  if (airy > 3 * plan.camera.pixelPitchUm)
    out.push_back(fmt::format("At {} diffraction spreads a point over {:.1f} pixels ({:.0f} um); f/8 is sharper.",
                              print(plan.request.aperture), airy / plan.camera.pixelPitchUm, airy));
  if (plan.iso().value > plan.camera.baseIso.value * 4.1)
    out.push_back(
        fmt::format("{} leaves little room in the shadows; merging adds to noise that is lifted.", print(plan.iso())));
  if (plan.frames.back().time.value > 1 && !s.handHeld)
    out.push_back("Long frames: weight on the tripod, strap tied up, no steps on a soft floor.");
  if (plan.coverage.spareHigh.value >= 0 && plan.coverage.spareHigh.value < 0.15)
    out.push_back("The highlights have next to nothing to spare; read the brightest spot again just before the set.");
  if (plan.frames.back().time.value > plan.camera.longest.value * 0.99)
    out.push_back("The longest time is the camera's limit; bulb and a remote go further.");
  return out;
}

std::vector<std::string> checklist(const Plan& plan, const Situation& s) {
  std::vector<std::string> list;
  if (!s.handHeld) list.push_back("Level the head; lock column and head");
  list.push_back("Verticals vertical; look round the edges of the frame");
  list.push_back("Focus, then switch to manual focus");
  list.push_back("Automatic ISO, automatic white balance and flash off");
  if (s.handHeld)
    list.push_back("Elbows in, lean on something, breathe out");
  else
    list.push_back("Timer or remote; hands off");
  list.push_back("Wait for a lull in the wind");
  if (s.positions.panDegrees > 0) list.push_back("Same exposure at every position; check focus at each");
  list.push_back(fmt::format("Check the darkest frame ({}) for clipping, the brightest ({}) for the deep shadow",
                             print(plan.frames.front().time), print(plan.frames.back().time)));
  list.push_back("Zoom in: sharp? Did anything move?");
  list.push_back("Hand in front of the lens between sets; bracketing off at the end");
  return list;
}

std::vector<std::string> cautions(const Plan& plan, const Situation& s) {
  std::vector<std::string> list;
  if (brightSun(plan))
    list.push_back(
        "Never look at the sun through an optical finder or a long lens, and do not leave the lens pointed at it.");
  if (!s.handHeld) list.push_back("Tripod, cables and stands out of walkways; weight on the tripod in wind.");
  if (std::any_of(s.movers.begin(), s.movers.end(),
                  [](const Mover& m) { return m.id == "waves" || m.id == "ripples"; }))
    list.push_back("Keep back from water edges; watch tide and footing.");
  if (plan.request.high.value < 10)
    list.push_back("In the dark: light for the way back, and no steps on what you cannot see.");
  if (plan.school == "window-flash") list.push_back("Flash can harm photosensitive people and animals; ask first.");
  list.push_back("Local rules and the owner's safety instructions come first.");
  return list;
}

} // namespace ml
