#include "judge/sketch.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kSketchWidth = 440; ///< Enough to see a person, little enough to compare in a moment.
constexpr float kClippedFrom = 0.97f;

struct Reader {
  explicit Reader(const Frame& f) : frame(f) {
    for (int c = 0; c < 3; ++c) inverse[c] = 1 / f.saturation[std::size_t(c)];
    limit = kClippedFrom * f.table.clipFrom;
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
  const Frame& frame;
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  float inverse[3], limit;
};

void blockMeans(const Frame& frame, Sketch& s) {
  const int w = frame.width() / s.scale, h = frame.height() / s.scale;
  s.light = Image<float>(w, h, 3);
  s.clipped = Image<std::uint8_t>(w, h, 1);
  const Reader reader(frame);
  const float share = 1.f / float(s.scale * s.scale);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float sum[3] = {}, rgb[3];
        int clipped = 0;
        for (int v = 0; v < s.scale; ++v)
          for (int u = 0; u < s.scale; ++u) {
            clipped += reader.read(x * s.scale + u, y * s.scale + v, rgb);
            for (int c = 0; c < 3; ++c) sum[c] += rgb[c];
          }
        for (int c = 0; c < 3; ++c) s.light.at(x, y)[c] = sum[c] * share;
        *s.clipped.at(x, y) = std::uint8_t(clipped == 0 ? 0 : std::max(1, 255 * clipped / (s.scale * s.scale)));
      }
  });
}

/// Second differences of green across and down, relative to the block's mean, and the share of noise in them.
void structureOf(const Frame& frame, const Reader& reader, int x0, int y0, float out[3]) {
  constexpr int n = Sketch::kBlock;
  float green[n][n];
  double mean = 0;
  out[0] = -1;
  out[1] = out[2] = 0;
  for (int y = 0; y < n; ++y)
    for (int x = 0; x < n; ++x) {
      float rgb[3];
      if (reader.read(x0 + x, y0 + y, rgb)) return;
      green[y][x] = rgb[1];
      mean += rgb[1];
    }
  mean /= n * n;
  if (mean < 0.008) return;
  double energyAcross = 0, energyDown = 0;
  for (int y = 1; y < n - 1; ++y)
    for (int x = 1; x < n - 1; ++x) {
      const double across = green[y][x - 1] - 2 * green[y][x] + green[y][x + 1], down = green[y - 1][x] - 2 * green[y][x] + green[y + 1][x];
      energyAcross += across * across;
      energyDown += down * down;
    }
  const double scale = 1 / (double((n - 2) * (n - 2)) * mean * mean);
  out[0] = float(energyAcross * scale);
  out[1] = float(energyDown * scale);
  out[2] = float(6 * frame.noise.variance(mean) / (mean * mean)); // 1 + 4 + 1
}

void fineStructure(const Frame& frame, Sketch& s) {
  const int w = std::max(1, frame.width() / Sketch::kBlock), h = std::max(1, frame.height() / Sketch::kBlock);
  s.structure = Image<float>(w, h, 3);
  s.structure.fill(-1);
  if (frame.width() < Sketch::kBlock || frame.height() < Sketch::kBlock) return;
  const Reader reader(frame);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) structureOf(frame, reader, x * Sketch::kBlock, y * Sketch::kBlock, s.structure.at(x, y));
  }, 2);
}

void readZones(const std::vector<Zone>& zones, Sketch& s) {
  const auto inside = [&](const Zone& z, int x, int y) {
    const double dx = (x + 0.5) / s.light.width() - z.x, dy = ((y + 0.5) / s.light.height() - z.y) * s.light.height() / s.light.width();
    return std::hypot(dx, dy) <= std::max(z.radius, 1.0 / s.light.width());
  };
  for (const Zone& zone : zones) {
    int count = 0, clipped = 0;
    double level = 0;
    for (int y = 0; y < s.light.height(); ++y)
      for (int x = 0; x < s.light.width(); ++x)
        if (inside(zone, x, y)) {
          ++count;
          clipped += *s.clipped.at(x, y) > 0;
          level += s.light.at(x, y)[1];
        }
    s.zoneClipped.push_back(count ? double(clipped) / count : 0);
    s.zoneLevel.push_back(count ? level / count : 0);
  }
  std::size_t all = 0, clipped = 0;
  for (int y = 0; y < s.light.height(); ++y)
    for (int x = 0; x < s.light.width(); ++x) {
      if (std::any_of(zones.begin(), zones.end(), [&](const Zone& z) { return !z.keepTexture && inside(z, x, y); })) continue;
      ++all;
      clipped += *s.clipped.at(x, y) > 0;
    }
  s.clippedShare = all ? double(clipped) / double(all) : 0;
}

} // namespace

std::shared_ptr<const Sketch> sketchOf(const Frame& frame, const std::vector<Zone>& zones) {
  auto s = std::make_shared<Sketch>();
  s->settings = frame.settings;
  s->noise = frame.noise;
  s->saturation = frame.saturation;
  s->rendered = frame.table.size() > 2 && std::abs(frame.table.channel(1)[frame.table.size() / 2] - 0.5f) > 0.02f;
  s->midTone = frame.midTone / frame.saturation[1];
  s->width = frame.width();
  s->height = frame.height();
  s->scale = std::max(1, (frame.width() + kSketchWidth - 1) / kSketchWidth);
  blockMeans(frame, *s);
  fineStructure(frame, *s);
  readZones(zones, *s);
  s->pyramid = buildPyramid(frame);
  return s;
}

} // namespace ml
