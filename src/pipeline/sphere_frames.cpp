// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/sphere_frames.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "capture/developed.h"
#include "image/sphere.h"
#include "positions/fisheye_circles.h"
#include "positions/fisheye_sphere.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace ml {
namespace {

/// Code of green; of a mosaic what is linear light would have.
double greenAt(const Frame& frame, int x, int y) {
  if (!frame.isMosaic()) return frame.codes.at(x, y, 1);
  float rgb[3];
  frame.linearAt(x, y, rgb);
  return double(rgb[1]) * frame.codes.maxCode();
}

/// Mean difference of two columns of green, codes.
double apart(const Frame& frame, int a, int b) {
  double sum = 0;
  for (int y = 0; y < frame.height(); ++y) sum += std::abs(greenAt(frame, a, y) - greenAt(frame, b, y));
  return sum / frame.height();
}

/// Mean change along a row over a sixteenth of it, codes.
double changeAlong(const Frame& frame, int y) {
  const int step = frame.width() / 16;
  double sum = 0;
  for (int x = 0; x + step < frame.width(); ++x) sum += std::abs(greenAt(frame, x, y) - greenAt(frame, x + step, y));
  return sum / (frame.width() - step);
}

constexpr float kLeastGreen = 1.f / 4096; ///< Of saturation; no stops are told below.

/// Means of green over blocks, in stops.
struct Tones {
  Image<float> stops;
  int factor = 1;
};
Tones tonesOf(const Frame& frame) {
  constexpr int kRows = 1500;
  Tones out;
  out.factor = std::max(1, frame.height() / kRows);
  out.stops = Image<float>(frame.width() / out.factor, frame.height() / out.factor, 1);
  const float* table = frame.table.channel(1);
  const float scale = 1 / (frame.saturation[1] * float(out.factor * out.factor));
  forEachBand(out.stops.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.stops.width(); ++x) {
        float sum = 0;
        for (int v = 0; v < out.factor; ++v)
          for (int u = 0; u < out.factor; ++u) sum += table[frame.codes.at(x * out.factor + u, y * out.factor + v, 1)];
        *out.stops.at(x, y) = std::log2(std::max(0.f, sum * scale) + kLeastGreen);
      }
  });
  return out;
}

/// A first look, at one pixel of many: most frames that are twice as wide as high hold no circles.
bool mayShowCircles(const Frame& frame) {
  constexpr int kRows = 240;
  const int step = std::max(1, frame.height() / kRows), h = frame.height() / step;
  Image<float> stops(2 * h, h, 1);
  const float* table = frame.table.channel(1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < 2 * h; ++x)
      *stops.at(x, y) =
          std::log2(std::max(0.f, table[frame.codes.at(x * step, y * step, 1)] / frame.saturation[1]) + kLeastGreen);
  return fisheyeCircles(std::as_const(stops).view()).has_value();
}

double median(std::vector<double> values) {
  std::nth_element(values.begin(), values.begin() + std::ptrdiff_t(values.size() / 2), values.end());
  return values[values.size() / 2];
}

} // namespace

bool showsAllDirections(const Frame& frame) {
  constexpr int kLeast = 64;
  constexpr double kWrap = 3, kPole = 0.4;
  const int w = frame.width(), h = frame.height();
  if (w != 2 * h || h < kLeast || frame.isMosaic()) return false;
  std::vector<double> beside, along;
  for (int k = 1; k < 16; ++k) beside.push_back(apart(frame, k * w / 16, k * w / 16 + 1));
  for (int k = 2; k < 15; ++k) along.push_back(changeAlong(frame, k * h / 16));
  const double across = median(beside), far = apart(frame, w / 4, 3 * w / 4);
  const double wrap = apart(frame, 0, w - 1), pole = std::max(changeAlong(frame, 0), changeAlong(frame, h - 1));
  return wrap <= kWrap * across + 1 && wrap < far / 2 && pole < kPole * median(along);
}

std::optional<FisheyePair> fisheyePairOf(const Frame& frame) {
  if (frame.width() != 2 * frame.height() || !mayShowCircles(frame)) return std::nullopt;
  const Tones tones = tonesOf(frame);
  const auto found = findFisheyePair(tones.stops.view());
  return found ? std::optional(enlarged(*found, tones.factor)) : std::nullopt;
}

std::optional<FisheyePair> drawAsSpheres(std::vector<Frame>& frames, const Progress& progress) {
  const int w = frames[0].width(), h = frames[0].height(), n = int(frames.size());
  if (w != 2 * h) return std::nullopt;
  for (int k = 0; k < n; ++k) {
    const int i = n / 2 + (k % 2 ? -(k + 1) / 2 : k / 2);
    if (i < 0 || i >= n || frames[std::size_t(i)].width() != w || frames[std::size_t(i)].height() != h) continue;
    if (!mayShowCircles(frames[std::size_t(i)])) continue;
    const Tones tones = tonesOf(frames[std::size_t(i)]);
    const auto found = findFisheyePair(tones.stops.view());
    if (!found) continue;
    const FisheyeSphere sphere(*found, tones.stops.view(), tones.factor);
    for (std::size_t f = 0; f < frames.size() && !progress.stopRequested(); ++f) {
      progress.at(phrase("Lay circles on a sphere"), double(f) / double(n));
      if (frames[f].isMosaic()) frames[f] = developed(frames[f]);
      frames[f].codes = sphere.drawn(frames[f].codes);
    }
    return sphere.pair();
  }
  return std::nullopt;
}

int addSphereMargins(std::vector<Frame>& frames) {
  const int margin = sphereMargin(frames[0].width());
  for (Frame& frame : frames) {
    if (frame.isMosaic()) frame = developed(frame);
    frame.codes = frame.codes.visit([margin](auto view) { return Codes(withSphereMargins(view, margin)); });
  }
  return margin;
}

} // namespace ml
