// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/answers.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

struct Problem {
  std::string what;
};
constexpr std::size_t kMostEntries = 1000;

/// A list of the answer; `field` is missing: a problem.
const json& listOf(const json& answer, const std::string& field) {
  const auto it = answer.find(field);
  if (it == answer.end() || !it->is_array()) throw Problem{phrase("\"{}\" must be a list", field)};
  if (it->size() > kMostEntries) throw Problem{phrase("\"{}\" is far too long", field)};
  return *it;
}

double numberOf(const json& value, const std::string& what) {
  if (!value.is_number() || !std::isfinite(value.get<double>())) throw Problem{phrase("{} must be a number", what)};
  return value.get<double>();
}

Stops stopsOf(const json& value, const std::string& what) {
  if (value.is_string())
    if (const auto stops = parseStops(value.get<std::string>())) return *stops;
  return {numberOf(value, what)};
}

/// "1/60", "0.5 s", or seconds.
Seconds timeOf(const json& value, const std::string& what) {
  Seconds time{0};
  if (value.is_string()) {
    const auto parsed = parseTime(value.get<std::string>());
    if (!parsed) throw Problem{phrase("{} must be a time such as \"1/60\"", what)};
    time = *parsed;
  } else {
    time = {numberOf(value, what)};
  }
  if (!(time.value > 0 && time.value < 1e5)) throw Problem{phrase("{} must be a time above 0", what)};
  return time;
}

/// Counted from 1 by people.
int frameOf(const json& value) {
  const double number = numberOf(value, phrase("a frame"));
  if (!(number >= 1 && number <= 10000) || number != std::floor(number))
    throw Problem{phrase("frames are counted from 1")};
  return int(number) - 1;
}

const json& fieldOf(const json& object, const std::string& field) {
  if (!object.is_object() || !object.contains(field)) throw Problem{phrase("\"{}\" is missing", field)};
  return object[field];
}

double shareOf(const json& value, const std::string& what) {
  const double share = numberOf(value, what);
  if (!(share >= 0 && share <= 1)) throw Problem{phrase("{} lies between 0 and 1", what)};
  return share;
}

std::string textOf(const json& value, const std::string& what) {
  if (!value.is_string()) throw Problem{phrase("{} must be text", what)};
  return value.get<std::string>();
}

FaultAnswer faultsIn(const json& answer) {
  FaultAnswer out;
  for (const auto& entry : listOf(answer, "faults")) {
    const auto fault = parseFault(textOf(fieldOf(entry, "fault"), "\"fault\""));
    if (!fault) throw Problem{phrase("there is no such fault")};
    out.faults.push_back({fault->kind, frameOf(fieldOf(entry, "frame"))});
  }
  return out;
}

DuskAnswer shotsIn(const json& answer) {
  DuskAnswer out;
  for (const auto& entry : listOf(answer, "shots"))
    out.shots.push_back(
        {numberOf(fieldOf(entry, "minute"), "\"minute\""), timeOf(fieldOf(entry, "centre"), "\"centre\"")});
  return out;
}

FinishAnswer finishesIn(const json& answer) {
  FinishAnswer out;
  for (const auto& entry : listOf(answer, "pictures")) {
    const auto flaw = finishFlaw(textOf(entry.is_object() ? fieldOf(entry, "is") : entry, phrase("a picture")));
    if (!flaw) throw Problem{phrase("pictures are natural, texture, colour, flat or grey")};
    out.pictures.push_back({*flaw, {}});
    if (entry.is_object() && (entry.contains("x") || entry.contains("y")))
      out.pictures.back().place =
          FinishPlace{shareOf(fieldOf(entry, "x"), "\"x\""), shareOf(fieldOf(entry, "y"), "\"y\"")};
  }
  return out;
}

SettingsAnswer settingsIn(const json& answer) {
  SettingsAnswer out;
  const json& set = fieldOf(answer, "settings");
  if (!set.is_object()) throw Problem{phrase("\"settings\" must be an object of ids and choices")};
  for (const auto& [id, choice] : set.items()) out.set.emplace_back(id, textOf(choice, phrase("a choice")));
  return out;
}

SortAnswer setsIn(const json& answer) {
  SortAnswer out;
  for (const auto& entry : listOf(answer, "sets")) {
    if (!entry.is_array() || entry.size() > kMostEntries) throw Problem{phrase("every set must be a list of frames")};
    out.sets.emplace_back();
    for (const auto& frame : entry) out.sets.back().push_back(frameOf(frame));
  }
  return out;
}

ExerciseAnswer answerIn(ExerciseKind kind, const json& answer) {
  switch (kind) {
  case ExerciseKind::ReadSpot: {
    SpotAnswer out;
    for (const auto& entry : listOf(answer, "ev100")) out.ev100.push_back(stopsOf(entry, phrase("a reading")));
    return out;
  }
  case ExerciseKind::ChooseBracket: {
    const double count = numberOf(fieldOf(answer, "count"), "\"count\"");
    if (!(count >= 1 && count <= 99)) throw Problem{phrase("\"count\" lies between 1 and 99")};
    return BracketAnswer{int(count), stopsOf(fieldOf(answer, "step"), "\"step\""),
                         timeOf(fieldOf(answer, "centre"), "\"centre\"")};
  }
  case ExerciseKind::FindFaults: return faultsIn(answer);
  case ExerciseKind::LeaveOut: {
    LeaveOutAnswer out;
    for (const auto& entry : listOf(answer, "leave_out")) out.frames.push_back(frameOf(entry));
    return out;
  }
  case ExerciseKind::Settings: return settingsIn(answer);
  case ExerciseKind::Dusk: return shotsIn(answer);
  case ExerciseKind::JudgeFinish: return finishesIn(answer);
  case ExerciseKind::Sort: break;
  }
  return setsIn(answer);
}

json jsonOf(const SpotAnswer& a) {
  json list = json::array();
  for (const Stops ev : a.ev100) list.push_back(ev.value);
  return {{"ev100", list}};
}
json jsonOf(const BracketAnswer& a) {
  return {{"count", a.count}, {"step", a.step.value}, {"centre", a.centre.value}};
}
json jsonOf(const FaultAnswer& a) {
  json list = json::array();
  for (const auto& f : a.faults) list.push_back({{"fault", idOf(f.kind)}, {"frame", f.frame + 1}});
  return {{"faults", list}};
}
json jsonOf(const LeaveOutAnswer& a) {
  json list = json::array();
  for (const int frame : a.frames) list.push_back(frame + 1);
  return {{"leave_out", list}};
}
json jsonOf(const SettingsAnswer& a) {
  json set = json::object();
  for (const auto& [id, choice] : a.set) set[id] = choice;
  return {{"settings", set}};
}
json jsonOf(const DuskAnswer& a) {
  json list = json::array();
  for (const auto& shot : a.shots) list.push_back({{"minute", shot.minute}, {"centre", shot.centre.value}});
  return {{"shots", list}};
}
json jsonOf(const FinishAnswer& a) {
  json list = json::array();
  for (const auto& picture : a.pictures) {
    list.push_back({{"is", idOf(picture.flaw)}});
    if (picture.place) list.back().update({{"x", picture.place->x}, {"y", picture.place->y}});
  }
  return {{"pictures", list}};
}
json jsonOf(const SortAnswer& a) {
  json sets = json::array();
  for (const auto& set : a.sets) {
    json frames = json::array();
    for (const int frame : set) frames.push_back(frame + 1);
    sets.push_back(frames);
  }
  return {{"sets", sets}};
}

} // namespace

Result<ExerciseAnswer> answerFromJson(ExerciseKind kind, const std::string& text, const std::string& source) {
  const json document = json::parse(text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(ErrorCode::FileUnreadable, phrase("`{}` is not an answer: it must hold one JSON object.", source));
  try {
    return answerIn(kind, document);
  } catch (const Problem& problem) {
    return fail(ErrorCode::InvalidArgument, "`" + source + "`: " + problem.what + ".");
  }
}

std::string toJson(const ExerciseAnswer& answer) {
  json out = std::visit([](const auto& a) { return jsonOf(a); }, answer);
  out["version"] = 1;
  return out.dump(2) + "\n";
}

} // namespace ml
