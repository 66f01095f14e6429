// SPDX-License-Identifier: GPL-3.0-or-later
// The world at another size and from another side.
#include "camera/lens_view.h"
#include "camera/world.h"

#include <cassert>
#include <cmath>
#include <numbers>
#include <utility>

namespace ml {
namespace {

/// Mean of factor x factor blocks; the last ones may be smaller.
Image<float> blocks(const Image<float>& in, int factor) {
  const int w = (in.width() + factor - 1) / factor, h = (in.height() + factor - 1) / factor, channels = in.channels();
  Image<float> out(w, h, channels);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const int x1 = std::min(in.width(), (x + 1) * factor), y1 = std::min(in.height(), (y + 1) * factor);
      for (int c = 0; c < channels; ++c) {
        double sum = 0;
        for (int v = y * factor; v < y1; ++v)
          for (int u = x * factor; u < x1; ++u) sum += in.at(u, v)[c];
        out.at(x, y)[c] = float(sum / ((x1 - x * factor) * (y1 - y * factor)));
      }
    }
  return out;
}

/// The sprite on a canvas whose corner is a multiple of `factor`.
Sprite aligned(const Sprite& sprite, int factor) {
  const int x = sprite.x >= 0 ? sprite.x / factor * factor : -((-sprite.x + factor - 1) / factor) * factor;
  const int y = sprite.y >= 0 ? sprite.y / factor * factor : -((-sprite.y + factor - 1) / factor) * factor;
  const auto up = [&](int n) { return (n + factor - 1) / factor * factor; };
  Image<float> canvas(up(sprite.rgba.width() + sprite.x - x), up(sprite.rgba.height() + sprite.y - y), 4);
  canvas.fill(0);
  for (int v = 0; v < sprite.rgba.height(); ++v)
    std::copy_n(sprite.rgba.row(v), 4 * sprite.rgba.width(), canvas.at(sprite.x - x, v + sprite.y - y));
  return {std::move(canvas), x, y};
}

} // namespace

World World::shrunk(int factor) const {
  World small;
  small.id_ = id_;
  small.name_ = name_;
  small.candelasPerUnit_ = candelasPerUnit_;
  small.fade_ = fade_;
  small.base_ = blocks(base_, factor);
  if (!lamps_.empty()) small.lamps_ = blocks(lamps_, factor);
  if (!viewMask_.empty()) small.viewMask_ = blocks(viewMask_, factor);
  small.dioptres_ = blocks(dioptres_, factor);
  small.focalMm_ = focalMm_;
  small.frameWidth_ = frameWidth_ / factor;
  small.frameHeight_ = frameHeight_ / factor;
  if (around_) small.around_ = std::make_shared<const World>(around_->shrunk(factor));
  for (const auto& layer : layers_) {
    MovingLayer l{
        layer.name,      {}, layer.phaseSeconds, layer.velocityX / factor, layer.velocityY / factor, layer.turnAfter,
        layer.behindView};
    for (const auto& phase : layer.phases) {
      const Sprite on = aligned(phase, factor);
      l.phases.push_back({blocks(on.rgba, factor), on.x / factor, on.y / factor});
    }
    small.layers_.push_back(std::move(l));
  }
  return small;
}

namespace {

/// The part of a layer's picture that the frame shows; empty: none.
Sprite drawnSprite(const Sprite& sprite, const Image<float>& places) {
  int x0 = places.width(), y0 = places.height(), x1 = -1, y1 = -1;
  const auto inside = [&](const float* place) {
    return place[0] > float(sprite.x - 1) && place[1] > float(sprite.y - 1) &&
           place[0] < float(sprite.x + sprite.rgba.width()) && place[1] < float(sprite.y + sprite.rgba.height());
  };
  for (int y = 0; y < places.height(); ++y)
    for (int x = 0; x < places.width(); ++x)
      if (inside(places.at(x, y))) {
        x0 = std::min(x0, x), x1 = std::max(x1, x);
        y0 = std::min(y0, y), y1 = std::max(y1, y);
      }
  if (x1 < 0) return {};
  const auto texel = [&](int u, int v, int c) {
    return u < 0 || v < 0 || u >= sprite.rgba.width() || v >= sprite.rgba.height() ? 0.f : sprite.rgba.at(u, v)[c];
  };
  Sprite out{Image<float>(x1 - x0 + 1, y1 - y0 + 1, 4), x0, y0};
  for (int y = y0; y <= y1; ++y)
    for (int x = x0; x <= x1; ++x) {
      const float u = places.at(x, y)[0] - float(sprite.x), v = places.at(x, y)[1] - float(sprite.y);
      const int i = int(std::floor(u)), j = int(std::floor(v));
      const float a = u - float(i), b = v - float(j);
      for (int c = 0; c < 4; ++c)
        out.rgba.at(x - x0, y - y0)[c] = (1 - a) * ((1 - b) * texel(i, j, c) + b * texel(i, j + 1, c)) +
                                         a * ((1 - b) * texel(i + 1, j, c) + b * texel(i + 1, j + 1, c));
    }
  return out;
}

/// The layer as the frame shows it; its pace is that of the middle of its first picture.
MovingLayer drawnLayer(const MovingLayer& layer, const Image<float>& places, double enlarged) {
  MovingLayer out{
      layer.name,      {}, layer.phaseSeconds, layer.velocityX * enlarged, layer.velocityY * enlarged, layer.turnAfter,
      layer.behindView};
  for (const Sprite& phase : layer.phases) {
    Sprite drawn = drawnSprite(phase, places);
    if (!drawn.rgba.empty()) out.phases.push_back(std::move(drawn));
  }
  return out;
}

} // namespace

World World::throughDefaultLens(std::shared_ptr<const World> around) {
  World frame;
  frame.around_ = std::move(around);
  return frame.through({}, frame.around_->focalMm_, {8});
}

World World::through(const Aim& aim, double focalMm, FNumber aperture) const {
  assert(hasAllDirections());
  const World& all = *around_;
  LensView view{aim, focalMm, aperture, all.frameWidth_, all.frameHeight_};
  // Where all directions are known finer than the frame shows them, it is drawn larger and made smaller.
  const double known = all.width() / (2 * std::numbers::pi);
  const int finer = std::clamp(int(std::lround(known / view.focalPixels())), 1, 4);
  LensView large = view;
  large.width *= finer, large.height *= finer;
  const Image<float> places = directionsOf(large, all.width(), all.height());
  const auto frameOf = [&](Image<float> drawn) { return finer > 1 ? blocks(drawn, finer) : std::move(drawn); };
  World frame;
  frame.around_ = around_;
  frame.id_ = all.id_;
  frame.name_ = all.name_;
  frame.candelasPerUnit_ = all.candelasPerUnit_;
  frame.fade_ = all.fade_;
  frame.focalMm_ = focalMm;
  frame.frameWidth_ = all.frameWidth_, frame.frameHeight_ = all.frameHeight_;
  const Image<float> dioptres = frameOf(nearestAt(all.dioptres_, places));
  frame.base_ = withDepth(frameOf(drawnAt(all.base_, places)), dioptres, view);
  if (!all.lamps_.empty()) frame.lamps_ = withDepth(frameOf(drawnAt(all.lamps_, places)), dioptres, view);
  if (!all.viewMask_.empty()) frame.viewMask_ = frameOf(drawnAt(all.viewMask_, places));
  const Image<float> own = finer > 1 ? directionsOf(view, all.width(), all.height()) : Image<float>();
  for (const MovingLayer& layer : all.layers_) {
    MovingLayer drawn = drawnLayer(layer, finer > 1 ? own : places, view.focalPixels() / known);
    if (!drawn.phases.empty()) frame.layers_.push_back(std::move(drawn));
  }
  return frame;
}

} // namespace ml
