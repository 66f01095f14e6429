// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "exposure/aim.h"
#include "exposure/units.h"
#include "image/image.h"

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace ml {

/// One moment of a moving thing: premultiplied RGBA radiance, placed in the world picture.
struct Sprite {
  Image<float> rgba;
  int x = 0, y = 0;
};

/// A thing that moves in front of the still scene. Its look changes from phase to phase while it travels.
struct MovingLayer {
  std::string name;
  std::vector<Sprite> phases;
  double phaseSeconds = 1;
  double velocityX = 0, velocityY = 0; ///< Pixels a second.
  double turnAfter = 0;                ///< Seconds after which it walks back; 0: never.
  bool behindView = true;              ///< Seen only where the view mask is open.
};

/// True scene radiance over time: a still picture, a mask of where the outdoors shows, and moving layers.
class World {
public:
  /// Reads `world.json` of a world folder and the OpenEXR files it names. Format: docs/formats.md.
  static Result<World> load(const std::filesystem::path& folder);
  /// A still world without layers, for tests and the user's own radiance pictures. Three channels.
  static World still(Image<float> radiance, double candelasPerUnit);

  /// The same world at 1/factor of its size, for finders and for tests that need many frames.
  [[nodiscard]] World shrunk(int factor) const;

  /// Known in all directions, with distances: a camera can be turned in it, its lens shifted and focused.
  [[nodiscard]] bool hasAllDirections() const { return around_ != nullptr; }
  /// What a lens of `focalMm` (on a sensor 36 mm wide) at this aperture draws of it; only of a world that has all
  /// directions.
  [[nodiscard]] World through(const Aim& aim, double focalMm, FNumber aperture) const;
  /// Of the lens the world is shown through, on a sensor 36 mm wide.
  [[nodiscard]] double focalMm() const { return focalMm_; }

  [[nodiscard]] int width() const { return base_.width(); }
  [[nodiscard]] int height() const { return base_.height(); }
  [[nodiscard]] const std::string& id() const { return id_; }
  [[nodiscard]] const std::string& name() const { return name_; }
  /// cd/m^2 of the value 1.
  [[nodiscard]] double candelasPerUnit() const { return candelasPerUnit_; }

  /// Fall of daylight; lamps stay as they are.
  [[nodiscard]] double fadeStopsPerMinute() const { return fade_; }
  [[nodiscard]] bool moves() const { return !layers_.empty(); }

  /// Mean linear Rec. 709 radiance over [start, start + duration], in world units. `daylight` scales all but the lamps,
  /// on top of the fading since time 0.
  [[nodiscard]] Image<float> radiance(Seconds start, Seconds duration, double daylight = 1) const;

  /// Adds the light of a flash that reaches what is near, two stops on what is neither lit by a lamp nor shines itself;
  /// the view outside is too far away.
  void addFlash(Image<float>& radiance) const;

private:
  static World throughDefaultLens(std::shared_ptr<const World> around);
  void compose(Image<float>& picture, double time) const;
  void blend(Image<float>& picture, const MovingLayer& layer, const Sprite& sprite, double dx, double dy) const;

  std::string id_, name_;
  double candelasPerUnit_ = 1;
  double fade_ = 0;
  Image<float> base_;
  Image<float> lamps_;    ///< What lamps add, in base's size; empty: no lamps apart.
  Image<float> viewMask_; ///< One channel 0..1; empty: open everywhere.
  std::vector<MovingLayer> layers_;
  double focalMm_ = 28;
  int frameWidth_ = 0, frameHeight_ = 0; ///< Of a frame on its long side, where all directions are known.
  Image<float> dioptres_;                ///< 1 / metres of every pixel of base, one channel; of all directions only.
  std::shared_ptr<const World> around_;  ///< All directions, equirectangular, that this is a part of.
};

} // namespace ml
