// SPDX-License-Identifier: GPL-3.0-or-later
#include "sphere_sets.h"

#include "codec/exif.h"
#include "codec/tiff_file.h"

#include <cmath>
#include <numbers>
#include <random>
#include <stdexcept>
#include <string>

namespace ml::test {

Image<float> sphereOf(const RoundRoom& room, int width) {
  const int height = width / 2;
  Image<float> out(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const double yaw = ((x + 0.5) / width - 0.5) * 2 * std::numbers::pi,
                   down = ((y + 0.5) / height - 0.5) * std::numbers::pi;
      const auto light = room.light({std::sin(yaw) * std::cos(down), std::sin(down), std::cos(yaw) * std::cos(down)});
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(light[std::size_t(c)]);
    }
  return out;
}

void shootSphere(const RoundRoom& room, const std::filesystem::path& folder, int width, int turned) {
  const int height = width / 2;
  std::filesystem::create_directories(folder);
  const Image<float> light = sphereOf(room, width);
  for (int k = 0; k < 3; ++k) {
    Image<std::uint16_t> codes(width, height, 3);
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; ++x) {
        const int from = (x + turned) % width;
        std::mt19937 random(std::uint32_t(7 * (y * width + from) + k));
        std::normal_distribution<double> normal;
        for (int c = 0; c < 3; ++c) {
          const double v =
              std::clamp(0.1 * std::exp2(2.0 * k) * double(light.at(from, y)[c]) + 0.002 * normal(random), 0.0, 1.0);
          codes.at(x, y)[c] =
              std::uint16_t(65535 * (v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055) + 0.5);
        }
      }
    const auto file = folder / ("s" + std::to_string(k) + ".tif");
    ShotMetadata said;
    said.time = Seconds{std::exp2(2.0 * k) / 128};
    said.aperture = FNumber{8};
    said.iso = Iso{100};
    if (!writeTiff16(file, std::as_const(codes).view(), {}) || !writeExif(file, said))
      throw std::runtime_error("cannot write " + file.string());
  }
}

} // namespace ml::test
