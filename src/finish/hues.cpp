// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/hues.h"

#include "base/vector_clones.h"
#include "image/fast_math.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

/// Angle as a share of the circle, 0..1, from the red axis; to 1e-3 (the moves are tens of degrees wide).
[[gnu::always_inline]] inline float turnOf(float a, float b) {
  const float x = a < 0 ? -a : a, y = b < 0 ? -b : b, most = x > y ? x : y, least = x > y ? y : x;
  const float t = least / (most > 1e-12f ? most : 1e-12f), t2 = t * t;
  float angle = t * (0.15899f + t2 * (-0.05219f + t2 * (0.02436f - t2 * 0.00618f))); // arctangent / 2 pi
  angle = y > x ? 0.25f - angle : angle;
  angle = a < 0 ? 0.5f - angle : angle;
  return b < 0 ? 1 - angle : angle;
}

constexpr int kAtOnce = 512;
constexpr float kFrom = float(kShoulderFrom), kRoom = 1 - kFrom;

[[gnu::always_inline]] inline float largest(float a, float b, float c) {
  const float ab = a > b ? a : b;
  return ab > c ? ab : c;
}

/// Where colours lie on the circle, as a share of it, and how surely: greys have no hue.
ML_VECTOR_CLONES void locate(const float* r, const float* g, const float* b, int n, float* __restrict turn,
                             float* __restrict sure) {
  for (int i = 0; i < n; ++i) {
    const float most = largest(r[i], g[i], b[i]), least = -largest(-r[i], -g[i], -b[i]);
    const float s = ((most - least) / (most > 1e-6f ? most : 1e-6f) - 0.04f) * (1 / 0.14f), held = s > 0 ? s : 0;
    sure[i] = held < 1 ? held : 1;
    turn[i] = turnOf(r[i] - 0.5f * (g[i] + b[i]), 0.8660254f * (g[i] - b[i]));
  }
}

/// Adds one move's saturation and stops, by the distance of each hue from its own; nothing from `width` (a share of the
/// circle) on.
ML_VECTOR_CLONES void addMove(const float* turn, float hue, float width, float saturation, float lightness, int n,
                              float* __restrict more, float* __restrict stops) {
  const float perWidth = 1 / width;
  for (int i = 0; i < n; ++i) {
    const float away = turn[i] - hue, wrapped = away > 0.5f ? away - 1 : away < -0.5f ? away + 1 : away;
    const float t = wrapped * perWidth, rest = 1 - t * t, held = rest > 0 ? rest : 0, share = held * held;
    more[i] += share * saturation;
    stops[i] += share * lightness;
  }
}

ML_VECTOR_CLONES void moveColours(const float* sure, const float* more, const float* stops, int n, float* __restrict r,
                                  float* __restrict g, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float saturation = 1 + sure[i] * (more[i] > -1 ? more[i] : -1.f), gain = heldExp2(sure[i] * stops[i]);
    // Before the shoulder, so that what is almost white stays below it.
    const float y0 = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i], white = 1 - y0 > 1e-5f ? 1 - y0 : 1e-5f;
    const float straight = gain * (y0 <= kFrom ? y0 : kFrom - kRoom * 0.69314718f * fastLog2(white * (1 / kRoom)));
    const float rolled = 1 - kRoom * heldExp2((kFrom - straight) * (1.44269504f / kRoom)),
                y = straight <= kFrom ? straight : rolled;
    const float s = saturation * y / (y0 > 1e-9f ? y0 : 1e-9f);
    float red = y + s * (r[i] - y0), green = y + s * (g[i] - y0), blue = y + s * (b[i] - y0);
    red = red > 0 ? red : 0, green = green > 0 ? green : 0, blue = blue > 0 ? blue : 0;
    const float top = largest(red, green, blue), over = top - y > 1e-6f ? top - y : 1e-6f, limited = (1 - y) / over,
                keep = top > 1 ? limited : 1.f;
    r[i] = y + keep * (red - y);
    g[i] = y + keep * (green - y);
    b[i] = y + keep * (blue - y);
  }
}

} // namespace

HueAndChroma hueOf(const float* p) {
  const float most = std::max({p[0], p[1], p[2]}), least = std::min({p[0], p[1], p[2]});
  if (most <= 0 || most == least) return {};
  return {360.0 * turnOf(p[0] - 0.5f * (p[1] + p[2]), 0.8660254f * (p[1] - p[2])), (most - least) / most};
}

void moveHues(const std::vector<HueMove>& moves, int n, float* r, float* g, float* b) {
  if (moves.empty()) return;
  float turn[kAtOnce], sure[kAtOnce], more[kAtOnce], stops[kAtOnce];
  for (int x = 0; x < n; x += kAtOnce) {
    const int part = std::min(kAtOnce, n - x);
    locate(r + x, g + x, b + x, part, turn, sure);
    std::fill_n(more, part, 0.f);
    std::fill_n(stops, part, 0.f);
    for (const HueMove& m : moves)
      addMove(turn, float(m.hue / 360 - std::floor(m.hue / 360)), float(m.width / 360), float(m.saturation),
              float(m.lightness), part, more, stops);
    moveColours(sure, more, stops, part, r + x, g + x, b + x);
  }
}

} // namespace ml
