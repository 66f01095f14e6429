// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/words.h"
#include "base/phrase.h"
#include "base/spelled.h"

#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

std::string countedViews(std::size_t count) {
  return count == 1 ? phrase("One view") : phrase("{} views", spelled(count, 12));
}

std::string minutesOf(std::chrono::seconds time) {
  const auto minutes = std::chrono::round<std::chrono::minutes>(time).count();
  if (minutes == 1) return phrase("1 minute");
  return minutes < 100 ? phrase("{} minutes", minutes) : fmt::format("{} h {:02d}", minutes / 60, minutes % 60);
}

} // namespace

std::string verdict(const Visit& visit, const VisitPlan& plan) {
  if (visit.views.empty()) return phrase("No view is planned yet: add what is to be photographed.");
  if (plan.order.empty() && plan.leftOut.empty()) return phrase("All views are done.");
  std::string out;
  if (!plan.order.empty()) {
    out = phrase("{} from {} to {}", countedViews(plan.order.size()), clockAt(plan.zone, plan.begin),
                 clockAt(plan.zone, plan.end));
    if (plan.leftOut.empty())
      return out + (plan.order.size() == 1 ? phrase(", in its light.") : phrase(", all in their light."));
    out += "; ";
  }
  const auto& first = plan.leftOut.front();
  if (plan.leftOut.size() > 1)
    return out + phrase("{} find no time, first {}.", countedViews(plan.leftOut.size()),
                        visit.views[std::size_t(first.view)].name);
  return out + first.reason + (first.change.empty() ? "" : " " + first.change);
}

std::string sunWords(const VisitPlan& plan) {
  const auto& sun = plan.sun;
  if (sun.neverSets)
    return phrase("The sun does not set; it stands highest, at {:.0f}°, at {}.", sun.highestAltitude,
                  clockAt(plan.zone, sun.highest));
  std::string out;
  const auto say = [&](const std::string& what, const std::optional<Moment>& moment) {
    if (moment) out += fmt::format("{}{} {}", out.empty() ? "" : ", ", what, clockAt(plan.zone, *moment));
  };
  if (sun.neverRises) {
    out = phrase("The sun does not rise");
  } else {
    say(phrase("sunrise"), sun.horizon.rises);
    say(phrase("highest"), sun.highest);
    out += phrase(" at {:.0f}°", sun.highestAltitude);
    say(phrase("sunset"), sun.horizon.sets);
  }
  say(sun.neverRises ? phrase("twilight from") : phrase("end of civil twilight"),
      sun.neverRises ? sun.civil.rises : sun.civil.sets);
  if (sun.neverRises) say(phrase("until"), sun.civil.sets);
  out[0] = char(std::toupper(out[0]));
  return out + ".";
}

std::string fadeWords(const Visit& visit, const PlannedView& planned) {
  const auto& view = visit.views[std::size_t(planned.view)];
  constexpr double kFelt = 0.02; // stops a minute; slower is not planned for
  if (std::abs(planned.fade) < kFelt) return {};
  return phrase("One bracket takes {:.0f} s; in that time the light {} by {:.2f} stop ({:.2f} a minute).",
                view.setSeconds, planned.fade > 0 ? phrase("falls") : phrase("grows"), std::abs(planned.setLoses),
                std::abs(planned.fade));
}

std::string nowWords(const Visit& visit, const VisitPlan& plan, Moment now) {
  const auto at = momentIn(visit, plan, now);
  if (at.next < 0) return phrase("All views are done.");
  const auto& entry = plan.order[std::size_t(at.next)];
  const auto& view = visit.views[std::size_t(entry.view)];
  std::string out;
  constexpr std::chrono::seconds kSoon{30};
  if (at.untilBegin > kSoon)
    out = phrase("Next: {} at {}, in {}.", view.name, clockAt(plan.zone, entry.begin), minutesOf(at.untilBegin));
  else
    out = phrase("Now: {}, in its light until {}.", view.name, clockAt(plan.zone, entry.light.to));
  if (at.spare < std::chrono::seconds{0})
    return out + phrase(" It is {} late: what follows loses its light unless the order changes.", minutesOf(-at.spare));
  if (at.spare < std::chrono::minutes{1}) return out + phrase(" There is no time to spare.");
  return out + phrase(" There is time for a repeat: {} to spare.", minutesOf(at.spare));
}

std::string lightWords(const VisitView& view) {
  std::string out =
      view.light.want == LightWant::Any ? phrase("any light") : phrase("light {}", wordsOf(view.light.want));
  if (needsDirection(view.light.want)) out += phrase(", looking towards {:.0f}°", view.light.direction);
  if (view.lamps == Lamps::On) out += phrase(", lamps on");
  if (view.lamps == Lamps::Both) out += phrase(", lamps off and on");
  return out;
}

std::string paceWords(const Pace& pace) {
  if (pace.cases == 0) return phrase("{}: {:g} minutes each, a usual figure", pace.kind, pace.minutes);
  return phrase("{}: {:.1f} minutes each, your own pace of {} views", pace.kind, pace.minutes, pace.cases);
}

const std::vector<std::string>& checklist() {
  static const std::vector<std::string> list{
      phrase("Batteries charged, cards empty, lens and sensor clean"),
      phrase("Head level, verticals vertical"),
      phrase("Aperture and ISO fixed, white balance fixed, focus by hand"),
      phrase("Bracket set, self-timer or remote, stabiliser off on a tripod"),
      phrase("Brightest and darkest spot read"),
      phrase("Darkest frame not clipped, brightest frame shows the shadows, all sharp"),
      phrase("Notes: what was repeated, and why")};
  return list;
}

std::vector<std::string> cautionsFor(const VisitView& view, const PlannedView& planned) {
  std::vector<std::string> out;
  constexpr double kNear = 45;
  if (planned.sun.altitude > -1 && bearingBetween(planned.sun.azimuth, view.light.direction) < kNear &&
      (needsDirection(view.light.want) || view.light.want == LightWant::LowSun))
    out.emplace_back(phrase("The sun stands near the view: never look at it through an optical finder, and do not "
                            "leave the lens pointed at it."));
  if (planned.sun.altitude < 0)
    out.emplace_back(
        phrase("It gets dark: keep off edges of water, roads and rails, carry a light, and mind the way back."));
  if (view.lamps != Lamps::Off)
    out.emplace_back(phrase("Switch lamps only; fittings and mains are for a licensed electrician."));
  return out;
}

const std::string& generalCaution() {
  static const std::string text = phrase("Tripod and cables stay out of walkways, with weight on the tripod in wind. "
                                         "Derelict buildings, ladders and roofs only with permission and somebody "
                                         "beside you. Local rules and the owner's safety instructions come first.");
  return text;
}

} // namespace ml
