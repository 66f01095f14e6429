// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/radiance_sets.h"

#include "base/parallel.h"
#include "codec/exif.h"
#include "codec/exr.h"
#include "codec/icc.h"
#include "codec/jpeg.h"
#include "codec/tiff_file.h"
#include "image/metrics.h"

#include <QtGlobal>

#include <cmath>
#include <map>
#include <numbers>
#include <random>

namespace ml::test {
namespace {

constexpr double kFullWell = 30000, kReadNoise = 4;

double curved(int curve, int channel, double linear) {
  const double x = std::clamp(linear, 0.0, 1.0), v = std::pow(x, 1 / 2.2);
  switch (curve) {
  case 0: { // contrast added to a gamma, a little different in each channel
    const double k = 0.45 + 0.04 * (channel - 1);
    return (1 - k) * v + k * v * v * (3 - 2 * v);
  }
  case 1: return std::log2(1 + 60 * x) / std::log2(61.0);                            // a flat, logarithmic one
  case 2: return std::pow((1 - std::exp(-2.2 * x)) / (1 - std::exp(-2.2)), 1 / 1.9); // a film-like shoulder
  case 3: return std::pow(x, 1 / 4.4);                                               // a very flat one
  default: return x;
  }
}

/// Sine to seven digits, from a table: a set draws a hundred million of them.
double wave(double x) {
  constexpr int kSteps = 8192;
  static const std::vector<double> table = [] {
    std::vector<double> values(kSteps + 1);
    for (int k = 0; k <= kSteps; ++k) values[std::size_t(k)] = std::sin(2 * std::numbers::pi * k / kSteps);
    return values;
  }();
  const double t = x * (kSteps / (2 * std::numbers::pi)), whole = std::floor(t), f = t - whole;
  const std::size_t k = std::size_t(std::int64_t(whole) & (kSteps - 1));
  return table[k] + f * (table[k + 1] - table[k]);
}

/// Smooth noise, -1..1, of a period in pixels, repeatable.
double texture(double x, double y) {
  return 0.5 * wave(x * 0.83 + 0.9 * wave(y * 0.071)) * wave(y * 0.77 + 0.7 * wave(x * 0.093)) +
         0.3 * wave(x * 0.31 + y * 0.17 + 1.3 * wave(x * 0.023)) + 0.3 * wave(y * 0.26 - x * 0.11 + wave(y * 0.037)) +
         0.4 * wave(x * 0.061 + 2 * wave(y * 0.013)) * wave(y * 0.057);
}

struct Figure {
  double x, y, height;
  /// Does the figure cover (px, py)? 0..1, soft over a pixel; `head` tells which part.
  [[nodiscard]] double covers(double px, double py, bool& head) const {
    const double u = (px - x) / height, v = (py - y) / height; // v: 0 head's top .. 1 feet
    const double headDistance = 0.075 - std::hypot(u, v - 0.075);
    const double body = v > 0.14 && v < 0.62 ? 0.115 - 0.02 * std::cos(9 * v) - std::abs(u) : -1;
    const double legs = v >= 0.6 && v < 1 ? 0.042 - std::abs(std::abs(u) - 0.05 - 0.02 * v) : -1;
    head = headDistance > std::max(body, legs);
    return std::clamp(std::max({headDistance, body, legs}) * height + 0.5, 0.0, 1.0);
  }
};

/// The panoramas were reduced with a filter that rings: beside lamps they hold light of nothing and less. No room does:
/// what lies far below its surroundings is raised to a tenth of their median.
Image<float> withoutHoles(const Image<float>& in) {
  Image<float> out(in.width(), in.height(), 3);
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x)
      for (int c = 0; c < 3; ++c) {
        std::array<float, 25> around;
        for (int k = 0; k < 25; ++k)
          around[std::size_t(k)] =
              in.at((x + k % 5 - 2 + in.width()) % in.width(), std::clamp(y + k / 5 - 2, 0, in.height() - 1))[c];
        std::nth_element(around.begin(), around.begin() + 12, around.end());
        out.at(x, y)[c] = std::max({in.at(x, y)[c], 0.1f * around[12], 1e-4f});
      }
  return out;
}

} // namespace

RadianceView::RadianceView(const std::string& name, int width, int height) : width_(width), height_(height) {
  auto read = readExr(std::filesystem::path(ML_SOURCE_DIR) / "tests/data/radiance" / (name + ".exr"));
  if (!read) qFatal("%s", read.error().message.c_str());
  panorama_ = withoutHoles(read->pixels);
  for (std::size_t i = 0; i < panorama_.size(); ++i) panorama_.data()[i] = std::log2(panorama_.data()[i]);
  // Look where the picture has both light and dark: the yaw with the largest spread of logarithms.
  double widest = 0;
  for (int k = 0; k < 12; ++k) {
    yaw_ = k * std::numbers::pi / 6;
    double sum = 0, squares = 0;
    for (int i = 0; i < 40; ++i)
      for (int j = 0; j < 26; ++j) {
        float rgb[3];
        lightAt((i + 0.5) * width / 40, (j + 0.5) * height / 26, rgb);
        const double log = std::log2(std::max(1e-5f, rgb[1]));
        sum += log, squares += log * log;
      }
    const double n = 40 * 26, spread = squares / n - sum * sum / (n * n);
    if (spread > widest) widest = spread, median_ = yaw_;
  }
  yaw_ = median_;
  std::vector<float> greens;
  for (int i = 0; i < 60; ++i)
    for (int j = 0; j < 40; ++j) {
      float rgb[3];
      lightAt((i + 0.5) * width / 60, (j + 0.5) * height / 40, rgb);
      greens.push_back(rgb[1]);
    }
  median_ = quantile(greens.data(), greens.size(), 0.5);
}

void RadianceView::lightAt(double x, double y, float rgb[3]) const {
  const double focal = width_ / (2 * std::tan(std::numbers::pi / 6));
  const double dx = (x - width_ / 2.0) / focal, dy = (y - height_ / 2.0) / focal;
  const double longitude = yaw_ + std::atan2(dx, 1.0), latitude = std::atan2(-dy, std::hypot(dx, 1.0));
  const double u = (longitude / (2 * std::numbers::pi) + 0.5) * panorama_.width() - 0.5,
               v = (0.5 - latitude / std::numbers::pi) * panorama_.height() - 0.5;
  const int iu = int(std::floor(u)), iv = int(std::floor(v));
  // Cubic B-spline of the logarithm: smooth, positive, without rings around lamps.
  const auto weights = [](double f, double w[4]) {
    const double g = 1 - f;
    w[0] = g * g * g / 6, w[1] = (3 * f * f * f - 6 * f * f + 4) / 6, w[2] = (3 * g * g * g - 6 * g * g + 4) / 6,
    w[3] = f * f * f / 6;
  };
  double wu[4], wv[4], sum[3] = {};
  weights(u - iu, wu);
  weights(v - iv, wv);
  for (int j = 0; j < 4; ++j)
    for (int i = 0; i < 4; ++i) {
      const int px = ((iu + i - 1) % panorama_.width() + panorama_.width()) % panorama_.width(),
                py = std::clamp(iv + j - 1, 0, panorama_.height() - 1);
      for (int c = 0; c < 3; ++c) sum[c] += wu[i] * wv[j] * panorama_.at(px, py)[c];
    }
  const double fine = 0.30 * texture(x, y);
  for (int c = 0; c < 3; ++c) rgb[c] = std::exp2(float(sum[c] + fine));
}

const Image<float>& RadianceView::still(double dx, double dy, double degrees) const {
  constexpr std::size_t kKept = 12;
  const std::array<double, 3> pose{dx, dy, degrees};
  if (const auto known = drawn_.find(pose); known != drawn_.end()) return known->second;
  if (drawn_.size() >= kKept) drawn_.clear();
  Image<float> out(width_, height_, 3);
  const double a = degrees * std::numbers::pi / 180, ca = std::cos(a), sa = std::sin(a), cx = (width_ - 1) / 2.0,
               cy = (height_ - 1) / 2.0;
  forEachBand(height_, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width_; ++x)
        lightAt(cx + ca * (x - cx) - sa * (y - cy) + dx, cy + sa * (x - cx) + ca * (y - cy) + dy, out.at(x, y));
  });
  return drawn_[pose] = std::move(out);
}

Image<float> RadianceView::seen(double dx, double dy, double degrees, double walkerX) const {
  Image<float> out = still(dx, dy, degrees).clone();
  if (walkerX < 0) return out;
  const double a = degrees * std::numbers::pi / 180, ca = std::cos(a), sa = std::sin(a), cx = (width_ - 1) / 2.0,
               cy = (height_ - 1) / 2.0;
  const Figure figure{walkerX * width_, 0.38 * height_, 0.55 * height_};
  forEachBand(height_, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width_; ++x) {
        const double wx = cx + ca * (x - cx) - sa * (y - cy) + dx, wy = cy + sa * (x - cx) + ca * (y - cy) + dy;
        bool head;
        const double covered = figure.covers(wx, wy, head);
        if (covered <= 0) continue;
        float* rgb = out.at(x, y);
        const double cloth =
            0.25 * std::exp2(0.25 * texture(wx - figure.x + 500, wy)) * median_; // the cloth's texture walks along
        const double person[3] = {head ? 1.5 * median_ : 0.8 * cloth, head ? median_ : cloth,
                                  head ? 0.8 * median_ : 1.5 * cloth};
        for (int c = 0; c < 3; ++c) rgb[c] = float(rgb[c] + covered * (person[c] - rgb[c]));
      }
  });
  return out;
}

MadeSet makeSet(const RadianceView& view, const SetOptions& options, const std::filesystem::path& folder) {
  std::mt19937 random(options.seed);
  std::uniform_real_distribution<double> uniform(-1, 1);
  MadeSet set;
  set.reference = options.frames / 2;
  set.sensor = {1 / kFullWell, kReadNoise * kReadNoise / (kFullWell * kFullWell)};
  std::vector<std::array<double, 4>> poses;
  for (int i = 0; i < options.frames; ++i) {
    const bool still = !options.handHeld;
    poses.push_back({still ? 0 : 10 * uniform(random), still ? 0 : 10 * uniform(random),
                     still ? 0 : 0.5 * uniform(random),
                     options.walker ? 0.2 + 0.6 * i / std::max(1, options.frames - 1) : -1.0});
  }
  const auto& at = poses[std::size_t(set.reference)];
  // A pose that is seen again need not be drawn again: most of the time of a set goes into drawing.
  std::map<std::array<double, 4>, Image<float>> drawn;
  const auto seen = [&](const std::array<double, 4>& pose) -> const Image<float>& {
    const auto [place, isNew] = drawn.try_emplace(pose);
    if (isNew) place->second = view.seen(pose[0], pose[1], pose[2], pose[3]);
    return place->second;
  };
  for (int i = 0; i < options.frames; ++i) {
    const auto& pose = poses[std::size_t(i)];
    const Image<float>& light = seen(pose);
    const double exposure = 0.10 / view.median() * std::exp2(options.stopsApart * (i - set.reference));
    Image<std::uint8_t> codes(light.width(), light.height(), 3);
    Image<std::uint16_t> deep(light.width(), light.height(), 3);
    std::vector<std::uint32_t> seeds(std::size_t(light.height()));
    for (auto& seed : seeds) seed = random();
    forEachBand(light.height(), [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y) {
        std::mt19937 grain(seeds[std::size_t(y)]);
        std::normal_distribution<double> normal;
        for (int x = 0; x < light.width(); ++x)
          for (int c = 0; c < 3; ++c) {
            const double linear = light.at(x, y)[c] * exposure,
                         noisy = linear + normal(grain) * std::sqrt(set.sensor.variance(linear));
            if (options.curve < 0)
              deep.at(x, y)[c] = std::uint16_t(std::lround(std::clamp(noisy * 60000 + 512, 0.0, 60512.0)));
            else
              codes.at(x, y)[c] = std::uint8_t(std::lround(255 * curved(options.curve, c, noisy)));
          }
      }
    });
    const auto file = folder / ("set-" + std::to_string(i + 1) + (options.curve < 0 ? ".tif" : ".jpg"));
    auto written = options.curve < 0 ? writeTiff16(file, deep.view(), linearRec709Profile())
                                     : writeJpeg(file, codes.view(), {95, options.fullColour, {}, false});
    if (!written) qFatal("%s", written.error().message.c_str());
    ShotMetadata metadata;
    metadata.time = Seconds{std::exp2(options.stopsApart * (i - set.reference) - 4)};
    metadata.aperture = FNumber{8};
    metadata.iso = Iso{100};
    metadata.camera = options.camera;
    metadata.takenAt = "2026:05:04 10:00:0" + std::to_string(i % 10);
    if (auto done = writeExif(file, metadata); !done) qFatal("%s", done.error().message.c_str());
    set.files.push_back(file);
  }
  set.truth = seen(at).clone();
  set.walked = Image<std::uint8_t>(set.truth.width(), set.truth.height(), 1);
  set.walked.fill(0);
  if (options.walker)
    for (const auto& pose : poses) {
      const Image<float>&with = seen({at[0], at[1], at[2], pose[3]}), &without = seen({at[0], at[1], at[2], -1});
      for (int y = 0; y < with.height(); ++y)
        for (int x = 0; x < with.width(); ++x)
          if (with.at(x, y)[1] != without.at(x, y)[1]) *set.walked.at(x, y) = 1;
    }
  std::array<std::vector<float>, 3> tables;
  for (int c = 0; c < 3; ++c) {
    // Inverse of the curve by bisection; codes are whole numbers of 255ths.
    for (int code = 0; code < 256; ++code) {
      double low = 0, high = 1;
      for (int k = 0; k < 50; ++k)
        (curved(options.curve, c, (low + high) / 2) * 255 < code ? low : high) = (low + high) / 2;
      tables[std::size_t(c)].push_back(float((low + high) / 2));
    }
  }
  if (options.curve >= 0) {
    set.curve = CodeTable(std::move(tables));
    set.curve.clipFrom = set.curve.channel(1)[252];
  }
  return set;
}

} // namespace ml::test
