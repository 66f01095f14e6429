#include "align/register_pair.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <vector>

namespace ml {
namespace {

/// Bilinear; what is compared is smooth, so nothing sharper is needed. False outside.
inline bool sampleLinear(const Image<float>& image, double x, double y, float& value) {
  if (!(x >= 0 && y >= 0)) return false;
  const int ix = int(x), iy = int(y);
  if (ix >= image.width() - 1 || iy >= image.height() - 1) return false;
  const float fx = float(x - ix), fy = float(y - iy);
  const float *a = image.at(ix, iy), *b = image.at(ix, iy + 1);
  value = (1 - fy) * ((1 - fx) * a[0] + fx * a[1]) + fy * ((1 - fx) * b[0] + fx * b[1]);
  return true;
}

ML_VECTOR_CLONES void clampRow(const float* in, float low, float high, std::ptrdiff_t n, float* __restrict out) {
  for (std::ptrdiff_t i = 0; i < n; ++i) out[i] = std::min(std::max(in[i], low), high);
}

/// out = clamp(gain-and-curve of in): the curve is piecewise linear over kBins bins of 0..1.
ML_VECTOR_CLONES void mapRow(const float* in, const float* curve, float bins, float low, float high, std::ptrdiff_t n, float* __restrict out) {
  for (std::ptrdiff_t i = 0; i < n; ++i) {
    const float position = std::min(std::max(in[i] * bins - 0.5f, 0.f), bins - 1.001f);
    const int k = int(position);
    const float value = in[i] * (curve[k] + (position - float(k)) * (curve[k + 1] - curve[k]));
    out[i] = std::min(std::max(value, low), high);
  }
}

/// Tones of the moving picture as the fixed one would show them: the exposure ratio, corrected tone by tone with the median
/// over places that both record (so a response curve that is not the assumed one does no harm).
class ToneMatch {
public:
  explicit ToneMatch(double exposureRatio) : gain_(float(std::sqrt(exposureRatio))) { correction_.fill(1); }

  void learn(const Image<float>& fixed, const Image<float>& moving, const Transform& transform, const LightPyramid& pf, const LightPyramid& pm) {
    std::array<std::vector<float>, kBins> ratios;
    const int stride = std::max(1, int(std::sqrt(double(fixed.size()) / 60000)));
    for (int y = 0; y < fixed.height(); y += stride)
      for (int x = 0; x < fixed.width(); x += stride) {
        double u, v;
        float m;
        transform.map(x, y, u, v);
        const float f = *fixed.at(x, y);
        if (!sampleLinear(moving, u, v, m) || m <= pm.floor || m >= pm.clip || f <= pf.floor || f >= 0.97f * pf.clip) continue;
        ratios[std::size_t(bin(m))].push_back(f / (m * gain_));
      }
    fill(ratios);
  }

  /// Many at once, held between low and high.
  void map(const Image<float>& in, float low, float high, Image<float>& out) const {
    float curve[kBins];
    for (int i = 0; i < kBins; ++i) curve[i] = gain_ * correction_[std::size_t(i)];
    forEachBand(in.height(), [&](const Band& band) {
      mapRow(in.row(band.begin), curve, kBins, low, high, std::ptrdiff_t(band.end - band.begin) * in.width(), out.row(band.begin));
    });
  }

  float operator()(float tone) const {
    const float position = std::clamp(tone * kBins - 0.5f, 0.f, kBins - 1.001f);
    const int i = int(position);
    return tone * gain_ * (correction_[std::size_t(i)] + (position - float(i)) * (correction_[std::size_t(i) + 1] - correction_[std::size_t(i)]));
  }

private:
  static constexpr int kBins = 48;
  static constexpr std::size_t kEnough = 40;
  static int bin(float tone) { return std::clamp(int(tone * kBins), 0, kBins - 1); }

  void fill(std::array<std::vector<float>, kBins>& ratios) {
    float last = 0;
    std::array<float, kBins> medians{};
    for (int i = 0; i < kBins; ++i) {
      auto& r = ratios[std::size_t(i)];
      if (r.size() >= kEnough) {
        std::nth_element(r.begin(), r.begin() + std::ptrdiff_t(r.size() / 2), r.end());
        last = r[r.size() / 2];
      }
      medians[std::size_t(i)] = last; // a bin with too few follows the one below
    }
    for (int i = kBins - 1; i >= 0; --i) // and the darkest follow the first that has enough
      if (medians[std::size_t(i)] == 0) medians[std::size_t(i)] = i + 1 < kBins && medians[std::size_t(i) + 1] > 0 ? medians[std::size_t(i) + 1] : 1;
    for (int i = 0; i < kBins; ++i)
      correction_[std::size_t(i)] = (medians[std::size_t(std::max(0, i - 1))] + 2 * medians[std::size_t(i)] + medians[std::size_t(std::min(kBins - 1, i + 1))]) / 4;
  }

  float gain_;
  std::array<float, kBins> correction_{};
};

/// Both pictures in the tones of `fixed`, clamped to what both record.
struct CommonTones {
  Image<float> fixed, moving;
  float low = 0, high = 1;
};

CommonTones commonTones(const Image<float>& fixed, const Image<float>& moving, const LightPyramid& pf, const LightPyramid& pm,
                        const ToneMatch& match) {
  CommonTones out{Image<float>(fixed.width(), fixed.height(), 1), Image<float>(moving.width(), moving.height(), 1),
                  std::max(pf.floor, match(pm.floor)), std::min(pf.clip, match(pm.clip))};
  if (out.high <= out.low) out.low = out.high = (out.low + out.high) / 2;
  forEachBand(fixed.height(), [&](const Band& band) {
    clampRow(fixed.row(band.begin), out.low, out.high, std::ptrdiff_t(band.end - band.begin) * fixed.width(), out.fixed.row(band.begin));
  });
  match.map(moving, out.low, out.high, out.moving);
  // Smoothing comes after clamping: what clipped in one frame then has the same edge in both.
  out.fixed = smoothed(out.fixed);
  out.moving = smoothed(out.moving);
  return out;
}

int parameters(AlignMode mode) {
  return mode == AlignMode::Shift ? 2 : mode == AlignMode::Similarity ? 4 : mode == AlignMode::Perspective ? 8 : 3;
}

/// Derivative of the warped position by the parameters at normalised (x, y). Shift, rotation, then the rest of a homography.
using Row = Eigen::Matrix<double, 1, 8>;
Row steepest(AlignMode mode, double gx, double gy, double x, double y) {
  Row j = Row::Zero();
  j[0] = gx;
  j[1] = gy;
  if (mode == AlignMode::Shift) return j;
  if (mode != AlignMode::Perspective) {
    j[2] = -gx * y + gy * x;
    if (mode == AlignMode::Similarity) j[3] = gx * x + gy * y;
    return j;
  }
  j[2] = gx * x;
  j[3] = gx * y;
  j[4] = gy * x;
  j[5] = gy * y;
  j[6] = -(gx * x + gy * y) * x;
  j[7] = -(gx * x + gy * y) * y;
  return j;
}

Matrix3 increment(AlignMode mode, const Eigen::VectorXd& p) {
  if (mode == AlignMode::Shift) return {1, 0, p[0], 0, 1, p[1], 0, 0, 1};
  if (mode == AlignMode::Similarity) {
    const double c = (1 + p[3]) * std::cos(p[2]), d = (1 + p[3]) * std::sin(p[2]);
    return {c, -d, p[0], d, c, p[1], 0, 0, 1};
  }
  if (mode != AlignMode::Perspective) return {std::cos(p[2]), -std::sin(p[2]), p[0], std::sin(p[2]), std::cos(p[2]), p[1], 0, 0, 1};
  return {1 + p[2], p[3], p[0], p[4], 1 + p[5], p[1], p[6], p[7], 1};
}

/// A pixel of the fixed picture that shows structure.
struct Sample {
  int x, y;
  float value, gx, gy;
};

constexpr std::size_t kMostSamples = 40000; // place a picture to a few hundredths of a pixel; more only cost time

struct Structure {
  std::vector<Sample> samples;
  double share = 0; ///< Of all pixels, those that show structure; the samples may be fewer.
};

/// Marks the pixels of a row whose gradient, squared, is above `least`; returns how many.
ML_VECTOR_CLONES int markStructure(const float* above, const float* row, const float* below, float least, int w, std::uint8_t* __restrict shows) {
  int count = 0;
  for (int x = 1; x < w - 1; ++x) {
    const float gx = (row[x + 1] - row[x - 1]) / 2, gy = (below[x] - above[x]) / 2;
    const bool strong = gx * gx + gy * gy > least;
    shows[x] = strong;
    count += strong;
  }
  return count;
}

Structure structure(const Image<float>& fixed, float low, float high) {
  const int w = fixed.width(), h = fixed.height();
  const float least = std::max(1e-5f, 0.003f * (high - low)), square = least * least;
  Image<std::uint8_t> shows(w, h, 1);
  std::vector<std::size_t> begins(std::size_t(h) + 1, 0); // samples before each row
  forEachBand(h, [&](const Band& band) {
    for (int y = std::max(1, band.begin); y < std::min(h - 1, band.end); ++y)
      begins[std::size_t(y) + 1] = std::size_t(markStructure(fixed.row(y - 1), fixed.row(y), fixed.row(y + 1), square, w, shows.row(y)));
  });
  std::partial_sum(begins.begin(), begins.end(), begins.begin());
  const std::size_t found = begins.back(), stride = found / kMostSamples + 1;
  Structure out{{}, double(found) / double(fixed.size())};
  out.samples.reserve(found / stride + 1);
  for (int y = 1; y < h - 1; ++y) {
    const float *above = fixed.row(y - 1), *row = fixed.row(y), *below = fixed.row(y + 1);
    std::size_t index = begins[std::size_t(y)];
    for (int x = 1; x < w - 1; ++x)
      if (shows.row(y)[x] && index++ % stride == 0) out.samples.push_back({x, y, row[x], (row[x + 1] - row[x - 1]) / 2, (below[x] - above[x]) / 2});
  }
  return out;
}

struct Normal {
  Eigen::Matrix<double, 8, 8> h = Eigen::Matrix<double, 8, 8>::Zero();
  Eigen::Matrix<double, 8, 1> g = Eigen::Matrix<double, 8, 1>::Zero();
  double a = 0, b = 0, aa = 0, bb = 0, ab = 0, absolute = 0;
  std::size_t count = 0;
  void add(const Normal& o) {
    h += o.h, g += o.g, a += o.a, b += o.b, aa += o.aa, bb += o.bb, ab += o.ab, absolute += o.absolute, count += o.count;
  }
  [[nodiscard]] double correlation() const {
    const double n = double(count), va = aa - a * a / n, vb = bb - b * b / n;
    return n > 0 && va > 0 && vb > 0 ? (ab - a * b / n) / std::sqrt(va * vb) : 0;
  }
};

/// Normal equations over all samples; residuals beyond `huber` lose weight (moving things).
template <int n> Normal accumulate(const std::vector<Sample>& samples, const Image<float>& moving, const Matrix3& toMoving, AlignMode mode, double cx, double cy, double unit,
                                   double huber) {
  constexpr int kChunk = 8192;
  const int chunks = int((samples.size() + kChunk - 1) / kChunk);
  std::vector<Normal> parts(chunks);
  const Transform transform{toMoving};
  forEachBand(chunks, [&](const Band& band) {
    Normal part;
    for (std::size_t i = std::size_t(band.begin) * kChunk; i < std::min(samples.size(), std::size_t(band.end) * kChunk); ++i) {
      const Sample& s = samples[i];
      double u, v;
      transform.map(s.x, s.y, u, v);
      float value;
      if (!sampleLinear(moving, u, v, value)) continue;
      const double residual = value - s.value, size = std::abs(residual);
      const double weight = size > huber ? huber / size : 1;
      const Row j = steepest(mode, s.gx * unit, s.gy * unit, (s.x - cx) / unit, (s.y - cy) / unit);
      for (int r = 0; r < n; ++r) {
        part.g[r] += weight * j[r] * residual;
        for (int c = 0; c <= r; ++c) part.h(r, c) += weight * j[r] * j[c];
      }
      part.a += s.value, part.b += value, part.aa += double(s.value) * s.value, part.bb += double(value) * value;
      part.ab += double(s.value) * value, part.absolute += size, ++part.count;
    }
    parts[band.index] = part;
  }, 1);
  Normal sum;
  for (const auto& part : parts) sum.add(part);
  return sum;
}

Normal accumulate(const std::vector<Sample>& samples, const Image<float>& moving, const Matrix3& toMoving, AlignMode mode, double cx, double cy, double unit, double huber) {
  switch (parameters(mode)) {
  case 2: return accumulate<2>(samples, moving, toMoving, mode, cx, cy, unit, huber);
  case 3: return accumulate<3>(samples, moving, toMoving, mode, cx, cy, unit, huber);
  case 4: return accumulate<4>(samples, moving, toMoving, mode, cx, cy, unit, huber);
  default: return accumulate<8>(samples, moving, toMoving, mode, cx, cy, unit, huber);
  }
}

struct LevelFit {
  Transform transform;
  double correlation = 0, informative = 0;
};

LevelFit fitLevel(const CommonTones& tones, const Structure& found, Transform transform, AlignMode mode, int iterations) {
  const auto& [samples, share] = found;
  const double cx = (tones.fixed.width() - 1) / 2.0, cy = (tones.fixed.height() - 1) / 2.0, unit = tones.fixed.width() / 2.0;
  const Matrix3 toUnit{1 / unit, 0, -cx / unit, 0, 1 / unit, -cy / unit, 0, 0, 1}, fromUnit = inverse(toUnit);
  const int n = parameters(mode);
  double huber = 1e9;
  LevelFit fit{transform, 0, share};
  if (samples.size() < 40) return fit;
  for (int i = 0; i < iterations; ++i) {
    const Normal normal = accumulate(samples, tones.moving, fit.transform.h, mode, cx, cy, unit, huber);
    if (normal.count < 40) return {transform, 0, 0};
    huber = std::max(1e-5, 1.5 * normal.absolute / double(normal.count));
    Eigen::MatrixXd h = normal.h.topLeftCorner(n, n).selfadjointView<Eigen::Lower>();
    h.diagonal() += Eigen::VectorXd::Constant(n, 1e-9 * h.trace() + 1e-12);
    const Eigen::VectorXd step = h.ldlt().solve(normal.g.head(n));
    // The increment warps the fixed picture, so its inverse is composed on the right (inverse compositional).
    Matrix3 next = multiply(fit.transform.h, multiply(fromUnit, multiply(inverse(increment(mode, step)), toUnit)));
    for (double& value : next) value /= next[8];
    fit.transform.h = next;
    if (step.cwiseAbs().maxCoeff() * unit < 0.003) break;
  }
  fit.correlation = accumulate(samples, tones.moving, fit.transform.h, mode, cx, cy, unit, huber).correlation();
  return fit;
}

/// Shifts that blocks of the picture would still need after `transform`: the median length over blocks with structure in both
/// directions, pixels of this level. One step of the same method (Lucas and Kanade) for each block.
double blockResidual(const Structure& found, const Image<float>& moving, const Transform& transform, int width, int height) {
  constexpr int kAcross = 8, kDown = 6;
  struct Block {
    double xx = 0, xy = 0, yy = 0, gx = 0, gy = 0;
    int count = 0;
  };
  std::array<Block, kAcross * kDown> blocks;
  for (const Sample& s : found.samples) {
    double u, v;
    transform.map(s.x, s.y, u, v);
    float value;
    if (!sampleLinear(moving, u, v, value)) continue;
    Block& b = blocks[std::size_t(s.y * kDown / height * kAcross + s.x * kAcross / width)];
    const double residual = value - s.value;
    b.xx += s.gx * s.gx, b.xy += s.gx * s.gy, b.yy += s.gy * s.gy, b.gx += s.gx * residual, b.gy += s.gy * residual, ++b.count;
  }
  std::vector<double> lengths;
  for (const Block& b : blocks) {
    const double determinant = b.xx * b.yy - b.xy * b.xy, trace = b.xx + b.yy;
    if (b.count < 60 || determinant < 0.02 * trace * trace) continue;
    lengths.push_back(std::hypot((b.yy * b.gx - b.xy * b.gy) / determinant, (b.xx * b.gy - b.xy * b.gx) / determinant));
  }
  if (lengths.size() < 4) return 0;
  std::nth_element(lengths.begin(), lengths.begin() + std::ptrdiff_t(lengths.size() / 2), lengths.end());
  return lengths[lengths.size() / 2];
}

/// The median correlation of the blocks of a picture after `transform`: where most of it agrees, whatever moves through it. -1 where
/// there is too little structure to tell.
double agreement(const Structure& found, const Image<float>& moving, const Transform& transform, int width, int height) {
  constexpr int kAcross = 8, kDown = 6;
  constexpr std::size_t kEnough = 12, kFewest = 4;
  std::array<Normal, kAcross * kDown> blocks;
  for (const Sample& s : found.samples) {
    double u, v;
    transform.map(s.x, s.y, u, v);
    float value;
    if (!sampleLinear(moving, u, v, value)) continue;
    Normal& b = blocks[std::size_t(s.y * kDown / height * kAcross + s.x * kAcross / width)];
    b.a += s.value, b.b += value, b.aa += double(s.value) * s.value, b.bb += double(value) * value, b.ab += double(s.value) * value, ++b.count;
  }
  std::vector<double> correlations;
  for (const Normal& b : blocks)
    if (b.count >= kEnough) correlations.push_back(b.correlation());
  if (correlations.size() < kFewest) return -1;
  std::nth_element(correlations.begin(), correlations.begin() + std::ptrdiff_t(correlations.size() / 2), correlations.end());
  return correlations[correlations.size() / 2];
}

/// Sums of two rows, for their correlation.
struct RowSums {
  double a = 0, b = 0, aa = 0, bb = 0, ab = 0;
};
ML_VECTOR_CLONES void sumRows(const float* a, const float* b, int n, RowSums& out) {
  constexpr int kLanes = 16;
  float la[kLanes] = {}, lb[kLanes] = {}, laa[kLanes] = {}, lbb[kLanes] = {}, lab[kLanes] = {};
  for (int i = 0; i + kLanes <= n; i += kLanes)
    for (int k = 0; k < kLanes; ++k) {
      const float u = a[i + k], v = b[i + k];
      la[k] += u, lb[k] += v, laa[k] += u * u, lbb[k] += v * v, lab[k] += u * v;
    }
  for (int i = n / kLanes * kLanes, k = 0; i < n; ++i, ++k) {
    const float u = a[i], v = b[i];
    la[k] += u, lb[k] += v, laa[k] += u * u, lbb[k] += v * v, lab[k] += u * v;
  }
  for (int k = 0; k < kLanes; ++k) out.a += double(la[k]), out.b += double(lb[k]), out.aa += double(laa[k]), out.bb += double(lbb[k]), out.ab += double(lab[k]);
}

/// Correlation of what both show when the moving picture lies (dx, dy) away; -1 where they share too little.
double correlationAt(const CommonTones& tones, int dx, int dy) {
  const int w = tones.fixed.width(), h = tones.fixed.height();
  const int x0 = std::max(0, -dx), x1 = std::min(w, w - dx), y0 = std::max(0, -dy), y1 = std::min(h, h - dy);
  if ((x1 - x0) * (y1 - y0) < w * h / 3) return -1;
  RowSums sums;
  for (int y = y0; y < y1; ++y) sumRows(tones.fixed.row(y) + x0, tones.moving.row(y + dy) + dx + x0, x1 - x0, sums);
  const double n = double(x1 - x0) * (y1 - y0), va = sums.aa - sums.a * sums.a / n, vb = sums.bb - sums.b * sums.b / n;
  return va > 1e-9 && vb > 1e-9 ? (sums.ab - sums.a * sums.b / n) / std::sqrt(va * vb) : -1;
}

/// Whole-pixel shift within a fifth of the picture at which both correlate best: tones that are not told apart rightly yet do not lead it
/// astray, as differences would. Of shifts that do nearly as well the shortest.
Transform searchShift(const CommonTones& tones) {
  const int reachX = tones.fixed.width() / 5, reachY = tones.fixed.height() / 5;
  constexpr double kForDistance = 0.02; // what the farthest must do better by
  double best = -2;
  Transform out;
  for (int dy = -reachY; dy <= reachY; ++dy)
    for (int dx = -reachX; dx <= reachX; ++dx) {
      const double score = correlationAt(tones, dx, dy) - kForDistance * std::hypot(double(dx) / reachX, double(dy) / reachY);
      if (score <= best) continue;
      best = score;
      out.h = {1, 0, double(dx), 0, 1, double(dy), 0, 0, 1};
    }
  return out;
}

/// Share of pixels that are neither in the noise nor clipped, on every fourth pixel.
double recordedShare(const LightPyramid& pyramid) {
  const Image<float>& finest = pyramid.levels.front();
  std::size_t recorded = 0, all = 0;
  for (std::size_t i = 0; i < finest.size(); i += 4, ++all) recorded += finest.data()[i] > pyramid.floor && finest.data()[i] < pyramid.clip;
  return all ? double(recorded) / double(all) : 0;
}

} // namespace

namespace {

constexpr double kWorthMore = 0.12; ///< Pixels of the frame left over, from which a richer model is tried.
constexpr double kClearlyLess = 0.7; ///< It is taken when it leaves less than this share.

/// The simplest model that the residuals justify: shift and rotation, then size, then the full perspective.
void chooseModel(const CommonTones& tones, const Structure& found, int scale, LevelFit& fit, PairFit& out) {
  for (const AlignMode richer : {AlignMode::Similarity, AlignMode::Perspective}) {
    if (out.residual < kWorthMore || found.samples.size() < 2000) return;
    const LevelFit tried = fitLevel(tones, found, fit.transform, richer, 8);
    const double residual = scale * blockResidual(found, tones.moving, tried.transform, tones.fixed.width(), tones.fixed.height());
    if (residual > 0 && residual < kClearlyLess * out.residual && tried.correlation >= fit.correlation) {
      fit = tried;
      out.model = richer;
      out.residual = residual;
    }
  }
}

} // namespace

namespace {

/// Two pictures on their way from coarse to fine.
class Descent {
public:
  Descent(const LightPyramid& fixed, const LightPyramid& moving, AlignMode simplest)
      : fixed_(fixed), moving_(moving), simplest_(simplest), coarsest_(int(std::min(fixed.levels.size(), moving.levels.size())) - 1) {}

  struct State {
    ToneMatch match;
    Transform transform; ///< Of the level that comes next.
    LevelFit fit;        ///< Of the last one.
  };
  [[nodiscard]] int coarsest() const { return coarsest_; }
  [[nodiscard]] CommonTones tones(const State& state, int level) const { return commonTones(fixed(level), moving(level), fixed_, moving_, state.match); }

  /// One level; returns what was compared.
  std::pair<CommonTones, Structure> step(State& state, int level) const {
    state.match.learn(fixed(level), moving(level), state.transform, fixed_, moving_);
    CommonTones common = tones(state, level);
    // Perspective and size are fitted only where there are pixels enough to hold them.
    const bool rich = simplest_ == AlignMode::Perspective || simplest_ == AlignMode::Similarity;
    const AlignMode mode = level == coarsest_ && simplest_ != AlignMode::Shift ? AlignMode::Shift : rich && level > 3 ? AlignMode::Rigid : simplest_;
    Structure found = structure(common.fixed, common.low, common.high);
    state.fit = fitLevel(common, found, state.transform, mode, level == 0 ? 6 : 12);
    if (level > 0) state.transform = state.fit.transform.scaled(2);
    return {std::move(common), std::move(found)};
  }
  /// From the coarsest level to `last`, beginning where the frames lie as they are or where a search over shifts puts them: where the
  /// search disagrees, both are followed to `kDecided`, because a pattern that repeats looks alike in many places.
  void search(State& state, int last) const {
    const Transform found = searchShift(tones(state, coarsest_));
    State still = state;
    state.transform = found;
    const int decided = std::max(last, std::min(coarsest_, kDecided));
    const double there = follow(state, coarsest_, decided);
    if (std::hypot(found.h[2], found.h[5]) >= kElsewhere && follow(still, coarsest_, decided) + kClearlyBetter >= there) state = std::move(still);
    for (int level = decided - 1; level >= last; --level) (void)step(state, level);
  }

private:
  /// Down to `last`; returns how well it agrees there.
  double follow(State& state, int first, int last) const {
    double agrees = -1;
    for (int level = first; level >= last; --level) {
      const auto [common, found] = step(state, level);
      if (level == last) agrees = agreement(found, common.moving, state.fit.transform, common.fixed.width(), common.fixed.height());
    }
    return agrees;
  }
  static constexpr int kDecided = 2;
  static constexpr double kElsewhere = 1.5;      ///< Pixels of the coarsest level.
  static constexpr double kClearlyBetter = 0.01; ///< In correlation.
  [[nodiscard]] const Image<float>& fixed(int level) const { return fixed_.levels[std::size_t(level)]; }
  [[nodiscard]] const Image<float>& moving(int level) const { return moving_.levels[std::size_t(level)]; }
  const LightPyramid &fixed_, &moving_;
  AlignMode simplest_;
  int coarsest_;
};

} // namespace

PairFit registerPair(const LightPyramid& fixed, const LightPyramid& moving, const Transform& initial, AlignMode mode, bool fullSearch) {
  PairFit out;
  out.model = mode == AlignMode::Auto ? AlignMode::Rigid : mode;
  const Descent descent(fixed, moving, out.model);
  Descent::State state{ToneMatch(fixed.exposure / moving.exposure), {}, {}};
  if (fullSearch && descent.coarsest() > 0) {
    descent.search(state, 1);
  } else {
    const int first = std::min(descent.coarsest(), 1);
    state.transform = initial.scaled(1.0 / (fixed.scale << first));
    for (int level = first; level > 0; --level) (void)descent.step(state, level);
  }
  const auto [tones, found] = descent.step(state, 0);
  LevelFit fit = state.fit;
  out.residual = fixed.scale * blockResidual(found, tones.moving, fit.transform, tones.fixed.width(), tones.fixed.height());
  if (mode == AlignMode::Auto && fit.correlation > 0.5) chooseModel(tones, found, fixed.scale, fit, out);
  out.transform = fit.transform.scaled(fixed.scale);
  out.correlation = fit.correlation;
  out.informative = std::min(fit.informative, recordedShare(moving));
  return out;
}

} // namespace ml
