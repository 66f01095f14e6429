// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/ways.h"

#include "exposure/marks.h"
#include "model/text.h"

#include <QObject>
#include <algorithm>
#include <array>

namespace ml {
namespace {

QString framesOf(const Plan& plan) {
  const int flash = plan.flashFrames(), fired = plan.fired - flash;
  const QString words = fired == 1 ? QObject::tr("1 frame") : QObject::tr("%1 frames").arg(fired);
  return flash > 0 ? QObject::tr("%1, 1 with flash").arg(words) : words;
}

QString timesOf(const Plan& plan) {
  const QString first = text(print(plan.frames.front().time));
  return plan.frames.size() == 1 ? first : QObject::tr("%1 to %2").arg(first, text(print(plan.frames.back().time)));
}

QString missingOf(const Plan& plan) {
  constexpr double kWorthAFigure = 0.05;
  if (plan.covers) return {};
  const auto& c = plan.coverage;
  QStringList parts;
  if (c.spareHigh.value < -kWorthAFigure) parts << QObject::tr("clips %1").arg(text(printAmount({-c.spareHigh.value})));
  if (c.spareLow.value < -kWorthAFigure)
    parts << QObject::tr("%1 too dark").arg(text(printAmount({-c.spareLow.value})));
  if (parts.isEmpty() && c.shortfall.value > kWorthAFigure)
    parts << QObject::tr("a gap of %1").arg(text(printAmount(c.shortfall)));
  return parts.isEmpty() ? QObject::tr("just not covered") : parts.join(", ");
}

Way wayOf(const Alternative& a) {
  Way way;
  way.id = a.school.id;
  way.name = text(a.school.name);
  way.frames = framesOf(a.plan);
  way.times = timesOf(a.plan);
  way.missing = missingOf(a.plan);
  way.cost = QObject::tr("%1 s, %2 MB").arg(a.onSite.value, 0, 'f', 1).arg(a.megabytes, 0, 'f', 0);
  way.why = text(a.school.who + ". " + a.difference);
  way.figures = &a;
  const SensorModel sensor(a.plan.camera);
  const double target = a.plan.request.snrTarget;
  for (const auto& frame : a.plan.frames)
    way.bars.push_back({sensor.floorAt(frame, target).value, sensor.clipsAt(frame).value, text(print(frame.time))});
  way.uncovered = uncoveredBy(sensor, a.plan.request.mustKeep(), a.plan.frames);
  return way;
}

bool sameFrames(const Plan& a, const Plan& b) {
  return a.fired == b.fired && a.frames.size() == b.frames.size() &&
         std::equal(a.frames.begin(), a.frames.end(), b.frames.begin(),
                    [](const auto& x, const auto& y) { return std::abs((ev100(x) - ev100(y)).value) < 0.01; });
}

} // namespace

std::vector<Way> waysOf(const Comparison& comparison, const std::string& chosen) {
  std::vector<Way> ways;
  const auto add = [&](const Alternative& a) {
    const auto same =
        std::find_if(ways.begin(), ways.end(), [&](const Way& w) { return sameFrames(w.figures->plan, a.plan); });
    if (same == ways.end()) {
      ways.push_back(wayOf(a));
      ways.back().chosen = a.school.id == chosen;
    } else {
      same->also << text(a.school.name);
      if (a.school.id == chosen) same->chosen = true;
    }
  };
  add(comparison.recommended);
  ways.front().recommended = true;
  for (const Alternative& a : comparison.alternatives) add(a);
  return ways;
}

Way ownWay(const Alternative& own) {
  Way way = wayOf(own);
  way.id = "own";
  way.name = QObject::tr("Own");
  way.chosen = true;
  return way;
}

std::vector<Way> mostWeighed(const std::vector<Way>& all) {
  static const std::array<std::string, 4> kNames{"auto", "one-frame", "three-by-two", "five-by-two"};
  std::vector<Way> picked;
  const auto isIn = [](const std::vector<Way>& list, const Way& way) {
    return std::any_of(list.begin(), list.end(), [&](const Way& w) { return w.id == way.id; });
  };
  for (const auto& id : kNames)
    for (const Way& way : all)
      if (way.id == id) picked.push_back(way);
  for (const Way& way : all) // what is chosen is always seen
    if (way.chosen && !isIn(picked, way)) picked.push_back(way);
  return picked;
}

LadderData::Stretch scaleOf(const std::vector<Way>& ways) {
  double low = 1e9, high = -1e9;
  for (const Way& way : ways) {
    for (const auto& bar : way.bars) low = std::min(low, bar.floor), high = std::max(high, bar.clip);
    for (const auto& gap : way.uncovered) low = std::min(low, gap.from), high = std::max(high, gap.to);
  }
  return low > high ? LadderData::Stretch{0, 1} : LadderData::Stretch{std::floor(low), std::ceil(high)};
}

} // namespace ml
