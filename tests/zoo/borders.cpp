// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/borders.h"

#include "image/colour.h"
#include "image/colour_difference.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ml::zoo {
namespace {

constexpr int kDeep = 4, kAlong = 4; // half of 9, less the middle
constexpr double kFlat = 3, kSeen = 2;
using Lab = std::array<double, 3>;

/// 1 near a border, 2 near none and in none: where the steps of the rest are taken.
Image<std::uint8_t> borderMap(int w, int h, const MotionReport& motion) {
  const int cell = motion.cell, cw = (w + cell - 1) / cell, ch = (h + cell - 1) / cell;
  std::vector<int> owner(std::size_t(cw) * std::size_t(ch), -1);
  for (int y = 0; y < ch; ++y)
    for (int x = 0; x < cw; ++x)
      for (const MovedRegion& place : motion.places)
        if (place.holds(x, y)) owner[std::size_t(y) * std::size_t(cw) + std::size_t(x)] = place.source;
  const auto at = [&](int x, int y) {
    return owner[std::size_t(std::clamp(y, 0, ch - 1)) * std::size_t(cw) + std::size_t(std::clamp(x, 0, cw - 1))];
  };
  Image<std::uint8_t> out(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const int cx = x / cell, cy = y / cell;
      bool near = false, far = at(cx, cy) < 0;
      for (int dy = -4; dy <= 4; ++dy)
        for (int dx = -4; dx <= 4; ++dx) {
          const bool other = at(cx + dx, cy + dy) != at(cx, cy);
          near = near || (other && std::abs(dx) <= 2 && std::abs(dy) <= 2);
          far = far && !other;
        }
      *out.at(x, y) = near ? 1 : far ? 2 : 0;
    }
  return out;
}

struct Strip {
  int x, y, w, h;
};
struct Strips {
  Strip one, other;
};

/// Mean of a strip in CIELAB of clipped display light.
Lab stripOf(const Image<float>& shown, const Strip& at) {
  double sum[3] = {};
  for (int v = at.y; v < at.y + at.h; ++v)
    for (int u = at.x; u < at.x + at.w; ++u)
      for (int c = 0; c < 3; ++c) sum[c] += shown.at(u, v)[c];
  const float mean[3] = {float(sum[0] / (at.w * at.h)), float(sum[1] / (at.w * at.h)), float(sum[2] / (at.w * at.h))};
  return labOf(mean);
}

/// The step between two strips of `found` that `wanted` has not, CIEDE2000.
double stepOf(const Image<float>& found, const Image<float>& wanted, const Strips& at) {
  const Lab t0 = stripOf(wanted, at.one), t1 = stripOf(wanted, at.other);
  const Lab f0 = stripOf(found, at.one), f1 = stripOf(found, at.other);
  Lab stepped;
  for (std::size_t c = 0; c < 3; ++c) stepped[c] = t0[c] + (f1[c] - f0[c]) - (t1[c] - t0[c]);
  return ciede2000(t0, stepped);
}

/// Whether a frame alone knows all of both strips.
bool records(const Image<float>& frame, const Strips& at) {
  for (const Strip& s : {at.one, at.other})
    for (int v = s.y; v < s.y + s.h; ++v)
      for (int u = s.x; u < s.x + s.w; ++u)
        if (!std::isfinite(frame.at(u, v)[0])) return false;
  return true;
}

Image<float> shownAs(const Image<float>& light, double scale) {
  Image<float> out = light.clone();
  for (std::size_t i = 0; i < out.size(); ++i)
    out.data()[i] = float(std::clamp(double(out.data()[i]) * scale, 0.0, 1.0)); // NaN stays
  return out;
}

double medianOf(std::vector<double>& values) {
  std::nth_element(values.begin(), values.begin() + std::ptrdiff_t(values.size() / 2), values.end());
  return values[values.size() / 2];
}

} // namespace

BorderSteps borderSteps(const Image<float>& found, const Image<float>& truth, const Image<std::uint8_t>& unknown,
                        const MotionReport& motion, const std::vector<Image<float>>& alone) {
  const int w = truth.width(), h = truth.height();
  std::vector<double> light, ratio;
  for (int y = 0; y < h; y += 2)
    for (int x = 0; x < w; x += 2) {
      const double t = luminance(truth.at(x, y)), f = luminance(found.at(x, y));
      light.push_back(t);
      if (t > 0 && f > 0) ratio.push_back(t / f);
    }
  const double grey = 0.18 / medianOf(light), same = medianOf(ratio);
  const Image<float> a = shownAs(found, grey * same), b = shownAs(truth, grey);
  std::vector<Image<float>> frames;
  for (const Image<float>& frame : alone) frames.push_back(shownAs(frame, grey));
  const Image<std::uint8_t> map = borderMap(w, h, motion);
  BorderSteps out;
  double worst = 0;
  for (int y = kDeep + kAlong; y < h - kDeep - kAlong; y += 2)
    for (int x = kDeep + kAlong; x < w - kDeep - kAlong; x += 2) {
      const int where = *map.at(x, y);
      if (where == 0 || (where == 2 && (x % 8 || y % 8))) continue;
      bool told = true;
      for (int v = y - kDeep; v < y + kDeep && told; ++v)
        for (int u = x - kDeep; u < x + kDeep; ++u) told = told && *unknown.at(u, v) <= 1;
      if (!told) continue;
      for (const bool down : {false, true}) {
        const int left = down ? x - kAlong : x - kDeep, top = down ? y - kDeep : y - kAlong;
        const int sw = down ? 2 * kAlong + 1 : kDeep, sh = down ? kDeep : 2 * kAlong + 1;
        const Strips strips{{left, top, sw, sh}, {down ? left : x, down ? y : top, sw, sh}};
        if (ciede2000(stripOf(b, strips.one), stripOf(b, strips.other)) > kFlat) continue;
        const double step = stepOf(a, b, strips);
        (where == 1 ? out.atBorders : out.elsewhere).push_back(step);
        if (where != 1) continue;
        if (step > worst) worst = step, out.worstX = x, out.worstY = y;
        const auto has = [&](const Image<float>& frame) {
          return records(frame, strips) && stepOf(a, frame, strips) <= kSeen;
        };
        out.ofOurs += step > kSeen && std::none_of(frames.begin(), frames.end(), has);
      }
    }
  return out;
}

} // namespace ml::zoo
