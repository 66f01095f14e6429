// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/sharpness.h"

#include "image/colour.h"
#include "judge/shared_structure.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace ml {
namespace {

constexpr int kScales = 3;

using Pictures = std::vector<Image<float>>;

/// All frames' light on the first one's grid.
Pictures onFirst(const std::vector<ViewMember>& frames, const ToneReading* tones) {
  const auto reading =
      tones ? std::function<double(double)>([tones](double light) { return tones->at(1, light); }) : nullptr;
  Pictures out;
  for (const ViewMember& m : frames) {
    out.push_back(lightOf(m.sketch->detail, reading));
    if (!m.fromFirst.isIdentity()) out.back() = lightAt(out.back(), m.fromFirst.scaled(1.0 / m.sketch->detail.scale));
  }
  return out;
}

/// Of 8 bits, by the curve that was found.
ContrastPerCode contrastPerCode(const ToneReading& tones) {
  std::vector<double> light, contrast;
  for (int code = 2; code < 255; ++code) {
    const double read = srgbDecode(code / 255.0);
    light.push_back(tones.at(1, read));
    contrast.push_back(std::numbers::ln2 * tones.stopsPerCode(read));
  }
  return [light = std::move(light), contrast = std::move(contrast)](double at) {
    const auto next = std::lower_bound(light.begin(), light.end(), at);
    return contrast[std::min(std::size_t(next - light.begin()), contrast.size() - 1)];
  };
}

/// What neighbours say at one scale along one axis.
std::vector<SharpnessStep> stepsAt(const Pictures& light, const ContrastPerCode& perCode, bool raw,
                                   StructureAxis axis) {
  std::vector<SharpnessStep> out;
  const auto keep = [&](SharpnessStep step, std::size_t from) {
    step.first += int(from), step.second += int(from);
    out.push_back(step);
  };
  for (std::size_t i = 0; i + 2 < light.size(); ++i)
    for (const SharpnessStep& step : stepsOfThree({&light[i], &light[i + 1], &light[i + 2]}, axis, perCode))
      keep(step, i);
  if (raw)
    for (std::size_t i = 0; i + 1 < light.size(); ++i)
      if (const auto step = stepOfTwo(light[i], light[i + 1], axis)) keep(*step, i);
  if (!raw)
    for (std::size_t i = 0; i + 1 < light.size(); ++i)
      if (const auto step = stepOfTwoByEdges(light[i], light[i + 1], axis, perCode)) keep(*step, i);
  return out;
}

/// Frames that steps join get one group; their sharpness fits the steps by least squares (Gauss and Seidel), the
/// first's is zero.
std::vector<FrameSharpness> joined(std::size_t count, const std::vector<SharpnessStep>& steps) {
  std::vector<FrameSharpness> out(count);
  for (std::size_t i = 0; i < count; ++i) out[i].group = int(i);
  for (bool changed = true; changed;) {
    changed = false;
    for (const SharpnessStep& s : steps) {
      int &a = out[std::size_t(s.first)].group, &b = out[std::size_t(s.second)].group;
      changed = changed || a != b;
      a = b = std::min(a, b);
    }
  }
  std::vector<double> weights(count, 0);
  for (int round = 0; round < 200; ++round)
    for (std::size_t i = 0; i < count; ++i) {
      double sum = 0, weight = 0;
      for (const SharpnessStep& s : steps) {
        const double w = 1 / (s.sigma * s.sigma);
        if (s.second == int(i)) sum += w * (out[std::size_t(s.first)].log + s.log), weight += w;
        if (s.first == int(i)) sum += w * (out[std::size_t(s.second)].log - s.log), weight += w;
      }
      weights[i] = weight;
      if (weight > 0 && out[i].group != int(i)) out[i].log = sum / weight;
    }
  for (std::size_t i = 0; i < count; ++i) {
    if (weights[i] == 0)
      out[i].group = -1;
    else
      out[i].sigma = 2 / std::sqrt(weights[i]);
    out[i].log *= 2; // of amplitudes to energies
  }
  return out;
}

double spread(const std::vector<FrameSharpness>& frames) {
  double low = 0, high = 0;
  for (const auto& f : frames) low = std::min(low, f.log), high = std::max(high, f.log);
  return high - low;
}

} // namespace

std::vector<FrameSharpness> sharpnessOf(const std::vector<ViewMember>& frames, const ToneReading* tones) {
  std::vector<FrameSharpness> best(frames.size());
  if (frames.size() < 2) return best;
  const bool raw = !frames.front().sketch->curveAssumed;
  const bool still =
      std::all_of(frames.begin(), frames.end(), [](const ViewMember& m) { return m.fromFirst.isIdentity(); });
  const ContrastPerCode perCode = tones ? contrastPerCode(*tones) : nullptr;
  Pictures light = onFirst(frames, tones);
  for (int scale = 0; scale < kScales; ++scale) {
    if (scale > 0)
      for (auto& picture : light) picture = halvedLight(picture);
    if (scale == 0 && !still) continue; // between pixels the finest structure is lost
    const auto across = joined(frames.size(), stepsAt(light, perCode, raw, StructureAxis::Across)),
               down = joined(frames.size(), stepsAt(light, perCode, raw, StructureAxis::Down));
    const auto& said = spread(across) > spread(down) ? across : down;
    // Where noise hides the finest structure of a frame, coarser structure speaks.
    const auto known = [](const std::vector<FrameSharpness>& f) {
      return std::count_if(f.begin(), f.end(), [](const auto& s) { return s.group == 0; });
    };
    if (known(said) > known(best)) best = said;
    if (known(best) == std::ptrdiff_t(frames.size())) break;
  }
  return best;
}

} // namespace ml
