// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/sketch.h"

#include "base/parallel.h"
#include "capture/turned_frame.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <vector>

namespace ml {
namespace {

constexpr int kSketchWidth = 440; ///< Enough to see a person, little enough to compare in a moment.
constexpr float kClippedFrom = 0.97f;
constexpr double kCells = 80000; ///< Flat places: enough to find a curve by.

/// A rendered file's highlight is blown when a channel stands at its last codes and a second one near them: a single
/// one may only be a colour that the file cannot hold. Codes of 255.
constexpr double kLastCodes = 253.0 / 255, kNearLast = 222.0 / 255;

struct Reader {
  explicit Reader(const Frame& f) : frame(f) {
    for (int c = 0; c < 3; ++c) inverse[c] = 1 / f.saturation[std::size_t(c)];
    limit = kClippedFrom * f.table.clipFrom;
    last = int(kLastCodes * (f.table.size() - 1)), near = int(kNearLast * (f.table.size() - 1));
  }
  /// Linear RGB, saturation = 1 in each channel; true when one of them clips.
  bool read(int x, int y, float rgb[3]) const {
    for (int c = 0; c < 3; ++c) rgb[c] = table[c][frame.codes.at(x, y, c)];
    bool clipped = false;
    for (int c = 0; c < 3; ++c) {
      rgb[c] *= inverse[c];
      clipped = clipped || rgb[c] > limit;
    }
    return clipped;
  }
  [[nodiscard]] bool blown(int x, int y, bool clipped) const {
    if (!frame.curveAssumed) return clipped;
    int code[3];
    for (int c = 0; c < 3; ++c) code[c] = frame.codes.at(x, y, c);
    std::sort(code, code + 3);
    return code[2] >= last && code[1] >= near;
  }
  const Frame& frame;
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  float inverse[3], limit;
  int last, near;
};

void blockMeans(const Frame& frame, Sketch& s) {
  const int w = frame.width() / s.scale, h = frame.height() / s.scale;
  s.light = Image<float>(w, h, 3);
  s.clipped = Image<std::uint8_t>(w, h, 1);
  s.blown = Image<std::uint8_t>(w, h, 1);
  const Reader reader(frame);
  const int all = s.scale * s.scale;
  const float share = 1.f / float(all);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float sum[3] = {}, rgb[3];
        int clipped = 0, blown = 0;
        for (int v = 0; v < s.scale; ++v)
          for (int u = 0; u < s.scale; ++u) {
            const bool clips = reader.read(x * s.scale + u, y * s.scale + v, rgb);
            clipped += clips;
            blown += reader.blown(x * s.scale + u, y * s.scale + v, clips);
            for (int c = 0; c < 3; ++c) sum[c] += rgb[c];
          }
        for (int c = 0; c < 3; ++c) s.light.at(x, y)[c] = sum[c] * share;
        const auto asShare = [&](int count) { return std::uint8_t(count == 0 ? 0 : std::max(1, 255 * count / all)); };
        *s.clipped.at(x, y) = asShare(clipped);
        *s.blown.at(x, y) = asShare(blown);
      }
  });
}

/// Whether a block shows more than noise; nothing is said of what clips or is dark.
bool showsStructure(const Reader& reader, const NoiseModel& noise, int x0, int y0, int n) {
  std::vector<float> green(std::size_t(n) * n);
  double mean = 0, across = 0, down = 0;
  for (int y = 0; y < n; ++y)
    for (int x = 0; x < n; ++x) {
      float rgb[3];
      if (reader.read(x0 + x, y0 + y, rgb)) return false;
      mean += green[std::size_t(y * n + x)] = rgb[1];
    }
  mean /= n * n;
  if (mean < 0.004) return false;
  const auto at = [&](int x, int y) { return green[std::size_t(y * n + x)]; };
  for (int y = 1; y < n - 1; ++y)
    for (int x = 1; x < n - 1; ++x) {
      const double dx = at(x - 1, y) - 2 * at(x, y) + at(x + 1, y), dy = at(x, y - 1) - 2 * at(x, y) + at(x, y + 1);
      across += dx * dx, down += dy * dy;
    }
  const double explained = 6 * noise.variance(mean) / (mean * mean); // 1 + 4 + 1
  return std::max(across, down) / ((n - 2) * (n - 2) * mean * mean) > explained + std::max(4 * explained, 1e-4);
}

double structuredShare(const Frame& frame) {
  constexpr int kPatch = 16;
  const int w = frame.width() / kPatch, h = frame.height() / kPatch;
  if (w == 0 || h == 0) return 0;
  const Reader reader(frame);
  std::vector<int> counts(std::size_t(h), 0);
  forEachBand(
      h,
      [&](const Band& band) {
        for (int y = band.begin; y < band.end; ++y)
          for (int x = 0; x < w; ++x)
            counts[std::size_t(y)] += showsStructure(reader, frame.noise, x * kPatch, y * kPatch, kPatch);
      },
      2);
  return std::accumulate(counts.begin(), counts.end(), 0) / (double(w) * h);
}

void readZones(const std::vector<Zone>& zones, Sketch& s) {
  const auto inside = [&](const Zone& z, int x, int y) {
    const double dx = (x + 0.5) / s.light.width() - z.x,
                 dy = ((y + 0.5) / s.light.height() - z.y) * s.light.height() / s.light.width();
    return std::hypot(dx, dy) <= std::max(z.radius, 1.0 / s.light.width());
  };
  for (const Zone& zone : zones) {
    int count = 0, clipped = 0;
    double level = 0;
    for (int y = 0; y < s.light.height(); ++y)
      for (int x = 0; x < s.light.width(); ++x)
        if (inside(zone, x, y)) {
          ++count;
          clipped += *s.blown.at(x, y) > 0;
          level += s.light.at(x, y)[1];
        }
    s.zoneClipped.push_back(count ? double(clipped) / count : 0);
    s.zoneLevel.push_back(count ? level / count : 0);
  }
  std::size_t all = 0;
  double clipped = 0;
  for (int y = 0; y < s.light.height(); ++y)
    for (int x = 0; x < s.light.width(); ++x) {
      if (std::any_of(zones.begin(), zones.end(), [&](const Zone& z) { return !z.keepTexture && inside(z, x, y); }))
        continue;
      ++all;
      clipped += *s.blown.at(x, y) / 255.0;
    }
  s.clippedShare = all ? clipped / double(all) : 0;
}

} // namespace

std::shared_ptr<const Sketch> sketchOf(const Frame& frame, const std::vector<Zone>& zones) {
  auto s = std::make_shared<Sketch>();
  s->settings = frame.settings;
  s->noise = frame.noise;
  s->saturation = frame.saturation;
  s->table = frame.table;
  s->curveAssumed = frame.curveAssumed;
  s->midTone = frame.midTone / frame.saturation[1];
  s->width = frame.width();
  s->height = frame.height();
  s->orientation = frame.metadata.orientation;
  s->scale = std::max(1, (frame.width() + kSketchWidth - 1) / kSketchWidth);
  blockMeans(frame, *s);
  s->detail = detailOf(frame);
  s->structured = structuredShare(frame);
  readZones(zones, *s);
  s->cellPitch = std::max(4, int(std::sqrt(double(frame.width()) * frame.height() / kCells)));
  s->cells = flatCells({&frame, kIdentity3, 0}, s->cellPitch);
  s->pyramid = buildPyramid(frame);
  return s;
}

void turnLike(const std::vector<std::shared_ptr<const Sketch>>& set, Frame& frame) {
  if (!set.empty()) turnAs(frame, set.front()->orientation);
}

} // namespace ml
