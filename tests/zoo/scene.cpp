// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/scene.h"

#include "base/parallel.h"
#include "codec/exr.h"
#include "zoo/random.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <cstdlib>
#include <filesystem>

namespace ml::zoo {
namespace {

/// The panoramas were reduced with a filter that rings: light far below its surroundings is raised to a tenth of them.
/// Logarithms.
Image<float> panoramaLogs(const std::string& name) {
  const auto read = readExr(std::filesystem::path(ML_SOURCE_DIR) / "tests/data/radiance" / (name + ".exr"));
  if (!read) {
    std::fprintf(stderr, "%s\n", read.error().message.c_str());
    std::abort();
  }
  const Image<float>& in = read->pixels;
  Image<float> out(in.width(), in.height(), 3);
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x)
      for (int c = 0; c < 3; ++c) {
        std::array<float, 25> around;
        for (int k = 0; k < 25; ++k)
          around[std::size_t(k)] =
              in.at((x + k % 5 - 2 + in.width()) % in.width(), std::clamp(y + k / 5 - 2, 0, in.height() - 1))[c];
        std::nth_element(around.begin(), around.begin() + 12, around.end());
        out.at(x, y)[c] = std::log2(std::max({in.at(x, y)[c], 0.1f * around[12], 1e-4f}));
      }
  return out;
}

void cubic(double f, double w[4]) { // B-spline: smooth and positive
  const double g = 1 - f;
  w[0] = g * g * g / 6, w[1] = (3 * f * f * f - 6 * f * f + 4) / 6, w[2] = (3 * g * g * g - 6 * g * g + 4) / 6,
  w[3] = f * f * f / 6;
}

double lattice(int x, int y, unsigned seed) {
  std::uint32_t h = std::uint32_t(x) * 0x85ebca6bu ^ std::uint32_t(y) * 0xc2b2ae35u ^ seed * 0x27d4eb2fu;
  h ^= h >> 15, h *= 0x2c1b3c6du, h ^= h >> 12, h *= 0x297a2d39u, h ^= h >> 15;
  return h / 2147483648.0 - 1;
}

/// Value noise of period 1, -1..1.
double noise(double x, double y, unsigned seed) {
  const int ix = int(std::floor(x)), iy = int(std::floor(y));
  const auto ease = [](double t) { return t * t * (3 - 2 * t); };
  const double fx = ease(x - ix), fy = ease(y - iy);
  const double top = lattice(ix, iy, seed) * (1 - fx) + lattice(ix + 1, iy, seed) * fx;
  const double bottom = lattice(ix, iy + 1, seed) * (1 - fx) + lattice(ix + 1, iy + 1, seed) * fx;
  return top * (1 - fy) + bottom * fy;
}

/// How much of a person of `height` covers a place u, v heights from the top of the head; `skin` tells head from cloth.
double personAt(double u, double v, double height, bool& skin) {
  const double head = 0.07 - std::hypot(u, v - 0.07);
  const double body = v > 0.13 && v < 0.6 ? 0.12 - 0.03 * std::abs(v - 0.3) - std::abs(u) : -1;
  const double legs = v >= 0.58 && v < 1 ? 0.04 - std::abs(std::abs(u) - 0.05) : -1;
  skin = head > std::max(body, legs);
  return std::clamp(std::max({head, body, legs}) * height / 1.5 + 0.5, 0.0, 1.0); // soft over a pixel and a half
}

/// Clumps of leaves, `v` from 0 to 1 down the bush.
double leavesAt(double u, double v, double height, unsigned seed) {
  const double around = 0.5 - std::hypot(u, v - 0.5), clump = noise(u * 14 + 50, v * 14, seed);
  return std::clamp(std::min(around, 0.12 * clump) * height / 1.5 + 0.5, 0.0, 1.0);
}

} // namespace

Scene::Scene(const std::string& panorama, int width, int height, unsigned seed, double blurred)
    : width_(width), height_(height), canvas_((width + 2 * kMargin) * kFiner, (height + 2 * kMargin) * kFiner, 3) {
  drawPanorama(panorama, seed);
  drawThings(seed);
  blur(blurred * kFiner);
  std::vector<float> greens;
  for (int y = 0; y < height; y += 7)
    for (int x = 0; x < width; x += 7) {
      float rgb[3];
      lightAt(x, y, rgb);
      greens.push_back(rgb[1]);
    }
  std::nth_element(greens.begin(), greens.begin() + std::ptrdiff_t(greens.size() / 2), greens.end());
  median_ = greens[greens.size() / 2];
}

void Scene::drawPanorama(const std::string& name, unsigned seed) {
  const Image<float> logs = panoramaLogs(name);
  Random random(seed, 11);
  const double focal = width_ / (2 * std::tan(std::numbers::pi / 6)), tilt = random.uniform(-0.05, 0.15);
  const auto direction = [&](double x, double y, double yaw, double& u, double& v) {
    const double dx = (x - width_ / 2.0) / focal, dy = (y - height_ / 2.0) / focal;
    const double longitude = yaw + std::atan2(dx, 1.0), latitude = std::atan2(-dy, std::hypot(dx, 1.0)) + tilt;
    u = (longitude / (2 * std::numbers::pi) + 0.5) * logs.width() - 0.5,
    v = (0.5 - latitude / std::numbers::pi) * logs.height() - 0.5;
  };
  // One of the three directions that hold most light and dark.
  std::array<std::pair<double, double>, 16> spreads;
  for (int k = 0; k < 16; ++k) {
    double sum = 0, squares = 0, n = 0;
    for (double y = 0; y < height_; y += height_ / 20.0)
      for (double x = 0; x < width_; x += width_ / 30.0, ++n) {
        double u, v;
        direction(x, y, k * std::numbers::pi / 8, u, v);
        const float log = logs.at(((int(u) % logs.width()) + logs.width()) % logs.width(),
                                  std::clamp(int(v), 0, logs.height() - 1))[1];
        sum += log, squares += double(log) * log;
      }
    spreads[std::size_t(k)] = {squares / n - sum * sum / (n * n), k * std::numbers::pi / 8};
  }
  std::sort(spreads.rbegin(), spreads.rend());
  const double yaw = spreads[std::size_t(random.whole(0, 2))].second;
  const double rough = random.uniform(0.15, 0.5), grain = random.uniform(0.05, 0.25), period = random.uniform(12, 40);
  forEachBand(canvas_.height(), [&](const Band& band) {
    for (int cy = band.begin; cy < band.end; ++cy)
      for (int cx = 0; cx < canvas_.width(); ++cx) {
        const double x = (cx - (kFiner - 1) / 2.0) / kFiner - kMargin, y = (cy - (kFiner - 1) / 2.0) / kFiner - kMargin;
        double u, v, wu[4], wv[4], sum[3] = {};
        direction(x, y, yaw, u, v);
        const int iu = int(std::floor(u)), iv = int(std::floor(v));
        cubic(u - iu, wu);
        cubic(v - iv, wv);
        for (int j = 0; j < 4; ++j)
          for (int i = 0; i < 4; ++i) {
            const float* p = logs.at(((iu + i - 1) % logs.width() + logs.width()) % logs.width(),
                                     std::clamp(iv + j - 1, 0, logs.height() - 1));
            for (int c = 0; c < 3; ++c) sum[c] += wu[i] * wv[j] * p[c];
          }
        const double texture = rough * (0.6 * noise(x / period, y / period, seed) +
                                        0.4 * noise(x / period * 3.1, y / period * 3.1, seed + 1)) +
                               grain * noise(x / 2.7, y / 2.7, seed + 2);
        for (int c = 0; c < 3; ++c) canvas_.at(cx, cy)[c] = std::exp2(float(sum[c] + texture));
      }
  });
}

/// Bars, boards, books, pictures: turned rectangles and discs that reflect more or less than what is behind them.
void Scene::drawThings(unsigned seed) {
  Random random(seed, 12);
  const int count = random.whole(40, 90);
  for (int k = 0; k < count; ++k) {
    const bool disc = random.chance(0.2), bar = random.chance(0.4);
    const double cx = random.uniform(0, canvas_.width()), cy = random.uniform(0, canvas_.height());
    const double long_ = random.logUniform(8, 160) * kFiner,
                 wide = bar ? random.uniform(1.5, 6) * kFiner : long_ * random.uniform(0.3, 1);
    const double turn = random.chance(0.8)
                            ? random.uniform(-0.04, 0.04) + (random.chance(0.5) ? std::numbers::pi / 2 : 0)
                            : random.uniform(0, std::numbers::pi);
    const double ca = std::cos(turn), sa = std::sin(turn),
                 stops = (random.chance(0.6) ? -1 : 1) * random.uniform(0.3, 2);
    float factor[3];
    for (float& f : factor) f = float(std::exp2(stops + random.uniform(-0.4, 0.4)));
    const int reach = int(std::max(long_, wide)) + 2;
    for (int y = std::max(0, int(cy) - reach); y < std::min(canvas_.height(), int(cy) + reach); ++y)
      for (int x = std::max(0, int(cx) - reach); x < std::min(canvas_.width(), int(cx) + reach); ++x) {
        const double u = ca * (x - cx) + sa * (y - cy), v = -sa * (x - cx) + ca * (y - cy);
        const double inside =
            disc ? long_ / 2 - std::hypot(u, v) : std::min(long_ / 2 - std::abs(u), wide / 2 - std::abs(v));
        const auto covered = float(std::clamp(inside + 0.5, 0.0, 1.0));
        if (covered > 0)
          for (int c = 0; c < 3; ++c) canvas_.at(x, y)[c] *= 1 + covered * (factor[c] - 1);
      }
  }
}

void Scene::blur(double sigma) {
  const int reach = int(std::ceil(3 * sigma));
  std::vector<float> kernel;
  for (int k = -reach; k <= reach; ++k) kernel.push_back(float(std::exp(-k * k / (2 * sigma * sigma))));
  float sum = 0;
  for (const float k : kernel) sum += k;
  for (float& k : kernel) k /= sum;
  Image<float> across(canvas_.width(), canvas_.height(), 3);
  const auto pass = [&](const Image<float>& in, Image<float>& out, int dx, int dy) {
    forEachBand(in.height(), [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < in.width(); ++x) {
          float total[3] = {};
          for (int k = -reach; k <= reach; ++k) {
            const float* p =
                in.at(std::clamp(x + k * dx, 0, in.width() - 1), std::clamp(y + k * dy, 0, in.height() - 1));
            for (int c = 0; c < 3; ++c) total[c] += kernel[std::size_t(k + reach)] * p[c];
          }
          for (int c = 0; c < 3; ++c) out.at(x, y)[c] = total[c];
        }
    });
  };
  pass(canvas_, across, 1, 0);
  pass(across, canvas_, 0, 1);
}

/// Catmull and Rom's cubic between canvas pixels: the canvas is twice as fine as a pixel and blurred, so nothing is
/// lost.
void Scene::lightAt(double x, double y, float rgb[3]) const {
  const double u = (x + kMargin) * kFiner + (kFiner - 1) / 2.0, v = (y + kMargin) * kFiner + (kFiner - 1) / 2.0;
  const int iu = int(std::floor(u)), iv = int(std::floor(v));
  const auto weights = [](double f, double w[4]) {
    w[0] = 0.5 * (-f + 2 * f * f - f * f * f), w[1] = 0.5 * (2 - 5 * f * f + 3 * f * f * f),
    w[2] = 0.5 * (f + 4 * f * f - 3 * f * f * f), w[3] = 0.5 * (f * f * f - f * f);
  };
  double wu[4], wv[4], sum[3] = {};
  float least[3] = {1e30f, 1e30f, 1e30f};
  weights(u - iu, wu);
  weights(v - iv, wv);
  for (int j = 0; j < 4; ++j)
    for (int i = 0; i < 4; ++i) {
      const float* p =
          canvas_.at(std::clamp(iu + i - 1, 0, canvas_.width() - 1), std::clamp(iv + j - 1, 0, canvas_.height() - 1));
      for (int c = 0; c < 3; ++c) sum[c] += wu[i] * wv[j] * p[c], least[c] = std::min(least[c], p[c]);
    }
  for (int c = 0; c < 3; ++c) rgb[c] = std::max(float(sum[c]), 0.5f * least[c]);
}

Image<float> Scene::seen(const Pose& pose, const std::vector<Mover>& movers) const {
  Image<float> out(width_, height_, 3);
  const double a = pose.degrees * std::numbers::pi / 180, ca = std::cos(a), sa = std::sin(a), cx = (width_ - 1) / 2.0,
               cy = (height_ - 1) / 2.0;
  forEachBand(height_, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width_; ++x) {
        const double wx = cx + ca * (x - cx) - sa * (y - cy) + pose.dx,
                     wy = cy + sa * (x - cx) + ca * (y - cy) + pose.dy;
        float* rgb = out.at(x, y);
        lightAt(wx, wy, rgb);
        for (const Mover& m : movers) {
          const double u = (wx - m.x) / m.height, v = (wy - m.y) / m.height;
          if (v < -0.05 || v > 1.05 || std::abs(u) > 0.6) continue;
          bool skin = false;
          const double covered =
              m.kind == Mover::Kind::Walker ? personAt(u, v, m.height, skin) : leavesAt(u, v, m.height, m.seed);
          if (covered <= 0) continue;
          const double cloth = m.brightness * std::exp2(0.3 * noise(u * 40, v * 40, m.seed)) * median_;
          const bool leaves = m.kind == Mover::Kind::Leaves;
          const double light[3] = {skin     ? 1.6 * m.brightness * median_
                                   : leaves ? 0.5 * cloth
                                            : 0.8 * cloth,
                                   skin ? 1.1 * m.brightness * median_ : cloth,
                                   skin     ? 0.8 * m.brightness * median_
                                   : leaves ? 0.35 * cloth
                                            : 1.3 * cloth};
          for (int c = 0; c < 3; ++c) rgb[c] = float(rgb[c] + covered * (light[c] - rgb[c]));
        }
      }
  });
  return out;
}

} // namespace ml::zoo
