// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/world.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "codec/exr.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;

namespace {

Result<MovingLayer> loadLayer(const fs::path& folder, const json& entry) {
  MovingLayer layer;
  layer.name = entry.value("name", "");
  layer.phaseSeconds = std::max(0.01, entry.value("phase_seconds", 1.0));
  layer.velocityX = entry.value("velocity_x", 0.0);
  layer.velocityY = entry.value("velocity_y", 0.0);
  layer.turnAfter = entry.value("turn_after_seconds", 0.0);
  layer.behindView = entry.value("behind_view", true);
  for (const auto& file : entry.at("phases")) {
    auto image = readExr(folder / file.get<std::string>());
    if (!image) return passOn(image.error());
    if (image->pixels.channels() != 4)
      return unreadable(folder / file.get<std::string>(), phrase("a moving layer needs an alpha channel"));
    layer.phases.push_back({std::move(image->pixels), image->x, image->y});
  }
  if (layer.phases.empty())
    return fail(ErrorCode::InvalidArgument, phrase("The layer \"{}\" has no phase.", layer.name));
  return layer;
}

} // namespace

Result<World> World::load(const fs::path& folder) {
  auto text = readText(folder / "world.json");
  if (!text) return passOn(text.error());
  try {
    const json description = json::parse(*text);
    World world;
    world.id_ = folder.filename().string();
    world.name_ = description.value("name", world.id_);
    world.candelasPerUnit_ = description.at("candelas_per_unit").get<double>();
    auto base = readExr(folder / description.at("base").get<std::string>());
    if (!base) return passOn(base.error());
    if (base->pixels.channels() != 3)
      return unreadable(folder / "world.json", phrase("its base picture must have three channels"));
    world.base_ = std::move(base->pixels);
    world.fade_ = description.value("fade_stops_per_minute", 0.0);
    if (description.contains("lamps")) {
      auto lamps = readExr(folder / description.at("lamps").get<std::string>());
      if (!lamps) return passOn(lamps.error());
      if (lamps->pixels.channels() != 3 || lamps->pixels.width() != world.width() ||
          lamps->pixels.height() != world.height())
        return unreadable(folder / "world.json", phrase("its lamp picture does not fit the base picture"));
      world.lamps_ = std::move(lamps->pixels);
    }
    if (description.contains("view_mask")) {
      auto mask = readExr(folder / description.at("view_mask").get<std::string>());
      if (!mask) return passOn(mask.error());
      if (mask->pixels.channels() != 1 || mask->pixels.width() != world.width() ||
          mask->pixels.height() != world.height())
        return unreadable(folder / "world.json", phrase("its view mask does not fit the base picture"));
      world.viewMask_ = std::move(mask->pixels);
    }
    for (const auto& entry : description.value("layers", json::array())) {
      auto layer = loadLayer(folder, entry);
      if (!layer) return passOn(layer.error());
      world.layers_.push_back(std::move(*layer));
    }
    world.focalMm_ = description.value("focal_mm", 28.0);
    if (!description.contains("dioptres")) return world;
    auto dioptres = readExr(folder / description.at("dioptres").get<std::string>());
    if (!dioptres) return passOn(dioptres.error());
    world.dioptres_ = std::move(dioptres->pixels);
    world.frameWidth_ = description.at("frame_width").get<int>();
    world.frameHeight_ = description.at("frame_height").get<int>();
    if (world.dioptres_.channels() != 1 || world.dioptres_.width() != world.width() ||
        world.dioptres_.height() != world.height() || world.width() != 2 * world.height())
      return unreadable(folder / "world.json", phrase("its distances do not fit a base picture of all directions"));
    constexpr int kLargest = 8192;
    if (world.frameWidth_ < 16 || world.frameHeight_ < 16 || std::max(world.frameWidth_, world.frameHeight_) > kLargest)
      return unreadable(folder / "world.json", phrase("its frame has an impossible size"));
    return throughDefaultLens(std::make_shared<const World>(std::move(world)));
  } catch (const json::exception& error) {
    return unreadable(folder / "world.json", error.what());
  }
}

World World::still(Image<float> radiance, double candelasPerUnit) {
  assert(radiance.channels() == 3);
  World world;
  world.id_ = world.name_ = "still";
  world.base_ = std::move(radiance);
  world.candelasPerUnit_ = candelasPerUnit;
  return world;
}

Image<float> World::radiance(Seconds start, Seconds duration, double daylight) const {
  constexpr double kFrozen = 1.0 / 40; // shorter exposures show no blur at these speeds
  const int moments = layers_.empty() || duration.value < kFrozen ? 1 : duration.value < 0.6 ? 4 : 12;
  Image<float> sum = base_.clone();
  compose(sum, start.value);
  for (int i = 1; i < moments; ++i) {
    Image<float> moment = base_.clone();
    compose(moment, start.value + duration.value * i / moments);
    for (std::size_t k = 0; k < sum.size(); ++k) sum.data()[k] += moment.data()[k];
  }
  const float scale = float(daylight * std::exp2(-fade_ * (start.value + duration.value / 2) / 60) / moments);
  if (scale != 1)
    for (std::size_t k = 0; k < sum.size(); ++k) sum.data()[k] *= scale;
  if (!lamps_.empty())
    for (std::size_t k = 0; k < sum.size(); ++k) sum.data()[k] += lamps_.data()[k];
  return sum;
}

void World::addFlash(Image<float>& radiance) const {
  if (viewMask_.empty()) return; // open everywhere
  std::vector<float> near;
  const auto pixels = radiance.size() / 3;
  for (std::size_t k = 0; k < pixels; ++k)
    if (viewMask_.data()[k] < 0.5f) near.push_back(radiance.data()[3 * k + 1]);
  if (near.empty()) return;
  const auto middle = near.begin() + std::ptrdiff_t(near.size() / 2);
  std::nth_element(near.begin(), middle, near.end());
  const float most = 4 * *middle;
  for (std::size_t k = 0; k < pixels; ++k)
    for (std::size_t c = 0; c < 3; ++c) {
      float& light = radiance.data()[3 * k + c];
      light += 3 * (1 - viewMask_.data()[k]) * std::min(light, most);
    }
}

void World::compose(Image<float>& picture, double time) const {
  for (const auto& layer : layers_) {
    double travelled = time;
    if (layer.turnAfter > 0) {
      const double lap = std::fmod(time, 2 * layer.turnAfter);
      travelled = lap <= layer.turnAfter ? lap : 2 * layer.turnAfter - lap;
    }
    const auto phase = std::size_t(time / layer.phaseSeconds) % layer.phases.size();
    blend(picture, layer, layer.phases[phase], layer.velocityX * travelled, layer.velocityY * travelled);
  }
}

void World::blend(Image<float>& picture, const MovingLayer& layer, const Sprite& sprite, double dx, double dy) const {
  const int left = int(std::floor(sprite.x + dx)), top = int(std::floor(sprite.y + dy));
  const float fx = float(sprite.x + dx - left), fy = float(sprite.y + dy - top);
  const int w = sprite.rgba.width(), h = sprite.rgba.height();
  const auto texel = [&](int x, int y, int c) {
    return x < 0 || y < 0 || x >= w || y >= h ? 0.f : sprite.rgba.at(x, y)[c];
  };
  for (int v = std::max(0, -top); v <= h && top + v < height(); ++v)
    for (int u = std::max(0, -left); u <= w && left + u < width(); ++u) {
      float rgba[4];
      for (int c = 0; c < 4; ++c)
        rgba[c] = (1 - fx) * ((1 - fy) * texel(u, v, c) + fy * texel(u, v - 1, c)) +
                  fx * ((1 - fy) * texel(u - 1, v, c) + fy * texel(u - 1, v - 1, c));
      if (rgba[3] <= 0) continue;
      const float open = layer.behindView && !viewMask_.empty() ? *viewMask_.at(left + u, top + v) : 1.f;
      float* pixel = picture.at(left + u, top + v);
      for (int c = 0; c < 3; ++c) pixel[c] = pixel[c] * (1 - open * rgba[3]) + open * rgba[c];
    }
}

} // namespace ml
