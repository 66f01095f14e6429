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
    frame.linearAt(x, y, rgb);
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
  /// Of a mosaic: light of a photosite, saturation = 1.
  [[nodiscard]] float lightAt(int x, int y, int colour) const {
    return inverse[colour] * table[colour][*frame.codes.photosites().at(x, y)];
  }
  const Frame& frame;
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  float inverse[3], limit;
  int last, near;
};

/// One block: mean light, and the shares that clip and in which nothing is left.
struct Block {
  float light[3] = {};
  double clipped = 0, blown = 0;
};

Block blockOf(const Reader& reader, int x0, int y0, int n) {
  Block out;
  const float share = 1.f / float(n * n);
  float rgb[3];
  int clipped = 0, blown = 0;
  for (int y = y0; y < y0 + n; ++y)
    for (int x = x0; x < x0 + n; ++x) {
      const bool clips = reader.read(x, y, rgb);
      clipped += clips;
      blown += reader.blown(x, y, clips);
      for (int c = 0; c < 3; ++c) out.light[c] += rgb[c] * share;
    }
  out.clipped = double(clipped) / (n * n), out.blown = double(blown) / (n * n);
  return out;
}

/// The same by photosites: each colour by its own, and what clips by the colour that clips most.
Block mosaicBlockOf(const Reader& reader, int x0, int y0, int n) {
  Block out;
  int count[3] = {}, clipped[3] = {};
  for (int y = y0; y < y0 + n; ++y)
    for (int x = x0; x < x0 + n; ++x) {
      const int c = reader.frame.colourAt(x, y);
      const float light = reader.lightAt(x, y, c);
      ++count[c];
      clipped[c] += light > reader.limit;
      out.light[c] += light;
    }
  for (int c = 0; c < 3; ++c) {
    out.light[c] /= float(count[c]);
    out.clipped = std::max(out.clipped, double(clipped[c]) / count[c]);
  }
  out.blown = out.clipped;
  return out;
}

void blockMeans(const Frame& frame, Sketch& s) {
  const int w = frame.width() / s.scale, h = frame.height() / s.scale;
  s.light = Image<float>(w, h, 3);
  s.clipped = Image<std::uint8_t>(w, h, 1);
  s.blown = Image<std::uint8_t>(w, h, 1);
  const Reader reader(frame);
  const bool mosaic = frame.isMosaic() && s.scale > 1; // every block has every colour
  if (mosaic) s.independent = 0.5;
  const auto asShare = [](double share) { return std::uint8_t(share == 0 ? 0 : std::max(1, int(255 * share))); };
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        const Block block = (mosaic ? mosaicBlockOf : blockOf)(reader, x * s.scale, y * s.scale, s.scale);
        std::copy_n(block.light, 3, s.light.at(x, y));
        *s.clipped.at(x, y) = asShare(block.clipped);
        *s.blown.at(x, y) = asShare(block.blown);
      }
  });
}

std::optional<std::array<FisheyeCircle, 2>> circlesIn(const Sketch& s) {
  constexpr float kLeastLight = 1.f / 4096;
  if (s.width != 2 * s.height) return std::nullopt;
  const int side = s.light.height(); // blocks leave a column over at most
  Image<float> stops(2 * side, side, 1);
  for (int y = 0; y < side; ++y)
    for (int x = 0; x < 2 * side; ++x) *stops.at(x, y) = std::log2(std::max(0.f, s.light.at(x, y)[1]) + kLeastLight);
  return fisheyeCircles(std::as_const(stops).view());
}

/// Whether a block shows more than noise; nothing is said of what clips or is dark.
bool showsStructure(const Reader& reader, const NoiseModel& noise, int x0, int y0, int n) {
  std::vector<float> green(std::size_t(n) * n);
  const bool mosaic = reader.frame.isMosaic();
  double mean = 0, across = 0, down = 0;
  int known = 0;
  for (int y = 0; y < n; ++y)
    for (int x = 0; x < n; ++x) {
      float light;
      if (mosaic) {
        const int c = reader.frame.colourAt(x0 + x, y0 + y);
        light = reader.lightAt(x0 + x, y0 + y, c);
        if (light > reader.limit) return false;
        if (c != 1) continue;
      } else {
        float rgb[3];
        if (reader.read(x0 + x, y0 + y, rgb)) return false;
        light = rgb[1];
      }
      mean += green[std::size_t(y * n + x)] = light;
      ++known;
    }
  mean /= known;
  if (mean < 0.004) return false;
  const auto at = [&](int x, int y) { return green[std::size_t(y * n + x)]; };
  const int step = mosaic ? 2 : 1; // from photosite to photosite
  int count = 0;
  for (int y = step; y < n - step; ++y)
    for (int x = step; x < n - step; ++x) {
      if (mosaic && reader.frame.colourAt(x0 + x, y0 + y) != 1) continue;
      const double dx = at(x - step, y) - 2 * at(x, y) + at(x + step, y),
                   dy = at(x, y - step) - 2 * at(x, y) + at(x, y + step);
      across += dx * dx, down += dy * dy, ++count;
    }
  const double explained = 6 * noise.variance(mean) / (mean * mean); // 1 + 4 + 1
  return std::max(across, down) / (count * mean * mean) > explained + std::max(4 * explained, 1e-4);
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
  s->lit = frame.metadata.flash;
  s->orientation = frame.metadata.orientation;
  s->scale = std::max(1, (frame.width() + kSketchWidth - 1) / kSketchWidth);
  blockMeans(frame, *s);
  s->circles = circlesIn(*s);
  s->detail = detailOf(frame);
  s->structured = structuredShare(frame);
  readZones(zones, *s);
  s->cellPitch = std::max(4, int(std::sqrt(double(frame.width()) * frame.height() / kCells)));
  s->cells = flatCells({&frame, kIdentity3, 0}, s->cellPitch);
  s->pyramid = buildPyramid(frame);
  return s;
}

void turnLike(const std::vector<std::shared_ptr<const Sketch>>& set, Frame& frame) {
  if (set.empty()) return;
  const auto stored = [](int width, int height, int orientation) {
    const bool swapped = orientation >= 5 && orientation <= 8;
    return swapped ? std::pair{height, width} : std::pair{width, height};
  };
  const Sketch& first = *set.front();
  if (stored(frame.width(), frame.height(), frame.metadata.orientation) ==
      stored(first.width, first.height, first.orientation))
    turnAs(frame, first.orientation);
}

} // namespace ml
