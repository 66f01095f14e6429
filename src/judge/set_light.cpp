// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/set_light.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

/// Values of `from` where the cells of `onto` lie; -1 where a neighbour is not flat.
Image<float> movedCells(const Sketch& onto, const Sketch& from, const Transform& transform) {
  if (transform.isIdentity()) return from.cells.clone();
  Image<float> out(onto.cells.width(), onto.cells.height(), 3);
  out.fill(-1);
  const double pitch = onto.cellPitch;
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      double u, v;
      transform.map(x * pitch + pitch / 2, y * pitch + pitch / 2, u, v);
      u = u / pitch - 0.5, v = v / pitch - 0.5;
      const int ix = int(std::floor(u)), iy = int(std::floor(v));
      if (ix < 0 || iy < 0 || ix + 1 >= from.cells.width() || iy + 1 >= from.cells.height()) continue;
      const auto fx = float(u - ix), fy = float(v - iy);
      for (int c = 0; c < 3; ++c) {
        const float a = from.cells.at(ix, iy)[c], b = from.cells.at(ix + 1, iy)[c], d = from.cells.at(ix, iy + 1)[c],
                    e = from.cells.at(ix + 1, iy + 1)[c];
        if (std::min({a, b, d, e}) >= 0)
          out.at(x, y)[c] = (1 - fy) * ((1 - fx) * a + fx * b) + fy * ((1 - fx) * d + fx * e);
      }
    }
  return out;
}

/// Codes of a known curve to roots of light.
void toRoots(const Sketch& s, Image<float>& cells) {
  for (std::size_t i = 0; i < cells.size(); ++i)
    if (float& v = cells.data()[i]; v >= 0)
      v = std::sqrt(std::max(0.f, s.table.channel(int(i % 3))[std::lround(double(v) * (s.table.size() - 1))]));
}

/// The step in the order of arrival that the pixels speak for most; where there are two kinds of knowledge, both
/// together.
LightStep largestStep(const std::vector<const LightKnowledge*>& kinds, const std::vector<LightMember>& members,
                      const std::vector<double>& sigma, double limit) {
  constexpr double kSure = 3.2, kPerhaps = 2.4; // standard deviations
  LightStep best;
  double most = 0;
  std::vector<int> arrivals;
  for (const auto& m : members) arrivals.push_back(m.arrived);
  std::sort(arrivals.begin(), arrivals.end());
  for (std::size_t k = 1; k < arrivals.size(); ++k) {
    std::vector<char> later;
    for (const auto& m : members) later.push_back(m.arrived >= arrivals[k]);
    double squares = 0;
    LightStep largest;
    for (const LightKnowledge* known : kinds) {
      const auto step = known->stepOf(later, sigma);
      if (step.sigma > 1e8) continue;
      squares += step.stops * step.stops / (step.sigma * step.sigma);
      if (std::abs(step.stops) >= std::abs(largest.stops))
        largest = {arrivals[k], step.stops, step.sigma, LightStep::Clear::No};
    }
    if (const double z = std::sqrt(squares); z > most) most = z, best = largest;
  }
  if (std::abs(best.stops) > limit && most > kSure)
    best.clear = LightStep::Clear::Yes;
  else if (std::abs(best.stops) > limit && most > kPerhaps)
    best.clear = LightStep::Clear::Perhaps;
  return best;
}

bool changesBoth(const Photometry& photometry, const std::vector<LightMember>& members,
                 const std::vector<double>& sigma, int before) {
  constexpr double kLeast = 0.3;
  std::vector<char> later;
  for (const auto& m : members) later.push_back(m.arrived >= before);
  const double red = std::abs(photometry.red.stepOf(later, sigma).stops),
               blue = std::abs(photometry.blue.stepOf(later, sigma).stops);
  return std::min(red, blue) > kLeast * std::max(red, blue);
}

/// Stops by which lamps at 100 Hz and more can change an exposure: half of their light comes and goes, longer times
/// gather whole waves.
double flickerStops(const Sketch& s) {
  return 0.6 * std::min(1.0, 1 / (std::numbers::pi * 100 * s.settings.time.value));
}

} // namespace

SetLight findSetLight(const std::vector<LightMember>& members,
                      const std::function<const PairPlace*(std::size_t, std::size_t)>& placed, bool curveKnown,
                      const LightLimits& limits) {
  SetLight out;
  out.photometry.light.resize(members.size());
  if (members.size() < 2) return out;
  const Sketch& first = *members.front().sketch;
  const bool assumed = first.curveAssumed;
  if (std::any_of(members.begin(), members.end(), [&](const auto& m) {
        return m.sketch->curveAssumed != assumed || m.sketch->width != first.width || m.sketch->height != first.height;
      }))
    return out;
  std::vector<CodePairs> pairs;
  for (std::size_t i = 0; i < members.size(); ++i)
    for (std::size_t j = i + 1; j < std::min(members.size(), i + 3); ++j) {
      const PairPlace* place = placed(i, j);
      const Sketch &a = *members[i].sketch, &b = *members[j].sketch;
      const double stops = std::log2(relativeExposure(b.settings) / relativeExposure(a.settings));
      if (!place || !place->placed || stops < 0.2 || stops > 6) continue;
      Image<float> dark = a.cells.clone(), light = movedCells(a, b, place->transform);
      if (assumed && curveKnown) toRoots(a, dark), toRoots(b, light);
      pairs.push_back(pairsOf(dark, light, int(i), int(j), stops));
    }
  if (pairs.empty()) return out;
  const bool linear = !assumed || curveKnown;
  out.photometry = findPhotometry(pairs, members.size(), first.table.size(), linear);
  if (out.photometry.response && out.photometry.response->changed)
    out.tones = std::make_shared<ToneReading>(first.table, out.photometry.response->table);

  // What the found curve leaves unexplained, each frame may owe to it.
  const double misfit = out.photometry.response ? out.photometry.response->disagreementAfter : 0;
  const std::vector<double> ownLight(members.size(), std::hypot(limits.timeStops, misfit)),
      ownColour(members.size(), std::hypot(limits.ownColour, 0.7 * misfit));
  out.light = largestStep({&out.photometry.overall}, members, ownLight, limits.stops);
  const double beyond = std::abs(out.light.stops) - 2 * limits.timeStops;
  bool steadyFrame = false, before = true, after = true;
  for (const auto& m : members) {
    const bool explained = flickerStops(*m.sketch) >= beyond;
    steadyFrame = steadyFrame || !explained;
    (m.arrived < out.light.before ? before : after) &= explained;
  }
  out.mayFlicker = steadyFrame && (before || after);
  if (out.mayFlicker && out.light.clear == LightStep::Clear::Yes) out.light.clear = LightStep::Clear::Perhaps;

  out.colour = largestStep({&out.photometry.red, &out.photometry.blue}, members, ownColour, limits.colour);
  // A balance that is turned changes red and blue; what changes one of them alone may be the rendering's.
  if (!linear && out.colour.clear == LightStep::Clear::Yes &&
      !changesBoth(out.photometry, members, ownColour, out.colour.before))
    out.colour.clear = LightStep::Clear::Perhaps;
  return out;
}

} // namespace ml
