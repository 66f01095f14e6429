// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/disturbances.h"

#include "base/parallel.h"
#include "image/colour.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace ml {
namespace {

double medianLuminance(const Image<float>& scene) {
  std::vector<float> sample;
  for (int y = 0; y < scene.height(); y += 8)
    for (int x = 0; x < scene.width(); x += 8) sample.push_back(luminance(scene.at(x, y)));
  std::nth_element(sample.begin(), sample.begin() + long(sample.size() / 2), sample.end());
  return sample[sample.size() / 2];
}

} // namespace

void defocus(Image<float>& scene, double sigma) {
  const int passes = std::max(1, int(std::lround(2 * sigma * sigma)));
  for (int i = 0; i < passes; ++i) scene = binomialBlur(scene);
}

void shake(Image<float>& scene, double pixels, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  const double angle = std::uniform_real_distribution<double>(0, 6.283185307)(random);
  const int steps = std::max(3, int(std::ceil(pixels)) + 1);
  const int w = scene.width(), h = scene.height();
  Image<float> out(w, h, 3);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float sum[3] = {};
        for (int i = 0; i < steps; ++i) {
          const double along = pixels * (double(i) / (steps - 1) - 0.5);
          const int u = std::clamp(int(std::lround(x + along * std::cos(angle))), 0, w - 1),
                    v = std::clamp(int(std::lround(y + along * std::sin(angle))), 0, h - 1);
          for (int c = 0; c < 3; ++c) sum[c] += scene.at(u, v)[c];
        }
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = sum[c] / float(steps);
      }
  });
  scene = std::move(out);
}

void placeFigure(Image<float>& scene, double size, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  const double cx = scene.width() * std::uniform_real_distribution<double>(0.25, 0.75)(random);
  const double height = std::min(0.95, 0.6 * size) * scene.height(), top = scene.height() - height,
               head = height * 0.075;
  const float middle = float(medianLuminance(scene));
  // Half the width of the outline at shares of the height below the chin: neck, shoulders, waist, hips, feet.
  const auto outline = [](double share) {
    constexpr std::pair<double, double> kProfile[] = {{0, 0.025},    {0.04, 0.05}, {0.09, 0.11},  {0.3, 0.105},
                                                      {0.42, 0.085}, {0.52, 0.10}, {0.75, 0.075}, {1, 0.06}};
    for (std::size_t i = 1; i < std::size(kProfile); ++i)
      if (share <= kProfile[i].first) {
        const double t = (share - kProfile[i - 1].first) / (kProfile[i].first - kProfile[i - 1].first);
        return kProfile[i - 1].second + t * t * (3 - 2 * t) * (kProfile[i].second - kProfile[i - 1].second);
      }
    return 0.06;
  };
  const auto inside = [&](double x, double y) {
    const double down = y - top;
    if (down < 2 * head) return std::hypot((x - cx) * 1.2, down - head) < head;
    const double share = (down - 2 * head) / (height - 2 * head);
    const bool betweenLegs = share > 0.58 && std::abs(x - cx) < height * 0.02 * (share - 0.5);
    return !betweenLegs && std::abs(x - cx) < height * outline(share);
  };
  for (int y = std::max(0, int(top)); y < scene.height(); ++y)
    for (int x = 0; x < scene.width(); ++x)
      if (inside(x, y)) {
        // A light coat over dark trousers: it stands out against any ground.
        const float tone = middle * (y - top < 0.55 * height ? 3.f : 0.25f);
        const float fold = 1 + 0.25f * float(std::sin(x * 0.31) * std::sin(y * 0.05));
        scene.at(x, y)[0] = tone * fold;
        scene.at(x, y)[1] = tone * fold * 0.92f;
        scene.at(x, y)[2] = tone * fold * 1.05f;
      }
}

} // namespace ml
