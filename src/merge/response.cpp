#include "merge/response.h"

#include "align/transform.h"
#include "base/parallel.h"

#include <Eigen/Dense>
#include <cmath>
#include <functional>

namespace ml {
namespace {

constexpr int kCell = 4;                ///< Flat places are cells of this side.
constexpr float kFlat = 14.f / 255;     ///< Largest range of codes in a flat cell.
constexpr float kLowest = 2.5f / 255, kHighest = 251.f / 255;
constexpr int kBins = 256;
constexpr double kCellsLookedAt = 250000;
constexpr double kFloorNoise = 0.25 / 255; ///< Of a cell's mean code: rounding and compression, not averaged away.
constexpr std::size_t kEnoughSamples = 400;
constexpr double kAnchor = 0.4613561;   ///< sRGB code of 0.18: there the curves of all channels meet.

// ---- what the frames show

/// Mean code of each cell of the reference's grid, 0..1, for each channel; -1 where it is not flat or out of range. Cells lie `pitch`
/// pixels apart, and each is the block of the frame's pixels nearest to its place.
Image<float> flatCells(const PlacedFrame& placed, int pitch) {
  const Frame& frame = *placed.frame;
  const int w = frame.width() / pitch, h = frame.height() / pitch;
  Image<float> out(w, h, 3);
  const float scale = 1.f / float(frame.table.size() - 1);
  const Transform transform{placed.toFrame};
  frame.codes.visit([&](auto codes) {
    forEachBand(h, [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < w; ++x) {
          double u, v;
          transform.map(x * pitch + pitch / 2, y * pitch + pitch / 2, u, v);
          const int left = int(std::lround(u)) - kCell / 2, top = int(std::lround(v)) - kCell / 2;
          float* mean = out.at(x, y);
          mean[0] = mean[1] = mean[2] = -1;
          if (left < 0 || top < 0 || left + kCell > codes.width || top + kCell > codes.height) continue;
          int sum[3] = {}, low[3] = {65535, 65535, 65535}, high[3] = {};
          for (int j = 0; j < kCell; ++j) {
            const auto* code = codes.at(left, top + j);
            for (int i = 0; i < kCell; ++i, code += 3)
              for (int c = 0; c < 3; ++c) sum[c] += code[c], low[c] = std::min(low[c], int(code[c])), high[c] = std::max(high[c], int(code[c]));
          }
          for (int c = 0; c < 3; ++c) {
            const bool good = float(high[c] - low[c]) * scale <= kFlat && float(low[c]) * scale >= kLowest && float(high[c]) * scale <= kHighest;
            if (good) mean[c] = float(sum[c]) * scale / (kCell * kCell);
          }
        }
    });
  });
  return out;
}

/// Codes that two frames show at the same place, gathered in bins of both.
struct PairBin {
  float count = 0, a = 0, b = 0; ///< Means of the codes.
};
struct PairTable {
  double stops = 0; ///< How much more light frame b gathered.
  std::array<std::vector<PairBin>, 3> bins;
  std::size_t samples = 0;
};

PairTable pairsOf(const Image<float>& a, const Image<float>& b, double stops) {
  PairTable table{stops, {}, 0};
  std::array<std::vector<std::array<double, 3>>, 3> sums;
  for (auto& s : sums) s.resize(kBins * kBins, {0, 0, 0});
  for (std::size_t i = 0; i < a.size(); ++i) {
    const float first = a.data()[i], second = b.data()[i];
    if (first < 0 || second < 0) continue;
    auto& sum = sums[i % 3][std::size_t(int(first * 255 + 0.5f) * kBins + int(second * 255 + 0.5f))];
    sum[0] += 1, sum[1] += first, sum[2] += second;
    ++table.samples;
  }
  for (std::size_t c = 0; c < 3; ++c)
    for (const auto& s : sums[c])
      if (s[0] > 0) table.bins[c].push_back({float(s[0]), float(s[1] / s[0]), float(s[2] / s[0])});
  return table;
}

// ---- the curve

struct KnownCurve {
  const char* name;
  double (*linear)(double);
};
constexpr KnownCurve kKnown[] = {{"sRGB", srgbDecode}, {"linear", [](double v) { return v; }}, {"gamma 2.2", [](double v) { return std::pow(v, 2.2); }}};

double logOf(const KnownCurve& curve, double v) { return std::log2(std::max(1e-9, curve.linear(v))); }

/// Cubic B-spline basis on 0..1 with evenly spaced knots.
class Spline {
public:
  static constexpr int kPieces = 17, kSize = kPieces + 3;
  static int place(double v, double w[4]) {
    const double t = std::clamp(v, 0.0, 1.0) * kPieces;
    const int i = std::min(kPieces - 1, int(t));
    const double f = t - i, g = 1 - f;
    w[0] = g * g * g / 6, w[1] = (3 * f * f * f - 6 * f * f + 4) / 6, w[2] = (3 * g * g * g - 6 * g * g + 4) / 6, w[3] = f * f * f / 6;
    return i;
  }
  static double value(const double* coefficients, double v) {
    double w[4];
    const int i = place(v, w);
    return w[0] * coefficients[i] + w[1] * coefficients[i + 1] + w[2] * coefficients[i + 2] + w[3] * coefficients[i + 3];
  }
};

/// The logarithm of light for each channel: known curve + common spline + the channel's own.
struct Fit {
  const KnownCurve* start = nullptr;
  std::vector<double> common = std::vector<double>(Spline::kSize, 0.0);
  std::array<std::vector<double>, 3> own{std::vector<double>(Spline::kSize, 0.0), std::vector<double>(Spline::kSize, 0.0), std::vector<double>(Spline::kSize, 0.0)};

  [[nodiscard]] double log2Of(std::size_t c, double v) const { return logOf(*start, v) + Spline::value(common.data(), v) + Spline::value(own[c].data(), v); }
};

/// What a known curve says at the codes of a bin, which no round changes.
struct KnownAt {
  double a, b, slopeA, slopeB; ///< Stops; stops for the code range.
};

constexpr double kSlopeReach = 0.004;
double below(double v) { return std::max(0.002, v - kSlopeReach); }
double above(double v) { return std::min(1.0, v + kSlopeReach); }
template <class Curve> double slopeOf(const Curve& curve, double v) { return (curve(above(v)) - curve(below(v))) / (above(v) - below(v)); }

/// One channel of a pair of frames: what the rounds work through, several at a time.
struct Piece {
  const PairTable* pair;
  std::size_t channel;
  std::vector<KnownAt> known; ///< For each bin.
  [[nodiscard]] const std::vector<PairBin>& bins() const { return pair->bins[channel]; }
};

void forEachPiece(std::vector<Piece>& pieces, const std::function<void(Piece&, std::size_t)>& work) {
  forEachBand(int(pieces.size()), [&](const Band& band) { work(pieces[std::size_t(band.begin)], std::size_t(band.begin)); }, 1);
}

std::vector<Piece> piecesOf(const std::vector<PairTable>& pairs) {
  std::vector<Piece> pieces;
  for (const auto& pair : pairs)
    for (std::size_t c = 0; c < 3; ++c) pieces.push_back({&pair, c, {}});
  return pieces;
}

void startFrom(const KnownCurve& curve, std::vector<Piece>& pieces) {
  forEachPiece(pieces, [&](Piece& piece, std::size_t) {
    const auto log = [&](double v) { return logOf(curve, v); };
    piece.known.clear();
    for (const auto& bin : piece.bins()) piece.known.push_back({log(bin.a), log(bin.b), slopeOf(log, bin.a), slopeOf(log, bin.b)});
  });
}

struct Residual {
  double value = 0, sigma = 1, weight = 0; ///< Stops; of one sample; how many samples.
};

/// Residuals of a channel under a fit.
class Residuals {
public:
  Residuals(const Fit& fit, const Piece& piece) : piece_(piece), spline_(fit.common) {
    for (std::size_t i = 0; i < spline_.size(); ++i) spline_[i] += fit.own[piece.channel][i];
  }
  Residual operator[](std::size_t i) const {
    const PairBin& bin = piece_.bins()[i];
    const KnownAt& known = piece_.known[i];
    const auto added = [&](double v) { return Spline::value(spline_.data(), v); };
    const double sa = known.slopeA + slopeOf(added, bin.a), sb = known.slopeB + slopeOf(added, bin.b);
    return {known.b + added(bin.b) - known.a - added(bin.a) - piece_.pair->stops, std::sqrt(sa * sa + sb * sb) * kFloorNoise * 2 + 0.004, bin.count};
  }

private:
  const Piece& piece_;
  std::vector<double> spline_;
};

struct Weighted {
  double value, weight;
  friend bool operator<(const Weighted& a, const Weighted& b) { return a.value < b.value; }
};

/// The least value that half of all weight does not exceed. Reorders the list.
double weightedMedian(std::vector<Weighted>& list) {
  double total = 0, before = 0;
  for (const auto& w : list) total += w.weight;
  auto from = list.begin(), to = list.end();
  while (to - from > 1) {
    const auto middle = from + (to - from) / 2;
    std::nth_element(from, middle, to);
    double lower = 0;
    for (auto it = from; it != middle; ++it) lower += it->weight;
    if (before + lower >= total / 2) to = middle;
    else before += lower, from = middle;
  }
  return from != list.end() ? from->value : 0;
}

/// Robust scale of the residuals in units of their expected noise, and in stops.
struct Spread {
  double sigmas = 0, stops = 0;
};
Spread spreadOf(const Fit& fit, std::vector<Piece>& pieces) {
  std::vector<std::size_t> begins{0};
  for (const auto& piece : pieces) begins.push_back(begins.back() + piece.bins().size());
  std::vector<Weighted> scaled(begins.back()), plain(begins.back());
  forEachPiece(pieces, [&](Piece& piece, std::size_t p) {
    const Residuals residuals(fit, piece);
    for (std::size_t i = 0; i < piece.bins().size(); ++i) {
      const Residual r = residuals[i];
      scaled[begins[p] + i] = {std::abs(r.value) / r.sigma, r.weight};
      plain[begins[p] + i] = {std::abs(r.value), r.weight};
    }
  });
  Spread out;
  constexpr double kNormal = 1.4826; // standard deviations of a median of absolute deviations
  inParallel([&] { out.sigmas = kNormal * weightedMedian(scaled); }, [&] { out.stops = kNormal * weightedMedian(plain); });
  return out;
}

constexpr double kThirdDerivative = 5; ///< Typical size, stops for the code range cubed. Ripples two stops long have hundreds.
constexpr double kOwnSize = 0.05;       ///< Typical departure of a channel from the common curve, stops.

void penalise(Eigen::MatrixXd& h, int offset, double typicalThird, double typicalSize) {
  constexpr int n = Spline::kSize;
  const double third = std::pow(double(Spline::kPieces), 3) / typicalThird;
  for (int i = 0; i + 3 < n; ++i) {
    const double d[4] = {-third, 3 * third, -3 * third, third};
    for (int a = 0; a < 4; ++a)
      for (int b = 0; b < 4; ++b) h(offset + i + a, offset + i + b) += d[a] * d[b] / Spline::kPieces;
  }
  for (int i = 0; i < n; ++i) h(offset + i, offset + i) += 1 / (typicalSize * typicalSize);
}

/// Normal equations of all coefficients: common, then the three channels'.
struct Equations {
  static constexpr int n = Spline::kSize, all = 4 * n;
  Eigen::MatrixXd h = Eigen::MatrixXd::Zero(all, all);
  Eigen::VectorXd g = Eigen::VectorXd::Zero(all);
};

void addPiece(const Fit& fit, const Piece& piece, double limit, Equations& e) {
  constexpr int n = Equations::n;
  const int own = n * (1 + int(piece.channel));
  const Residuals residuals(fit, piece);
  for (std::size_t i = 0; i < piece.bins().size(); ++i) {
    const PairBin& bin = piece.bins()[i];
    const Residual r = residuals[i];
    const double size = std::abs(r.value) / r.sigma, t = size / limit;
    if (t >= 1) continue;
    const double weight = r.weight * (1 - t * t) * (1 - t * t) / (r.sigma * r.sigma); // Tukey's biweight
    double wa[4], wb[4];
    const int ia = Spline::place(bin.a, wa), ib = Spline::place(bin.b, wb);
    int index[16];
    double value[16];
    for (int k = 0; k < 4; ++k) {
      index[k] = ib + k, value[k] = wb[k], index[4 + k] = ia + k, value[4 + k] = -wa[k];
      index[8 + k] = own + ib + k, value[8 + k] = wb[k], index[12 + k] = own + ia + k, value[12 + k] = -wa[k];
    }
    const double target = piece.pair->stops - piece.known[i].b + piece.known[i].a;
    for (int a = 0; a < 16; ++a) {
      e.g[index[a]] += weight * value[a] * target;
      for (int b = 0; b < 16; ++b) e.h(index[a], index[b]) += weight * value[a] * value[b];
    }
  }
}

/// One weighted least squares step from `fit`; residuals beyond `limit` expected deviations lose weight.
void improve(Fit& fit, std::vector<Piece>& pieces, double limit) {
  constexpr int n = Equations::n;
  std::vector<Equations> parts(pieces.size());
  forEachPiece(pieces, [&](Piece& piece, std::size_t p) { addPiece(fit, piece, limit, parts[p]); });
  auto& [h, g] = parts.front();
  for (std::size_t p = 1; p < parts.size(); ++p) h += parts[p].h, g += parts[p].g;
  penalise(h, 0, kThirdDerivative, 20);
  for (int c = 0; c < 3; ++c) penalise(h, n * (1 + c), kThirdDerivative / 10, kOwnSize);
  double w[4];
  const int at = Spline::place(kAnchor, w);
  for (int part = 0; part < 4; ++part)
    for (int a = 0; a < 4; ++a)
      for (int b = 0; b < 4; ++b) h(part * n + at + a, part * n + at + b) += 1e12 * w[a] * w[b];
  const Eigen::VectorXd solution = h.ldlt().solve(g);
  for (int i = 0; i < n; ++i) {
    fit.common[std::size_t(i)] = solution[i];
    for (int c = 0; c < 3; ++c) fit.own[std::size_t(c)][std::size_t(i)] = solution[n * (1 + c) + i];
  }
}

/// Light for each code, rising, 1 at the top. Codes below the lowest measured ones go on in proportion to the known curve.
CodeTable tableOf(const Fit& fit, int size, double lowest, float clipCode) {
  std::array<std::vector<float>, 3> tables;
  double top = 0;
  for (std::size_t c = 0; c < 3; ++c) top = std::max(top, fit.log2Of(c, 1));
  float clip = 1;
  for (std::size_t c = 0; c < 3; ++c) {
    auto& table = tables[c];
    table.resize(std::size_t(size));
    const double shift = fit.log2Of(c, lowest) - logOf(*fit.start, lowest);
    for (int code = 0; code < size; ++code) {
      const double v = double(code) / (size - 1);
      const double log = v < lowest ? shift + logOf(*fit.start, v) : fit.log2Of(c, v);
      table[std::size_t(code)] = code == 0 ? 0.f : float(std::exp2(log - top));
      if (code > 0) table[std::size_t(code)] = std::max(table[std::size_t(code)], table[std::size_t(code) - 1]);
    }
    clip = std::min(clip, table[std::size_t(std::lround(clipCode * float(size - 1)))]);
  }
  CodeTable out(std::move(tables));
  out.clipFrom = clip;
  return out;
}

std::vector<PairTable> allPairs(const std::vector<PlacedFrame>& frames) {
  std::vector<Image<float>> cells;
  const Frame& first = *frames.front().frame;
  const int pitch = std::max(kCell, int(std::sqrt(double(first.width()) * first.height() / kCellsLookedAt)));
  for (const auto& placed : frames) cells.push_back(flatCells(placed, pitch));
  struct Wanted {
    std::size_t dark, light;
    double stops;
  };
  std::vector<Wanted> wanted;
  for (std::size_t i = 0; i < frames.size(); ++i)
    for (std::size_t j = i + 1; j < std::min(frames.size(), i + 3); ++j) {
      const double stops = std::log2(relativeExposure(frames[j].frame->settings) / relativeExposure(frames[i].frame->settings));
      if (stops >= 0.2 && stops <= 6) wanted.push_back({i, j, stops});
    }
  std::vector<PairTable> pairs(wanted.size());
  forEachBand(int(wanted.size()), [&](const Band& band) {
    const auto& [dark, light, stops] = wanted[std::size_t(band.begin)];
    pairs[std::size_t(band.begin)] = pairsOf(cells[dark], cells[light], stops);
  }, 1);
  return pairs;
}

} // namespace

std::optional<Response> recoverResponse(const std::vector<PlacedFrame>& frames) {
  if (frames.size() < 2) return {};
  const auto pairs = allPairs(frames);
  Response out;
  float low = 1, high = 0;
  for (const auto& pair : pairs) {
    out.samples += pair.samples;
    for (const auto& bins : pair.bins)
      for (const auto& bin : bins) low = std::min({low, bin.a, bin.b}), high = std::max({high, bin.a, bin.b});
  }
  if (out.samples < kEnoughSamples) return {};
  auto pieces = piecesOf(pairs);
  Fit best;
  Spread least{1e9, 1e9};
  for (const auto& known : kKnown) {
    Fit fit;
    fit.start = &known;
    startFrom(known, pieces);
    const Spread spread = spreadOf(fit, pieces);
    if (&known == &kKnown[0]) out.disagreementBefore = spread.stops;
    if (spread.sigmas < least.sigmas) least = spread, best = fit;
  }
  out.start = best.start->name;
  const int size = frames.front().frame->table.size();
  Fit fit = best;
  startFrom(*best.start, pieces);
  double limit = std::max(12.0, 4 * least.sigmas);
  Spread now = least;
  for (int round = 0; round < 6; ++round) {
    improve(fit, pieces, limit);
    now = spreadOf(fit, pieces);
    limit = std::clamp(4.5 * now.sigmas, 4.0, limit);
  }
  out.changed = now.sigmas < 0.9 * least.sigmas;
  if (!out.changed) fit = best, now = least;
  out.disagreementAfter = now.stops;
  out.lowestCode = int(low * float(size - 1));
  out.highestCode = int(high * float(size - 1));
  out.table = tableOf(fit, size, std::max(double(low), 3.0 / 255), 0.985f);
  return out;
}

} // namespace ml
