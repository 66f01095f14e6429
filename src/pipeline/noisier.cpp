#include "pipeline/noisier.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

constexpr float kMost = 8, kWorthSaying = 1.25f;
constexpr double kUsual = 0.6;            ///< Quantile of the ratios of a half stop of light that counts as usual.
constexpr std::size_t kFewest = 50;
constexpr int kLargestGrid = 512;

int halfStop(float light) { return int(std::floor(2 * std::log2(light))); }

} // namespace

Image<float> noisierPlaces(const Image<float>& snr, ImageView<const float> radiance, const Roi& crop) {
  if (snr.empty() || crop.width < kMapCell || crop.height < kMapCell) return {};
  const auto lightAt = [&](int x, int y) {
    const int u = x * kMapCell + kMapCell / 2 - crop.x, v = y * kMapCell + kMapCell / 2 - crop.y;
    return u >= 0 && v >= 0 && u < radiance.width && v < radiance.height ? radiance.at(u, v)[1] : 0.f;
  };
  std::map<int, std::vector<float>> byLight;
  for (int y = 0; y < snr.height(); ++y)
    for (int x = 0; x < snr.width(); ++x)
      if (const float light = lightAt(x, y), ratio = *snr.at(x, y); light > 0 && ratio > 0) byLight[halfStop(light)].push_back(ratio);
  std::map<int, float> usual;
  for (auto& [light, ratios] : byLight) {
    if (ratios.size() < kFewest) continue;
    const auto at = ratios.begin() + std::ptrdiff_t(kUsual * double(ratios.size() - 1));
    std::nth_element(ratios.begin(), at, ratios.end());
    usual[light] = *at;
  }
  const int cell = std::max(kMapCell, crop.width / kNoisierAcross), w = std::max(2, crop.width / cell), h = std::max(2, crop.height / cell);
  Image<float> out(w, h, 1), count(w, h, 1);
  out.fill(0);
  count.fill(0);
  float most = 1;
  for (int y = 0; y < snr.height(); ++y)
    for (int x = 0; x < snr.width(); ++x) {
      const float light = lightAt(x, y), ratio = *snr.at(x, y);
      const auto found = light > 0 && ratio > 0 ? usual.find(halfStop(light)) : usual.end();
      if (found == usual.end()) continue;
      const int u = (x * kMapCell + kMapCell / 2 - crop.x) / cell, v = (y * kMapCell + kMapCell / 2 - crop.y) / cell;
      if (u < 0 || v < 0 || u >= w || v >= h) continue;
      *out.at(u, v) += std::clamp(found->second / ratio, 1.f, kMost);
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
      const int u = std::clamp(int(at.x * places.width()), 0, places.width() - 1), v = std::clamp(int(at.y * places.height()), 0, places.height() - 1);
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
  if (rows == found->end() || !rows->is_array() || rows->empty() || rows->size() > kLargestGrid || !rows->front().is_array()) return {};
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
