#include "tone/natural.h"

#include "base/parallel.h"
#include "image/colour.h"
#include "image/metrics.h"
#include "image/resample.h"

#include <cmath>

namespace ml {
namespace {

constexpr int kAnalysisEdge = 768;
constexpr double kPaperBlack = -7.6, kPaperWhite = -0.22; ///< Where the darkest and brightest base tones land, stops below white.
constexpr double kLeastSlope = 0.20;
constexpr double kMiddle = -2.75; ///< Where the middle of a dim scene is put; mid-grey is -2.47.
constexpr float kDark = 1e-9f;

Image<float> logLight(ImageView<const float> radiance) {
  Image<float> out(radiance.width, radiance.height, 1);
  forEachBand(radiance.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < radiance.width; ++x) out.row(y)[x] = std::log2(std::max(kDark, luminance(radiance.at(x, y))));
  });
  return out;
}

/// Share of the picture per bin, smoothed over about a stop so that the curve has no kinks.
std::vector<float> smoothHistogram(const Image<float>& tones, double start, int bins) {
  std::vector<float> counts(bins), out(bins);
  for (std::size_t i = 0; i < tones.size(); ++i) {
    const int bin = int((tones.data()[i] - start) / ToneAnalysis::kHistogramStep);
    if (bin >= 0 && bin < bins) counts[bin] += 1.f / float(tones.size());
  }
  for (int i = 0; i < bins; ++i) {
    float sum = 0, weight = 0;
    for (int k = -6; k <= 6; ++k) {
      const float w = std::exp(-0.5f * float(k * k) / 7.f);
      weight += w;
      if (i + k >= 0 && i + k < bins) sum += w * counts[i + k];
    }
    out[i] = sum / weight;
  }
  return out;
}

/// Slope of each bin: kLeastSlope + k (share / largest)^0.4, at most 1, with k such that the slopes fill `paper` stops.
std::vector<double> slopesFor(const std::vector<float>& histogram, double paper) {
  float largest = 1e-9f;
  for (const float h : histogram) largest = std::max(largest, h);
  std::vector<double> slopes(histogram.size());
  double low = 0, high = 64;
  for (int round = 0; round < 60; ++round) {
    const double k = (low + high) / 2;
    double sum = 0;
    for (std::size_t i = 0; i < histogram.size(); ++i) {
      slopes[i] = std::min(1.0, kLeastSlope + k * std::pow(double(histogram[i] / largest), 0.4));
      sum += slopes[i] * ToneAnalysis::kHistogramStep;
    }
    (sum < paper ? low : high) = k;
  }
  return slopes;
}

std::vector<Tie> automaticTies(const ToneAnalysis& a) {
  const auto slopes = slopesFor(a.histogram, kPaperWhite - kPaperBlack);
  std::vector<double> rise(slopes.size() + 1, 0.0);
  double median = 0, below = 0;
  for (std::size_t i = 0; i < slopes.size(); ++i) {
    rise[i + 1] = rise[i] + slopes[i] * ToneAnalysis::kHistogramStep;
    if (below < 0.5 && below + a.histogram[i] >= 0.5) median = rise[i];
    below += a.histogram[i];
  }
  // White decides, unless that would leave the middle of a flat scene too bright.
  const double offset = std::min(kPaperWhite - rise.back(), kMiddle + 0.4 - median);
  std::vector<Tie> ties;
  const std::size_t stride = std::max<std::size_t>(1, slopes.size() / 12);
  for (std::size_t i = 0; i < rise.size(); i += stride) ties.push_back({a.histogramStart + double(i) * ToneAnalysis::kHistogramStep, rise[i] + offset});
  if (ties.back().scene < a.histogramStart + double(rise.size() - 1) * ToneAnalysis::kHistogramStep - 1e-9)
    ties.push_back({a.histogramStart + double(rise.size() - 1) * ToneAnalysis::kHistogramStep, rise.back() + offset});
  // A dim middle is raised by bending the curve up between its ends (a smooth, monotone bend).
  const double middle = median + offset, lift = std::clamp(kMiddle - middle, 0.0, 1.6);
  const double first = ties.front().paper, last = ties.back().paper;
  for (Tie& tie : ties) {
    const double t = (tie.paper - first) / std::max(1e-6, last - first), tm = (middle - first) / std::max(1e-6, last - first);
    const double bump = t < tm ? t / std::max(tm, 1e-6) : (1 - t) / std::max(1 - tm, 1e-6);
    tie.paper += lift * bump * (2 - bump);
  }
  for (std::size_t i = 1; i < ties.size(); ++i) ties[i].paper = std::max(ties[i].paper, ties[i - 1].paper + 1e-3);
  return ties;
}

/// The curve as a table: 1/64 stop apart, linear between.
class CurveTable {
public:
  explicit CurveTable(const ToneCurve& curve) : values_(kSize) {
    for (int i = 0; i < kSize; ++i) values_[i] = float(curve(kStart + i / 64.0));
  }
  float operator()(float scene) const {
    const float position = std::clamp((scene - kStart) * 64, 0.f, float(kSize) - 1.01f);
    const int i = int(position);
    return values_[i] + (position - float(i)) * (values_[i + 1] - values_[i]);
  }

private:
  static constexpr float kStart = -40;
  static constexpr int kSize = 80 * 64;
  std::vector<float> values_;
};

/// Straight to 0.82, then ever slower towards 1.
float shoulder(float y) { return y <= 0.82f ? y : 0.82f + 0.18f * (1 - std::exp((0.82f - y) / 0.18f)); }

void placePixel(const float* in, float* out, float a, float b, const CurveTable& curve, const ToneSettings& s, const float gains[3]) {
  const float rgb[3] = {in[0] * gains[0], in[1] * gains[1], in[2] * gains[2]};
  const float light = std::max(kDark, luminance(rgb)), log = std::log2(light);
  const float base = a * log + b;
  const float paper = curve(base) + float(s.detail) * (log - base) + float(s.exposure);
  const float y = shoulder(std::exp2(paper));
  float largest = 0;
  for (int c = 0; c < 3; ++c) {
    const float ratio = std::max(0.f, rgb[c]) / light;
    out[c] = y * (s.saturation == 1 ? ratio : std::max(0.f, 1 + float(s.saturation) * (ratio - 1)));
    largest = std::max(largest, out[c]);
  }
  if (largest > 1) {
    const float keep = (1 - y) / (largest - y);
    for (int c = 0; c < 3; ++c) out[c] = y + keep * (out[c] - y);
  }
}

} // namespace

ToneAnalysis analyseTone(ImageView<const float> radiance) {
  const Roi size = fitted(radiance.width, radiance.height, kAnalysisEdge);
  const Image<float> small = shrinkTo(radiance, size.width, size.height);
  const Image<float> tones = logLight(small.view());
  ToneAnalysis a;
  a.darkest = quantile(tones.data(), tones.size(), 0.002);
  a.brightest = std::max<double>(quantile(tones.data(), tones.size(), 0.998), a.darkest + 1);
  a.base = baseLayerOf(tones, {});
  a.histogramStart = a.darkest;
  a.histogram = smoothHistogram(tones, a.darkest, std::max(4, int(std::ceil((a.brightest - a.darkest) / ToneAnalysis::kHistogramStep))));
  a.ties = automaticTies(a);
  return a;
}

std::vector<Tie> placedTies(const ToneAnalysis& analysis, const ToneSettings& settings) {
  std::vector<Tie> ties = analysis.ties;
  // Balance 0 is a straight exposure through the tie nearest to the middle of the paper.
  const auto middle = *std::min_element(ties.begin(), ties.end(), [](const Tie& p, const Tie& q) {
    return std::abs(p.paper - kMiddle) < std::abs(q.paper - kMiddle);
  });
  for (Tie& tie : ties) {
    const double straight = middle.paper + (tie.scene - middle.scene);
    tie.paper = settings.balance * tie.paper + (1 - settings.balance) * straight;
  }
  return ties;
}

Result<Image<float>> toneNatural(ImageView<const float> radiance, const ToneAnalysis& analysis, const ToneSettings& settings,
                                 const Progress& progress) {
  const CurveTable curve{ToneCurve(placedTies(analysis, settings))};
  const float gains[3] = {float(std::exp2(settings.warmth / 2)), 1, float(std::exp2(-settings.warmth / 2))};
  Image<float> out(radiance.width, radiance.height, 3);
  std::atomic<int> rowsDone{0};
  const bool finished = forEachBand(radiance.height, progress.stop, [&](const Band& band) {
    std::vector<float> ab(std::size_t(radiance.width) * 2);
    for (int y = band.begin; y < band.end; ++y) {
      analysis.base.rowCoefficients(y, radiance.width, radiance.height, ab.data());
      for (int x = 0; x < radiance.width; ++x)
        placePixel(radiance.at(x, y), out.at(x, y), ab[2 * std::size_t(x)], ab[2 * std::size_t(x) + 1], curve, settings, gains);
    }
    progress.at("Place the light", double(rowsDone += band.end - band.begin) / radiance.height);
  });
  if (!finished) return stopped();
  return out;
}

} // namespace ml
