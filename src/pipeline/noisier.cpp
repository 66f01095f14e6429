// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/noisier.h"

#include "pipeline/half_stop.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

constexpr float kMost = 8, kWorthSaying = 1.25f;
constexpr double kUsual = 0.6; ///< Quantile of the ratios of a half stop of light that counts as usual.
constexpr std::size_t kFewest = 50;
constexpr int kLargestGrid = 512;

/// Cells of MergeResult whose middle lies in the cut.
struct CellsWithin {
  int left, top, right, bottom;
};
CellsWithin cellsWithin(const Image<float>& cells, const Roi& crop) {
  const auto first = [](int from) { return std::max(0, (from - kMapCell / 2 + kMapCell - 1) / kMapCell); };
  return {first(crop.x), first(crop.y), std::min(cells.width(), first(crop.x + crop.width)),
          std::min(cells.height(), first(crop.y + crop.height))};
}

constexpr int kLights = 512; ///< Half stops of all normal floats.
int lightIndex(float light) {
  return std::min(halfStop(light) + kLights / 2, kLights - 1);
}
bool tells(float light, float ratio) {
  return light > std::numeric_limits<float>::min() && ratio > 0;
}

/// The usual ratio of each half stop of light; 0 where there is too little of it.
std::array<float, kLights> usualRatios(const Image<float>& snr, const Image<float>& light, const CellsWithin& in) {
  std::vector<std::vector<float>> byLight(kLights);
  for (int y = in.top; y < in.bottom; ++y)
    for (int x = in.left; x < in.right; ++x)
      if (const float l = *light.at(x, y), ratio = *snr.at(x, y); tells(l, ratio))
        byLight[std::size_t(lightIndex(l))].push_back(ratio);
  std::array<float, kLights> usual{};
  for (std::size_t i = 0; i < byLight.size(); ++i) {
    auto& ratios = byLight[i];
    if (ratios.size() < kFewest) continue;
    const auto at = ratios.begin() + std::ptrdiff_t(kUsual * double(ratios.size() - 1));
    std::nth_element(ratios.begin(), at, ratios.end());
    usual[i] = *at;
  }
  return usual;
}

} // namespace

Image<float> noisierPlaces(const Image<float>& snr, const Image<float>& light, const Roi& crop) {
  if (snr.empty() || light.empty() || crop.width < kMapCell || crop.height < kMapCell) return {};
  const CellsWithin in = cellsWithin(snr, crop);
  const auto usual = usualRatios(snr, light, in);
  const int cell = std::max(kMapCell, crop.width / kNoisierAcross), w = std::max(2, crop.width / cell),
            h = std::max(2, crop.height / cell);
  Image<float> out(w, h, 1), count(w, h, 1);
  out.fill(0);
  count.fill(0);
  float most = 1;
  for (int y = in.top; y < in.bottom; ++y)
    for (int x = in.left; x < in.right; ++x) {
      const float l = *light.at(x, y), ratio = *snr.at(x, y),
                  expected = tells(l, ratio) ? usual[std::size_t(lightIndex(l))] : 0.f;
      const int u = (x * kMapCell + kMapCell / 2 - crop.x) / cell, v = (y * kMapCell + kMapCell / 2 - crop.y) / cell;
      if (expected <= 0 || u >= w || v >= h) continue;
      *out.at(u, v) += std::clamp(expected / ratio, 1.f, kMost);
      *count.at(u, v) += 1;
    }
  for (std::size_t i = 0; i < out.size(); ++i) {
    out.data()[i] = count.data()[i] > 0 ? out.data()[i] / count.data()[i] : 1;
    most = std::max(most, out.data()[i]);
  }
  return most < kWorthSaying ? Image<float>() : std::move(out);
}

namespace {

template <class Place> LocalMap mapOf(const Image<float>& places, int width, int height, const Place& place) {
  if (places.empty() || width < 2 || height < 2) return {};
  Image<float> more(width, height, 1);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const Spot2 at = place(Spot2{(x + 0.5) / width, (y + 0.5) / height});
      const int u = std::clamp(int(at.x * places.width()), 0, places.width() - 1),
                v = std::clamp(int(at.y * places.height()), 0, places.height() - 1);
      const float over = *places.at(u, v) - 1;
      *more.at(x, y) = over < kWorthSaying - 1 ? 0.f : over; // what is usual stays exactly as it is
    }
  return plainMap(more);
}

} // namespace

LocalMap noisierMap(const Image<float>& places, const ShapeMap& shape, int width, int height) {
  return mapOf(places, width, height, [&](Spot2 p) { return shape.toCombined(p); });
}

LocalMap noisierMap(const Image<float>& places, int width, int height) {
  return mapOf(places, width, height, [](Spot2 p) { return p; });
}

json noisierJson(const Image<float>& places) {
  if (places.empty()) return {};
  json rows = json::array();
  for (int y = 0; y < places.height(); ++y) {
    json row = json::array();
    for (int x = 0; x < places.width(); ++x) row.push_back(std::lround(10 * *places.at(x, y)));
    rows.push_back(std::move(row));
  }
  return {{"tenths", rows}};
}

Image<float> noisierFromReport(const json& report) {
  const auto found = report.find("noisier");
  if (found == report.end() || !found->is_object()) return {};
  const auto rows = found->find("tenths");
  if (rows == found->end() || !rows->is_array() || rows->empty() || rows->size() > kLargestGrid ||
      !rows->front().is_array())
    return {};
  const std::size_t width = rows->front().size();
  if (width < 2 || width > kLargestGrid || rows->size() < 2) return {};
  Image<float> out(int(width), int(rows->size()), 1);
  for (std::size_t y = 0; y < rows->size(); ++y) {
    const json& row = (*rows)[y];
    if (!row.is_array() || row.size() != width) return {};
    for (std::size_t x = 0; x < width; ++x) {
      if (!row[x].is_number()) return {};
      *out.at(int(x), int(y)) = std::clamp(row[x].get<float>() / 10, 1.f, kMost);
    }
  }
  return out;
}

} // namespace ml
