// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/shared_structure.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kBlock = 16;
constexpr int kLeastSamples = 60;       ///< Of a block, that all show.
constexpr double kAlike = 3;            ///< Samples of noise in one that is its own: neighbours share theirs.
constexpr double kSure = 4;             ///< Standard errors by which something must be shared.
constexpr float kDarkest = 0.0025f;     ///< Of saturation, the mean of a block.
constexpr double kLeastContrast = 3e-4; ///< Energy of second differences over the squared mean.
constexpr double kCodes = 1.0;          ///< Structure of a file, standard deviation.
constexpr double kBlocksVary = 0.25;    ///< Standard deviation of ln of a block's ratio when there is no noise.
constexpr double kNoiseUnsure = 0.5;    ///< Share of the measured noise that may be wrong.
constexpr double kLeastSlope = 0.03;
constexpr double kLeastEdge = 0.003; ///< Energy of second differences over the squared mean: edges of a tenth and more.
constexpr double kOverNoise = 12;    ///< Times the noise of both.
constexpr double kOverCodes = 4;
constexpr double kLeastEdgeLight = 0.012;
constexpr double kEdgesVary = 0.5; ///< As kBlocksVary; sharpening and curves bend edges by their tone.

/// What a block of `n` pictures shows: products of second differences, over the means.
template <std::size_t n> struct Products {
  std::array<std::array<double, n>, n> shared{};
  std::array<double, n>
      noise{}; ///< As the finest checkerboard shows it, which no lens draws (Immerkaer, CVIU 64, 1996).
  std::array<double, n> mean{};
  int samples = 0;
  /// Standard error of what two share, when they share nothing.
  [[nodiscard]] double error(std::size_t i, std::size_t j) const {
    return std::sqrt(kAlike * shared[i][i] * shared[j][j] / samples);
  }
};

/// False: the pictures show too little of this block in common. `step`: to the next pixel along the axis, `aside`:
/// across it.
template <std::size_t n>
bool productsOf(const std::array<const Image<float>*, n>& light, int x0, int y0, std::ptrdiff_t step,
                std::ptrdiff_t aside, Products<n>& p) {
  const std::ptrdiff_t width = light[0]->width();
  std::array<double, n> fine;
  for (int y = y0; y < y0 + kBlock; ++y)
    for (int x = x0; x < x0 + kBlock; ++x) {
      const std::ptrdiff_t at = y * width + x;
      bool shown = true;
      for (const auto* picture : light) {
        const float* v = picture->data() + at;
        for (std::ptrdiff_t i = -1; i <= 1 && shown; ++i)
          for (std::ptrdiff_t j = -1; j <= 1 && shown; ++j) shown = v[i * step + j * aside] != kNoLight;
      }
      if (!shown) continue;
      const auto second = [step](const float* v) { return double(v[-step]) - 2 * double(v[0]) + double(v[step]); };
      for (std::size_t i = 0; i < n; ++i) {
        const float* v = light[i]->data() + at;
        fine[i] = second(v);
        const double checker = second(v - aside) - 2 * fine[i] + second(v + aside);
        p.noise[i] += checker * checker;
        p.mean[i] += *v;
        for (std::size_t j = 0; j <= i; ++j) p.shared[i][j] += fine[i] * fine[j];
      }
      ++p.samples;
    }
  if (p.samples < kLeastSamples) return false;
  for (double& mean : p.mean) mean /= p.samples;
  for (const double mean : p.mean)
    if (mean < double(kDarkest)) return false;
  for (std::size_t i = 0; i < n; ++i) {
    // The checkerboard's weights squared add up to 36, those of a second difference to 6.
    p.noise[i] /= 6.0 * p.samples * p.mean[i] * p.mean[i];
    for (std::size_t j = 0; j <= i; ++j) p.shared[j][i] = p.shared[i][j] /= p.samples * p.mean[i] * p.mean[j];
  }
  return true;
}

template <std::size_t n>
std::vector<Products<n>> blocksOf(const std::array<const Image<float>*, n>& light, StructureAxis axis) {
  std::vector<Products<n>> out;
  const std::ptrdiff_t width = light[0]->width();
  for (int y = 1; y + kBlock < light[0]->height(); y += kBlock)
    for (int x = 1; x + kBlock < light[0]->width(); x += kBlock)
      if (Products<n> p;
          axis == StructureAxis::Across ? productsOf(light, x, y, 1, width, p) : productsOf(light, x, y, width, 1, p))
        out.push_back(p);
  return out;
}

std::size_t enoughOf(const Image<float>& light) {
  return std::size_t(std::clamp(light.width() * light.height() / (50 * kBlock * kBlock), 8, 16));
}

struct Said {
  double value, weight;
};

/// The value below which half of the weight lies.
double weightedMedian(std::vector<Said>& said) {
  std::sort(said.begin(), said.end(), [](const Said& p, const Said& q) { return p.value < q.value; });
  double all = 0, sum = 0;
  for (const Said& s : said) all += s.weight;
  for (const Said& s : said)
    if ((sum += s.weight) >= all / 2) return s.value;
  return 0;
}

double weightOf(const std::vector<Said>& said) {
  double all = 0;
  for (const Said& s : said) all += s.weight;
  return all;
}

/// Noise of blocks by tone, in half stops; doubled, because demosaicing takes noise out of the checkerboard.
class NoiseByTone {
public:
  void add(double mean, double noise) { found_[bin(mean)].push_back(2 * noise); }
  void settle() {
    double last = 0;
    for (std::size_t i = kBins; i-- > 0;) {
      if (auto& list = found_[i]; list.size() >= 8) {
        std::nth_element(list.begin(), list.begin() + std::ptrdiff_t(list.size() / 2), list.end());
        last = list[list.size() / 2];
      }
      values_[i] = last;
    }
  }
  [[nodiscard]] double at(double mean) const { return values_[bin(mean)]; }

private:
  static constexpr std::size_t kBins = 20;
  static std::size_t bin(double mean) {
    return std::size_t(std::clamp(int(2 * (std::log2(std::max(1e-4, mean)) + 9)), 0, int(kBins) - 1));
  }
  std::array<std::vector<double>, kBins> found_;
  std::array<double, kBins> values_{};
};

/// Slopes of blocks on one of two pictures, and by how much they may all be off because noise is measured wrongly.
struct Slopes {
  std::vector<Said> said;
  double bias = 0;
  void add(double both, double fine, double own, double noise) {
    if (fine < std::max(own, kLeastContrast)) return;
    const double weight = 1 / (kBlocksVary * kBlocksVary + kAlike * noise / (fine * kBlock * kBlock));
    said.push_back({both / fine, weight});
    bias += weight * kNoiseUnsure * own / fine;
  }
  /// ln of the slope; `weight` is one over its variance, zero where too few say it.
  [[nodiscard]] Said estimate(std::size_t enough) {
    if (said.size() < enough) return {0, 0};
    const double weight = weightOf(said), off = bias / weight;
    return {std::log(std::max(kLeastSlope, weightedMedian(said))), 1 / (1 / weight + off * off)};
  }
};

} // namespace

std::vector<SharpnessStep> stepsOfThree(const std::array<const Image<float>*, 3>& light, StructureAxis axis,
                                        const ContrastPerCode& perCode) {
  auto blocks = blocksOf<3>(light, axis);
  if (perCode)
    std::erase_if(blocks, [&](const Products<3>& p) {
      const double seen = std::sqrt(std::max({p.shared[0][1], p.shared[0][2], p.shared[1][2], 0.0}));
      return std::any_of(p.mean.begin(), p.mean.end(), [&](double mean) { return seen < kCodes * perCode(mean); });
    });
  const std::size_t enough = enoughOf(*light[0]);
  std::vector<SharpnessStep> out;
  for (const auto& [a, b, c] : {std::array<std::size_t, 3>{0, 1, 2}, {1, 2, 0}, {0, 2, 1}}) {
    std::vector<Said> said;
    for (const auto& p : blocks) {
      const double ofA = p.shared[a][c], ofB = p.shared[b][c], errorA = p.error(a, c), errorB = p.error(b, c);
      const double sure = std::max(ofA / errorA, ofB / errorB);
      if (sure < kSure || std::max(ofA, ofB) < kLeastContrast) continue;
      const double ratio = std::max(ofB, errorB / 2) / std::max(ofA, errorA / 2);
      said.push_back({std::log(ratio), 1 / (kBlocksVary * kBlocksVary + 2 / (sure * sure))});
    }
    if (said.size() < enough) continue;
    const double sigma = 1 / std::sqrt(weightOf(said));
    out.push_back({int(a), int(b), weightedMedian(said), sigma});
  }
  return out;
}

std::optional<SharpnessStep> stepOfTwo(const Image<float>& dark, const Image<float>& bright, StructureAxis axis) {
  const auto blocks = blocksOf<2>({&dark, &bright}, axis);
  NoiseByTone noiseA, noiseB;
  for (const auto& p : blocks) noiseA.add(p.mean[0], p.noise[0]), noiseB.add(p.mean[1], p.noise[1]);
  noiseA.settle(), noiseB.settle();
  Slopes onDark, onBright;
  for (const auto& p : blocks) {
    if (p.mean[0] < 0.012) continue;
    const double na = noiseA.at(p.mean[0]), nb = noiseB.at(p.mean[1]);
    onDark.add(p.shared[0][1], p.shared[0][0] - na, na, na + nb);
    onBright.add(p.shared[0][1], p.shared[1][1] - nb, nb, na + nb);
  }
  const std::size_t enough = enoughOf(dark);
  const Said first = onDark.estimate(enough), second = onBright.estimate(enough);
  if (first.weight + second.weight == 0) return {};
  return SharpnessStep{0, 1,
                       (first.weight * first.value - second.weight * second.value) / (first.weight + second.weight),
                       1 / std::sqrt(first.weight + second.weight)};
}

std::optional<SharpnessStep> stepOfTwoByEdges(const Image<float>& dark, const Image<float>& bright, StructureAxis axis,
                                              const ContrastPerCode& perCode) {
  const auto blocks = blocksOf<2>({&dark, &bright}, axis);
  NoiseByTone noiseA, noiseB;
  for (const auto& p : blocks) noiseA.add(p.mean[0], p.noise[0]), noiseB.add(p.mean[1], p.noise[1]);
  noiseA.settle(), noiseB.settle();
  std::vector<Said> said;
  for (const auto& p : blocks) {
    const double a = p.shared[0][0], b = p.shared[1][1], most = std::max(a, b);
    const double noise = std::max(noiseA.at(p.mean[0]), noiseB.at(p.mean[1]));
    if (std::min(p.mean[0], p.mean[1]) < kLeastEdgeLight || most < kLeastEdge || most < kOverNoise * noise) continue;
    if (perCode && std::sqrt(most) < kOverCodes * std::max(perCode(p.mean[0]), perCode(p.mean[1]))) continue;
    const double floor = most * kLeastSlope * kLeastSlope;
    said.push_back({0.5 * std::log(std::max(b, floor) / std::max(a, floor)), 1 / (kEdgesVary * kEdgesVary)});
  }
  if (said.size() < enoughOf(dark)) return {};
  const double sigma = 1 / std::sqrt(weightOf(said));
  return SharpnessStep{0, 1, weightedMedian(said), sigma};
}

} // namespace ml
