// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/white.h"

#include "base/phrase.h"
#include "finish/areas.h"
#include "image/colour.h"
#include "image/colour_difference.h"
#include "image/resample.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kFieldsAcross = 8, kFieldsDown = 6;
constexpr double kEven = 0.06;  ///< Stops between a cell and its neighbours on an even surface.
constexpr double kAlike = 0.12; ///< Stops of red or blue against green within one paint.
constexpr double kLeastSure = 0.4, kMostTint = 0.8;

struct Patch {
  double red, blue, light; ///< log2 of red and blue over green, and of light.
  Spot2 at;
};

bool evenAt(const Image<float>& log, int x, int y) {
  const float middle = log.row(y)[x];
  for (const auto& [u, v] :
       {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}, {x - 2, y}, {x + 2, y}, {x, y - 2}, {x, y + 2}})
    if (u < 0 || v < 0 || u >= log.width() || v >= log.height() || std::abs(log.row(v)[u] - middle) > kEven)
      return false;
  return true;
}

/// The mean of the lightest tenth of a field's even cells.
std::optional<Patch> lightestOf(const ToneAnalysis& a, const Image<float>& windows, const Roi& field, double limit) {
  std::vector<std::pair<float, int>> cells;
  for (int y = field.y; y < field.y + field.height; ++y)
    for (int x = field.x; x < field.x + field.width; ++x)
      if (windows.row(y)[x] == 0 && a.logLight.row(y)[x] < limit && evenAt(a.logLight, x, y))
        cells.push_back({a.logLight.row(y)[x], y * a.logLight.width() + x});
  if (int(cells.size()) < field.width * field.height / 50) return {};
  std::sort(cells.rbegin(), cells.rend());
  cells.resize(std::max<std::size_t>(4, cells.size() / 10));
  Patch out{0, 0, 0, {}};
  for (const auto& [light, at] : cells) {
    const float* p = a.cells.data() + 3 * at;
    const double g = std::log2(std::max(1e-9f, p[1])), n = double(cells.size());
    out.red += (std::log2(std::max(1e-9f, p[0])) - g) / n, out.blue += (std::log2(std::max(1e-9f, p[2])) - g) / n,
        out.light += light / n;
  }
  const int best = cells[cells.size() / 2].second, w = a.logLight.width();
  out.at = {(best % w + 0.5) / w, (best / w + 0.5) / a.logLight.height()};
  return out;
}

} // namespace

Neutral neutralFor(const std::array<float, 3>& c) {
  const double r = std::log2(std::max(1e-9f, c[0])), g = std::log2(std::max(1e-9f, c[1])),
               b = std::log2(std::max(1e-9f, c[2]));
  return {std::clamp(b - r, -4.0, 4.0), std::clamp((2 * g - r - b) * 2 / 3, -4.0, 4.0)};
}

std::optional<WhiteTrim> findWhiteTrim(const ToneAnalysis& a, const ToneSettings& now) {
  const int w = a.logLight.width(), h = a.logLight.height();
  const Rendering rendering(a.rendering);
  const double least = rendering.lightAt(paperOf(45)), limit = a.brightest - 0.3;
  const Image<float> windows = windowCells(a);
  std::vector<Patch> patches;
  for (int j = 0; j < kFieldsDown; ++j)
    for (int i = 0; i < kFieldsAcross; ++i) {
      const Roi field{i * w / kFieldsAcross, j * h / kFieldsDown, w / kFieldsAcross, h / kFieldsDown};
      if (const auto patch = lightestOf(a, windows, field, limit); patch && patch->light > least)
        patches.push_back(*patch);
    }
  if (patches.size() < 4) return {};
  std::vector<Patch> best;
  double most = 0;
  for (const Patch& centre : patches) {
    std::vector<Patch> alike;
    double weight = 0;
    for (const Patch& p : patches)
      if (std::hypot(p.red - centre.red, p.blue - centre.blue) < kAlike)
        alike.push_back(p), weight += std::exp2(0.5 * std::min(0.0, p.light - rendering.lightAt(paperOf(85))));
    if (weight > most) most = weight, best = alike;
  }
  WhiteTrim out;
  double red = 0, blue = 0;
  for (const Patch& p : best) red += p.red / double(best.size()), blue += p.blue / double(best.size());
  out.sure = double(best.size()) / double(kFieldsAcross * kFieldsDown);
  const Neutral neutral = neutralFor({float(std::exp2(red)), 1.f, float(std::exp2(blue))});
  out.warmth = neutral.warmth, out.tint = neutral.tint;
  if (out.sure < kLeastSure || std::abs(out.tint) > kMostTint) return {};
  std::sort(best.begin(), best.end(), [](const Patch& p, const Patch& q) { return p.light > q.light; });
  for (std::size_t i = 0; i < std::min<std::size_t>(6, best.size()); ++i) out.places.push_back(best[i].at);
  const auto shown = [&](const Neutral& by) { // the white as it is printed with a setting, at L* 85
    float c[3] = {float(std::exp2(red + by.warmth / 2 + by.tint / 4)), float(std::exp2(-by.tint / 2)),
                  float(std::exp2(blue - by.warmth / 2 + by.tint / 4))};
    const float scale = float(std::exp2(paperOf(85))) / luminance(c);
    for (float& v : c) v *= scale;
    return labOf(c);
  };
  out.change = ciede2000(shown({now.warmth, now.tint}), shown(neutral));
  return out;
}

std::optional<WallUnderTwoLights> compareWall(ImageView<const float> first, ImageView<const float> second) {
  const Roi size = fitted(first.width, first.height, 320);
  if (first.width != second.width || first.height != second.height || size.width < 24 || size.height < 24) return {};
  const Image<float> small[2] = {shrinkTo(first, size.width, size.height), shrinkTo(second, size.width, size.height)};
  Image<float> log[2];
  for (int k = 0; k < 2; ++k) {
    log[k] = Image<float>(size.width, size.height, 1);
    for (std::size_t i = 0; i < log[k].size(); ++i)
      log[k].data()[i] = std::log2(std::max(1e-6f, luminance(small[k].data() + 3 * i)));
  }
  struct Cell {
    std::array<double, 3> lab[2];
  };
  std::vector<Cell> even;
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x) {
      if (!evenAt(log[0], x, y) || !evenAt(log[1], x, y)) continue;
      const Cell cell{{labOf(small[0].at(x, y)), labOf(small[1].at(x, y))}};
      if (std::min(cell.lab[0][0], cell.lab[1][0]) > 35 && std::max(cell.lab[0][0], cell.lab[1][0]) < 96)
        even.push_back(cell);
    }
  // The wall: of all even surfaces the one colour with most of the picture, by the first light.
  constexpr int kGrid = 8;
  std::vector<int> counts(64 * 64, 0);
  const auto bin = [](const Cell& c) {
    return std::clamp(int(c.lab[0][1] / kGrid + 32), 0, 63) * 64 + std::clamp(int(c.lab[0][2] / kGrid + 32), 0, 63);
  };
  for (const Cell& c : even) ++counts[std::size_t(bin(c))];
  const int wall = int(std::max_element(counts.begin(), counts.end()) - counts.begin());
  std::vector<Cell> cells;
  for (const Cell& c : even)
    if (std::abs(bin(c) / 64 - wall / 64) <= 1 && std::abs(bin(c) % 64 - wall % 64) <= 1) cells.push_back(c);
  WallUnderTwoLights out;
  out.share = double(cells.size()) / (double(size.width) * size.height);
  if (out.share < 0.02) return {};
  std::array<double, 3> mean[2] = {};
  for (const Cell& c : cells)
    for (std::size_t k = 0; k < 2; ++k)
      for (std::size_t i = 0; i < 3; ++i) mean[k][i] += c.lab[k][i] / double(cells.size());
  for (const Cell& c : cells)
    for (std::size_t k = 0; k < 2; ++k)
      out.spread[k] +=
          (std::pow(c.lab[k][1] - mean[k][1], 2) + std::pow(c.lab[k][2] - mean[k][2], 2)) / double(cells.size());
  for (std::size_t k = 0; k < 2; ++k)
    out.spread[k] = std::sqrt(out.spread[k]), out.chroma[k] = std::hypot(mean[k][1], mean[k][2]);
  out.warmer = mean[1][2] - mean[0][2];
  mean[0][0] = mean[1][0] = (mean[0][0] + mean[1][0]) / 2;
  out.difference = ciede2000(mean[0], mean[1]);
  if (std::abs(out.spread[0] - out.spread[1]) > 1)
    out.truer = out.spread[0] < out.spread[1] ? 0 : 1;
  else if (std::abs(out.chroma[0] - out.chroma[1]) > 2)
    out.truer = out.chroma[0] < out.chroma[1] ? 0 : 1;
  return out;
}

std::string sentence(const WallUnderTwoLights& wall, const std::string& first, const std::string& second) {
  if (wall.difference < 1)
    return phrase("The wall has the same colour in \"{}\" and \"{}\" (CIEDE2000 {:.1f}).", first, second,
                  wall.difference);
  std::string out = phrase("In \"{}\" the wall is {:.1f} (CIEDE2000) {} than in \"{}\"", second, wall.difference,
                           wall.warmer > 0 ? phrase("warmer") : phrase("cooler"), first);
  if (wall.truer < 0) return phrase("{}; both are as true.", out);
  const bool one = std::abs(wall.spread[0] - wall.spread[1]) > 1;
  return out + phrase("; \"{}\" is truer: {}.", wall.truer == 0 ? first : second,
                      one ? phrase("one light reaches all of it") : phrase("its white is nearer to white"));
}

} // namespace ml
