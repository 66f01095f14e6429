// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/curve_shelf.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/slug.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

constexpr std::size_t kCodes = 256;
constexpr std::size_t kEnoughSamples = 4000; ///< Pairs; a curve that is kept serves sets that say less.
constexpr double kClearDisagreement =
    0.12; ///< Stops between two frames on the same place; more says that something moved or changed.

tl::unexpected<Error> unsound(const std::string& what) {
  return fail(ErrorCode::FileUnreadable,
              phrase("The kept curve is damaged ({}); delete it, the next set finds it anew.", what));
}

json toJson(const KeptCurve& c) {
  return {{"version", 1},
          {"kind", "curve"},
          {"camera", c.camera},
          {"light", c.light},
          {"clip_from", c.clipFrom},
          {"start", c.start},
          {"samples", c.samples},
          {"disagreement_stops", c.disagreement},
          {"sets", c.sets}};
}

} // namespace

Result<KeptCurve> curveFromText(const std::string& text) {
  const json d = json::parse(text, nullptr, false);
  if (!d.is_object() || d.value("kind", json()) != "curve") return unsound(phrase("it is no curve"));
  KeptCurve curve;
  try {
    curve.camera = d.at("camera").get<std::string>();
    curve.light = d.at("light").get<std::array<std::vector<float>, 3>>();
    curve.clipFrom = d.at("clip_from").get<float>();
    curve.start = d.at("start").get<std::string>();
    curve.samples = d.at("samples").get<std::size_t>();
    curve.disagreement = d.at("disagreement_stops").get<double>();
    curve.sets = d.at("sets").get<int>();
  } catch (const json::exception&) {
    return unsound(phrase("a field is missing"));
  }
  for (const auto& channel : curve.light) {
    if (channel.size() != kCodes) return unsound(phrase("it has not 256 codes"));
    if (!std::all_of(channel.begin(), channel.end(), [](float v) { return v >= 0 && v <= 4; }) ||
        !std::is_sorted(channel.begin(), channel.end()) || !(channel.back() > 0))
      return unsound(phrase("its light does not rise from 0 to 1"));
  }
  if (!(curve.clipFrom > 0.1f && curve.clipFrom <= 1))
    return unsound(phrase("its clipping point is not below its top"));
  return curve;
}

fs::path CurveShelf::fileOf(const std::string& camera) const {
  return folder_ / (slug(camera, "camera") + ".json");
}

std::optional<KeptCurve> CurveShelf::find(const std::string& camera) const {
  if (camera.empty()) return {};
  const auto text = readText(fileOf(camera));
  if (!text) return {};
  auto curve = curveFromText(*text);
  return curve && curve->camera == camera ? std::optional(std::move(*curve)) : std::nullopt;
}

Result<bool> CurveShelf::keep(const std::string& camera, const Response& response) const {
  if (camera.empty() || response.samples < kEnoughSamples || response.disagreementAfter > kClearDisagreement)
    return false;
  KeptCurve curve{camera, {}, response.table.clipFrom, response.start, response.samples, response.disagreementAfter, 1};
  const int last = response.table.size() - 1;
  for (int c = 0; c < 3; ++c)
    for (std::size_t k = 0; k < kCodes; ++k)
      curve.light[std::size_t(c)].push_back(
          response.table.channel(c)[std::size_t(std::lround(double(k) * last / (kCodes - 1)))]);
  if (auto before = find(camera)) {
    before->sets += 1;
    if (before->disagreement <= curve.disagreement) curve = *before;
    curve.sets = before->sets;
  }
  std::error_code error;
  fs::create_directories(folder_, error);
  if (auto written = writeTextAtomically(fileOf(camera), toJson(curve).dump() + "\n"); !written)
    return passOn(written.error());
  return true;
}

CodeTable tableOf(const KeptCurve& curve, int size) {
  std::array<std::vector<float>, 3> tables;
  for (std::size_t c = 0; c < 3; ++c)
    for (int code = 0; code < size; ++code) {
      const double at = double(code) * (kCodes - 1) / std::max(1, size - 1);
      const std::size_t k = std::min(kCodes - 2, std::size_t(at));
      tables[c].push_back(float(curve.light[c][k] + (at - double(k)) * (curve.light[c][k + 1] - curve.light[c][k])));
    }
  CodeTable out(std::move(tables));
  out.clipFrom = curve.clipFrom;
  return out;
}

double differenceOf(const CodeTable& a, const CodeTable& b, int lowestCode, int highestCode) {
  std::vector<double> stops;
  for (int c = 0; c < 3; ++c)
    for (int code = std::max(1, lowestCode); code <= std::min({highestCode, a.size() - 1, b.size() - 1}); ++code) {
      const float x = a.channel(c)[code], y = b.channel(c)[code];
      if (x > 0 && y > 0) stops.push_back(std::log2(double(x) / double(y)));
    }
  if (stops.empty()) return 0;
  const auto [least, most] = std::minmax_element(stops.begin(), stops.end());
  return (*most - *least) / 2;
}

} // namespace ml
