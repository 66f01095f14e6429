// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "cli/more_commands.h"
#include "cli/say.h"
#include "logbook/store.h"
#include "session/locations.h"
#include "visit/calendar.h"
#include "visit/plan_json.h"
#include "visit/words.h"

#include <cstdio>
#include <nlohmann/json.hpp>

namespace ml::cli {
namespace {

/// From the logbook, when there is one; a visit is planned without it too.
std::vector<Pace> knownPace(const std::string& logbook) {
  const std::filesystem::path file = logbook.empty() ? logbookFile(jobsFolder()) : std::filesystem::path(logbook);
  std::error_code error;
  if (!std::filesystem::exists(file, error)) return {};
  const auto book = Logbook::open(file);
  if (!book) return {};
  const auto cases = book->cases();
  return cases ? ownPace(*cases) : std::vector<Pace>{};
}

void sayPlan(const Visit& visit, const VisitPlan& plan, const std::vector<Pace>& pace) {
  say(verdict(visit, plan));
  say(sunWords(plan));
  for (const auto& entry : plan.order) {
    const auto& view = visit.views[std::size_t(entry.view)];
    std::printf("  %s to %s  %s (%s)\n", clockAt(plan.zone, entry.begin).c_str(), clockAt(plan.zone, entry.end).c_str(),
                view.name.c_str(), lightWords(view).c_str());
    if (const std::string fade = fadeWords(visit, entry); !fade.empty()) std::printf("      %s\n", fade.c_str());
    for (const auto& caution : cautionsFor(view, entry)) std::printf("      %s\n", caution.c_str());
  }
  for (const auto& left : plan.leftOut) std::fprintf(stderr, "%s %s\n", left.reason.c_str(), left.change.c_str());
  for (const auto& own : pace) std::printf("  Pace, %s.\n", paceWords(own).c_str());
  say(generalCaution());
}

/// "17:30" of the visit's day.
Result<std::optional<VisitNow>> nowOf(const VisitPlanArguments& a, const Visit& visit) {
  if (a.now.empty()) return std::optional<VisitNow>{};
  const auto minutes = parseClock(a.now);
  if (!minutes)
    return fail(ErrorCode::InvalidArgument, "--now takes a time of the visit's day, for instance --now 17:30.");
  return std::optional<VisitNow>({momentOf(visit.place.timeZone, visit.date, *minutes), -1});
}

} // namespace

int runVisitPlan(const VisitPlanArguments& a) {
  const auto text = readText(a.file);
  if (!text) return refuse(text.error());
  const auto visit = visitFromJson(*text, a.file);
  if (!visit) return refuse(visit.error());
  const auto now = nowOf(a, *visit);
  if (!now) return refuse(now.error());
  const auto pace = knownPace(a.logbook);
  const auto plan = planVisit(*visit, pace, *now);
  if (!plan) return refuse(plan.error());
  if (!a.ics.empty()) {
    const auto stamp = std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now());
    if (auto written = writeTextAtomically(a.ics, toCalendar(*visit, *plan, stamp)); !written)
      return refuse(written.error());
  }
  if (a.json)
    say(toJson(*visit, *plan).dump(2));
  else
    sayPlan(*visit, *plan, pace);
  return plan->leftOut.empty() ? kDone : kSetLeftOut;
}

} // namespace ml::cli
