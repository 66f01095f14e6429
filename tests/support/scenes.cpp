// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/scenes.h"

#include "exposure/ev.h"
#include "ingest/load_frame.h"

#include <cmath>
#include <random>

namespace ml::test {

Image<float> texturedScene(int width, int height, double stops, unsigned seed) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> uniform(0, 1);
  struct Wave {
    double fx, fy, phase, size;
  };
  std::vector<Wave> waves;
  for (int octave = 0; octave < 5; ++octave)
    for (int k = 0; k < 6; ++k) {
      const double period = 200 / std::exp2(octave) * (0.7 + 0.6 * uniform(random)), angle = 6.283 * uniform(random);
      waves.push_back({6.283 / period * std::cos(angle), 6.283 / period * std::sin(angle), 6.283 * uniform(random),
                       std::pow(0.75, octave)});
    }
  struct Disc {
    double x, y, r, step;
  };
  std::vector<Disc> discs;
  for (int k = 0; k < 60; ++k)
    discs.push_back(
        {width * uniform(random), height * uniform(random), 6 + 40 * uniform(random), 2.4 * uniform(random) - 1.2});
  Image<float> scene(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      double log = 0;
      for (const auto& w : waves) log += 0.16 * w.size * std::sin(w.fx * x + w.fy * y + w.phase);
      for (const auto& d : discs) log += d.step / (1 + std::exp((std::hypot(x - d.x, y - d.y) - d.r) / 1.1));
      // The bright half: a soft but steep border, like a window a few pixels wide in blur.
      log += (stops - 4) / (1 + std::exp(-(x - 0.6 * width) / 1.4));
      const double light = 4 * std::exp2(log);
      const double hue = 0.25 * std::sin(x / 61.0) * std::cos(y / 47.0);
      scene.at(x, y)[0] = float(light * (1 + hue));
      scene.at(x, y)[1] = float(light);
      scene.at(x, y)[2] = float(light * (1 - hue));
    }
  return scene;
}

ShotSet shootScene(Image<float> scene, const std::vector<ExposureSettings>& settings, FrameFormat format,
                   const std::filesystem::path& folder, SimulationOptions options) {
  auto world = std::make_shared<World>(World::still(std::move(scene), 1));
  SimulatedCamera camera(world, shippedProfiles().front(), options);
  ShotSet set;
  for (std::size_t i = 0; i < settings.size(); ++i) {
    const auto file = folder / ("frame-" + std::to_string(i + 1) + extensionOf(format));
    const auto exposed = camera.expose(settings[i], format, file);
    if (!exposed) qFatal("%s", exposed.error().message.c_str());
    set.files.push_back(file);
    set.poses.push_back(camera.lastPose());
    auto frame = loadFrame(file);
    if (!frame) qFatal("%s", frame.error().message.c_str());
    set.frames.push_back(std::move(*frame));
  }
  return set;
}

std::vector<ExposureSettings> exposedAt(const std::vector<double>& evs) {
  std::vector<ExposureSettings> settings;
  for (const double ev : evs) settings.push_back({timeFor({ev}, {8}, {100}), {8}, {100}});
  return settings;
}

Frame linearFrame(const Image<float>& linear, const ExposureSettings& settings) {
  Frame frame;
  Image<std::uint16_t> codes(linear.width(), linear.height(), 3);
  for (std::size_t i = 0; i < linear.size(); ++i)
    codes.data()[i] = std::uint16_t(std::lround(std::clamp(linear.data()[i], 0.f, 1.f) * 65535));
  frame.codes = std::move(codes);
  frame.table = linearTable(65535, 0, 65535);
  frame.noise = noiseOf(frame.table, 60000, 3);
  frame.settings = settings;
  return frame;
}

} // namespace ml::test
