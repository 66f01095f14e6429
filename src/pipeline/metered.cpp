// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/metered.h"

#include "align/transform.h"
#include "image/colour.h"
#include "tone/facts_text.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <map>

namespace ml {
namespace {

using nlohmann::json;

/// A frame as a screen shows it.
class Shown {
public:
  explicit Shown(const Frame& frame) : frame_(frame), raw_(!frame.codes.isNarrow() && !frame.curveAssumed) {
    if (raw_) return;
    for (int code = 0; code < frame.table.size(); ++code)
      decoded_.push_back(float(srgbDecode(double(code) / (frame.table.size() - 1))));
  }
  /// Stops below white; very low where it is black.
  [[nodiscard]] double paper(int x, int y) const {
    float rgb[3];
    if (raw_) {
      float own[3];
      frame_.linearAt(x, y, own);
      bool cut = false;
      for (std::size_t c = 0; c < 3; ++c) cut = cut || own[c] >= frame_.table.clipFrom * frame_.saturation[c];
      if (cut) return 0;
      for (std::size_t r = 0; r < 3; ++r)
        rgb[r] = float(frame_.toRec709[3 * r] * own[0] + frame_.toRec709[3 * r + 1] * own[1] +
                       frame_.toRec709[3 * r + 2] * own[2]);
      return standard_.paper(std::log2(std::max(1e-6, double(luminance(rgb)) / frame_.midTone)));
    }
    for (int c = 0; c < 3; ++c) rgb[c] = decoded_[std::size_t(frame_.codes.at(x, y, c))];
    return std::log2(std::max(1e-6f, luminance(rgb)));
  }

private:
  const Frame& frame_;
  bool raw_;
  std::vector<float> decoded_;
  Rendering standard_{standardRendering()};
};

double medianOf(std::vector<float>& values) {
  const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

double medianLightness(const Frame& frame) {
  const Shown shown(frame);
  std::vector<float> values;
  const int step = std::max(1, int(std::sqrt(double(frame.width()) * frame.height() / 40000)));
  for (int y = step / 2; y < frame.height(); y += step)
    for (int x = step / 2; x < frame.width(); x += step) values.push_back(float(shown.paper(x, y)));
  return values.empty() ? 0 : lightnessOf(medianOf(values));
}

constexpr double kStep = 0.25;                  ///< Stops of light between ties.
constexpr double kDarkest = 3, kBrightest = 83; ///< L* between which a frame's own rendering is taken; above, cameras
                                                ///< clip or roll off each in its way.

std::vector<Tie> tiesOf(const PlacedFrame& placed, ImageView<const float> radiance) {
  const Frame& frame = *placed.frame;
  const Shown shown(frame);
  const Transform transform{placed.toFrame};
  std::map<int, std::vector<float>> bins;
  const int step = std::max(1, int(std::sqrt(double(radiance.width) * radiance.height / 200000)));
  std::size_t all = 0;
  for (int y = step / 2; y < radiance.height; y += step)
    for (int x = step / 2; x < radiance.width; x += step) {
      double u, v;
      transform.map(x, y, u, v);
      const int ix = int(std::lround(u)), iy = int(std::lround(v));
      const float light = luminance(radiance.at(x, y));
      if (ix < 0 || iy < 0 || ix >= frame.width() || iy >= frame.height() || !(light > 1e-9f)) continue;
      bins[int(std::floor(std::log2(light) / kStep))].push_back(float(shown.paper(ix, iy)));
      ++all;
    }
  std::vector<Tie> out;
  const double darkest = paperOf(kDarkest), brightest = paperOf(kBrightest);
  for (auto& [bin, values] : bins) {
    if (values.size() < 20 || values.size() * 4000 < all) continue;
    const double paper = medianOf(values);
    if (paper < darkest || paper > brightest || (!out.empty() && paper < out.back().paper + 0.02)) continue;
    out.push_back({(bin + 0.5) * kStep, paper});
  }
  if (out.size() < 4) return {};
  // Beyond: into the dark as light does, into the bright as its upper middle does, for the shoulder to hold.
  const double above = paperOf(60);
  const auto from = std::find_if(out.begin(), out.end() - 2, [&](const Tie& t) { return t.paper >= above; });
  const Tie first = from == out.end() - 2 ? out[out.size() - 3] : *from, last = out.back();
  const double slope = std::clamp((last.paper - first.paper) / (last.scene - first.scene), 0.6, 1.6);
  for (Tie& tie : out) tie.paper = std::log2(beforeShoulder(std::exp2(tie.paper)));
  out.push_back({last.scene + 3, out.back().paper + 3 * slope});
  out.insert(out.begin(), {out.front().scene - 4, out.front().paper - 5});
  return out;
}

} // namespace

Metered meteredOf(const std::vector<PlacedFrame>& frames, ImageView<const float> radiance) {
  Metered out;
  double least = 1e9;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const double lightness = medianLightness(*frames[i].frame);
    if (std::abs(lightness - kMeteredLightness) >= least) continue;
    least = std::abs(lightness - kMeteredLightness);
    out.frame = int(i), out.lightness = lightness;
  }
  if (out.frame >= 0) out.ties = tiesOf(frames[std::size_t(out.frame)], radiance);
  return out;
}

json meteredJson(const Metered& metered) {
  if (metered.frame < 0) return nullptr;
  json ties = json::array();
  for (const Tie& tie : metered.ties) ties.push_back({tie.scene, tie.paper});
  return {{"frame", metered.frame}, {"lightness", metered.lightness}, {"ties", ties}};
}

Metered meteredFromReport(const json& report) {
  const auto found = report.find("metered");
  if (found == report.end() || !found->is_object()) return {};
  const auto ties = found->find("ties"), frame = found->find("frame"), lightness = found->find("lightness");
  if (ties == found->end() || !ties->is_array()) return {};
  Metered out;
  for (const json& tie : *ties) {
    if (!tie.is_array() || tie.size() != 2 || !tie[0].is_number() || !tie[1].is_number()) return {};
    out.ties.push_back({tie[0].get<double>(), tie[1].get<double>()});
  }
  if (!soundTies(out.ties)) return {};
  if (frame != found->end() && frame->is_number_integer()) out.frame = frame->get<int>();
  if (lightness != found->end() && lightness->is_number()) out.lightness = lightness->get<double>();
  return out;
}

} // namespace ml
