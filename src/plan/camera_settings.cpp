// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_settings.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

std::string distance(double mm, bool feet) {
  if (std::isinf(mm)) return phrase("infinity");
  return feet ? phrase("{:.3g} ft", mm / 304.8) : phrase("{:.2g} m", mm / 1000);
}

std::string depthLine(const Plan& plan, const Situation& s, bool feet) {
  const Optics optics = s.opticsOn(plan.camera);
  const auto [near, far] = depthOfField(optics, plan.request.aperture, s.focusDistance * 1000);
  return phrase("sharp from {} to {}; focused at {}, all beyond half of it is sharp; a point spreads over {:.1f} "
                "um ({:.1f} pixels)",
                distance(near, feet), distance(far, feet), distance(hyperfocal(optics, plan.request.aperture), feet),
                airyDiameterUm(plan.request.aperture),
                airyDiameterUm(plan.request.aperture) / plan.camera.pixelPitchUm);
}

/// What the camera's own bracketing is set to, in times that it has: the middle frame of an odd count, the first of an
/// even one, whose middle lies between two of the camera's times.
void addBracket(const Plan& plan, std::vector<CameraSetting>& list) {
  list.push_back({phrase("Bracket"), plan.count == 1 ? phrase("Off") : phrase("{} frames", plan.count), ""});
  if (plan.count > 1)
    list.push_back({phrase("Step"),
                    plan.step.value > 1 ? phrase("{} stops", print(plan.step).substr(1))
                                        : phrase("{} stop", print(plan.step).substr(1)),
                    ""});
  const bool odd = plan.count % 2 == 1;
  const std::string name = plan.count == 1 ? phrase("Time") : odd ? phrase("Middle frame") : phrase("First frame");
  const Seconds set = odd ? plan.centre : brighter(plan.centre, {-plan.step.value * (plan.count - 1) / 2});
  list.push_back({name, print(set),
                  plan.count == 1 ? phrase("the time to set")
                  : odd           ? phrase("the time to set; the others lie around it")
                                  : phrase("the time to set; the others are longer")});
  const double metered = (plan.request.low.value + plan.request.high.value) / 2;
  const Stops compensation{std::round(3 * (metered - ev100(plan.request.aperture, set, plan.iso()).value)) / 3};
  list.push_back({phrase("If not manual"), phrase("Aperture priority, {} EV", print(compensation)),
                  phrase("for cameras that bracket only by their meter; a guess, for a meter that reads the "
                         "middle of your readings, EV {:.1f}: turn it until the time above shows",
                         metered)});
  if (plan.runs == 2)
    list.push_back({phrase("Second run"), fmt::format("{} {}", name, print(brighter(set, plan.compensation))),
                    phrase("{} EV against the first run; without touching the tripod", print(plan.compensation))});
}

bool brightSun(const Plan& plan) {
  return plan.request.high.value >= 15.5;
}

} // namespace

std::vector<CameraSetting> cameraSettings(const Plan& plan, const Situation& s, bool feet) {
  std::vector<CameraSetting> list;
  list.push_back({phrase("Mode"), phrase("Manual"),
                  phrase("fixed times: nothing that the meter sees can shift them between frames")});
  list.push_back({phrase("Aperture"), print(plan.request.aperture), depthLine(plan, s, feet)});
  list.push_back({"ISO", phrase("{}, automatic ISO off", print(plan.iso()).substr(4)),
                  phrase("it must not drift inside the set")});
  list.push_back({phrase("White balance"), phrase("Daylight, fixed"), phrase("one balance for all frames")});
  const auto [near, far] = depthOfField(s.opticsOn(plan.camera), plan.request.aperture, s.focusDistance * 1000);
  list.push_back({phrase("Focus"), phrase("{}, manual", distance(s.focusDistance * 1000, feet)),
                  phrase("autofocus may hunt between frames")});
  list.push_back({phrase("Sharp"),
                  std::isinf(far) ? phrase("from {}", distance(near, feet))
                                  : phrase("{} to {}", distance(near, feet), distance(far, feet)),
                  phrase("at this aperture and focal length")});
  list.push_back({phrase("Files"), plan.camera.hasRaw ? phrase("Raw") : phrase("JPEG, finest"),
                  plan.camera.hasRaw ? "" : phrase("this camera writes no raw")});
  list.push_back({phrase("Drive"),
                  plan.count == 1 ? phrase("Single")
                  : s.handHeld    ? phrase("Burst, fastest")
                                  : phrase("Burst"),
                  plan.count > 1 ? phrase("the whole set from one press") : ""});
  list.push_back({phrase("Timer"), s.handHeld ? phrase("Off") : phrase("{:g} s, or a remote", s.timer.value),
                  s.handHeld ? "" : phrase("no hand on the camera")});
  if (!plan.byHand && plan.fired > 1) {
    addBracket(plan, list);
  } else {
    std::string times;
    for (const auto& frame : plan.frames) times += (times.empty() ? "" : ", ") + print(frame.time);
    list.push_back({plan.count == 1 ? phrase("Time") : phrase("Times, one by one"), times,
                    plan.count == 1 ? "" : phrase("this camera's bracketing does not offer this set")});
  }
  if (plan.flashFrames() > 0)
    list.push_back({phrase("With flash"), phrase("one frame more at {}", print(plan.frames.front().time)),
                    phrase("fired by your own hand, on the window frame; its darker parts are kept")});
  return list;
}

std::vector<std::string> planWarnings(const Plan& plan, const Situation& s) {
  std::vector<std::string> out;
  const Optics optics = s.opticsOn(plan.camera);
  const Stability stability = stabilityOf(plan, s);
  if (s.handHeld && stability.chanceSharp < 0.8)
    out.push_back(phrase("{} is beyond the steady hand ({}): about {:.0f} % of frames are sharp. Lean on "
                         "something and shoot the set {} times, or use a tripod.",
                         print(plan.frames.back().time),
                         print(Seconds{timeAtThirds(nearestThirds(handHeldLimit(optics)))}),
                         100 * stability.chanceSharp, stability.repeats));
  for (const auto& m : stability.movements) {
    if (m.blurPixels > 3)
      out.push_back(phrase(
          "{} blur by {:.0f} pixels in the longest frame; wait for a lull, or choose one frame for them at Combine.",
          m.name, m.blurPixels));
    else if (m.ghostPixels > 3)
      out.push_back(phrase(
          "{} stand {:.0f} pixels apart between the first frame and the last; they will be taken from one frame.",
          m.name, m.ghostPixels));
  }
  if (stability.drift.value > 0.1)
    out.push_back(
        phrase("The light falls by {:.1f} stop while the set is shot; shoot the longest frames first, or fewer.",
               stability.drift.value));
  const double airy = airyDiameterUm(plan.request.aperture);
  if (airy > 3 * plan.camera.pixelPitchUm)
    out.push_back(phrase("At {} diffraction spreads a point over {:.1f} pixels ({:.0f} um); f/8 is sharper.",
                         print(plan.request.aperture), airy / plan.camera.pixelPitchUm, airy));
  if (plan.iso().value > plan.camera.baseIso.value * 4.1)
    out.push_back(
        phrase("{} leaves little room in the shadows; merging adds to noise that is lifted.", print(plan.iso())));
  if (plan.frames.back().time.value > 1 && !s.handHeld)
    out.push_back(phrase("Long frames: weight on the tripod, strap tied up, no steps on a soft floor."));
  if (plan.coverage.spareHigh.value >= 0 && plan.coverage.spareHigh.value < 0.15)
    out.push_back(
        phrase("The highlights have next to no room left; read the brightest spot again just before the set."));
  if (plan.frames.back().time.value > plan.camera.longest.value * 0.99)
    out.push_back(phrase("The longest time is the camera's limit; bulb and a remote go further."));
  return out;
}

std::vector<std::string> checklist(const Plan& plan, const Situation& s) {
  std::vector<std::string> list;
  if (!s.handHeld) list.push_back(phrase("Level the head; lock column and head"));
  list.push_back(phrase("Verticals vertical; look round the edges of the frame"));
  list.push_back(phrase("Focus, then switch to manual focus"));
  list.push_back(phrase("Automatic ISO, automatic white balance and flash off"));
  if (s.handHeld)
    list.push_back(phrase("Elbows in, lean on something, breathe out"));
  else
    list.push_back(phrase("Timer or remote; hands off"));
  list.push_back(phrase("Wait for a lull in the wind"));
  if (s.positions.panDegrees > 0) list.push_back(phrase("Same exposure at every position; check focus at each"));
  list.push_back(phrase("Check the darkest frame ({}) for clipping, the brightest ({}) for the deep shadow",
                        print(plan.frames.front().time), print(plan.frames.back().time)));
  list.push_back(phrase("Zoom in: sharp? Did anything move?"));
  list.push_back(phrase("Hand in front of the lens between sets; bracketing off at the end"));
  return list;
}

std::vector<std::string> cautions(const Plan& plan, const Situation& s) {
  std::vector<std::string> list;
  if (brightSun(plan))
    list.push_back(phrase(
        "Never look at the sun through an optical finder or a long lens, and do not leave the lens pointed at it."));
  if (!s.handHeld) list.push_back(phrase("Tripod, cables and stands out of walkways; weight on the tripod in wind."));
  if (std::any_of(s.movers.begin(), s.movers.end(),
                  [](const Mover& m) { return m.id == "waves" || m.id == "ripples"; }))
    list.push_back(phrase("Keep back from water edges; watch tide and footing."));
  if (plan.request.high.value < 10)
    list.push_back(phrase("In the dark: light for the way back, and no steps on what you cannot see."));
  if (plan.school == "window-flash")
    list.push_back(phrase("Flash can harm photosensitive people and animals; ask first."));
  list.push_back(phrase("Local rules and the owner's safety instructions come first."));
  return list;
}

} // namespace ml
