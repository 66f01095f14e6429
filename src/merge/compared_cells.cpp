// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/compared_cells.h"

#include <algorithm>
#include <cmath>

namespace ml {

Sensitivity sensitivityOf(MotionMode mode) {
  switch (mode) {
  case MotionMode::Low: return {6, 0.20f, 0.5f, 0.35f};
  case MotionMode::High: return {3, 0.07f, 0.18f, 0.14f};
  default: return {4, 0.12f, 0.3f, 0.2f};
  }
}

bool agree(const Reading& a, const Reading& b, const Sensitivity& s) {
  const float noise = a.sigma + b.sigma - 0.59f * std::min(a.sigma, b.sigma); // close to the root of the sum of squares
  if (std::abs(a.radiance - b.radiance) >
      s.sigmas * noise + s.relative * std::max(a.radiance, b.radiance) + s.edge * std::max(a.range, b.range))
    return false;
  // As light as what stands there otherwise, but of another colour. The colour of dark places is noise.
  const float uncertain = 4 * s.sigmas * noise / std::max(1e-12f, std::min(a.radiance, b.radiance));
  return std::abs(a.chroma - b.chroma) <= s.chroma + uncertain + s.edge * std::max(a.chromaRange, b.chromaRange);
}

namespace {

/// Of what clipped channels lack, by which the others of a rendered frame may be off.
constexpr float kOffByMixing = 0.8f;

/// Whether what a frame saw in the channels that are not clipped there is what `r` shows in them. Of a rendered frame
/// also whether those that are clipped show no more.
bool channelsAgree(const Reading& seen, std::uint8_t clipped, bool mixed, const Reading& r, const Sensitivity& s) {
  if ((clipped == kAllClipped && !mixed) || seen.red + seen.green == 0 || r.red + r.green == 0) return true;
  float off[3] = {};
  for (int c = 0; c < 3; ++c)
    if (mixed && (clipped >> c & 1))
      for (int other = 0; other < 3; ++other)
        if (other != c) off[other] += kOffByMixing * std::max(0.f, r.channel(c) - seen.channel(c));
  const float noise = std::sqrt(3.f) * (r.sigma + seen.sigma);
  const float around = std::max(r.range + r.chromaRange * r.radiance, seen.range + seen.chromaRange * seen.radiance);
  for (int c = 0; c < 3; ++c) {
    const float slack = s.sigmas * noise + s.edge * around + off[c], one = seen.channel(c), other = r.channel(c);
    if (!(clipped >> c & 1)) {
      if (std::abs(one - other) > slack + (mixed ? 2 : 1) * s.relative * std::max(one, other)) return false;
    } else if (mixed && other * (1 + s.relative) + slack < 0.6f * one) {
      return false;
    }
  }
  return true;
}

} // namespace

bool within(const PlacedCells& frame, int x, int y, const Reading& r, const Sensitivity& s) {
  const Reading seen = reading(frame, x, y);
  const float slack = s.sigmas * std::max(r.sigma, seen.sigma) * 1.2f + s.edge * std::max(r.range, seen.range);
  if (const std::uint8_t clipped = *frame.clipped.at(x, y))
    return r.radiance * (1 + s.relative) + slack >= seen.radiance * 0.8f &&
           channelsAgree(seen, clipped, frame.mixed, r, s);
  return r.radiance <= seen.radiance * (1 + s.relative) + slack + 2 * seen.sigma;
}

double CellScene::stopsAway(std::size_t i, int from) const {
  return std::abs(std::log2(cells[i].exposure / cells[std::size_t(from)].exposure));
}

bool same(const CellScene& scene, std::size_t i, int x, int y, const Reading& truth, const Sensitivity& s) {
  const PlacedCells& frame = scene.cells[i];
  return *frame.clipped.at(x, y) ? within(frame, x, y, truth, s) : agree(truth, reading(frame, x, y), s);
}

} // namespace ml
