// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/plan_json.h"

#include "visit/words.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

/// "2026-06-21T19:40:00Z".
std::string utc(Moment moment) {
  using namespace std::chrono;
  const auto day = floor<days>(moment);
  const auto inDay = (moment - day).count();
  return fmt::format("{}T{:02d}:{:02d}:{:02d}Z", print(year_month_day{day}), inDay / 3600, inDay / 60 % 60, inDay % 60);
}

json moment(const std::optional<Moment>& at) {
  return at ? json(utc(*at)) : json(nullptr);
}

json sunJson(const SunDay& sun) {
  return {{"rise", moment(sun.horizon.rises)},
          {"set", moment(sun.horizon.sets)},
          {"transit", utc(sun.highest)},
          {"highest_altitude", sun.highestAltitude},
          {"never_sets", sun.neverSets},
          {"never_rises", sun.neverRises},
          {"civil_dawn", moment(sun.civil.rises)},
          {"civil_dusk", moment(sun.civil.sets)},
          {"nautical_dawn", moment(sun.nautical.rises)},
          {"nautical_dusk", moment(sun.nautical.sets)},
          {"astronomical_dawn", moment(sun.astronomical.rises)},
          {"astronomical_dusk", moment(sun.astronomical.sets)}};
}

json viewJson(const Visit& visit, const VisitPlan& plan, const PlannedView& planned) {
  const auto& view = visit.views[std::size_t(planned.view)];
  return {{"view", view.name},
          {"index", planned.view},
          {"begin", utc(planned.begin)},
          {"end", utc(planned.end)},
          {"begin_local", clockAt(plan.zone, planned.begin)},
          {"end_local", clockAt(plan.zone, planned.end)},
          {"light_from", utc(planned.light.from)},
          {"light_to", utc(planned.light.to)},
          {"sun_azimuth", planned.sun.azimuth},
          {"sun_altitude", planned.sun.altitude},
          {"fade_stops_per_minute", planned.fade},
          {"set_loses_stops", planned.setLoses},
          {"cautions", cautionsFor(view, planned)}};
}

} // namespace

json toJson(const Visit& visit, const VisitPlan& plan) {
  json order = json::array(), leftOut = json::array();
  for (const auto& planned : plan.order) order.push_back(viewJson(visit, plan, planned));
  for (const auto& left : plan.leftOut)
    leftOut.push_back({{"view", visit.views[std::size_t(left.view)].name},
                       {"index", left.view},
                       {"reason", left.reason},
                       {"change", left.change}});
  return {{"version", 1},
          {"name", visit.name},
          {"date", print(visit.date)},
          {"time_zone", plan.zone},
          {"verdict", verdict(visit, plan)},
          {"sun", sunJson(plan.sun)},
          {"order", order},
          {"left_out", leftOut},
          {"begin", utc(plan.begin)},
          {"end", utc(plan.end)},
          {"seconds_on_site", (plan.end - plan.begin).count()}};
}

} // namespace ml
