// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/seams.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "image/fast_math.h"
#include "positions/cut.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr float kNoise = 0.03f;      ///< Stops that always differ; a seam's length costs as much.
constexpr float kMostDifference = 3; ///< Stops, summed over the channels.
constexpr float kBorderCost = 0.15f; ///< Of keeping a place next to a frame's edge, where lenses are weakest.

/// One position on the reduced canvas: stops of three channels where it covers, and how far from its edge, 0..1.
struct Laid {
  Image<float> stops, inset; ///< `inset` below 0: not covered.
};

/// Means of blocks in stops.
Image<float> reduced(const Image<std::uint16_t>& picture, const LightCodes& codes, int factor) {
  Image<float> out(picture.width() / factor, picture.height() / factor, 3);
  const float n = float(factor) * float(factor), least = 4 * codes.unit;
  const std::vector<float> light = codes.table();
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.width(); ++x) {
        float sum[3] = {};
        for (int v = 0; v < factor; ++v) {
          const std::uint16_t* in = picture.at(x * factor, y * factor + v);
          for (int i = 0; i < 3 * factor; ++i) sum[i % 3] += light[in[i]];
        }
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = fastLog2(std::max(least, sum[c] / n));
      }
  });
  return out;
}

Laid lay(const PlacedLight& light, std::size_t position, const Image<float>& picture, int factor,
         const Canvas& canvas) {
  const Arrangement& a = light.arrangement;
  const Balance& balance = light.balance;
  Laid out{Image<float>(canvas.width, canvas.height, 3), Image<float>(canvas.width, canvas.height, 1)};
  const CameraGeometry camera = a.camera(position);
  const double half2 = (double(a.width) * a.width + double(a.height) * a.height) / 4;
  forEachBand(canvas.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < canvas.width; ++x) {
        double u, v;
        float* inset = out.inset.at(x, y);
        *inset = -1;
        if (!camera.pixel(canvas.direction(x, y), u, v)) continue;
        constexpr double kMargin = 4;
        const double edge = std::min({u, v, a.width - 1 - u, a.height - 1 - v}) - kMargin;
        if (edge < 0) continue;
        *inset = float(2 * edge / std::min(a.width, a.height));
        const int px = std::clamp(int((u + 0.5) / factor), 0, picture.width() - 1),
                  py = std::clamp(int((v + 0.5) / factor), 0, picture.height() - 1);
        const double dx = u - (a.width - 1) / 2.0, dy = v - (a.height - 1) / 2.0;
        const double lens = balance.lensAt((dx * dx + dy * dy) / half2);
        for (int c = 0; c < 3; ++c)
          out.stops.at(x, y)[c] = float(picture.at(px, py)[c] - balance.gain[position][std::size_t(c)] - lens);
      }
  });
  return out;
}

/// Positions from the middle outwards, each with a neighbour before it where there is one.
std::vector<std::size_t> orderOf(const std::vector<Laid>& laid, const Canvas& canvas) {
  std::vector<std::pair<double, std::size_t>> far;
  for (std::size_t i = 0; i < laid.size(); ++i) {
    double sum = 0, count = 0;
    for (int y = 0; y < canvas.height; y += 3)
      for (int x = 0; x < canvas.width; x += 3)
        if (*laid[i].inset.at(x, y) >= 0) {
          sum += std::hypot(x - canvas.width / 2.0, y - canvas.height / 2.0);
          ++count;
        }
    far.emplace_back(count > 0 ? sum / count : 1e9, i);
  }
  std::sort(far.begin(), far.end());
  std::vector<std::size_t> out;
  for (const auto& f : far) out.push_back(f.second);
  return out;
}

struct Composite {
  Image<float> stops, inset;
  Image<std::uint8_t> owner;
};

void take(Composite& whole, const Laid& laid, std::size_t position, int x, int y) {
  *whole.owner.at(x, y) = std::uint8_t(position + 1);
  *whole.inset.at(x, y) = *laid.inset.at(x, y);
  std::copy_n(laid.stops.at(x, y), 3, whole.stops.at(x, y));
}

/// Cuts the overlap of what lies there and a further position.
void add(Composite& whole, const Laid& laid, std::size_t position, bool closed) {
  const int width = laid.inset.width(), height = laid.inset.height();
  GridCut cut(width, height);
  cut.closed = closed;
  const auto old = [&](int x, int y) { return *whole.owner.at(x, y) != 0; };
  const auto fresh = [&](int x, int y) { return *laid.inset.at(x, y) >= 0; };
  Image<float> cost(width, height, 1);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      float difference = 0;
      if (old(x, y) && fresh(x, y))
        for (int c = 0; c < 3; ++c) difference += std::abs(laid.stops.at(x, y)[c] - whole.stops.at(x, y)[c]);
      *cost.at(x, y) = kNoise + std::min(kMostDifference, difference);
    }
  bool any = false;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const std::size_t i = std::size_t(y) * std::size_t(width) + std::size_t(x);
      const bool o = old(x, y), f = fresh(x, y);
      if (o && f) any = true;
      if (o && !f) cut.source[i] = GridCut::kHeld;
      if (f && !o) cut.sink[i] = GridCut::kHeld;
      if (o && f) {
        // Each position rather in its middle than at its edge.
        const float mine = 1 - *laid.inset.at(x, y), theirs = 1 - *whole.inset.at(x, y);
        cut.source[i] = kBorderCost * std::max(0.f, mine - theirs) * kNoise;
        cut.sink[i] = kBorderCost * std::max(0.f, theirs - mine) * kNoise;
      }
      if (!o && !f) continue;
      const int r = x + 1 < width ? x + 1 : closed ? 0 : -1;
      if (r >= 0 && (old(r, y) || fresh(r, y))) cut.right[i] = *cost.at(x, y) + *cost.at(r, y);
      if (y + 1 < height && (old(x, y + 1) || fresh(x, y + 1))) cut.down[i] = *cost.at(x, y) + *cost.at(x, y + 1);
    }
  std::vector<std::uint8_t> keeps;
  if (any) keeps = cut.solve();
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      if (!fresh(x, y)) continue;
      if (!old(x, y) || !keeps[std::size_t(y) * std::size_t(width) + std::size_t(x)]) take(whole, laid, position, x, y);
    }
}

} // namespace

Seams laySeams(const PlacedLight& light, double pixels, const Progress& progress) {
  Seams out;
  const Canvas& canvas = light.canvas;
  const auto& pictures = light.pictures;
  out.canvas = canvas.scaled(std::min(1.0, std::sqrt(pixels / (double(canvas.width) * canvas.height))));
  const int factor = std::max(1, int(std::lround(canvas.focal / out.canvas.focal)));
  std::vector<Laid> laid;
  for (std::size_t i = 0; i < pictures.size(); ++i) {
    laid.push_back(lay(light, i, reduced(pictures[i], light.codes, factor), factor, out.canvas));
    progress.at(phrase("Lay the seams"), 0.5 * double(i + 1) / double(pictures.size()));
  }
  Composite whole{Image<float>(out.canvas.width, out.canvas.height, 3),
                  Image<float>(out.canvas.width, out.canvas.height, 1),
                  Image<std::uint8_t>(out.canvas.width, out.canvas.height, 1)};
  whole.owner.fill(0);
  double done = 0;
  for (const std::size_t i : orderOf(laid, out.canvas)) {
    if (progress.stopRequested()) return out;
    add(whole, laid[i], i, out.canvas.closed);
    progress.at(phrase("Lay the seams"), 0.5 + 0.5 * ++done / double(pictures.size()));
  }
  out.owner = std::move(whole.owner);
  return out;
}

} // namespace ml
