// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/plan_visit.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace ml {
namespace {

using std::chrono::seconds;

/// A visit as the schedule sees it: the views that are still to do, seconds from the beginning of its sun track.
struct Puzzle {
  const Visit& visit;
  SunTrack track;
  std::vector<int> views;                 ///< Of the tasks.
  std::vector<std::vector<Span>> windows; ///< Of the tasks, over all of the track.
  ScheduleRequest request;

  [[nodiscard]] int at(Moment moment) const { return int((moment - track.span().from).count()); }
  [[nodiscard]] Moment moment(int at) const { return track.span().from + seconds{at}; }
};

std::vector<std::pair<int, int>> beginsIn(const Puzzle& puzzle, const std::vector<Span>& windows, int length) {
  std::vector<std::pair<int, int>> out;
  for (const auto& window : windows)
    if (const int first = puzzle.at(window.from), last = puzzle.at(window.to) - length; first <= last)
      out.emplace_back(first, last);
  return out;
}

/// The day before and after belong to the track: what would fit is looked for there.
Puzzle puzzleOf(const Visit& visit, const std::vector<Pace>& own, const std::optional<VisitNow>& now) {
  const Span span = visit.span();
  Puzzle out{
      visit, SunTrack(visit.place, {span.from - std::chrono::hours{12}, span.to + std::chrono::hours{12}}), {}, {}, {}};
  out.request.from = out.at(now ? std::max(span.from, now->moment) : span.from);
  out.request.to = std::max(out.request.from, out.at(span.to));
  out.request.late = visit.late && !now;
  for (int i = 0; i < int(visit.views.size()); ++i) {
    const auto& view = visit.views[std::size_t(i)];
    if (view.done) continue;
    out.views.push_back(i);
    out.windows.push_back(windowsOf(view.light, out.track, out.track.span()));
    const int length = secondsFor(view, own);
    out.request.tasks.push_back({length, beginsIn(out, out.windows.back(), length), view.worth, view.late});
    out.request.firstWay.push_back(
        now && now->at >= 0 ? int(std::lround(60 * visit.wayBetween(visit.views[std::size_t(now->at)], view))) : 0);
  }
  for (const int a : out.views) {
    std::vector<int> row;
    for (const int b : out.views)
      row.push_back(int(std::lround(60 * visit.wayBetween(visit.views[std::size_t(a)], visit.views[std::size_t(b)]))));
    out.request.ways.push_back(std::move(row));
  }
  return out;
}

/// Light beyond the visit is of no use.
PlannedView plannedView(const Puzzle& puzzle, const Schedule::Entry& entry) {
  const Span span = puzzle.visit.span();
  PlannedView out;
  out.view = puzzle.views[std::size_t(entry.task)];
  out.begin = puzzle.moment(entry.begin);
  out.end = puzzle.moment(entry.end);
  for (const auto& window : puzzle.windows[std::size_t(entry.task)])
    if (window.from <= out.begin && out.end <= window.to)
      out.light = {std::max(window.from, span.from), std::min(window.to, span.to)};
  const Moment middle = out.begin + out.length() / 2;
  out.sun = puzzle.track.at(middle);
  out.fade = fadeAt(puzzle.track, middle);
  out.setLoses = out.fade * puzzle.visit.views[std::size_t(out.view)].setSeconds / 60;
  return out;
}

/// The least of 60 .. `most` seconds, in minutes, with which `works` does; nothing when none does. `works` must not
/// stop working with more.
template <class Works> std::optional<int> least(int most, const Works& works) {
  if (most < 60 || !works(most)) return {};
  int low = 0, high = (most + 59) / 60; // minutes; high works
  while (high - low > 1) {
    const int middle = (low + high) / 2;
    (works(std::min(most, middle * 60)) ? high : low) = middle;
  }
  return std::min(most, high * 60);
}

std::string minutesWords(int secondsCount) {
  const int minutes = (secondsCount + 59) / 60;
  if (minutes == 1) return phrase("1 minute");
  if (minutes < 100) return phrase("{} minutes", minutes);
  return phrase("{} h {} min", minutes / 60, minutes % 60);
}

std::string hours(const std::string& zone, const Span& span) {
  return phrase("{} to {}", clockAt(zone, span.from), clockAt(zone, span.to));
}

std::string goOn(const std::string& day, const std::string& hours) {
  return hours.empty() ? phrase("Go on {}: there is such light all day.", day)
                       : phrase("Go on {}: there is such light from {}.", day, hours);
}

/// What is tried to let one view in: the schedule as it is, and the tracks of other days, made once.
class Advice {
public:
  Advice(const Puzzle& puzzle, const Schedule& current) : puzzle_(puzzle), current_(current) {
    for (const auto& entry : current.order) order_.push_back(entry.task);
  }
  [[nodiscard]] std::string changeFor(int task);

private:
  /// Of so few views the whole order is found anew; of more the others keep theirs: what is said does let the view in
  /// then, and less might do.
  static constexpr std::size_t kFew = 8;

  [[nodiscard]] bool letsIn(const ScheduleRequest& request, int task, int without = -1) const;
  [[nodiscard]] std::optional<std::string> cheapest(int task) const;
  [[nodiscard]] std::optional<std::string> insteadOf(int task) const;
  [[nodiscard]] std::optional<std::string> anotherDay(int task);
  const SunTrack& trackOf(int days);

  const Puzzle& puzzle_;
  const Schedule& current_;
  std::vector<int> order_;
  std::map<int, SunTrack> days_; ///< From the day of the visit.
};

/// Is there room for the task beside all others that are in now, but one?
bool Advice::letsIn(const ScheduleRequest& request, int task, int without) const {
  if (request.tasks.size() <= kFew) {
    ScheduleRequest kept = request;
    for (const int other : current_.leftOut)
      if (other != task) kept.tasks[std::size_t(other)].begins.clear();
    if (without >= 0) kept.tasks[std::size_t(without)].begins.clear();
    return findSchedule(kept).order.size() == current_.order.size() + (without >= 0 ? 0 : 1);
  }
  std::vector<int> others = order_;
  std::erase(others, without);
  for (std::size_t place = 0; place <= others.size(); ++place) {
    std::vector<int> tried = others;
    tried.insert(tried.begin() + std::ptrdiff_t(place), task);
    if (inThisOrder(request, tried).order.size() == tried.size()) return true;
  }
  return false;
}

/// More time at either end, or less for the view.
std::optional<std::string> Advice::cheapest(int task) const {
  const std::string& zone = puzzle_.visit.place.timeZone;
  const ScheduleRequest& now = puzzle_.request;
  const int length = now.tasks[std::size_t(task)].seconds;
  struct Change {
    int cost;
    std::string words;
  };
  std::vector<Change> changes;
  const auto longer = [&](int before, int after) {
    ScheduleRequest request = now;
    request.from -= before;
    request.to += after;
    return request;
  };
  if (const auto by =
          least(puzzle_.at(puzzle_.track.span().to) - now.to, [&](int s) { return letsIn(longer(0, s), task); }))
    changes.push_back(
        {*by, phrase("Stay {} longer, until {}.", minutesWords(*by), clockAt(zone, puzzle_.moment(now.to + *by)))});
  if (const auto by = least(now.from, [&](int s) { return letsIn(longer(s, 0), task); }))
    changes.push_back(
        {*by, phrase("Begin {} earlier, at {}.", minutesWords(*by), clockAt(zone, puzzle_.moment(now.from - *by)))});
  const auto quicker = [&](int by) {
    ScheduleRequest request = now;
    auto& t = request.tasks[std::size_t(task)];
    t.seconds -= by;
    t.begins = beginsIn(puzzle_, puzzle_.windows[std::size_t(task)], t.seconds);
    return request;
  };
  if (const auto by = least(length / 2, [&](int s) { return letsIn(quicker(s), task); }))
    changes.push_back({*by, phrase("Take {} for it instead of {}.", minutesWords(length - *by), minutesWords(length))});
  if (changes.empty()) return {};
  return std::min_element(changes.begin(), changes.end(), [](const auto& a, const auto& b) { return a.cost < b.cost; })
      ->words;
}

/// The one other view that stands in its way.
std::optional<std::string> Advice::insteadOf(int task) const {
  if (puzzle_.request.tasks[std::size_t(task)].begins.empty()) return {};
  for (const int other : order_)
    if (letsIn(puzzle_.request, task, other))
      return phrase("Leave out {} for it.", puzzle_.visit.views[std::size_t(puzzle_.views[std::size_t(other)])].name);
  return {};
}

const SunTrack& Advice::trackOf(int days) {
  if (const auto it = days_.find(days); it != days_.end()) return it->second;
  Visit other = puzzle_.visit;
  other.date = year_month_day{std::chrono::sys_days(other.date) + std::chrono::days{days}};
  return days_.emplace(days, SunTrack(other.place, other.span())).first->second;
}

/// The first of the days that follow whose light would do.
std::optional<std::string> Advice::anotherDay(int task) {
  const Visit& visit = puzzle_.visit;
  const auto& view = visit.views[std::size_t(puzzle_.views[std::size_t(task)])];
  const int length = puzzle_.request.tasks[std::size_t(task)].seconds;
  constexpr int kYear = 366, kCloseBy = 14;
  for (int days = 1; days <= kYear; days += days < kCloseBy ? 1 : 7) {
    const SunTrack& track = trackOf(days);
    for (const auto& window : windowsOf(view.light, track, track.span()))
      if ((window.to - window.from).count() >= length)
        return goOn(print(dateAt(visit.place.timeZone, track.span().from)),
                    window == track.span() ? std::string() : hours(visit.place.timeZone, window));
  }
  return {};
}

std::string Advice::changeFor(int task) {
  if (const auto change = cheapest(task)) return *change;
  if (const auto instead = insteadOf(task)) return *instead;
  if (const auto day = anotherDay(task)) return *day;
  return phrase("No other day of the year helps; choose another light or direction for it.");
}

/// Why a task finds no time.
std::string reasonFor(const Puzzle& puzzle, int task) {
  const auto& view = puzzle.visit.views[std::size_t(puzzle.views[std::size_t(task)])];
  const std::string& zone = puzzle.visit.place.timeZone;
  const int length = puzzle.request.tasks[std::size_t(task)].seconds;
  const Span visit{puzzle.moment(puzzle.request.from), puzzle.moment(puzzle.request.to)};
  std::optional<Span> inside, outside;
  for (const auto& window : puzzle.windows[std::size_t(task)]) {
    const Span common{std::max(window.from, visit.from), std::min(window.to, visit.to)};
    if (common.empty()) {
      if (!outside || window.from - visit.to < outside->from - visit.to) outside = window;
    } else if (!inside || common.to - common.from > inside->to - inside->from)
      inside = common;
  }
  if (!inside && !outside) return phrase("{} finds no light: {}.", view.name, whyNever(view.light));
  if (!inside)
    return phrase("{} finds no light during the visit: light {} lasts from {}.", view.name, wordsOf(view.light.want),
                  hours(zone, *outside));
  if ((inside->to - inside->from).count() < length)
    return phrase("{} takes {}, and its light lasts only from {} of the visit.", view.name, minutesWords(length),
                  hours(zone, *inside));
  return phrase("{} takes {} between {}, and the others leave too little of that.", view.name, minutesWords(length),
                hours(zone, *inside));
}

} // namespace

Result<VisitPlan> planVisit(const Visit& visit, const std::vector<Pace>& own, std::optional<VisitNow> now,
                            bool advise) {
  if (const auto reason = visit.invalidReason()) return fail(ErrorCode::InvalidArgument, *reason);
  const Puzzle puzzle = puzzleOf(visit, own, now);
  const Schedule schedule = findSchedule(puzzle.request);
  VisitPlan out;
  out.zone = visit.place.timeZone;
  out.sun = sunDay(visit.place, visit.date);
  out.span = visit.span();
  out.begin = out.end = puzzle.moment(schedule.order.empty() ? puzzle.request.from : schedule.begin);
  for (const auto& entry : schedule.order) out.order.push_back(plannedView(puzzle, entry));
  if (!out.order.empty()) out.end = out.order.back().end;
  Advice advice(puzzle, schedule);
  for (const int task : schedule.leftOut)
    out.leftOut.push_back(
        {puzzle.views[std::size_t(task)], reasonFor(puzzle, task), advise ? advice.changeFor(task) : std::string()});
  return out;
}

namespace {

/// Of an entry, so that it and all that follow still find their light.
Moment latestBegin(const Visit& visit, const VisitPlan& plan, std::size_t entry) {
  Moment latest = plan.span.to;
  for (std::size_t i = plan.order.size(); i-- > entry;) {
    const auto& step = plan.order[i];
    latest = std::min(latest, step.light.to) - step.length();
    if (i == entry) break;
    const auto& before = visit.views[std::size_t(plan.order[i - 1].view)];
    latest -= seconds{std::lround(60 * visit.wayBetween(before, visit.views[std::size_t(step.view)]))};
  }
  return latest;
}

} // namespace

VisitMoment momentIn(const Visit& visit, const VisitPlan& plan, Moment now) {
  VisitMoment out;
  for (std::size_t i = 0; i < plan.order.size(); ++i) {
    const auto& entry = plan.order[i];
    if (visit.views[std::size_t(entry.view)].done) continue;
    out.next = int(i);
    out.untilBegin = entry.begin - now;
    out.lightLeft = entry.light.to - now;
    out.spare = latestBegin(visit, plan, i) - now;
    return out;
  }
  return out;
}

} // namespace ml
