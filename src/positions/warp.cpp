// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/warp.h"

#include "base/vector_clones.h"
#include "image/fast_math.h"
#include "image/interpolate.h"
#include "positions/light_codes.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr int kStep = 16; ///< Geometry is exact at every 16th pixel of a row and straight between.
constexpr int kWide = 3 * kInterpolationTaps;

/// Six rows of six pixels of three channels, weighted; the sums of the three channels in code steps.
ML_VECTOR_CLONES void gather(const std::uint16_t* from, std::ptrdiff_t stride, const float* wx, const float* wy,
                             float* __restrict out) {
  float sum[kWide] = {};
  for (int r = 0; r < kInterpolationTaps; ++r) {
    const std::uint16_t* row = from + r * stride;
    for (int i = 0; i < kWide; ++i) sum[i] += wy[r] * float(row[i]);
  }
  for (int c = 0; c < 3; ++c) {
    out[c] = 0;
    for (int k = 0; k < kInterpolationTaps; ++k) out[c] += wx[k] * sum[3 * k + c];
  }
}

/// The same in light: where bright meets dark the mean of logarithms is not the logarithm of the mean.
ML_VECTOR_CLONES void gatherLight(const std::uint16_t* from, std::ptrdiff_t stride, const float* wx, const float* wy,
                                  float* __restrict out) {
  float sum[kWide] = {};
  for (int r = 0; r < kInterpolationTaps; ++r) {
    const std::uint16_t* row = from + r * stride;
    for (int i = 0; i < kWide; ++i) sum[i] += wy[r] * fastExp2(float(row[i]) * (1 / LightCodes::kSteps));
  }
  for (int c = 0; c < 3; ++c) {
    float light = 0;
    for (int k = 0; k < kInterpolationTaps; ++k) light += wx[k] * sum[3 * k + c];
    out[c] = LightCodes::kSteps * fastLog2(light > 1 ? light : 1);
  }
}

constexpr float kEven = 0.4f * LightCodes::kSteps; ///< Between neighbours, below which both means are the same.

/// Weighted codes of the six by six pixels from `from` on, held near what the four in their middle show.
void interpolate(const std::uint16_t* from, std::ptrdiff_t stride, const float* wx, const float* wy, float* value) {
  const std::uint16_t* middle = from + 2 * stride + 6;
  float low[3], high[3], widest = 0;
  for (int c = 0; c < 3; ++c) {
    const float a = middle[c], b = middle[3 + c], d = middle[stride + c], e = middle[stride + 3 + c];
    low[c] = std::min(std::min(a, b), std::min(d, e)), high[c] = std::max(std::max(a, b), std::max(d, e));
    widest = std::max(widest, high[c] - low[c]);
  }
  const bool even = widest < kEven;
  even ? gather(from, stride, wx, wy, value) : gatherLight(from, stride, wx, wy, value);
  for (int c = 0; c < 3; ++c) {
    const float room = even ? 0.25f * (high[c] - low[c]) : 0;
    value[c] = std::clamp(value[c], low[c] - room, high[c] + room);
  }
}

/// Codes at a place inside the picture; neighbours beyond its edge repeat.
void read(const Image<std::uint16_t>& picture, double u, double v, float* value) {
  const double fu = std::floor(u), fv = std::floor(v);
  const int px = int(fu) - 2, py = int(fv) - 2;
  float wx[kInterpolationTaps], wy[kInterpolationTaps];
  interpolationWeights(float(u - fu), wx);
  interpolationWeights(float(v - fv), wy);
  const std::uint16_t* from = nullptr;
  std::ptrdiff_t stride = std::ptrdiff_t(picture.width()) * 3;
  std::uint16_t edge[kInterpolationTaps * kWide];
  if (px >= 0 && py >= 0 && px + kInterpolationTaps <= picture.width() && py + kInterpolationTaps <= picture.height()) {
    from = picture.at(px, py);
  } else {
    for (int r = 0; r < kInterpolationTaps; ++r)
      for (int k = 0; k < kInterpolationTaps; ++k)
        std::copy_n(picture.at(std::clamp(px + k, 0, picture.width() - 1), std::clamp(py + r, 0, picture.height() - 1)),
                    3, edge + r * kWide + 3 * k);
    from = edge;
    stride = kWide;
  }
  interpolate(from, stride, wx, wy, value);
}

struct SeenPlace {
  double x, y;
  bool seen;
};

} // namespace

Warped warp(const CameraGeometry& camera, const Image<std::uint16_t>& picture, const LightChange& change,
            const DirectionAt& direction, const Roi& tile) {
  Warped out{Image<float>(tile.width, tile.height, 3), Image<std::uint8_t>(tile.width, tile.height, 1), false, true};
  const int width = picture.width(), height = picture.height();
  const double half2 = (double(width) * width + double(height) * height) / 4;
  const auto placeOf = [&](int x, int y) {
    SeenPlace p{0, 0, false};
    p.seen = camera.pixel(direction(x, y), p.x, p.y);
    return p;
  };
  for (int y = 0; y < tile.height; ++y) {
    float* to = out.stops.row(y);
    std::uint8_t* covered = out.covered.row(y);
    SeenPlace left = placeOf(tile.x, tile.y + y);
    for (int x0 = 0; x0 < tile.width; x0 += kStep) {
      const SeenPlace right = placeOf(tile.x + x0 + kStep, tile.y + y);
      const int count = std::min(kStep, tile.width - x0);
      for (int i = 0; i < count; ++i) {
        const int x = x0 + i;
        covered[x] = 0;
        double u = left.x + (right.x - left.x) * i / kStep, v = left.y + (right.y - left.y) * i / kStep;
        if (!left.seen || !right.seen) {
          if (!left.seen && !right.seen) continue;
          const SeenPlace exact = placeOf(tile.x + x, tile.y + y);
          if (!exact.seen) continue;
          u = exact.x, v = exact.y;
        }
        if (!(u > -0.5 && v > -0.5 && u < width - 0.5 && v < height - 0.5)) continue;
        float value[3];
        read(picture, u, v, value);
        const double dx = u - (width - 1) / 2.0, dy = v - (height - 1) / 2.0, rho2 = (dx * dx + dy * dy) / half2;
        const auto lens = float(rho2 * (change.fallOff2 + rho2 * change.fallOff4));
        for (int c = 0; c < 3; ++c)
          to[3 * x + c] = (value[c] - 1) / LightCodes::kSteps - float(change.gain[std::size_t(c)]) - lens;
        covered[x] = 1;
        out.any = true;
      }
      left = right;
    }
    out.all = out.all && std::all_of(covered, covered + tile.width, [](std::uint8_t c) { return c != 0; });
  }
  return out;
}

} // namespace ml
