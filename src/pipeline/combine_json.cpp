// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/combine_json.h"

#include "pipeline/report.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

constexpr const char* kAlign[] = {"off", "shift", "rigid", "similarity", "perspective", "auto"};
constexpr const char* kMotion[] = {"ignore", "obvious", "usual", "close", "auto"};
constexpr const char* kEarlierMotion[] = {"off", "low", "medium", "high", "auto"}; ///< As versions before 0.9 wrote it.

json choicesJson(const std::vector<SourceChoice>& choices) {
  json out = json::array();
  for (const auto& c : choices) {
    json stroke = json::array();
    for (const auto& p : c.stroke) stroke.push_back({p.x, p.y});
    out.push_back({{"stroke", stroke}, {"radius", c.radius}, {"frame", c.frame}});
  }
  return out;
}

std::vector<SourceChoice> choicesFrom(const json& list) {
  std::vector<SourceChoice> out;
  if (!list.is_array()) return out;
  for (const auto& entry : list) {
    if (!entry.is_object() || !entry.contains("stroke") || !entry["stroke"].is_array()) continue;
    SourceChoice c;
    for (const auto& p : entry["stroke"])
      if (p.is_array() && p.size() == 2 && p[0].is_number() && p[1].is_number())
        c.stroke.push_back({p[0].get<double>(), p[1].get<double>()});
    c.radius = entry.contains("radius") && entry["radius"].is_number() ? entry["radius"].get<double>() : 0;
    c.frame = entry.contains("frame") && entry["frame"].is_number_integer() ? entry["frame"].get<int>() : 0;
    if (!c.stroke.empty()) out.push_back(std::move(c));
  }
  return out;
}

template <class Enum, std::size_t n> std::optional<Enum> find(const std::string& name, const char* const (&names)[n]) {
  for (std::size_t i = 0; i < n; ++i)
    if (name == names[i]) return Enum(i);
  return {};
}

template <class Enum, std::size_t n>
Enum named(const json& document, const char* key, const char* const (&names)[n], Enum otherwise) {
  if (!document.contains(key) || !document[key].is_string()) return otherwise;
  return find<Enum>(document[key].get<std::string>(), names).value_or(otherwise);
}

bool flag(const json& document, const char* key, bool otherwise) {
  return document.contains(key) && document[key].is_boolean() ? document[key].get<bool>() : otherwise;
}

void takeNames(const json& document, const char* key, std::vector<std::string>& names) {
  if (!document.contains(key) || !document[key].is_array()) return;
  for (const auto& name : document[key])
    if (name.is_string()) names.push_back(name.get<std::string>());
}

std::optional<Angles> anglesFrom(const json& d) {
  if (!d.is_array() || d.size() != 3 || !d[0].is_number() || !d[1].is_number() || !d[2].is_number()) return {};
  const auto angle = [&](std::size_t i) { return std::clamp(d[i].get<double>(), -180.0, 180.0); };
  return Angles{angle(0), angle(1), angle(2)};
}

Joining joiningFrom(const json& d) {
  Joining out;
  if (!d.is_object()) return out;
  for (const auto p : {Projection::Perspective, Projection::Cylindrical, Projection::Equirectangular})
    if (d.contains("projection") && d["projection"] == nameOf(p)) out.projection = p;
  if (d.contains("facing")) out.facing = anglesFrom(d["facing"]).value_or(Angles{});
  if (d.contains("turned") && d["turned"].is_object())
    for (const auto& [name, angles] : d["turned"].items())
      if (const auto read = anglesFrom(angles)) out.turned[name] = *read;
  return out;
}

} // namespace

std::optional<AlignMode> alignNamed(const std::string& name) {
  return find<AlignMode>(name, kAlign);
}

std::optional<MotionMode> motionNamed(const std::string& name) {
  const auto found = find<MotionMode>(name, kMotion);
  return found ? found : find<MotionMode>(name, kEarlierMotion);
}

json toJson(const CombineOptions& o) {
  json out{{"align", kAlign[int(o.align)]},
           {"motion", kMotion[int(o.motion)]},
           {"method", methodName(o.method)},
           {"crop", o.crop == CropMode::Overlap ? "overlap" : "reference"},
           {"empty_scene", o.emptyScene},
           {"even_so", o.evenSo},
           {"recover_response", o.recoverResponse},
           {"tone_range", {o.toneRange.untouchedBelow, o.toneRange.replacedAbove}},
           {"choices", choicesJson(o.choices)},
           {"darker", choicesJson(o.darker)},
           {"unused", o.unused},
           {"lent", o.lent},
           {"seconds", o.seconds}};
  if (o.reference) out["reference"] = *o.reference;
  if (o.sphere) out["sphere"] = *o.sphere;
  const auto angles = [](const Angles& a) { return json{a.yaw, a.pitch, a.roll}; };
  if (!(o.joining == Joining{}))
    out["joining"] = {{"projection", nameOf(o.joining.projection)}, {"facing", angles(o.joining.facing)}};
  for (const auto& [name, turned] : o.joining.turned) out["joining"]["turned"][name] = angles(turned);
  return out;
}

CombineOptions combineOptionsFromJson(const json& d) {
  CombineOptions o;
  if (!d.is_object()) return o;
  o.align = named(d, "align", kAlign, o.align);
  if (d.contains("motion") && d["motion"].is_string())
    o.motion = motionNamed(d["motion"].get<std::string>()).value_or(o.motion);
  for (const auto method : {CombineMethod::Fusion, CombineMethod::ToneRange, CombineMethod::Darker,
                            CombineMethod::Single, CombineMethod::Positions})
    if (d.contains("method") && d["method"] == methodName(method)) o.method = method;
  if (d.contains("crop") && d["crop"] == "overlap") o.crop = CropMode::Overlap;
  o.emptyScene = flag(d, "empty_scene", o.emptyScene);
  if (d.contains("joining")) o.joining = joiningFrom(d["joining"]);
  if (d.contains("sphere")) o.sphere = flag(d, "sphere", false);
  o.evenSo = flag(d, "even_so", o.evenSo);
  o.recoverResponse = flag(d, "recover_response", o.recoverResponse);
  if (d.contains("tone_range") && d["tone_range"].is_array() && d["tone_range"].size() == 2 &&
      d["tone_range"][0].is_number() && d["tone_range"][1].is_number()) {
    const ToneRange range{d["tone_range"][0].get<float>(), d["tone_range"][1].get<float>()};
    if (!range.invalidReason()) o.toneRange = range;
  }
  if (d.contains("choices")) o.choices = choicesFrom(d["choices"]);
  if (d.contains("darker")) o.darker = choicesFrom(d["darker"]);
  takeNames(d, "unused", o.unused);
  takeNames(d, "lent", o.lent);
  if (d.contains("seconds") && d["seconds"].is_object())
    for (const auto& [name, time] : d["seconds"].items())
      if (time.is_number() && time.get<double>() > 0) o.seconds[name] = time.get<double>();
  if (d.contains("reference") && d["reference"].is_number_integer() && d["reference"].get<int>() >= 0)
    o.reference = d["reference"].get<int>();
  return o;
}

} // namespace ml
