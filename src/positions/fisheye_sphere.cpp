// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/fisheye_sphere.h"

#include "base/parallel.h"
#include "positions/cut.h"
#include "positions/fisheye_ring.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr double kHalfTurn = std::numbers::pi;
constexpr float kSeamLength = 0.03f; ///< Stops: what a seam costs where nothing differs.
constexpr int kColumns = 1440;       ///< Of the ring that the seam is laid in.
constexpr int kFeather = 2;          ///< Of its nodes on either side of the seam.

/// 1 where the ring is taken from the left lens.
Image<float> seamOf(const RingPictures& rings) {
  const int w = rings.lens[0].width(), h = rings.lens[0].height();
  Image<float> off(w, h, 1);
  for (std::size_t i = 0; i < off.size(); ++i)
    off.data()[i] = std::abs(rings.lens[0].data()[i] - rings.lens[1].data()[i]) + kSeamLength;
  GridCut cut(w, h);
  cut.closed = true;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const std::size_t i = std::size_t(y) * std::size_t(w) + std::size_t(x);
      cut.right[i] = *off.at(x, y) + *off.at((x + 1) % w, y);
      if (y + 1 < h) cut.down[i] = *off.at(x, y) + *off.at(x, y + 1);
      if (y == 0) cut.source[i] = GridCut::kHeld; // each lens has its own side
      if (y == h - 1) cut.sink[i] = GridCut::kHeld;
    }
  const std::vector<std::uint8_t> left = cut.solve();
  Image<float> out(w, h, 1);
  std::copy(left.begin(), left.end(), out.data());
  return out;
}

/// Means over 2 kFeather + 1 nodes both ways, around the ring.
Image<float> feathered(const Image<float>& in) {
  const int w = in.width(), h = in.height();
  Image<float> out(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      float sum = 0;
      for (int v = -kFeather; v <= kFeather; ++v)
        for (int u = -kFeather; u <= kFeather; ++u)
          sum += y + v < 0 ? 1 : y + v >= h ? 0 : *in.at((x + u + w) % w, y + v);
      *out.at(x, y) = sum / ((2 * kFeather + 1) * (2 * kFeather + 1));
    }
  return out;
}

void cubicWeights(float t, float w[4]) {
  w[0] = t * (-0.5f + t * (1 - 0.5f * t));
  w[1] = 1 + t * t * (-2.5f + 1.5f * t);
  w[2] = t * (0.5f + t * (2 - 1.5f * t));
  w[3] = t * t * (-0.5f + 0.5f * t);
}

/// Adds `share` of what lies at (x, y).
template <class T> void addSample(ImageView<const T> in, double x, double y, float share, float out[3]) {
  const double cx = std::clamp(x, 0.0, in.width - 1.0), cy = std::clamp(y, 0.0, in.height - 1.0);
  const int ix = int(cx), iy = int(cy);
  float wx[4], wy[4];
  cubicWeights(float(cx - ix), wx);
  cubicWeights(float(cy - iy), wy);
  for (int v = 0; v < 4; ++v) {
    const T* row = in.row(std::clamp(iy + v - 1, 0, in.height - 1));
    float sum[3] = {};
    for (int u = 0; u < 4; ++u) {
      const T* p = row + 3 * std::clamp(ix + u - 1, 0, in.width - 1);
      for (int c = 0; c < 3; ++c) sum[c] += wx[u] * p[c];
    }
    for (int c = 0; c < 3; ++c) out[c] += share * wy[v] * sum[c];
  }
}

template <class T> Image<T> drawnFrom(ImageView<const T> in, const FisheyeSphere& sphere) {
  const int w = in.width, h = in.height;
  const float most = std::is_same_v<T, std::uint8_t> ? 255 : 65535;
  Image<T> out(w, h, 3);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const double down = ((y + 0.5) / h - 0.5) * kHalfTurn, flat = std::cos(down), dy = std::sin(down);
      for (int x = 0; x < w; ++x) {
        const double yaw = ((x + 0.5) / w - 0.5) * 2 * kHalfTurn;
        const Vector3 direction{std::sin(yaw) * flat, dy, std::cos(yaw) * flat};
        const double left = sphere.leftShare(direction);
        float sum[3] = {};
        for (int which = 0; which < 2; ++which) {
          const double share = which == 0 ? left : 1 - left;
          if (share <= 0) continue;
          double u, v;
          sphere.pair().pixel(which, direction, u, v);
          addSample(in, u, v, float(share), sum);
        }
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = T(std::clamp(sum[c] + 0.5f, 0.f, most));
      }
    }
  });
  return out;
}

} // namespace

FisheyeSphere::FisheyeSphere(const FisheyePair& pair, ImageView<const float> tones, double factor)
    : pair_(enlarged(pair, factor)) {
  const RingPictures rings = ringPictures(tones, pair, 2 * kHalfTurn / kColumns);
  half_ = rings.half;
  share_ = feathered(seamOf(rings));
}

double FisheyeSphere::leftShare(const Vector3& d) const {
  const double angle = std::atan2(std::hypot(d[0], d[1]), d[2]) - kHalfTurn / 2;
  if (angle <= -half_) return 1;
  if (angle >= half_) return 0;
  const int w = share_.width(), h = share_.height();
  const double around = std::atan2(d[1], d[0]) / (2 * kHalfTurn);
  const double x = (around < 0 ? around + 1 : around) * w;
  const double y = std::clamp((angle + half_) / (2 * half_) * h - 0.5, 0.0, h - 1.001);
  const int ix = int(x) % w, iy = int(y), next = (ix + 1) % w;
  const double fx = x - int(x), fy = y - iy;
  return (1 - fy) * ((1 - fx) * *share_.at(ix, iy) + fx * *share_.at(next, iy)) +
         fy * ((1 - fx) * *share_.at(ix, iy + 1) + fx * *share_.at(next, iy + 1));
}

Codes FisheyeSphere::drawn(const Codes& frame) const {
  return frame.visit([this](auto view) { return Codes(drawnFrom(view, *this)); });
}

} // namespace ml
