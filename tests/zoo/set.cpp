// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/set.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace ml::zoo {
namespace {

void blurred(Image<float>& light, double sigma) {
  const int reach = int(std::ceil(3 * sigma));
  std::vector<double> kernel;
  double total = 0;
  for (int k = -reach; k <= reach; ++k)
    kernel.push_back(std::exp(-k * k / (2 * sigma * sigma))), total += kernel.back();
  for (const auto& [dx, dy] : {std::pair{1, 0}, {0, 1}}) {
    const Image<float> in = light.clone();
    for (int y = 0; y < in.height(); ++y)
      for (int x = 0; x < in.width(); ++x)
        for (int c = 0; c < 3; ++c) {
          double sum = 0;
          for (int k = -reach; k <= reach; ++k)
            sum += kernel[std::size_t(k + reach)] *
                   in.at(std::clamp(x + k * dx, 0, in.width() - 1), std::clamp(y + k * dy, 0, in.height() - 1))[c];
          light.at(x, y)[c] = float(sum / total);
        }
  }
}

/// The camera moves evenly along a line during the exposure.
void shaken(Image<float>& light, double length, double angle) {
  const Image<float> in = light.clone();
  const int steps = int(std::ceil(length)) * 2 + 1;
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x) {
      float sum[3] = {};
      for (int k = 0; k < steps; ++k) {
        const double t = length * (double(k) / (steps - 1) - 0.5);
        const float* p = in.at(std::clamp(int(std::lround(x + t * std::cos(angle))), 0, in.width() - 1),
                               std::clamp(int(std::lround(y + t * std::sin(angle))), 0, in.height() - 1));
        for (int c = 0; c < 3; ++c) sum[c] += p[c];
      }
      for (int c = 0; c < 3; ++c) light.at(x, y)[c] = sum[c] / float(steps);
    }
}

float sensorMost(const Camera& camera, const float* light) {
  float most = 0;
  const double longest = std::max({camera.neutral[0], camera.neutral[1], camera.neutral[2]});
  for (int r = 0; r < 3; ++r) {
    const auto* m = &camera.fromRec709[std::size_t(3 * r)];
    const double share = camera.type == FileType::Dng ? camera.neutral[std::size_t(r)] / longest
                                                      : 1; // rendered files are balanced before they clip
    most = std::max(most, float((m[0] * light[0] + m[1] * light[1] + m[2] * light[2]) * share));
  }
  return most;
}

/// What a lamp at `hertz` adds or takes of an exposure of `seconds` that begins at `phase`: the mean of 1 + depth cos
/// over it.
double flickered(double hertz, double depth, double phase, double seconds) {
  const double w = 2 * std::numbers::pi * hertz;
  return 1 + depth * (std::sin(w * seconds + phase) - std::sin(phase)) / (w * seconds);
}

} // namespace

const char* nameOf(Spoil spoil) {
  static const char* const names[] = {"none",          "nudged",       "gust",          "passer-by",
                                      "card-full",     "disconnected", "auto-iso",      "aperture",
                                      "white-balance", "focus",        "bracket-reset", "cloud"};
  return names[int(spoil)];
}

std::shared_ptr<const Scene> sceneOf(std::uint64_t index, int width, int height) {
  Random random(index, 21);
  const char* panorama = kPanoramas[index % std::size(kPanoramas)];
  return std::make_shared<Scene>(panorama, width, height, unsigned(index),
                                 random.uniform(Ranges::blur.low, Ranges::blur.high));
}

MadeSet::MadeSet(std::shared_ptr<const Scene> scene_, const SetOptions& options, const std::filesystem::path& folder)
    : scene(std::move(scene_)), camera(options.seed, options.type) {
  Random random(options.seed, 4);
  const int w = scene->width(), h = scene->height();
  const Image<float> still = throughLens(camera, scene->seen({}));
  std::vector<float> most;
  for (int y = 0; y < h; y += 2)
    for (int x = 0; x < w; x += 2) most.push_back(sensorMost(camera, still.at(x, y)));
  std::sort(most.begin(), most.end());
  const auto at = [&](double q) { return double(most[std::size_t(q * double(most.size() - 1))]); };
  // The darkest frame holds the brightest light but glints, the brightest frame shows the shadows: the bracket a
  // careful photographer shoots.
  const double darkest = random.uniform(0.6, 0.85) / at(0.9992), brightest = random.uniform(0.06, 0.2) / at(0.03);
  const double range = std::max(2.0, std::log2(brightest / darkest));
  static constexpr double kSteps[] = {1, 4 / 3.0, 2, 2, 2, 3};
  double step = kSteps[random.whole(0, 5)];
  while (range / step > 6) step = step < 1.9 ? 2 : step < 2.9 ? 3 : range / 6;
  step = std::round(3 * step) / 3 < range / 6 ? (std::round(3 * step) + 1) / 3 : std::round(3 * step) / 3;
  const int count = std::clamp(int(std::ceil(range / step)) + 1, 3, 7);
  reference = count / 2;
  // The ladder of times: the longest at most 8 s, the shortest at least 1/8000 s.
  const int span = int(std::lround(3 * step)), lowest = -39, highest = 9 - span * (count - 1);
  const int first = highest <= lowest ? lowest : random.whole(lowest, highest);
  const double hertz = random.chance(0.5) ? 100 : 120,
               depth = options.flicker ? random.uniform(Ranges::flicker.low, Ranges::flicker.high) : 0;

  // Order of firing: upwards, or the middle, the dark ones, the bright ones.
  fired.resize(std::size_t(count));
  for (int i = 0; i < count; ++i) fired[std::size_t(i)] = i;
  if (random.chance(0.4)) std::rotate(fired.begin(), fired.begin() + reference, fired.begin() + reference + 1);
  std::vector<int> rank(std::size_t(count), 0);
  for (int k = 0; k < count; ++k) rank[std::size_t(fired[std::size_t(k)])] = k;
  const int since = random.whole(1, count - 1); // faults begin with the frame fired at this place

  double clock = random.whole(0, 3000);
  std::vector<double> clocks(std::size_t(count), 0);
  for (const int i : fired) clocks[std::size_t(i)] = clock, clock += 1 + std::exp2((first + span * i) / 3.0);
  const Pose nudge{random.uniform(2.5, 9) * (random.chance(0.5) ? 1 : -1), random.uniform(-6, 6),
                   random.uniform(-0.15, 0.15)};
  const double cloud = std::exp2(-random.uniform(0.4, 0.8)), shake = random.uniform(5, 13),
               shakeAngle = random.uniform(0, std::numbers::pi), defocus = random.uniform(1.8, 3.5);
  const double warm = random.uniform(0.2, 0.4) * (random.chance(0.7) ? 1 : -1);
  std::vector<Mover> leaves;
  if (options.leaves)
    for (int k = 0; k < 3; ++k)
      leaves.push_back({Mover::Kind::Leaves, random.uniform(0.1, 0.9) * w, random.uniform(0.1, 0.7) * h,
                        random.uniform(0.04, 0.07) * h, random.uniform(0.2, 0.6), unsigned(random.whole(1, 1000))});
  Mover walker{Mover::Kind::Walker,
               0,
               0.4 * h,
               0.55 * h,
               random.chance(0.5) ? random.uniform(0.12, 0.3) : random.uniform(1.5, 3),
               1};
  const double walkFrom = random.uniform(0.2, 0.4), walkTo = random.uniform(0.6, 0.8);
  for (int i = 0; i < count; ++i) {
    MadeFrame frame;
    const bool since_ = rank[std::size_t(i)] >= since, here = rank[std::size_t(i)] == since;
    const double seconds = std::exp2((first + span * i) / 3.0),
                 error = options.timesTrue ? 0 : random.uniform(Ranges::timeError.low, Ranges::timeError.high);
    frame.exposure = darkest * std::exp2(step * i) * (1 + error) *
                     flickered(hertz, depth, random.uniform(0, 2 * std::numbers::pi), seconds);
    frame.shot = {seconds, 8, camera.iso, int(clocks[std::size_t(i)]), camera.name};
    if (options.handHeld) frame.pose = {random.uniform(-9, 9), random.uniform(-9, 9), random.uniform(-0.5, 0.5)};
    for (Mover leaf : leaves) {
      leaf.x += random.uniform(-3, 3), leaf.y += random.uniform(-2, 2);
      frame.movers.push_back(leaf);
    }
    if (options.walker) {
      walker.x = w * (walkFrom + (walkTo - walkFrom) * rank[std::size_t(i)] / (count - 1));
      walker.seed = unsigned(options.seed);
      frame.movers.push_back(walker);
    }
    if (options.spoil == Spoil::Nudged && since_) frame.pose = nudge;
    if (options.spoil == Spoil::AutoIso && since_) frame.exposure *= 2, frame.shot.iso *= 2;
    if (options.spoil == Spoil::Aperture && since_) frame.exposure /= 2, frame.shot.fNumber = 11;
    if (options.spoil == Spoil::Cloud && since_) frame.exposure *= cloud;
    if (options.spoil == Spoil::BracketReset && since_) { // the time stays what it was before
      const int before = fired[std::size_t(since - 1)];
      frame.exposure = darkest * std::exp2(step * before) * (1 + error);
      frame.shot.seconds = std::exp2((first + span * before) / 3.0);
    }
    if (options.spoil == Spoil::PasserBy && here) {
      // Somebody who is seen: a place and a coat that stand out in this frame.
      const auto shown = [&](const float* light) {
        return std::clamp(double(sensorMost(camera, light)) * frame.exposure, 0.004, 0.95);
      };
      for (int attempt = 0; attempt < 20; ++attempt) {
        Mover person{Mover::Kind::Walker,
                     random.uniform(0.2, 0.8) * w,
                     random.uniform(0.3, 0.4) * h,
                     random.uniform(0.45, 0.65) * h,
                     random.chance(0.5) ? random.uniform(0.1, 0.3) : random.uniform(2, 5),
                     7};
        const Image<float> with = throughLens(camera, scene->seen(frame.pose, {person}));
        int seen = 0;
        for (int y = 0; y < h; y += 2)
          for (int x = 0; x < w; x += 2)
            seen += std::abs(std::log2(shown(with.at(x, y)) / shown(still.at(x, y)))) > 0.9;
        if (seen * 4 < 0.015 * w * h && attempt + 1 < 20) continue;
        frame.movers.push_back(person);
        break;
      }
    }
    frames.push_back(std::move(frame));
  }
  for (const int i : fired) planned.push_back({std::exp2((first + span * i) / 3.0), 8, camera.iso, 0, camera.name});

  std::vector<char> missing(std::size_t(count), 0);
  for (int i = 0; i < count; ++i) {
    if (options.spoil == Spoil::CardFull) missing[std::size_t(i)] = rank[std::size_t(i)] >= std::max(since, 1);
    if (options.spoil == Spoil::Disconnected) missing[std::size_t(i)] = rank[std::size_t(i)] == since;
  }
  for (int i = 0; i < count; ++i) {
    MadeFrame& frame = frames[std::size_t(i)];
    if (missing[std::size_t(i)]) continue;
    const bool since_ = rank[std::size_t(i)] >= since, here = rank[std::size_t(i)] == since;
    Image<float> light = scene->seen(frame.pose, frame.movers);
    if (options.spoil == Spoil::Focus && here) blurred(light, defocus);
    if (options.spoil == Spoil::Gust && here) shaken(light, shake, shakeAngle);
    light = throughLens(camera, light);
    const bool turned = options.spoil == Spoil::WhiteBalance && since_;
    const std::array<double, 3> balance =
        turned ? std::array<double, 3>{std::exp2(warm), 1, std::exp2(-warm)} : std::array<double, 3>{1, 1, 1};
    char name[32];
    std::snprintf(name, sizeof name, "ZOO_%04d%s", 1 + rank[std::size_t(i)],
                  options.type == FileType::Dng    ? ".dng"
                  : options.type == FileType::Jpeg ? ".jpg"
                                                   : ".heic");
    frame.file = folder / name;
    const auto noise = std::uint64_t(i) + 100 * options.seed;
    if (options.type == FileType::Dng) {
      std::array<double, 3> neutral = camera.neutral;
      for (std::size_t c = 0; c < 3; ++c) neutral[c] /= balance[c];
      writeDng(frame.file, camera, neutral, exposeRaw(camera, light, frame.exposure, frame.shot.seconds, noise),
               frame.shot);
    } else {
      const Image<std::uint8_t> codes = exposeRendered(camera, light, frame.exposure, balance, noise);
      options.type == FileType::Jpeg ? writeJpeg(frame.file, camera, codes, frame.shot)
                                     : writeHeif(frame.file, camera, codes, frame.shot);
    }
  }
  for (int i = count - 1; i >= 0; --i)
    if (missing[std::size_t(i)]) {
      frames.erase(frames.begin() + i);
      std::erase(fired, i);
      for (int& f : fired) f -= f > i;
    }
  reference = std::min(reference, int(frames.size()) - 1);
}

Image<float> MadeSet::sensorLight(const Pose& pose, const std::vector<Mover>& movers) const {
  return throughLens(camera, scene->seen(pose, movers));
}

Image<float> MadeSet::truth() const {
  const MadeFrame& frame = frames[std::size_t(reference)];
  Image<float> light = sensorLight(frame.pose, frame.movers);
  return camera.type == FileType::Dng ? std::move(light) : renderedTruth(camera, light);
}

double MadeSet::clippedShare(int i) const {
  const MadeFrame& frame = frames[std::size_t(i)];
  const Image<float> light = sensorLight(frame.pose, frame.movers);
  int count = 0;
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x) count += sensorMost(camera, light.at(x, y)) * frame.exposure >= 0.97;
  return double(count) / (double(light.width()) * light.height());
}

double MadeSet::darkShare(int i, double dark) const {
  const MadeFrame& frame = frames[std::size_t(i)];
  const Image<float> light = sensorLight(frame.pose, frame.movers);
  int count = 0;
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x) count += sensorMost(camera, light.at(x, y)) * frame.exposure < dark;
  return double(count) / (double(light.width()) * light.height());
}

std::vector<MadeSet::Moment> MadeSet::moments() const {
  const Pose pose = frames[std::size_t(reference)].pose;
  const Image<float> without = throughLens(camera, scene->seen(pose));
  std::vector<Image<float>> seen;
  for (const MadeFrame& frame : frames) seen.push_back(throughLens(camera, scene->seen(pose, frame.movers)));
  std::vector<Moment> out;
  for (std::size_t i = 0; i < frames.size(); ++i) out.push_back(momentOf(i, without, seen));
  return out;
}

MadeSet::Moment MadeSet::momentOf(std::size_t i, const Image<float>& without,
                                  const std::vector<Image<float>>& seen) const {
  const Image<float>& light = seen[i];
  Moment out{camera.type == FileType::Dng ? light.clone() : renderedTruth(camera, light),
             Image<std::uint8_t>(without.width(), without.height(), 1),
             Image<std::int16_t>(without.width(), without.height(), 1), 1};
  out.walked.fill(0);
  out.teller.fill(-1);
  int any = 0, told = 0;
  for (int y = 0; y < without.height(); ++y)
    for (int x = 0; x < without.width(); ++x) {
      bool walked = false, known = false, roughly = false;
      const auto covered = [&](std::size_t k) {
        return std::abs(std::log2(seen[k].at(x, y)[1] / without.at(x, y)[1])) > 0.01;
      };
      const auto records = [&](std::size_t k, double electrons) {
        const double level = sensorMost(camera, seen[k].at(x, y)) * frames[k].exposure;
        return level < 0.85 && level * camera.fullWell > electrons;
      };
      const bool here = covered(i);
      for (std::size_t k = 0; k < frames.size(); ++k) {
        walked = walked || covered(k);
        const bool tells = k == i || (!here && !covered(k));
        if (tells && records(k, 900)) known = true, *out.teller.at(x, y) = std::int16_t(k);
        roughly = roughly || (tells && records(k, 30));
      }
      if (!walked) continue;
      ++any, told += roughly;
      *out.walked.at(x, y) = known ? 1 : 2;
    }
  out.told = any > 0 ? double(told) / any : 1;
  return out;
}

Image<std::uint8_t> MadeSet::walked() const {
  const Pose pose = frames[std::size_t(reference)].pose;
  const Image<float> without = throughLens(camera, scene->seen(pose));
  Image<std::uint8_t> out(without.width(), without.height(), 1);
  out.fill(0);
  std::vector<Image<float>> seen;
  for (const MadeFrame& frame : frames)
    seen.push_back(frame.movers.empty() ? without.clone() : throughLens(camera, scene->seen(pose, frame.movers)));
  const auto records = [&](std::size_t i, const float* light) {
    const double level = sensorMost(camera, light) * frames[i].exposure;
    return level < 0.85 && level * camera.fullWell > 900;
  };
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      const auto covered = [&](std::size_t i) {
        return std::abs(std::log2(seen[i].at(x, y)[1] / without.at(x, y)[1])) > 0.01;
      };
      bool any = false;
      for (std::size_t i = 0; i < frames.size(); ++i) any = any || covered(i);
      if (!any) continue;
      const auto r = std::size_t(reference);
      bool known = records(r, seen[r].at(x, y));
      if (!known && !covered(r)) { // two that agree: one alone may be the odd one
        int tell = 0;
        for (std::size_t i = 0; i < frames.size(); ++i) tell += !covered(i) && records(i, without.at(x, y));
        known = tell >= 2;
      }
      *out.at(x, y) = known ? 1 : 2;
    }
  return out;
}

} // namespace ml::zoo
