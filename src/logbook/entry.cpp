// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/entry.h"

#include "session/shooting.h"
#include "session/view_json.h"
#include "session/whole_number.h"
#include "visit/visit_file.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace fs = std::filesystem;
namespace {

constexpr double kSaysSomething = 0.005; ///< Of the picture: less is a lamp or a reflection.

double sumOf(const std::map<std::string, double>& spent, std::initializer_list<const char*> stations) {
  double sum = 0;
  for (const char* station : stations)
    if (const auto it = spent.find(station); it != spent.end()) sum += it->second;
  return sum;
}

Moment momentOf(const ViewEvent& event) {
  return Moment{std::chrono::seconds{event.at}};
}

int hourAt(const std::string& zone, Moment moment) {
  return parseClock(clockAt(zone, moment)).value_or(0) / 60;
}

/// When the frames of a set came.
std::optional<Moment> shotAt(const View& view, const FrameSet& set) {
  for (const auto& event : view.events)
    if (event.what == "shot" && event.subject == set.name) return momentOf(event);
  return {};
}

int framesThatSpoke(const CombineReport& report) {
  std::vector<double> says(report.frames.size());
  for (const auto& stop : report.stops)
    for (std::size_t i = 0; i < std::min(says.size(), stop.frames.size()); ++i) says[i] += stop.share * stop.frames[i];
  return int(std::count_if(says.begin(), says.end(), [](double share) { return share >= kSaysSomething; }));
}

std::map<std::string, double> offsetsOf(const Recipe& recipe) {
  const Recipe start;
  const auto &a = recipe.tone, &b = start.tone;
  return {{"exposure", a.exposure - b.exposure},
          {"balance", a.balance - b.balance},
          {"detail", a.detail - b.detail},
          {"form", a.form - b.form},
          {"saturation", a.saturation - b.saturation},
          {"vivid", a.vivid - b.vivid},
          {"warmth", a.warmth - b.warmth},
          {"tint", a.tint - b.tint},
          {"veil", a.veil - b.veil},
          {"denoise", recipe.denoise - start.denoise},
          {"sharpening", recipe.sharpening - start.sharpening}};
}

/// Sets shot at a place where another was shot before.
int repeatsOf(const View& view) {
  int repeats = 0;
  for (std::size_t i = 0; i < view.sets.size(); ++i)
    for (std::size_t k = 0; k < i; ++k) {
      const FrameSet &a = view.sets[i], &b = view.sets[k];
      if (a.row != b.row || a.column != b.column || a.plane != b.plane) continue;
      ++repeats;
      break;
    }
  return repeats;
}

void countFrames(const View& view, const std::string& zone, LogView& out) {
  out.sets = int(view.sets.size());
  out.repeats = repeatsOf(view);
  for (const auto& set : view.sets) {
    out.fired += int(set.frames.size());
    const auto at = shotAt(view, set);
    for (const auto& note : set.notes) {
      out.frames.push_back(note);
      for (const auto& flaw : note.flaws) out.faults.push_back({flaw, at ? hourAt(zone, *at) : -1});
    }
  }
  if (view.activeSet < 0) return;
  const auto& active = view.sets[std::size_t(view.activeSet)];
  out.answer = active.answer;
  out.verdict = active.verdict;
}

void describeFinish(const View& view, LogView& out) {
  if (view.finishSeen.empty() && view.delivered.empty()) return;
  out.offsets = offsetsOf(view.recipe);
  constexpr double kNothing = 0.005;
  for (const auto& [control, by] : out.offsets)
    if (std::abs(by) > kNothing) out.finish.push_back(fmt::format("{} {:+.2f}", control, by));
  for (const auto& event : view.events)
    if (event.what == "judged") out.judgement = event.words;
}

LogView viewOf(const View& view, const std::optional<Visit>& visit, const std::string& zone) {
  LogView out;
  out.folder = view.folder.filename().string();
  out.name = view.name;
  out.kind = view.kind;
  out.notes = view.notes;
  out.practice = !view.world.empty();
  if (visit)
    for (const auto& planned : visit->views)
      if (planned.folder == out.folder) {
        out.light = idOf(planned.light.want);
        if (out.kind.empty()) out.kind = planned.kind;
      }
  if (out.kind.empty()) out.kind = "interior";
  if (const auto wanted = mustKeepOf(view)) {
    out.hasRange = true;
    out.darkest = wanted->low.value;
    out.brightest = wanted->high.value;
  }
  if (view.plan) {
    out.plan = verdict(*view.plan);
    out.planned = view.plan->fired;
  }
  countFrames(view, zone, out);
  if (view.combined) {
    out.combined = view.combined->verdict;
    out.combinedOf = int(view.combined->report->frames.size());
    out.spoke = framesThatSpoke(*view.combined->report);
  }
  describeFinish(view, out);
  for (const auto& file : view.delivered) out.delivered.push_back(file.file);
  out.spent = view.spent;
  out.events = view.events;
  return out;
}

std::string dateOf(const Job& job, const std::optional<Visit>& visit, const std::string& zone) {
  if (visit) return print(visit->date);
  std::optional<Moment> first;
  for (const auto& view : job.views())
    for (const auto& event : view.events)
      if (event.at > 0 && (!first || momentOf(event) < *first)) first = momentOf(event);
  if (first) return print(dateAt(zone, *first));
  std::error_code error;
  const auto written = fs::last_write_time(job.folder() / "job.json", error);
  if (error) return {};
  return print(dateAt(zone, std::chrono::floor<std::chrono::seconds>(std::chrono::file_clock::to_sys(written))));
}

json faultJson(const LogFault& fault) {
  return {{"kind", fault.kind}, {"hour", fault.hour}};
}

json eventJson(const ViewEvent& e) {
  return {{"at", e.at}, {"what", e.what}, {"subject", e.subject}, {"words", e.words}};
}

json viewJson(const LogView& v) {
  json frames = json::array(), faults = json::array(), events = json::array();
  for (const auto& frame : v.frames) frames.push_back(noteJson(frame));
  for (const auto& fault : v.faults) faults.push_back(faultJson(fault));
  for (const auto& event : v.events) events.push_back(eventJson(event));
  json out{{"folder", v.folder},
           {"name", v.name},
           {"kind", v.kind},
           {"light", v.light},
           {"practice", v.practice},
           {"notes", v.notes},
           {"plan", v.plan},
           {"planned", v.planned},
           {"fired", v.fired},
           {"sets", v.sets},
           {"repeats", v.repeats},
           {"answer", v.answer},
           {"verdict", v.verdict},
           {"combined_of", v.combinedOf},
           {"spoke", v.spoke},
           {"combined", v.combined},
           {"judgement", v.judgement},
           {"finish", v.finish},
           {"delivered", v.delivered},
           {"seconds", v.spent},
           {"seconds_on_site", v.siteSeconds()},
           {"seconds_at_the_desk", v.deskSeconds()},
           {"offsets", v.offsets},
           {"frames", frames},
           {"faults", faults},
           {"events", events}};
  out["range"] = v.hasRange ? json{{"darkest", v.darkest}, {"brightest", v.brightest}} : json(nullptr);
  return out;
}

LogView viewFromJson(const json& j) {
  LogView v;
  v.folder = j.value("folder", "");
  v.name = j.value("name", "");
  v.kind = j.value("kind", "interior");
  v.light = j.value("light", "");
  v.notes = j.value("notes", "");
  v.practice = j.value("practice", false);
  v.plan = j.value("plan", "");
  v.planned = j.value("planned", 0);
  v.fired = j.value("fired", 0);
  v.sets = j.value("sets", 0);
  v.repeats = j.value("repeats", 0);
  v.answer = j.value("answer", "");
  v.verdict = j.value("verdict", "");
  v.combinedOf = j.value("combined_of", 0);
  v.spoke = j.value("spoke", 0);
  v.combined = j.value("combined", "");
  v.judgement = j.value("judgement", "");
  v.finish = j.value("finish", v.finish);
  v.delivered = j.value("delivered", v.delivered);
  v.spent = j.value("seconds", v.spent);
  v.offsets = j.value("offsets", v.offsets);
  if (const auto range = j.find("range"); range != j.end() && range->is_object()) {
    v.hasRange = true;
    v.darkest = range->value("darkest", 0.0);
    v.brightest = range->value("brightest", 0.0);
  }
  for (const auto& n : j.value("frames", json::array())) v.frames.push_back(noteFrom(n));
  for (const auto& f : j.value("faults", json::array())) v.faults.push_back({f.value("kind", ""), f.value("hour", -1)});
  for (const auto& e : j.value("events", json::array()))
    v.events.push_back({wholeNumber(e, "at"), e.value("what", ""), e.value("subject", ""), e.value("words", "")});
  return v;
}

} // namespace

double LogView::siteSeconds() const {
  return sumOf(spent, {"light", "frames", "shoot"});
}
double LogView::deskSeconds() const {
  return sumOf(spent, {"combine", "finish", "deliver"});
}

LogEntry entryOf(const Job& job, const std::optional<Visit>& visit) {
  LogEntry out;
  std::error_code error;
  const auto whole = fs::weakly_canonical(job.folder(), error);
  out.folder = (error ? job.folder() : whole).string();
  out.name = job.name();
  if (visit) {
    if (!visit->name.empty()) out.name = visit->name;
    out.place = visit->place.name;
    out.latitude = visit->place.latitude;
    out.longitude = visit->place.longitude;
    out.timeZone = visit->place.timeZone;
    out.tags = visit->tags;
    out.lesson = visit->lesson;
  }
  out.date = dateOf(job, visit, out.timeZone);
  for (const auto& view : job.views()) out.views.push_back(viewOf(view, visit, out.timeZone));
  return out;
}

Result<LogEntry> entryOf(const fs::path& folder) {
  const auto job = Job::open(folder);
  if (!job) return passOn(job.error());
  const auto visit = readVisit(folder);
  if (!visit) return passOn(visit.error());
  return entryOf(*job, *visit);
}

json toJson(const LogEntry& entry) {
  json views = json::array();
  for (const auto& view : entry.views) views.push_back(viewJson(view));
  return {{"version", 1},
          {"folder", entry.folder},
          {"name", entry.name},
          {"place", entry.place},
          {"date", entry.date},
          {"latitude", entry.latitude},
          {"longitude", entry.longitude},
          {"time_zone", entry.timeZone},
          {"tags", entry.tags},
          {"lesson", entry.lesson},
          {"views", views}};
}

LogEntry entryFromJson(const json& j) {
  LogEntry out;
  try {
    out.folder = j.value("folder", "");
    out.name = j.value("name", "");
    out.place = j.value("place", "");
    out.date = j.value("date", "");
    out.latitude = j.value("latitude", 0.0);
    out.longitude = j.value("longitude", 0.0);
    out.timeZone = j.value("time_zone", "UTC");
    out.tags = j.value("tags", out.tags);
    out.lesson = j.value("lesson", "");
    for (const auto& view : j.value("views", json::array())) out.views.push_back(viewFromJson(view));
  } catch (const json::exception&) { // an entry of another program: what could be read stands
  }
  return out;
}

std::string wordsOf(const LogEntry& entry) {
  std::string out = entry.name + "\n" + entry.place + "\n" + entry.lesson + "\n" + entry.folder;
  for (const auto& tag : entry.tags) out += "\n" + tag;
  for (const auto& view : entry.views) {
    for (const auto* words :
         {&view.name, &view.kind, &view.light, &view.notes, &view.plan, &view.verdict, &view.combined, &view.judgement})
      out += "\n" + *words;
    for (const auto& fault : view.faults) out += "\n" + fault.kind;
    for (const auto& event : view.events) out += "\n" + event.words;
    for (const auto& file : view.delivered) out += "\n" + file;
  }
  return out;
}

} // namespace ml
