// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/rows.h"

#include "base/vector_clones.h"
#include "merge/tile.h"

#include <algorithm>

namespace ml::rows {
namespace {

constexpr float kCoding = 0.03f;

} // namespace

ML_VECTOR_CLONES void trustOfRow(const float* light, int n, float inverseClip, float* __restrict trust) {
  for (int i = 0; i < n; ++i) trust[i] = trustOf(light[i] * inverseClip);
}

ML_VECTOR_CLONES bool anyAboveZero(const float* in, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= in[i] > 0;
  return any;
}

ML_VECTOR_CLONES bool useOfRow(const float* red, const float* green, const float* blue, const float* share, int n,
                               float* __restrict use, float* __restrict beyondRed, float* __restrict beyondGreen,
                               float* __restrict beyondBlue) {
  int any = 0;
  for (int i = 0; i < n; ++i) {
    const float s = share ? share[i] : 1.f;
    const float r = std::max(0.f, red[i]) * s, g = std::max(0.f, green[i]) * s, b = std::max(0.f, blue[i]) * s,
                all = std::min(std::min(r, g), b);
    use[i] = all;
    beyondRed[i] = r - all, beyondGreen[i] = g - all, beyondBlue[i] = b - all;
    any |= (beyondRed[i] + beyondGreen[i] + beyondBlue[i]) > 0;
  }
  return any;
}

ML_VECTOR_CLONES void gather(const float* light, const float* use, float exposure, int n, float* __restrict sum,
                             float* __restrict exposures) {
  for (int i = 0; i < n; ++i) {
    sum[i] += use[i] * light[i];
    exposures[i] += use[i] * exposure;
  }
}

ML_VECTOR_CLONES void estimate(const float* sum, const float* exposures, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = sum[i] / std::max(exposures[i], 1e-12f);
}

ML_VECTOR_CLONES void squaredGradient(const float* above, const float* row, const float* below, int n,
                                      float* __restrict out) {
  for (int i = 1; i < n - 1; ++i) {
    const float gx = 0.5f * (row[i + 1] - row[i - 1]), gy = 0.5f * (below[i] - above[i]);
    out[i] = gx * gx + gy * gy;
  }
  out[0] = n > 1 ? out[1] : 0.f;
  out[n - 1] = n > 2 ? out[n - 2] : 0.f;
}

ML_VECTOR_CLONES void weigh(const float* light, const float* use, const float* level, const float* gradient,
                            VarianceCurve curve, float exposure, float misplaced, int n, float* __restrict sum,
                            float* __restrict weights) {
  for (int i = 0; i < n; ++i) {
    // The weight of `light / exposure` is exposure^2 / variance; one factor is kept for the sum.
    const float w = use[i] * exposure / (curve.at(level[i] * exposure) + (gradient ? misplaced * gradient[i] : 0.f));
    sum[i] += w * light[i];
    weights[i] += w * exposure;
  }
}

ML_VECTOR_CLONES void weighSurplus(const float* sample, const float* surplus, const float* gradient,
                                   const float* brightest, VarianceCurve curve, float exposure, float misplaced, int n,
                                   float* __restrict light, float* __restrict weights, float* __restrict exposures) {
  const float squared = exposure * exposure, inverse = 1 / exposure;
  for (int i = 0; i < n; ++i) {
    const bool known = weights[i] > 0;
    const float weight = known ? weights[i] : 1e-12f, expected = known ? light[i] * exposure : sample[i];
    const float variance = curve.at(expected) + (gradient ? misplaced * gradient[i] : 0.f);
    const float off = sample[i] - expected, coding = kCoding * brightest[i] * exposure;
    // off^2 <= 9 (variance + exposure^2 / weight) + coding^2, without the division.
    const float used = (off * off - 9 * variance - coding * coding) * weight <= 9 * squared ? surplus[i] : 0.f;
    const float information = used * squared, all = weights[i] * variance + information;
    const float both = 1 / (variance * all + 1e-37f);
    light[i] += information * variance * both * (sample[i] * inverse - light[i]);
    weights[i] += information * all * both;
    exposures[i] += used * exposure;
  }
}

Stretch stretchOf(const float* in, int n) {
  constexpr int kBlock = 32;
  Stretch out{n, n};
  for (int i = 0; i < n; i += kBlock) {
    if (!anyAboveZero(in + i, std::min(kBlock, n - i))) continue;
    out.first = std::min(out.first, i);
    out.last = std::min(n, i + kBlock);
  }
  if (out.first == n) out.last = n;
  return out;
}

ML_VECTOR_CLONES bool anyAtMost(const float* a, const float* b, const float* c, float limit, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= std::min(std::min(a[i], b[i]), c[i]) <= limit;
  return any;
}

ML_VECTOR_CLONES void largestOfThree(const float* a, const float* b, const float* c, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = std::max(std::max(a[i], b[i]), c[i]);
}

ML_VECTOR_CLONES void divide(const float* sum, const float* weights, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = sum[i] / std::max(weights[i], 1e-30f);
}

ML_VECTOR_CLONES void toRec709(const float* r, const float* g, const float* b, const float* m, int n,
                               float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    out[3 * i] = m[0] * r[i] + m[1] * g[i] + m[2] * b[i];
    out[3 * i + 1] = m[3] * r[i] + m[4] * g[i] + m[5] * b[i];
    out[3 * i + 2] = m[6] * r[i] + m[7] * g[i] + m[8] * b[i];
  }
}

ML_VECTOR_CLONES void toRec709(float* pixels, const float* m, int n) {
  for (int i = 0; i < n; ++i) {
    float* p = pixels + 3 * i;
    const float r = p[0], g = p[1], b = p[2];
    p[0] = m[0] * r + m[1] * g + m[2] * b;
    p[1] = m[3] * r + m[4] * g + m[5] * b;
    p[2] = m[6] * r + m[7] * g + m[8] * b;
  }
}

ML_VECTOR_CLONES void doubt(const float* light, float scale, const float* darker, float darkerScale, const float* sure,
                            int n, float* __restrict use) {
  constexpr float kMore = 1.5f;
  for (int i = 0; i < n; ++i) {
    const bool doubtful = use[i] < 1 && sure[i] >= 1 && darker[i] * darkerScale > kMore * light[i] * scale;
    use[i] = doubtful ? 0.f : use[i];
  }
}

ML_VECTOR_CLONES void keepAtLeast(const float* light, float scale, const float* darker, float darkerScale,
                                  const float* trust, int n, float* __restrict use) {
  for (int i = 0; i < n; ++i) {
    const bool full = trust[i] >= 0 && trust[i] < 0.5f;
    use[i] = full && light[i] * scale < kLess * darker[i] * darkerScale ? 0.f : use[i];
  }
}

void clippedColour(const float* linear, const std::array<float, 3>& saturation, float exposure, float* out) {
  float held[3], brightest = 0, nearest = 1;
  for (std::size_t c = 0; c < 3; ++c) {
    held[c] = std::min(linear[c], saturation[c]);
    brightest = std::max(brightest, held[c]);
    nearest = std::min(nearest, held[c] / saturation[c]);
  }
  const float t = std::clamp((nearest - 0.6f) / 0.35f, 0.f, 1.f), neutral = t * t * (3 - 2 * t);
  for (std::size_t c = 0; c < 3; ++c) {
    const float likely = std::max(held[c], 0.5f * (held[(c + 1) % 3] + held[(c + 2) % 3]));
    out[c] = (linear[c] >= 0.97f * saturation[c] ? likely + neutral * (brightest - likely) : linear[c]) / exposure;
  }
}

} // namespace ml::rows
