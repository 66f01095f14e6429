// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/card.h"

#include "base/phrase.h"
#include "camera/disturbances.h"
#include "camera/sensor_simulation.h"
#include "exposure/ev.h"
#include "exposure/marks.h"
#include "practice/exercise_world.h"
#include "practice/light_range.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <random>

namespace ml {
namespace {

constexpr FNumber kAperture{8};
constexpr Iso kIso{100};

struct Clock {
  double seconds = 9 * 3600 + 12 * 60;
  [[nodiscard]] std::string words() const {
    const int at = int(seconds);
    return fmt::format("{:02d}:{:02d}:{:02d}", at / 3600, at / 60 % 60, at % 60);
  }
};

/// A part of a world, shares of its sides.
struct Part {
  const char *world, *name;
  double left, top, right, bottom;
};
constexpr Part kParts[] = {{"reading_room", wording("the reading room, its window"), 0, 0, 0.62, 1},
                           {"boat_hall", wording("the boat hall, its doors"), 0.3, 0, 1, 1},
                           {"jetty_dusk", wording("the jetty from the shore"), 0, 0, 0.7, 1},
                           {"reading_room", wording("the reading room, its shelves"), 0.38, 0, 1, 1},
                           {"boat_hall", wording("the boat hall, its wall"), 0, 0, 0.62, 1},
                           {"jetty_dusk", wording("the far shore"), 0.35, 0.05, 1, 0.9},
                           {"reading_room", wording("the floor"), 0.2, 0.8, 0.55, 1}};
constexpr int kShrunk = 3;

CardScene sceneOf(const World& world, const Part& part) {
  const Image<float> all = world.radiance({0}, {0.01});
  const Roi place{int(part.left * all.width()), int(part.top * all.height()),
                  int((part.right - part.left) * all.width()), int((part.bottom - part.top) * all.height())};
  CardScene out{phrase(part.name), Image<float>(place.width, place.height, 3), 0};
  for (int y = 0; y < place.height; ++y)
    for (int i = 0; i < 3 * place.width; ++i)
      out.light.row(y)[i] = float(all.at(place.x, place.y + y)[i] * world.candelasPerUnit());
  out.middle = rangeOf(out.light.view(), 1).middle();
  return out;
}

/// Skin before the lens: what shuts a view out is near, dark and without an edge.
void coverWithThumb(Image<float>& light) {
  constexpr float kSkin[] = {1.f, 0.52f, 0.36f};
  constexpr double kReach = 0.75, kSoft = 0.25;
  float mean = 0;
  for (std::size_t i = 1; i < light.size(); i += 3) mean += light.data()[i] / float(light.size() / 3);
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x) {
      const double off = std::hypot(double(x) / light.width() - 0.5, double(y) / light.height() - 0.75);
      const float clear = float(std::clamp((off - kReach + kSoft) / kSoft, 0.0, 1.0));
      for (int c = 0; c < 3; ++c) light.at(x, y)[c] += (0.3f * mean * kSkin[c] - light.at(x, y)[c]) * (1 - clear);
    }
}

} // namespace

Result<std::vector<CardScene>> cardScenes() {
  std::vector<CardScene> out;
  for (const Part& part : kParts) {
    const auto world = exerciseWorld(part.world, kShrunk);
    if (!world) return passOn(world.error());
    out.push_back(sceneOf(*world, part));
  }
  return out;
}

SortTruth messyCard(const std::vector<CardScene>& scenes, std::uint64_t seed, int level) {
  std::mt19937_64 random(seed);
  const auto upTo = [&](int count) { return int(random() % std::uint64_t(count)); };
  SortTruth out;
  Clock clock;
  int number = 1 + upTo(900), set = 0, scene = upTo(int(scenes.size()) - 1);
  const auto add = [&](int thirds, SortTruth::Seen seen, int of) {
    const ExposureSettings settings{timeAtThirds(thirds), kAperture, kIso};
    out.frames.push_back({fmt::format("FRAME{:04d}", number++), clock.words(), settings, seen, of});
    clock.seconds += 0.5 + settings.time.value;
  };
  const auto middleOf = [&](int which) {
    return nearestThirds(timeFor({scenes[std::size_t(which)].middle}, kAperture, kIso));
  };
  const int sets = level == 1 ? 2 : level == 2 ? 4 : 6;
  for (int i = 0; i < sets; ++i) {
    const bool again = level > 1 && i > 0 && upTo(3) == 0; // the same view once more
    if (i > 0 && !again) scene = (scene + 1) % (int(scenes.size()) - 1);
    const int count = 3 + 2 * upTo(2), step = level == 3 && upTo(2) ? 3 : 6, middle = middleOf(scene);
    for (int k = 0; k < count; ++k) {
      const int place = k == 0 ? count / 2 : k <= count / 2 ? k - 1 : k; // the middle first
      add(middle + step * (count / 2 - place), {scene, false}, set);
    }
    ++set;
    clock.seconds += level == 3 ? 6 + upTo(10) : 25 + upTo(60);
    if (level > 1 && upTo(2)) {
      add(middle, {scene, true}, -1);
      clock.seconds += 8;
    }
    if (level == 3 && upTo(3) == 0) {
      const int floor = int(scenes.size()) - 1;
      add(middleOf(floor), {floor, false}, -1);
      clock.seconds += 12;
    }
  }
  return out;
}

Image<std::uint8_t> cardPicture(const std::vector<CardScene>& scenes, const SortTruth::CardFrame& frame,
                                std::uint64_t seed) {
  Image<float> light = scenes[std::size_t(frame.seen.scene)].light.clone();
  if (frame.seen.thumb) coverWithThumb(light);
  const Image<std::uint16_t> codes = exposeRendered(light, shippedProfiles().front(), frame.settings, seed, 255);
  Image<std::uint8_t> out(codes.width(), codes.height(), 3);
  std::transform(codes.data(), codes.data() + codes.size(), out.data(),
                 [](std::uint16_t v) { return std::uint8_t(v); });
  return out;
}

} // namespace ml
