#include "judge/sharpness.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace ml {
namespace {

double quantile(std::vector<double>& values, double q) {
  const auto place = values.begin() + long(q * double(values.size() - 1));
  std::nth_element(values.begin(), place, values.end());
  return *place;
}

/// Energy of fine second differences that noise makes, by tone: the median of the blocks of each half stop, doubled, because demosaicing and
/// compression take noise out of the checkerboard that it is measured by.
class NoiseByTone {
public:
  NoiseByTone(const Sketch& s, int scale) {
    std::array<std::vector<double>, kBins> energies;
    for (int y = 0; y < s.structure.height(); ++y)
      for (int x = 0; x < s.structure.width(); ++x) {
        const float* e = s.structure.at(x, y);
        if (e[Sketch::kMean] >= 0) energies[std::size_t(bin(e[Sketch::kMean]))].push_back(2 * e[scale + Sketch::kNoise]);
      }
    double last = 0;
    for (int i = kBins - 1; i >= 0; --i) {
      auto& list = energies[std::size_t(i)];
      if (list.size() >= 8) last = quantile(list, 0.5);
      noise_[std::size_t(i)] = last;
    }
  }
  [[nodiscard]] double at(float mean) const { return noise_[std::size_t(bin(mean))]; }

private:
  static constexpr int kBins = 20;
  static int bin(float mean) { return std::clamp(int(2 * (std::log2(std::max(1e-4f, mean)) + 9)), 0, kBins - 1); }
  std::array<double, kBins> noise_{};
};

constexpr double kAboveNoise = 6;
constexpr float kDarkest = 0.012f; ///< Of saturation, as read; below, coding and the noise of rows look like structure.
constexpr double kStrongest = 0.5; ///< Share of the blocks that show most; in the others noise and compression have their say.

/// Contrast of light over contrast as it was read, squared.
double contrastGain(const ToneReading* tones, double mean) {
  if (!tones) return 1;
  constexpr double kStep = 1.1;
  const double slope = std::log(std::max(1e-9, tones->at(1, std::min(1.0, mean * kStep))) / std::max(1e-9, tones->at(1, mean / kStep))) / std::log(std::min(1.0, mean * kStep) / (mean / kStep));
  return std::clamp(slope * slope, 0.05, 20.0);
}

struct Seen {
  double weight, log; ///< By what both show, so that noise in one does not choose.
};

double ratioAlong(const Sketch& a, const Sketch& b, const NoiseByTone& na, const NoiseByTone& nb, const PairPlace& place, const ToneReading* tones, int channel, int enough, int& blocks) {
  std::vector<Seen> seen;
  for (int y = 0; y < a.structure.height(); ++y)
    for (int x = 0; x < a.structure.width(); ++x) {
      double px, py;
      place.transform.map((x + 0.5) * Sketch::kBlock, (y + 0.5) * Sketch::kBlock, px, py);
      const int u = int(std::floor(px / Sketch::kBlock)), v = int(std::floor(py / Sketch::kBlock));
      if (u < 0 || v < 0 || u >= b.structure.width() || v >= b.structure.height()) continue;
      const float *ea = a.structure.at(x, y), *eb = b.structure.at(u, v);
      if (ea[Sketch::kMean] < kDarkest || eb[Sketch::kMean] < kDarkest) continue;
      const double ga = contrastGain(tones, ea[Sketch::kMean]), gb = contrastGain(tones, eb[Sketch::kMean]);
      const double noiseA = ga * na.at(ea[Sketch::kMean]), noiseB = gb * nb.at(eb[Sketch::kMean]), noise = std::max(noiseA, noiseB);
      const double fineA = std::max(0.0, ga * ea[channel] - noiseA), fineB = std::max(0.0, gb * eb[channel] - noiseB);
      if (std::max(fineA, fineB) < kAboveNoise * noise || std::max(fineA, fineB) < 3e-4) continue;
      seen.push_back({fineA * fineB + noise * std::max(fineA, fineB), std::log((fineB + 0.5 * noise) / (fineA + 0.5 * noise))});
    }
  std::sort(seen.begin(), seen.end(), [](const Seen& p, const Seen& q) { return p.weight > q.weight; });
  seen.resize(std::max(std::min(seen.size(), std::size_t(enough)), std::size_t(kStrongest * double(seen.size()))));
  blocks = int(seen.size());
  if (blocks < enough) return 0;
  std::vector<double> ratios;
  for (const Seen& s : seen) ratios.push_back(s.log);
  // Moving water blurs its own blocks, not most of them.
  const double upper = quantile(ratios, 0.6), lower = quantile(ratios, 0.4);
  return upper < 0 ? upper : lower > 0 ? lower : 0;
}

} // namespace

SharpnessRatio sharpnessRatio(const Sketch& first, const Sketch& second, const PairPlace& place, const ToneReading* tones) {
  const int enough = std::clamp(first.structure.width() * first.structure.height() / 50, 8, 16);
  for (const int scale : {0, int(Sketch::kScales)}) {
    const NoiseByTone a(first, scale), b(second, scale);
    int across = 0, down = 0;
    const double x = ratioAlong(first, second, a, b, place, tones, scale + Sketch::kAcross, enough, across), y = ratioAlong(first, second, a, b, place, tones, scale + Sketch::kDown, enough, down);
    if (std::max(across, down) >= enough) return {std::abs(x) > std::abs(y) ? x : y, std::max(across, down), true};
  }
  return {};
}

} // namespace ml
