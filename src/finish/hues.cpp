#include "finish/hues.h"

#include "base/vector_clones.h"
#include "image/fast_math.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kSteps = 256;

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

[[gnu::always_inline]] inline float largest(float a, float b, float c) {
  const float ab = a > b ? a : b;
  return ab > c ? ab : c;
}

/// Where colours lie on the circle, and how surely: greys have no hue.
ML_VECTOR_CLONES void locate(const float* r, const float* g, const float* b, int n, int* __restrict cell, float* __restrict fraction, float* __restrict sure) {
  for (int i = 0; i < n; ++i) {
    const float most = largest(r[i], g[i], b[i]), least = -largest(-r[i], -g[i], -b[i]);
    const float s = ((most - least) / (most > 1e-6f ? most : 1e-6f) - 0.04f) * (1 / 0.14f), held = s > 0 ? s : 0;
    sure[i] = held < 1 ? held : 1;
    const float position = turnOf(r[i] - 0.5f * (g[i] + b[i]), 0.8660254f * (g[i] - b[i])) * kSteps, inside = position < float(kSteps) - 0.001f ? position : float(kSteps) - 0.001f;
    cell[i] = int(inside);
    fraction[i] = inside - float(cell[i]);
  }
}

void lookUp(const float* table, const int* cell, const float* fraction, int n, float* __restrict saturation, float* __restrict stops) {
  for (int i = 0; i < n; ++i) {
    const float* p = table + 2 * cell[i];
    saturation[i] = p[0] + fraction[i] * (p[2] - p[0]);
    stops[i] = p[1] + fraction[i] * (p[3] - p[1]);
  }
}

ML_VECTOR_CLONES void moveColours(const float* sure, const float* more, const float* stops, int n, float* __restrict r, float* __restrict g, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float saturation = 1 + sure[i] * more[i], gain = heldExp2(sure[i] * stops[i]);
    const float y0 = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i], y1 = y0 * gain, y = y1 < 1 ? y1 : 1;
    const float s = saturation * gain;
    float red = y + s * (r[i] - y0), green = y + s * (g[i] - y0), blue = y + s * (b[i] - y0);
    red = red > 0 ? red : 0, green = green > 0 ? green : 0, blue = blue > 0 ? blue : 0;
    const float top = largest(red, green, blue), over = top - y > 1e-6f ? top - y : 1e-6f, limited = (1 - y) / over, keep = top > 1 ? limited : 1.f;
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

HueTable::HueTable(const std::vector<HueMove>& moves) {
  if (moves.empty()) return;
  table_.assign(2 * kSteps + 2, 0.f);
  for (int i = 0; i <= kSteps; ++i)
    for (const HueMove& m : moves) {
      const double away = std::abs(std::remainder(360.0 * i / kSteps - m.hue, 360.0)), t = std::clamp(away / m.width, 0.0, 1.0), share = (1 - t * t) * (1 - t * t);
      table_[std::size_t(2 * i)] += float(share * m.saturation);
      table_[std::size_t(2 * i) + 1] += float(share * m.lightness);
    }
  for (std::size_t i = 0; i < table_.size(); i += 2) table_[i] = std::max(-1.f, table_[i]);
}

void HueTable::apply(int n, float* r, float* g, float* b) const {
  if (empty()) return;
  int cell[kAtOnce];
  float fraction[kAtOnce], sure[kAtOnce], more[kAtOnce], stops[kAtOnce];
  for (int x = 0; x < n; x += kAtOnce) {
    const int part = std::min(kAtOnce, n - x);
    locate(r + x, g + x, b + x, part, cell, fraction, sure);
    lookUp(table_.data(), cell, fraction, part, more, stops);
    moveColours(sure, more, stops, part, r + x, g + x, b + x);
  }
}

} // namespace ml
