// SPDX-License-Identifier: GPL-3.0-or-later
#include "position_sets.h"

#include "base/parallel.h"

#include <cmath>
#include <cstdio>
#include <numbers>
#include <random>

namespace ml::test {
namespace {

using V = std::array<double, 3>;

/// Near posts stand at every 24 degrees of yaw, 5 degrees wide.
bool onPost(const V& d) {
  const double yaw = std::atan2(d[0], d[2]) * 180 / std::numbers::pi + 360;
  return std::fmod(yaw, 24.0) < 5;
}

V postLight(const RoundRoom& room, V d) {
  const double length = std::hypot(d[0], d[1], d[2]);
  for (double& v : d) v /= length;
  // Another part of the room's own texture, darker and finer.
  const V other = room.light({d[2] * 0.7 + 0.1, d[1] * 2.2 + 0.3, -d[0] * 2.2 - 0.8});
  return {other[0] * 0.4, other[1] * 0.4, other[2] * 0.4};
}

Image<float> blurred(const Image<float>& in, double sigma) {
  if (sigma < 0.2) return in.clone();
  const int r = int(std::ceil(3 * sigma)), n = in.channels();
  std::vector<double> w;
  double sum = 0;
  for (int k = -r; k <= r; ++k) w.push_back(std::exp(-k * k / (2 * sigma * sigma))), sum += w.back();
  Image<float> across(in.width(), in.height(), n), out(in.width(), in.height(), n);
  for (int pass = 0; pass < 2; ++pass) {
    const Image<float>& from = pass == 0 ? in : across;
    Image<float>& to = pass == 0 ? across : out;
    forEachBand(in.height(), [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < in.width(); ++x)
          for (int c = 0; c < n; ++c) {
            double value = 0;
            for (int k = -r; k <= r; ++k) {
              const int u = pass == 0 ? std::clamp(x + k, 0, in.width() - 1) : x,
                        v = pass == 0 ? y : std::clamp(y + k, 0, in.height() - 1);
              value += w[std::size_t(k + r)] * from.at(u, v)[c];
            }
            to.at(x, y)[c] = float(value / sum);
          }
    });
  }
  return out;
}

} // namespace

PositionSet::PositionSet(const SetPlan& p, const std::filesystem::path& folder)
    : plan(p), room(std::uint32_t(p.seed)), camera(p.seed, p.type) {
  std::filesystem::create_directories(folder);
  std::mt19937 random{std::uint32_t(p.seed)};
  std::normal_distribution<double> normal;
  // Joining is measured, not what a camera does to texture and draws about bright edges.
  camera.glare = camera.sharpening = camera.smear = 0;
  camera.quality = 97;
  focal = p.focal * std::max(p.width, p.height);
  const double wide = 2 * std::atan(p.width / 2.0 / focal) * 180 / std::numbers::pi,
               high = 2 * std::atan(p.height / 2.0 / focal) * 180 / std::numbers::pi;
  for (int row = 0; row < p.rows; ++row)
    for (int column = 0; column < p.columns; ++column) {
      Shot at;
      const double across = column - (p.columns - 1) / 2.0, down = row - (p.rows - 1) / 2.0;
      at.focal = focal;
      at.k1 = p.bend;
      at.rays = p.rays;
      if (p.kind == SetKind::Shifted) {
        at.shiftX = across * p.width * (1 - p.overlap) + 3 * normal(random);
        at.shiftY = down * p.height * (1 - p.overlap) + 3 * normal(random);
      } else {
        at.yaw = across * wide * (1 - p.overlap) + p.handDegrees * normal(random);
        at.pitch = -down * high * (1 - p.overlap) + p.handDegrees * normal(random);
        at.roll = p.handDegrees * normal(random);
      }
      for (double& v : at.from) v = p.parallax * 2 * normal(random);
      for (int plane = 0; plane < p.planes; ++plane) {
        Shot shot = at;
        shot.focal = focal * (1 + 0.02 * plane); // focusing breathes
        shots.push_back(shot);
      }
    }
  const double scale = 0.35; // the room's mean at the middle frame
  int clock = 0, number = 0;
  for (std::size_t i = 0; i < shots.size(); ++i) {
    files.emplace_back();
    zoo::Camera lens = camera;
    // A shifted lens falls off about its axis, which the frame does not know; one view alone says nothing of it.
    if (p.kind != SetKind::Turned) lens.fallOff = 0;
    const Image<float> light = zoo::throughLens(lens, frameLight(shots[i], p.planes > 1 ? int(i) % p.planes : -1));
    for (int k = 0; k < p.frames; ++k) {
      const double stops = (k - (p.frames - 1) / 2.0) * p.step;
      zoo::Shot said;
      said.seconds = std::exp2(stops) / 32;
      said.clock = clock += 1;
      said.model = camera.name;
      char name[32];
      std::snprintf(name, sizeof name, "shot-%03d.%s", ++number, p.type == zoo::FileType::Dng ? "dng" : "jpg");
      const auto file = folder / name;
      const double exposure = scale * std::exp2(stops);
      if (p.type == zoo::FileType::Dng)
        zoo::writeDng(file, camera, camera.neutral,
                      zoo::exposeRaw(camera, light, exposure, said.seconds, std::uint64_t(number)), said);
      else
        zoo::writeJpeg(file, camera, zoo::exposeRendered(camera, light, exposure, {1, 1, 1}, std::uint64_t(number)),
                       said);
      files.back().push_back(file);
    }
    clock += 4;
  }
}

bool PositionSet::isNear(const V& d) {
  return onPost(d);
}

std::array<double, 3> PositionSet::light(const V& d) const {
  const V raw = plan.planes > 1 && onPost(d) ? postLight(room, d) : room.light(d);
  Image<float> one(1, 1, 3);
  for (int c = 0; c < 3; ++c) one.at(0, 0)[c] = float(raw[std::size_t(c)]);
  if (plan.type == zoo::FileType::Dng) return raw;
  const Image<float> shown = zoo::renderedTruth(camera, one);
  return {shown.at(0, 0)[0], shown.at(0, 0)[1], shown.at(0, 0)[2]};
}

Image<float> PositionSet::frameLight(const Shot& shot, int plane) const {
  if (plan.planes <= 1) return shoot(room, shot, plan.width, plan.height);
  const Image<float> far = shoot([this](const V& d, const V&) { return room.light(d); }, shot, plan.width, plan.height);
  Image<float> near = shoot(
      [this](const V& d, const V&) {
        return onPost(d) ? postLight(room, d) : V{0, 0, 0};
      },
      shot, plan.width, plan.height);
  Image<float> cover = shoot(
      [](const V& d, const V&) {
        return onPost(d) ? V{1, 1, 1} : V{0, 0, 0};
      },
      shot, plan.width, plan.height);
  constexpr double kSoft = 3;
  const Image<float> back = blurred(far, plane == 0 ? kSoft : 0);
  near = blurred(near, plane == 1 ? kSoft : 0);
  cover = blurred(cover, plane == 1 ? kSoft : 0);
  Image<float> out(plan.width, plan.height, 3);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = near.data()[i] + (1 - cover.data()[i]) * back.data()[i];
  return out;
}

} // namespace ml::test
