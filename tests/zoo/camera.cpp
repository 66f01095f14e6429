// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/camera.h"

#include "base/parallel.h"

#include <algorithm>

namespace ml::zoo {
namespace {

Matrix times(const Matrix& a, const Matrix& b) {
  Matrix out{};
  for (int r = 0; r < 3; ++r)
    for (int c = 0; c < 3; ++c)
      for (int k = 0; k < 3; ++k) out[std::size_t(3 * r + c)] += a[std::size_t(3 * r + k)] * b[std::size_t(3 * k + c)];
  return out;
}

Matrix inverted(const Matrix& m) {
  const double d =
      m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) + m[2] * (m[3] * m[7] - m[4] * m[6]);
  return {(m[4] * m[8] - m[5] * m[7]) / d, (m[2] * m[7] - m[1] * m[8]) / d, (m[1] * m[5] - m[2] * m[4]) / d,
          (m[5] * m[6] - m[3] * m[8]) / d, (m[0] * m[8] - m[2] * m[6]) / d, (m[2] * m[3] - m[0] * m[5]) / d,
          (m[3] * m[7] - m[4] * m[6]) / d, (m[1] * m[6] - m[0] * m[7]) / d, (m[0] * m[4] - m[1] * m[3]) / d};
}

void apply(const Matrix& m, const float* in, double out[3]) {
  for (int r = 0; r < 3; ++r)
    out[r] = m[std::size_t(3 * r)] * in[0] + m[std::size_t(3 * r + 1)] * in[1] + m[std::size_t(3 * r + 2)] * in[2];
}

double drawn(Random& random, const Ranges::Range& range) {
  return random.uniform(range.low, range.high);
}

/// A chance that depends on the place only: what is fixed in a sensor.
Random fixedAt(const Camera& camera, int x, int y) {
  return Random(camera.seed * 1000003 + std::uint64_t(y) * 65537 + std::uint64_t(x), 77);
}

} // namespace

const char* const kCurveNames[kCurveFamilies] = {"sRGB with a shoulder",
                                                 "film, toe and shoulder",
                                                 "film, long shoulder",
                                                 "flat, logarithmic",
                                                 "flat, gamma",
                                                 "vivid",
                                                 "gamma 1.8",
                                                 "contrast about grey",
                                                 "toe alone",
                                                 "broadcast knee"};

double Curve::operator()(double x) const {
  x = std::clamp(x, 0.0, 1.0);
  const auto srgb = [](double l) { return l <= 0.0031308 ? 12.92 * l : 1.055 * std::pow(l, 1 / 2.4) - 0.055; };
  switch (family) {
  case 0: return srgb((1 - std::exp(-a * x)) / (1 - std::exp(-a)));
  case 1: { // a rational film curve, free in toe and shoulder
    const auto film = [&](double l) {
      return l * (l * (0.15 * a + 0.3) + 0.05) / (l * (0.15 * a + 0.3 + 0.3 * b) + 0.06 + 0.25 * l);
    };
    return std::pow(film(4 * x) / film(4), 1 / 2.2);
  }
  case 2: return std::pow((1 + a) * x / (a * x + 1), 1 / 2.1);
  case 3: return std::log2(1 + std::exp2(5 + 2 * a) * x) / std::log2(1 + std::exp2(5 + 2 * a));
  case 4: return std::pow(x, 1 / (2.4 + a));
  case 5: {
    const double v = std::pow((1 - std::exp(-1.5 * a * x)) / (1 - std::exp(-1.5 * a)), 1 / 2.2);
    return (1 - 0.4 * b) * v + 0.4 * b * v * v * (3 - 2 * v);
  }
  case 6: return std::pow(x, 1 / (1.8 + 0.1 * a));
  case 7: {
    const double v = std::pow(x, 1 / 2.2), g = 0.46, k = 1 + 0.5 * a; // a sigmoid about grey
    const auto s = [&](double t) { return 1 / (1 + std::exp(-4 * k * (t - g))); };
    return (s(v) - s(0)) / (s(1) - s(0));
  }
  case 8: return std::pow(x * (x + 0.004 * a) / (x + 0.012 * a) * (1 + 0.012 * a) / (1 + 0.004 * a), 1 / 2.2);
  default: { // BT.709 to a knee, then a slow rise
    const auto base = [](double l) { return l < 0.018 ? 4.5 * l : 1.099 * std::pow(l, 0.45) - 0.099; };
    const double gain = 1.5 + 0.5 * a, y = base(std::min(1.0, x * gain)), knee = 0.8;
    const double over = x * gain > 1 ? (x * gain - 1) / (gain - 1) : 0;
    const double low = y * knee / 1.0;
    return low + (1 - knee) * (1 - std::exp(-2.0 * over)) / (1 - std::exp(-2.0));
  }
  }
}

double Curve::inverse(double v) const {
  double low = 0, high = 1;
  for (int k = 0; k < 60; ++k) ((*this)((low + high) / 2) < v ? low : high) = (low + high) / 2;
  return (low + high) / 2;
}

Camera::Camera(std::uint64_t seed_, FileType type_) : seed(seed_), type(type_) {
  Random random(seed, 3);
  name = "Zoo " + std::to_string(seed) + (type == FileType::Dng ? " raw" : type == FileType::Jpeg ? " JPEG" : " HEIF");
  blur = drawn(random, Ranges::blur);
  const int isos[] = {100, 100, 100, 200, 400};
  iso = isos[random.whole(0, 4)];
  fullWell = random.logUniform(Ranges::fullWell.low, Ranges::fullWell.high) * 100 / iso;
  readNoise = random.logUniform(Ranges::readNoise.low, Ranges::readNoise.high) / std::sqrt(iso / 100.0);
  rowNoise = drawn(random, Ranges::rowNoise);
  columnNoise = drawn(random, Ranges::columnNoise);
  uneven = drawn(random, Ranges::uneven);
  fallOff = drawn(random, Ranges::fallOff);
  glare = random.logUniform(Ranges::glare.low, Ranges::glare.high);
  // Each sensor channel sees mostly its own colour and some of its neighbours'.
  const double mix = random.uniform(0.08, 0.3);
  fromRec709 = {1 - mix, mix * random.uniform(0.6, 0.95), 0,      mix * random.uniform(0.3, 0.7), 1 - mix, 0,
                0,       mix * random.uniform(0.5, 0.9),  1 - mix};
  for (int r = 0; r < 3; ++r) {
    double sum = 0;
    const auto at = [&](int c) -> double& { return fromRec709[std::size_t(3 * r + c)]; };
    for (int c = 0; c < 3; ++c) sum += at(c);
    at(r == 0 ? 2 : r == 1 ? 2 : 0) += 1 - sum; // white stays white
  }
  neutral = {random.uniform(0.4, 0.75), 1, random.uniform(0.45, 0.85)};
  bits = random.chance(0.3) ? 12 : 14;
  pattern = random.whole(0, 3);
  compressed = seed % 2 == 1;
  components = 1 + int(seed / 2 % 2), predictor = seed % 3 == 0 ? 6 : 1;
  bigEndian = seed % 5 < 2;
  const double codes = (1 << bits) - 1, scale = codes / 16383;
  const double blackLevel = drawn(random, Ranges::black) * scale,
               spread = random.chance(0.5) ? 0 : drawn(random, Ranges::blackSpread) * scale;
  for (int& b : black) b = int(blackLevel + random.uniform(-spread, spread));
  white = int(codes * drawn(random, Ranges::white));
  hot = drawn(random, Ranges::hot);
  dead = drawn(random, Ranges::dead);
  stuck = drawn(random, Ranges::stuck);
  curve = {random.whole(0, kCurveFamilies - 1), random.uniform(0.5, 2.5), random.uniform(0.3, 1)};
  saturation = drawn(random, Ranges::saturation);
  sharpening = random.chance(0.3) ? 0 : drawn(random, Ranges::sharpening);
  sharpenRadius = drawn(random, Ranges::sharpenRadius);
  smear = random.chance(0.5) ? 0 : drawn(random, Ranges::smear);
  quality = int(drawn(random, Ranges::quality));
  halfColour = random.chance(0.6);
}

Matrix Camera::toRendered() const {
  constexpr double kLuma[3] = {0.2126, 0.7152, 0.0722};
  Matrix more{};
  for (int r = 0; r < 3; ++r)
    for (int c = 0; c < 3; ++c) more[std::size_t(3 * r + c)] = (r == c ? saturation : 0) + (1 - saturation) * kLuma[c];
  return times(more, inverted(fromRec709));
}

Image<float> throughLens(const Camera& camera, const Image<float>& scene) {
  const int w = scene.width(), h = scene.height();
  double mean[3] = {};
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x)
      for (int c = 0; c < 3; ++c) mean[c] += scene.at(x, y)[c] / (double(w) * h);
  Image<float> out(w, h, 3);
  const double half = std::hypot(w, h) / 2;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const double r = std::hypot(x - w / 2.0, y - h / 2.0) / half, loss = std::exp2(-camera.fallOff * r * r);
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(loss * scene.at(x, y)[c] + camera.glare * mean[c]);
    }
  return out;
}

namespace {

constexpr int kColourAt[4][4] = {
    {0, 1, 1, 2}, {1, 0, 2, 1}, {1, 2, 0, 1}, {2, 1, 1, 0}}; ///< By pattern, then 2 (y % 2) + x % 2.

struct Defect {
  double gain = 1, offset = 0; ///< Of saturation; offset for a time of one second or more.
  bool stuck = false;
};

Defect defectAt(const Camera& camera, int x, int y) {
  Random random = fixedAt(camera, x, y);
  Defect d;
  d.gain = 1 + camera.uneven * random.normal();
  const double which = random.uniform() * 1e6;
  if (which < camera.hot)
    d.offset = random.logUniform(0.02, 1.5);
  else if (which < camera.hot + camera.dead)
    d.gain = random.uniform(0, 0.3);
  else if (which < camera.hot + camera.dead + camera.stuck)
    d.stuck = true, d.offset = random.uniform(0.05, 1.1);
  return d;
}

} // namespace

Image<std::uint16_t> exposeRaw(const Camera& camera, const Image<float>& light, double exposure, double seconds,
                               std::uint64_t frame) {
  Image<std::uint16_t> out(light.width(), light.height(), 1);
  const int most = (1 << camera.bits) - 1;
  const double longest = std::max({camera.neutral[0], camera.neutral[1], camera.neutral[2]});
  forEachBand(light.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      Random random(camera.seed * 7919 + frame * 104729 + std::uint64_t(y), 5);
      const double row = camera.rowNoise * random.normal();
      for (int x = 0; x < light.width(); ++x) {
        const int place = 2 * (y % 2) + x % 2, c = kColourAt[camera.pattern][place];
        double rgb[3];
        apply(camera.fromRec709, light.at(x, y), rgb);
        const Defect defect = defectAt(camera, x, y);
        const double share = std::max(0.0, rgb[c]) * camera.neutral[std::size_t(c)] / longest * exposure * defect.gain +
                             defect.offset * (defect.stuck ? 0 : std::min(1.0, seconds * 4));
        const double column = camera.columnNoise * Random(camera.seed * 31 + std::uint64_t(x), 9).normal();
        double electrons = random.poisson(share * camera.fullWell) + camera.readNoise * random.normal() + row + column;
        if (defect.stuck) electrons = defect.offset * camera.fullWell;
        const double black = camera.black[std::size_t(place)];
        const double code = black + electrons / camera.fullWell * (camera.white - black);
        out.row(y)[x] = std::uint16_t(std::clamp(std::lround(code), 0l, long(std::min(most, camera.white))));
      }
    }
  });
  return out;
}

namespace {

/// Noise reduction: a mean over 3 x 3 of what is alike, stronger where the picture is dark.
void smearNoise(Image<float>& linear, double strength, double sigma) {
  const Image<float> in = linear.clone();
  forEachBand(in.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < in.width(); ++x)
        for (int c = 0; c < 3; ++c) {
          const double v = in.at(x, y)[c],
                       reach = strength * (4 * sigma + 0.03 * std::sqrt(std::max(0.0, v)) * 0.5) + 1e-6;
          double sum = 0, weights = 0;
          for (int j = -1; j <= 1; ++j)
            for (int i = -1; i <= 1; ++i) {
              const double n = in.at(std::clamp(x + i, 0, in.width() - 1), std::clamp(y + j, 0, in.height() - 1))[c],
                           d = (n - v) / reach, w = std::exp(-d * d / 2);
              sum += w * n, weights += w;
            }
          linear.at(x, y)[c] = float(v + std::min(1.0, strength) * (sum / weights - v));
        }
  });
}

/// Unsharp mask on display values: overshoots at edges as cameras' do.
void sharpen(Image<float>& display, double amount, double radius) {
  const Image<float> in = display.clone();
  double kernel[5], total = 0;
  for (int k = -2; k <= 2; ++k) total += kernel[k + 2] = std::exp(-k * k / (2 * radius * radius));
  forEachBand(in.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < in.width(); ++x) {
        double own = 0, blurred = 0;
        for (int j = -2; j <= 2; ++j)
          for (int i = -2; i <= 2; ++i) {
            const float* p = in.at(std::clamp(x + i, 0, in.width() - 1), std::clamp(y + j, 0, in.height() - 1));
            blurred += kernel[i + 2] * kernel[j + 2] / (total * total) * (0.3 * p[0] + 0.6 * p[1] + 0.1 * p[2]);
          }
        const float* p = in.at(x, y);
        own = 0.3 * p[0] + 0.6 * p[1] + 0.1 * p[2];
        for (int c = 0; c < 3; ++c) display.at(x, y)[c] = float(std::clamp(p[c] + amount * (own - blurred), 0.0, 1.0));
      }
  });
}

} // namespace

Image<std::uint8_t> exposeRendered(const Camera& camera, const Image<float>& light, double exposure,
                                   std::array<double, 3> balance, std::uint64_t frame) {
  Image<float> linear(light.width(), light.height(), 3);
  const double longest = std::max({camera.neutral[0], camera.neutral[1], camera.neutral[2]});
  forEachBand(light.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      Random random(camera.seed * 7919 + frame * 104729 + std::uint64_t(y), 6);
      for (int x = 0; x < light.width(); ++x) {
        double rgb[3];
        apply(camera.fromRec709, light.at(x, y), rgb);
        for (int c = 0; c < 3; ++c) {
          const double share = camera.neutral[std::size_t(c)] / longest,
                       electrons = random.poisson(std::max(0.0, rgb[c]) * share * exposure * camera.fullWell) +
                                   camera.readNoise * random.normal();
          // The sensor's channel clips before any matrix; balanced, all at the same value.
          linear.at(x, y)[c] =
              float(std::clamp(electrons / (camera.fullWell * share) * balance[std::size_t(c)], 0.0, 1.0));
        }
      }
    }
  });
  if (camera.smear > 0) smearNoise(linear, camera.smear, camera.readNoise / camera.fullWell);
  const Matrix matrix = camera.toRendered();
  std::vector<float> table(4097);
  for (int i = 0; i <= 4096; ++i)
    table[std::size_t(i)] =
        float(camera.curve(double(i) / 4096 * double(i) / 4096)); // evenly in the root: fine in the dark
  forEachBand(light.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < light.width(); ++x) {
        double rgb[3];
        apply(matrix, linear.at(x, y), rgb);
        for (int c = 0; c < 3; ++c) {
          const double at = std::sqrt(std::clamp(rgb[c], 0.0, 1.0)) * 4096;
          const int i = std::min(4095, int(at));
          linear.at(x, y)[c] =
              table[std::size_t(i)] + float(at - i) * (table[std::size_t(i) + 1] - table[std::size_t(i)]);
        }
      }
  });
  if (camera.sharpening > 0) sharpen(linear, camera.sharpening, camera.sharpenRadius);
  Image<std::uint8_t> out(light.width(), light.height(), 3);
  for (std::size_t i = 0; i < out.size(); ++i)
    out.data()[i] = std::uint8_t(std::lround(std::clamp(255 * linear.data()[i], 0.f, 255.f)));
  return out;
}

Image<float> renderedTruth(const Camera& camera, const Image<float>& light) {
  Image<float> out(light.width(), light.height(), 3);
  const Matrix matrix = times(camera.toRendered(), camera.fromRec709);
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x) {
      double rgb[3];
      apply(matrix, light.at(x, y), rgb);
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(rgb[c]);
    }
  return out;
}

} // namespace ml::zoo
