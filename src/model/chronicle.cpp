// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/chronicle.h"

#include <QDateTime>
#include <algorithm>
#include <fmt/format.h>

namespace ml {
namespace {

/// The last event of a kind about a subject; null: none.
const ViewEvent* lastOf(const View& view, const char* what, const std::string& subject) {
  const auto it = std::find_if(view.events.rbegin(), view.events.rend(),
                               [&](const ViewEvent& e) { return e.what == what && e.subject == subject; });
  return it == view.events.rend() ? nullptr : &*it;
}

void newsOfSets(const View& view, std::int64_t at, std::vector<ViewEvent>& out) {
  for (const auto& set : view.sets) {
    if (set.frames.empty()) continue;
    if (!lastOf(view, "shot", set.name))
      out.push_back({at, "shot", set.name, set.label.empty() ? set.name : set.label});
    const auto* said = lastOf(view, "verdict", set.name);
    if (!set.verdict.empty() && (!said || said->words != set.verdict))
      out.push_back({at, "verdict", set.name, set.verdict});
  }
}

} // namespace

std::vector<ViewEvent> newsOf(const View& view, Aspect aspect, std::int64_t at) {
  std::vector<ViewEvent> out;
  switch (aspect) {
  case Aspect::About: // a verdict that came at the desk
  case Aspect::Sets: newsOfSets(view, at, out); break;
  case Aspect::Combined:
    if (view.combined && !lastOf(view, "combined", view.radianceStamp))
      out.push_back({at, "combined", view.radianceStamp, view.combined->verdict});
    break;
  case Aspect::Delivered:
    for (const auto& file : view.delivered)
      if (!lastOf(view, "delivered", file.file)) out.push_back({at, "delivered", file.file, file.target});
    break;
  default: break;
  }
  return out;
}

Chronicle::Chronicle(Desk& desk, Clock clock) : desk_(desk), clock_(std::move(clock)) {
  if (!clock_) clock_ = [] { return std::int64_t(QDateTime::currentSecsSinceEpoch()); };
  connect(&desk_.job, &JobModel::viewChanged, this, &Chronicle::changed);
  connect(&desk_.job, &JobModel::leaving, this, &Chronicle::keep);
}

void Chronicle::active(const QString& station) {
  const std::int64_t now = clock_();
  const std::string view = desk_.hasView() ? idOf(desk_.view()) : std::string();
  if (view == view_ && station == station_) {
    if (now - last_ <= kPause) pending_ += double(now - last_);
    if (pending_ >= kKeepAfter) keep();
  } else {
    keep();
    view_ = view;
    station_ = station;
  }
  last_ = now;
}

void Chronicle::keep() {
  if (pending_ > 0 && !view_.empty() && desk_.job.find(view_))
    desk_.job.note(view_, Aspect::Journal,
                   [station = station_.toStdString(), by = pending_](View& v) { v.spent[station] += by; });
  pending_ = 0;
}

void Chronicle::judged(const QString& words) {
  if (!desk_.hasView() || !desk_.view().combined || words.isEmpty()) return;
  const View& view = desk_.view();
  const auto* said = lastOf(view, "judged", view.radianceStamp);
  if (said && said->words == words.toStdString()) return;
  note(idOf(view), {{clock_(), "judged", view.radianceStamp, words.toStdString()}});
}

void Chronicle::changed(const std::string& view, Aspect aspect) {
  if (aspect == Aspect::Journal) return;
  if (const View* now = desk_.job.find(view)) note(view, newsOf(*now, aspect, clock_()));
}

void Chronicle::note(const std::string& view, const std::vector<ViewEvent>& news) {
  if (news.empty()) return;
  constexpr std::size_t kMostEvents = 2000;
  desk_.job.note(view, Aspect::Journal, [&](View& v) {
    v.events.insert(v.events.end(), news.begin(), news.end());
    if (v.events.size() > kMostEvents) v.events.erase(v.events.begin(), v.events.end() - kMostEvents);
  });
}

} // namespace ml
