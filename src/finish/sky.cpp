// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/areas.h"
#include "image/metrics.h"
#include "image/resample.h"
#include "tone/base_layer.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kAcross = 256;     ///< Cells in which the sky is grown.
constexpr double kSmooth = 0.22; ///< Stops within 3x3 cells: cloud edges are below, leaves above.
constexpr double kStep = 0.3;    ///< Stops between neighbours within the sky.
constexpr double kHueStep = 0.3;
constexpr float kDarkens = 0.7f, kWarmer = 0.3f; ///< Stops than its lightest part above: of light, and of red or blue.
constexpr double kLighter = 0.5;                 ///< Stops above the darkest quarter of the picture.
constexpr double kBlueSky = 0.37, kDeepBlue = 0.6, kGreen = 0.2,
                 kWarmRed = 0.3; ///< Stops of blue, or red, against green.
constexpr double kDeepOver = -1, kLeastOver = 0.5, kOvercastOver = 2.05,
                 kWarmOver = 2.6;  ///< Stops over the middle of what is no sky.
constexpr double kLeastSky = 0.03; ///< Of the picture.

/// The reduced picture: light, and red and blue against green, in stops.
struct Coarse {
  Image<float> light, red, blue, spread;
};

Coarse coarseOf(const ToneAnalysis& a) {
  const Roi size = fitted(a.cells.width(), a.cells.height(), kAcross);
  const Image<float> small = shrinkTo(a.cells.view(), size.width, size.height);
  const auto plane = [&] { return Image<float>(size.width, size.height, 1); };
  Coarse c{plane(), plane(), plane(), plane()};
  Image<float> squares = plane();
  for (std::size_t i = 0; i < c.light.size(); ++i) {
    const float* p = small.data() + 3 * i;
    const float green = std::log2(std::max(1e-9f, p[1]));
    c.light.data()[i] = std::log2(std::max(1e-9f, 0.2126f * p[0] + 0.7152f * p[1] + 0.0722f * p[2]));
    c.red.data()[i] = std::log2(std::max(1e-9f, p[0])) - green;
    c.blue.data()[i] = std::log2(std::max(1e-9f, p[2])) - green;
    squares.data()[i] = c.light.data()[i] * c.light.data()[i];
  }
  const Image<float> mean = boxMean(c.light, 1);
  c.spread = boxMean(squares, 1);
  for (std::size_t i = 0; i < squares.size(); ++i)
    c.spread.data()[i] = std::sqrt(std::max(0.f, c.spread.data()[i] - mean.data()[i] * mean.data()[i]));
  return c;
}

/// One place from the upper border down, from cell to like cell; its cells are marked in `sky`.
std::vector<int> grownFrom(int x0, int y0, const Coarse& c, double least, Image<float>& sky) {
  const int w = c.light.width(), h = c.light.height();
  std::vector<int> stack, cells;
  const auto take = [&](int x, int y) {
    // Away from the sun the upper sky is as dark as a lawn; further down, what is blue and dark is water.
    const bool lit = c.light.row(y)[x] >= least || (c.blue.row(y)[x] >= kDeepBlue && y < h / 3);
    if (c.spread.row(y)[x] > kSmooth || !lit || sky.row(y)[x] > 0) return;
    sky.row(y)[x] = 1;
    stack.push_back(y * w + x);
    cells.push_back(y * w + x);
  };
  take(x0, y0);
  while (!stack.empty()) {
    const int at = stack.back(), x = at % w, y = at / w;
    stack.pop_back();
    for (const auto& [u, v] : {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}}) {
      if (u < 0 || v < 0 || u >= w || v >= h) continue;
      const int to = v * w + u;
      if (std::abs(c.light.data()[to] - c.light.data()[at]) > kStep ||
          std::abs(c.red.data()[to] - c.red.data()[at]) > kHueStep ||
          std::abs(c.blue.data()[to] - c.blue.data()[at]) > kHueStep)
        continue;
      take(u, v);
    }
  }
  return cells;
}

/// A place at the upper border may be a ceiling, a wall or a facade. It is sky where it is bluer than daylight makes
/// white paint and lighter than the land (deep blue: not much darker); where it has no colour (overcast) only much
/// lighter, and warm (dusk, lamps on clouds) lighter still. Green it never is.
bool looksLikeSky(double over, double red, double blue) {
  if (blue >= kBlueSky) return red < 0.5 * kBlueSky && over >= (blue >= kDeepBlue ? kDeepOver : kLeastOver);
  const bool pale = blue >= 0 && red < kWarmRed;
  return over >= (pale ? kOvercastOver : kWarmOver) && !(red < -kGreen && blue < -kGreen);
}

using Places = std::vector<std::vector<int>>; ///< The cells of each.

/// All places that reach the upper border; their cells are 1 in `sky`.
Places grown(const Coarse& c, double least, Image<float>& sky) {
  const int w = c.light.width(), h = c.light.height();
  sky.fill(0);
  Places places;
  for (int y = 0; y < std::max(1, h / 40); ++y)
    for (int x = 0; x < w; ++x)
      if (auto cells = grownFrom(x, y, c, least, sky); !cells.empty()) places.push_back(std::move(cells));
  return places;
}

/// Leaves out the places that are no sky by their light and colour against the rest.
void keepSky(const Coarse& c, const Places& places, Image<float>& sky) {
  std::vector<float> land;
  for (std::size_t i = 0; i < sky.size(); ++i)
    if (sky.data()[i] == 0) land.push_back(c.light.data()[i]);
  const double middle = land.empty() ? -1e9 : double(quantile(land.data(), land.size(), 0.5));
  for (const auto& cells : places) {
    double light = 0, red = 0, blue = 0, n = 0;
    for (const int i : cells)
      if (sky.data()[i] > 0) light += c.light.data()[i], red += c.red.data()[i], blue += c.blue.data()[i], ++n;
    if (n > 0 && !looksLikeSky(light / n - middle, red / n, blue / n))
      for (const int i : cells) sky.data()[i] = 0;
  }
}

/// Towards the horizon the sky gets lighter (CIE S 011, most of its types); what lies below its lightest part and is
/// much darker and warmer is land in haze or a wall, however softly the one goes over into the other.
void endWhereItDarkens(const Coarse& c, Image<float>& sky) {
  const int w = sky.width(), h = sky.height(), reach = w / 32;
  std::vector<int> end(std::size_t(w), h);
  for (int x = 0; x < w; ++x) {
    float lightest = -1e9f;
    int row = 0;
    for (int y = 0; y < h; ++y) {
      if (sky.row(y)[x] == 0) continue;
      const float light = c.light.row(y)[x];
      if (light > lightest) lightest = light, row = y;
      const float warmer = std::max(c.red.row(y)[x] - c.red.row(row)[x], c.blue.row(row)[x] - c.blue.row(y)[x]);
      if (light >= lightest - kDarkens || warmer < kWarmer) continue;
      end[std::size_t(x)] = y;
      break;
    }
  }
  for (int x = 0; x < w; ++x) { // as most of its neighbours have it
    std::vector<int> near(end.begin() + std::max(0, x - reach), end.begin() + std::min(w, x + reach + 1));
    std::nth_element(near.begin(), near.begin() + std::ptrdiff_t(near.size() / 2), near.end());
    for (int y = near[near.size() / 2]; y < h; ++y) sky.row(y)[x] = 0;
  }
}

/// The lowest row of sky around each column; -1: none.
std::vector<int> horizonOf(const Image<float>& sky) {
  const int w = sky.width(), h = sky.height(), reach = w / 12;
  std::vector<int> lowest(std::size_t(w), -1), out(std::size_t(w), -1);
  for (int x = 0; x < w; ++x)
    for (int y = 0; y < h; ++y)
      if (sky.row(y)[x] > 0) lowest[std::size_t(x)] = y;
  for (int x = 0; x < w; ++x)
    for (int u = std::max(0, x - reach); u <= std::min(w - 1, x + reach); ++u)
      out[std::size_t(x)] = std::max(out[std::size_t(x)], lowest[std::size_t(u)]);
  return out;
}

/// Means of what the sky is around each cell, also where something stands before it.
Image<float> around(const Image<float>& value, const Image<float>& sky) {
  Image<float> product(value.width(), value.height(), 1), out(value.width(), value.height(), 1);
  out.fill(0);
  for (std::size_t i = 0; i < value.size(); ++i) product.data()[i] = value.data()[i] * sky.data()[i];
  for (const int radius : {6, 24, 400}) { // the nearest that knows
    const Image<float> sum = boxMean(product, std::min(radius, value.width())),
                       weight = boxMean(sky, std::min(radius, value.width()));
    for (std::size_t i = 0; i < value.size(); ++i)
      if (out.data()[i] == 0 && weight.data()[i] > 0.02f) out.data()[i] = sum.data()[i] / weight.data()[i];
  }
  return out;
}

} // namespace

Image<float> skyCells(const ToneAnalysis& a) {
  const int w = a.logLight.width(), h = a.logLight.height();
  Image<float> out(w, h, 1);
  out.fill(0);
  if (a.kind == SceneKind::Interior || a.cells.empty()) return out;
  const Coarse c = coarseOf(a);
  Image<float> sky(c.light.width(), c.light.height(), 1);
  const Places places = grown(c, a.histogram.below(0.25) + kLighter, sky);
  endWhereItDarkens(c, sky);
  keepSky(c, places, sky);
  double sum = 0;
  for (std::size_t i = 0; i < sky.size(); ++i) sum += sky.data()[i];
  if (sum < kLeastSky * double(sky.size())) return out;
  const std::vector<int> horizon = horizonOf(sky);
  const Image<float> light = around(c.light, sky), red = around(c.red, sky), blue = around(c.blue, sky);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const int u = std::min(x * sky.width() / w, sky.width() - 1),
                v = std::min(y * sky.height() / h, sky.height() - 1);
      if (v > horizon[std::size_t(u)]) continue;
      const float* p = a.cells.at(x, y);
      const double green = std::log2(std::max(1e-9f, p[1])), off = std::abs(a.logLight.row(y)[x] - light.row(v)[u]);
      const double hue = std::max(std::abs(std::log2(std::max(1e-9f, p[0])) - green - red.row(v)[u]),
                                  std::abs(std::log2(std::max(1e-9f, p[2])) - green - blue.row(v)[u]));
      const bool open = sky.row(v)[u] > 0;
      // Between branches a cell is half sky; brighter than the sky is cloud or sun.
      out.row(y)[x] = a.logLight.row(y)[x] > light.row(v)[u] && open
                          ? 1.f
                          : float(std::clamp((open ? 1.6 : 1.1) - off, 0.0, 1.0) * std::clamp(1.8 - 2 * hue, 0.0, 1.0));
    }
  return out;
}

} // namespace ml
