// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/position_judge.h"
#include "base/phrase.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>

namespace ml {
namespace {

constexpr double kRadians = std::numbers::pi / 180;
constexpr double kCoarse = 1, kFine = 3;         ///< Pixels a degree of the spheres on which frames are compared.
constexpr double kMostYaw = 60, kMostPitch = 40; ///< Degrees off the plan that are looked for.
/// What lies there alike by chance, corners and bars of windows included, reaches 0.5 and 28 in the tests; what is the
/// same 0.63 and 42 and more.
constexpr double kLeastLikeness = 0.55, kLeastSure = 32;
constexpr double kLeastShare = 0.08; ///< Of a frame; less looks alike by chance.
constexpr float kNothing = -1e9f;
constexpr double kStops = 0.2; ///< Exposures nearer than this are the same.

/// Structure of a frame on the sphere, about the neighbour's and its own middle: log light less its surroundings.
struct Map {
  double perDegree = kFine;
  int x0 = 0, y0 = 0;     ///< Sphere pixels of the first one, yaw and pitch (down) times perDegree.
  Image<float> structure; ///< kNothing where the frame shows nothing or clips.
  int shown = 0;
};

std::array<double, 9> towards(const Aim& aim) {
  const double cy = std::cos(aim.yaw * kRadians), sy = std::sin(aim.yaw * kRadians),
               cp = std::cos(aim.pitch * kRadians), sp = std::sin(aim.pitch * kRadians),
               cr = std::cos(aim.roll * kRadians), sr = std::sin(aim.roll * kRadians);
  // Rows: the camera's right, down and ahead, in the world's right, down and ahead.
  return {cy * cr + sy * sp * sr,
          cp * sr,
          -sy * cr + cy * sp * sr,
          -cy * sr + sy * sp * cr,
          cp * cr,
          sy * sr + cy * sp * cr,
          sy * cp,
          -sp,
          cy * cp};
}

/// Means over 2 r + 1 pixels each way of what is there.
Image<float> surroundings(const Image<float>& in, int r) {
  Image<float> across(in.width(), in.height(), 2), out(in.width(), in.height(), 1);
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x) {
      float sum = 0, count = 0;
      for (int u = std::max(0, x - r); u <= std::min(in.width() - 1, x + r); ++u)
        if (const float v = *in.at(u, y); v > kNothing) sum += v, ++count;
      across.at(x, y)[0] = sum, across.at(x, y)[1] = count;
    }
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x) {
      float sum = 0, count = 0;
      for (int v = std::max(0, y - r); v <= std::min(in.height() - 1, y + r); ++v)
        sum += across.at(x, v)[0], count += across.at(x, v)[1];
      *out.at(x, y) = count > 0 ? sum / count : 0;
    }
  return out;
}

Map mapOf(const Sketch& sketch, const Aim& aim, double focalPixels, double perDegree) {
  const double reach = std::atan(0.75 * std::hypot(sketch.width, sketch.height) / focalPixels) / kRadians + 2;
  Map map;
  map.perDegree = perDegree;
  map.x0 = int(std::floor((aim.yaw - reach) * perDegree));
  map.y0 = int(std::floor((-aim.pitch - reach) * perDegree));
  const int size = int(std::ceil(2 * reach * perDegree));
  Image<float> light(size, size, 1);
  light.fill(kNothing);
  const auto m = towards(aim);
  const double blocks = focalPixels / sketch.scale, cx = sketch.light.width() * (0.5 - aim.shiftX),
               cy = sketch.light.height() * (0.5 + aim.shiftY);
  for (int y = 0; y < size; ++y)
    for (int x = 0; x < size; ++x) {
      const double yaw = (map.x0 + x + 0.5) / perDegree * kRadians, down = (map.y0 + y + 0.5) / perDegree * kRadians;
      const double X = std::sin(yaw) * std::cos(down), Y = std::sin(down), Z = std::cos(yaw) * std::cos(down);
      const double a = m[0] * X + m[1] * Y + m[2] * Z, b = m[3] * X + m[4] * Y + m[5] * Z,
                   c = m[6] * X + m[7] * Y + m[8] * Z;
      if (c <= 0.05) continue;
      // A pixel of the sphere is many of the sketch: the mean of those around.
      const double u = cx + blocks * a / c, v = cy + blocks * b / c, half = blocks / perDegree * kRadians / 2;
      const int u0 = int(u - half), u1 = int(u + half), v0 = int(v - half), v1 = int(v + half);
      if (u - half < 0 || v - half < 0 || u1 >= sketch.light.width() || v1 >= sketch.light.height()) continue;
      double sum = 0;
      int count = 0, clipped = 0;
      for (int j = v0; j <= v1; ++j)
        for (int i = u0; i <= u1; ++i)
          sum += sketch.light.at(i, j)[1], clipped += *sketch.clipped.at(i, j) > 64, ++count;
      if (2 * clipped > count) continue;
      *light.at(x, y) = float(std::log2(sum / count + 1e-3));
    }
  const Image<float> around = surroundings(light, int(4 * perDegree));
  map.structure = Image<float>(size, size, 1);
  for (std::size_t i = 0; i < light.size(); ++i) {
    const bool there = light.data()[i] > kNothing;
    map.structure.data()[i] = there ? light.data()[i] - around.data()[i] : kNothing;
    map.shown += there;
  }
  return map;
}

struct Match {
  double likeness = 0;
  int dx = 0, dy = 0, shared = 0;
  /// How far from chance: Fisher's z times the root of how many places are compared.
  [[nodiscard]] double sure() const {
    return likeness > 0 ? std::atanh(std::min(likeness, 0.999)) * std::sqrt(double(shared)) : 0;
  }
};

/// Correlation of what both show when `b` is moved by (dx, dy).
Match likenessAt(const Map& a, const Map& b, int dx, int dy) {
  const int x0 = b.x0 + dx - a.x0, y0 = b.y0 + dy - a.y0; // of b's first pixel in a
  double ab = 0, aa = 0, bb = 0;
  Match m{0, dx, dy, 0};
  for (int y = std::max(0, -y0); y < b.structure.height() && y + y0 < a.structure.height(); ++y) {
    const float *rowA = a.structure.row(y + y0), *rowB = b.structure.row(y);
    for (int x = std::max(0, -x0); x < b.structure.width() && x + x0 < a.structure.width(); ++x) {
      const float va = rowA[x + x0], vb = rowB[x];
      if (va <= kNothing || vb <= kNothing) continue;
      ab += va * vb, aa += va * va, bb += vb * vb, ++m.shared;
    }
  }
  m.likeness = aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : 0;
  return m;
}

/// The likeliest places within so many degrees about `from`, degrees; the surest first, a few of them.
std::vector<Match> peaks(const Map& a, const Map& b, std::pair<double, double> from, double yaw, double pitch) {
  constexpr std::size_t kMost = 6;
  const int x = int(std::lround(from.first * a.perDegree)), y = int(std::lround(from.second * a.perDegree));
  const int rangeX = int(yaw * a.perDegree), rangeY = int(pitch * a.perDegree), least = int(kLeastShare * b.shown);
  std::vector<Match> all;
  for (int dy = y - rangeY; dy <= y + rangeY; ++dy)
    for (int dx = x - rangeX; dx <= x + rangeX; ++dx)
      if (const Match m = likenessAt(a, b, dx, dy); m.shared >= least && m.likeness > 0) all.push_back(m);
  std::sort(all.begin(), all.end(), [](const Match& l, const Match& r) { return l.sure() > r.sure(); });
  std::vector<Match> best;
  for (const Match& m : all) {
    const bool beside = std::any_of(best.begin(), best.end(), [&](const Match& other) {
      return std::abs(other.dx - m.dx) <= 2 && std::abs(other.dy - m.dy) <= 2;
    });
    if (!beside) best.push_back(m);
    if (best.size() == kMost) break;
  }
  return best;
}

/// The frames of both positions that show most: least clipped and least black, of one exposure.
std::pair<const Sketch*, const Sketch*> alike(const PositionSketches& a, const PositionSketches& b) {
  std::pair<const Sketch*, const Sketch*> best{nullptr, nullptr};
  double most = -1;
  for (const auto& s : a.frames)
    for (const auto& t : b.frames) {
      if (std::abs(std::log2(s->settings.time.value / t->settings.time.value)) > 0.5) continue;
      const double shows = std::min(s->structured, t->structured);
      if (shows > most) most = shows, best = {s.get(), t.get()};
    }
  if (!best.first && !a.frames.empty() && !b.frames.empty()) best = {a.frames.front().get(), b.frames.front().get()};
  return best;
}

bool differ(const PositionSketches& a, const PositionSketches& b) {
  const auto has = [](const PositionSketches& p, const ExposureSettings& s) {
    return std::any_of(p.frames.begin(), p.frames.end(), [&](const auto& f) {
      return std::abs(std::log2(f->settings.time.value / s.time.value)) < kStops &&
             std::abs(2 * std::log2(f->settings.aperture.value / s.aperture.value)) < kStops &&
             std::abs(std::log2(f->settings.iso.value / s.iso.value)) < kStops;
    });
  };
  return std::none_of(b.frames.begin(), b.frames.end(), [&](const auto& f) { return has(a, f->settings); });
}

/// Where a frame looks.
struct Look {
  const Sketch& sketch;
  Aim aim;
  double focalPixels;
};

/// The light that a frame's sharpness is judged by, where the other shows the same.
Image<float> sharedLight(const Look& own, const Look& other) {
  constexpr int kBlock = 8;
  Image<float> light = lightOf(own.sketch.detail, {});
  const auto m = towards(own.aim), to = towards(other.aim);
  const double f = own.focalPixels / own.sketch.detail.scale, cx = light.width() * (0.5 - own.aim.shiftX),
               cy = light.height() * (0.5 + own.aim.shiftY), across = other.sketch.width / other.focalPixels,
               down = other.sketch.height / other.focalPixels;
  for (int y = 0; y < light.height(); y += kBlock)
    for (int x = 0; x < light.width(); x += kBlock) {
      const double a = (x + kBlock / 2.0 - cx) / f, b = (y + kBlock / 2.0 - cy) / f;
      std::array<double, 3> world{}, there{};
      for (std::size_t i = 0; i < 3; ++i) world[i] = m[i] * a + m[3 + i] * b + m[6 + i];
      for (std::size_t i = 0; i < 3; ++i)
        there[i] = to[3 * i] * world[0] + to[3 * i + 1] * world[1] + to[3 * i + 2] * world[2];
      const double u = there[0] / there[2] / across + 0.5 - other.aim.shiftX,
                   v = there[1] / there[2] / down + 0.5 + other.aim.shiftY;
      if (there[2] > 0.05 && u > 0 && u < 1 && v > 0 && v < 1) continue;
      for (int j = y; j < std::min(y + kBlock, light.height()); ++j)
        std::fill(light.at(x, j), light.at(std::min(x + kBlock, light.width()) - 1, j) + 1, kNoLight);
    }
  return light;
}

/// Energy of second differences of roots of light over the light: noise is as strong everywhere then. ln; empty: too
/// little is shown.
std::optional<double> structureOf(const Image<float>& light) {
  const auto root = [&](int x, int y) { return std::sqrt(std::max(0.f, *light.at(x, y))); };
  const auto shown = [&](int x, int y) { return *light.at(x, y) != kNoLight; };
  double energy = 0, all = 0;
  long count = 0;
  for (int y = 1; y + 1 < light.height(); ++y)
    for (int x = 1; x + 1 < light.width(); ++x) {
      if (!shown(x, y) || !shown(x - 1, y) || !shown(x + 1, y) || !shown(x, y - 1) || !shown(x, y + 1)) continue;
      const double across = root(x - 1, y) - 2 * root(x, y) + root(x + 1, y),
                   down = root(x, y - 1) - 2 * root(x, y) + root(x, y + 1);
      energy += across * across + down * down, all += *light.at(x, y), ++count;
    }
  constexpr long kFewest = 4000;
  if (count < kFewest || !(energy > 0 && all > 0)) return {};
  return std::log(energy / all);
}

/// How much more fine structure the second shows of what both show; 0: cannot be told.
double finerBy(const Look& one, const Look& other) {
  const auto a = structureOf(sharedLight(one, other)), b = structureOf(sharedLight(other, one));
  return a && b ? *b - *a : 0;
}

} // namespace

PositionPair comparePositions(const PositionSketches& earlier, const PositionSketches& now) {
  PositionPair pair;
  pair.exposuresDiffer = differ(earlier, now);
  const auto [s, t] = alike(earlier, now);
  if (!s || !t) return pair;
  const auto mapsAt = [&, s = s, t = t](double perDegree) {
    return std::pair{mapOf(*s, earlier.aim, earlier.focalPixels, perDegree),
                     mapOf(*t, now.aim, now.focalPixels, perDegree)};
  };
  const auto [coarseA, coarseB] = mapsAt(kCoarse);
  const auto [a, b] = mapsAt(kFine);
  Match best;
  for (const Match& m : peaks(coarseA, coarseB, {0, 0}, kMostYaw, kMostPitch))
    for (const Match& fine : peaks(a, b, {m.dx / kCoarse, m.dy / kCoarse}, 1.5 / kCoarse, 1.5 / kCoarse))
      if (fine.sure() > best.sure()) best = fine;
  pair.found = best.likeness >= kLeastLikeness && best.sure() >= kLeastSure;
  pair.yawOff = best.dx / kFine;
  pair.pitchOff = -best.dy / kFine;
  pair.overlap = b.shown > 0 ? double(best.shared) / b.shown : 0;
  if (pair.found) {
    Aim really = now.aim;
    really.yaw += pair.yawOff, really.pitch += pair.pitchOff;
    pair.finer = finerBy({*s, earlier.aim, earlier.focalPixels}, {*t, really, now.focalPixels});
  }
  return pair;
}

PositionFinding findingOf(const PositionPair& pair, const std::string& name, double plannedOverlap,
                          const PositionLimits& limits) {
  if (!pair.found)
    return {true, phrase("Nothing that {0} shows was found in it. Turn back until a third of {0} is in the frame "
                         "again, and shoot it again.",
                         name)};
  if (pair.overlap < std::min(limits.leastOverlap, plannedOverlap / 2))
    return {true, phrase("Only {:.0f} % of it overlaps {}, too little to join them. Turn back by {:.0f} degrees "
                         "and shoot it again.",
                         100 * pair.overlap, name, std::hypot(pair.yawOff, pair.pitchOff))};
  if (plannedOverlap < limits.mostOverlap && pair.overlap > limits.mostOverlap)
    return {true, phrase("It shows nearly the same as {}: turn on by {:.0f} degrees and shoot it again.", name,
                         std::hypot(pair.yawOff, pair.pitchOff))};
  if (pair.exposuresDiffer)
    return {true, phrase("Its exposures are not those of {}. Set them by hand, the same at every position, and "
                         "shoot it again.",
                         name)};
  const bool planes = plannedOverlap >= limits.mostOverlap; // focused elsewhere by intention
  if (!planes && pair.finer < -limits.softer)
    return {true, phrase("It is softer than {} where both show the same: the focus is another. Focus by hand, once for "
                         "all positions, and shoot it again.",
                         name)};
  if (!planes && pair.finer > limits.softer)
    return {false, phrase("It is sharper than {0} where both show the same: the focus is another. Shoot {0} again, "
                          "focused as this one.",
                          name)};
  if (std::abs(pair.pitchOff) > limits.levelDegrees)
    return {false, phrase("It looks {:.0f} degrees {} than planned beside {}: level the camera, or the joined "
                          "picture loses that much of its height.",
                          std::abs(pair.pitchOff), pair.pitchOff > 0 ? phrase("higher") : phrase("lower"), name)};
  return {};
}

} // namespace ml
