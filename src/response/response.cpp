#include "response/response.h"

#include "base/parallel.h"

#include <Eigen/Dense>
#include <cmath>
#include <functional>

namespace ml {
namespace {

constexpr double kFloorNoise = 0.25 / 255; ///< Of a cell's mean code: rounding and compression, not averaged away.
constexpr std::size_t kEnoughSamples = 400;
constexpr double kLeastStops = 0.2, kMostStops = 6; ///< Between two frames that are compared.
constexpr double kAnchor = 0.4613561;   ///< sRGB code of 0.18: there the curves of all channels meet.

// ---- the curve

struct KnownCurve {
  const char* name;
  double (*linear)(double);
};
constexpr KnownCurve kSquare{"square", [](double v) { return v * v; }}; ///< Linear light is compared by its root.
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

  std::vector<FrameLight> light;

  explicit Fit(std::size_t frames = 0) : light(frames) {}
  [[nodiscard]] double colour(std::size_t frame, std::size_t channel) const { return channel == 0 ? light[frame].red : channel == 2 ? light[frame].blue : 0; }
  /// Stops between two frames in a channel beyond those of their settings.
  [[nodiscard]] double beyond(const CodePairs& pair, std::size_t channel) const {
    const auto dark = std::size_t(pair.dark), bright = std::size_t(pair.light);
    return light[bright].stops - light[dark].stops + colour(bright, channel) - colour(dark, channel);
  }
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
  const CodePairs* pair;
  std::size_t channel;
  std::vector<KnownAt> known; ///< For each bin.
  double kept = 0;            ///< Samples that the last round believed.
  [[nodiscard]] const std::vector<PairBin>& bins() const { return pair->bins[channel]; }
};

void forEachPiece(std::vector<Piece>& pieces, const std::function<void(Piece&, std::size_t)>& work) {
  forEachBand(int(pieces.size()), [&](const Band& band) { work(pieces[std::size_t(band.begin)], std::size_t(band.begin)); }, 1);
}

std::vector<Piece> piecesOf(const std::vector<CodePairs>& pairs) {
  std::vector<Piece> pieces;
  for (const auto& pair : pairs)
    for (std::size_t c = 0; c < 3; ++c) pieces.push_back({&pair, c, {}, double(pair.samples) / 3});
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
  Residuals(const Fit& fit, const Piece& piece) : piece_(piece), spline_(fit.common), stops_(piece.pair->stops + fit.beyond(*piece.pair, piece.channel)) {
    for (std::size_t i = 0; i < spline_.size(); ++i) spline_[i] += fit.own[piece.channel][i];
  }
  Residual operator[](std::size_t i) const {
    const PairBin& bin = piece_.bins()[i];
    const KnownAt& known = piece_.known[i];
    const auto added = [&](double v) { return Spline::value(spline_.data(), v); };
    const double sa = known.slopeA + slopeOf(added, bin.a), sb = known.slopeB + slopeOf(added, bin.b);
    return {known.b + added(bin.b) - known.a - added(bin.a) - stops_, std::sqrt(sa * sa + sb * sb) * kFloorNoise * 2 + 0.004, bin.count};
  }

private:
  const Piece& piece_;
  std::vector<double> spline_;
  double stops_;
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

constexpr double kNeighboursAlike = 60; ///< So many samples know what one alone would: neighbours share texture, lens and coding.
constexpr double kTimeSigma = 0.06;   ///< Stops by which the time of a shutter departs from its mark (common practice, no source: up to 8 %).
constexpr double kColourSigma = 0.15; ///< Stops that a frame's colours may depart from the others'.

/// Unknowns: the common spline, the three channels', the light of each frame, then its red and its blue.
struct Layout {
  static constexpr int n = Spline::kSize;
  std::size_t frames;
  bool curve; ///< False: there are no splines.
  [[nodiscard]] int splines() const { return curve ? 4 * n : 0; }
  [[nodiscard]] int light(int frame) const { return splines() + frame; }
  [[nodiscard]] int colour(int frame, std::size_t channel) const { return splines() + int(frames) * (channel == 0 ? 1 : 2) + frame; }
  [[nodiscard]] int size() const { return splines() + 3 * int(frames); }
};

struct Equations {
  explicit Equations(const Layout& layout) : h(Eigen::MatrixXd::Zero(layout.size(), layout.size())), g(Eigen::VectorXd::Zero(layout.size())) {}
  Eigen::MatrixXd h;
  Eigen::VectorXd g;
};

void addPiece(const Fit& fit, Piece& piece, double limit, const Layout& layout, Equations& e) {
  piece.kept = 0;
  constexpr int n = Layout::n;
  const int own = n * (1 + int(piece.channel));
  const Residuals residuals(fit, piece);
  for (std::size_t i = 0; i < piece.bins().size(); ++i) {
    const PairBin& bin = piece.bins()[i];
    const Residual r = residuals[i];
    const double size = std::abs(r.value) / r.sigma, t = size / limit;
    if (t >= 1) continue;
    const double belief = (1 - t * t) * (1 - t * t), weight = r.weight * belief / (r.sigma * r.sigma); // Tukey's biweight
    piece.kept += r.weight * belief;
    int index[20], used = 0;
    double value[20];
    const auto add = [&](int at, double v) { index[used] = at, value[used++] = v; };
    if (layout.curve) {
      double wa[4], wb[4];
      const int ia = Spline::place(bin.a, wa), ib = Spline::place(bin.b, wb);
      for (int k = 0; k < 4; ++k) add(ib + k, wb[k]), add(ia + k, -wa[k]), add(own + ib + k, wb[k]), add(own + ia + k, -wa[k]);
    }
    add(layout.light(piece.pair->light), -1);
    add(layout.light(piece.pair->dark), 1);
    if (piece.channel != 1) add(layout.colour(piece.pair->light, piece.channel), -1), add(layout.colour(piece.pair->dark, piece.channel), 1);
    const double target = piece.pair->stops - piece.known[i].b + piece.known[i].a;
    for (int a = 0; a < used; ++a) {
      e.g[index[a]] += weight * value[a] * target;
      for (int b = 0; b < used; ++b) e.h(index[a], index[b]) += weight * value[a] * value[b];
    }
  }
}

/// What the pairs say, and what is thought of the curve beforehand; nothing yet of the light.
Equations equationsOf(const Fit& fit, std::vector<Piece>& pieces, double limit, const Layout& layout) {
  constexpr int n = Layout::n;
  std::vector<Equations> parts(pieces.size(), Equations(layout));
  forEachPiece(pieces, [&](Piece& piece, std::size_t p) { addPiece(fit, piece, limit, layout, parts[p]); });
  Equations all = std::move(parts.front());
  for (std::size_t p = 1; p < parts.size(); ++p) all.h += parts[p].h, all.g += parts[p].g;
  if (!layout.curve) return all;
  penalise(all.h, 0, kThirdDerivative, 20);
  for (int c = 0; c < 3; ++c) penalise(all.h, n * (1 + c), kThirdDerivative / 10, kOwnSize);
  double w[4];
  const int at = Spline::place(kAnchor, w);
  for (int part = 0; part < 4; ++part)
    for (int a = 0; a < 4; ++a)
      for (int b = 0; b < 4; ++b) all.h(part * n + at + a, part * n + at + b) += 1e12 * w[a] * w[b];
  return all;
}

/// Where the frames lie on the scale of stops by their settings, mean 0 and length 1, one column for each run of frames that pairs connect:
/// the directions in which a stretched curve and stretched exposures look alike. Frames that few samples speak of have little part in them,
/// so that they cannot make up for the others.
Eigen::MatrixXd stretchesOf(const std::vector<Piece>& pieces, std::size_t frames) {
  constexpr double kFully = 5000, kConnects = 100; // samples of green
  std::vector<double> at(frames, 0), samples(frames, 0);
  std::vector<int> run(frames);
  for (std::size_t i = 0; i < frames; ++i) run[i] = int(i);
  for (const Piece& piece : pieces) { // pairs come darkest first
    const auto dark = std::size_t(piece.pair->dark), light = std::size_t(piece.pair->light);
    at[light] = at[dark] + piece.pair->stops;
    if (piece.channel != 1) continue; // a frame's light is that of its green; red and blue only depart from it
    for (const std::size_t i : {dark, light}) samples[i] += piece.kept;
    if (piece.kept < kConnects) continue;
    const int from = run[light], to = run[dark];
    for (int& r : run)
      if (r == from) r = to;
  }
  std::vector<Eigen::VectorXd> found;
  for (std::size_t r = 0; r < frames; ++r) {
    double weights = 0, mean = 0;
    Eigen::VectorXd stretch = Eigen::VectorXd::Zero(Eigen::Index(frames));
    const auto weight = [&](std::size_t i) { return run[i] == int(r) ? std::min(1.0, samples[i] / kFully) : 0; };
    for (std::size_t i = 0; i < frames; ++i) weights += weight(i), mean += weight(i) * at[i];
    for (std::size_t i = 0; i < frames; ++i) stretch[Eigen::Index(i)] = weight(i) * (at[i] - mean / std::max(1e-9, weights));
    if (stretch.norm() > 1e-6) found.push_back(stretch / stretch.norm());
  }
  Eigen::MatrixXd out(Eigen::Index(frames), Eigen::Index(found.size()));
  for (std::size_t k = 0; k < found.size(); ++k) out.col(Eigen::Index(k)) = found[k];
  return out;
}

enum class Group { None, Light, Red, Blue };

/// What is thought of the light beforehand, of all groups of unknowns but one. With a curve, nothing may lie along the stretch.
void addBeliefs(Equations& e, const Layout& layout, const Eigen::MatrixXd& stretches, double scale, Group but) {
  const auto add = [&](Group group, int first, double sigma) {
    if (group == but) return;
    for (int i = 0; i < int(layout.frames); ++i) e.h(first + i, first + i) += scale / (sigma * sigma);
    if (layout.curve) e.h.block(first, first, stretches.rows(), stretches.rows()) += 1e12 * stretches * stretches.transpose();
  };
  add(Group::Light, layout.light(0), kTimeSigma);
  add(Group::Red, layout.colour(0, 0), kColourSigma);
  add(Group::Blue, layout.colour(0, 2), kColourSigma);
}

/// `scale`: so many samples know what one alone would, so that what is thought of the light beforehand keeps its weight.
void improve(Fit& fit, std::vector<Piece>& pieces, double limit, double scale, const Layout& layout) {
  constexpr int n = Layout::n;
  Equations e = equationsOf(fit, pieces, limit, layout);
  addBeliefs(e, layout, stretchesOf(pieces, layout.frames), scale, Group::None);
  const Eigen::VectorXd solution = e.h.ldlt().solve(e.g);
  if (layout.curve)
    for (int i = 0; i < n; ++i) {
      fit.common[std::size_t(i)] = solution[i];
      for (int c = 0; c < 3; ++c) fit.own[std::size_t(c)][std::size_t(i)] = solution[n * (1 + c) + i];
    }
  for (int i = 0; i < int(layout.frames); ++i) fit.light[std::size_t(i)] = {solution[layout.light(i)], solution[layout.colour(i, 0)], solution[layout.colour(i, 2)]};
}


/// What the pairs say of one group of unknowns by themselves: the others are taken out (Schur's complement). Along the stretch nothing is
/// said, where the curve could make up for it.
LightKnowledge knowledgeOf(Equations e, const Layout& layout, const Eigen::MatrixXd& stretches, double scale, Group group) {
  addBeliefs(e, layout, stretches, scale, group);
  const int first = group == Group::Light ? layout.light(0) : layout.colour(0, group == Group::Red ? 0 : 2), count = int(layout.frames);
  std::vector<int> rest;
  for (int i = 0; i < e.h.rows(); ++i)
    if (i < first || i >= first + count) rest.push_back(i);
  const Eigen::MatrixXd b = e.h(Eigen::seqN(first, count), rest);
  const Eigen::LDLT<Eigen::MatrixXd> solver(Eigen::MatrixXd(e.h(rest, rest)));
  const Eigen::VectorXd other = e.g(rest);
  Eigen::MatrixXd p = (e.h.block(first, first, count, count) - b * solver.solve(b.transpose())) / scale;
  Eigen::VectorXd q = (e.g.segment(first, count) - b * solver.solve(other)) / scale;
  if (layout.curve) {
    const Eigen::MatrixXd across = Eigen::MatrixXd::Identity(count, count) - stretches * stretches.transpose();
    p = across * p * across;
    q = across * q;
  }
  LightKnowledge out;
  out.precision.assign(p.data(), p.data() + p.size());
  out.information.assign(q.data(), q.data() + q.size());
  return out;
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

std::vector<CodePairs> allPairs(const std::vector<PlacedFrame>& frames) {
  std::vector<Image<float>> cells;
  const int pitch = cellPitch(frames.front().frame->width(), frames.front().frame->height());
  for (const auto& placed : frames) cells.push_back(flatCells(placed, pitch));
  struct Wanted {
    std::size_t dark, light;
    double stops;
  };
  std::vector<Wanted> wanted;
  for (std::size_t i = 0; i < frames.size(); ++i)
    for (std::size_t j = i + 1; j < std::min(frames.size(), i + 3); ++j) {
      const double stops = std::log2(relativeExposure(frames[j].frame->settings) / relativeExposure(frames[i].frame->settings));
      if (stops >= kLeastStops && stops <= kMostStops) wanted.push_back({i, j, stops});
    }
  std::vector<CodePairs> pairs(wanted.size());
  forEachBand(int(wanted.size()), [&](const Band& band) {
    const auto& [dark, light, stops] = wanted[std::size_t(band.begin)];
    pairs[std::size_t(band.begin)] = pairsOf(cells[dark], cells[light], int(dark), int(light), stops);
  }, 1);
  return pairs;
}

/// The known curve that agrees best.
struct Start {
  Fit fit;
  Spread spread;
  double disagreementBefore = 0; ///< With the first of them, stops.
};
Start bestStart(std::vector<Piece>& pieces, std::size_t frames) {
  Start best{Fit(frames), {1e9, 1e9}, 0};
  for (const auto& known : kKnown) {
    Fit fit(frames);
    fit.start = &known;
    startFrom(known, pieces);
    const Spread spread = spreadOf(fit, pieces);
    if (&known == &kKnown[0]) best.disagreementBefore = spread.stops;
    if (spread.sigmas < best.spread.sigmas) best.spread = spread, best.fit = fit;
  }
  return best;
}

struct Found {
  Fit fit;
  Spread spread;
  double limit; ///< Residuals beyond it are not believed.
};

enum class Light { Fixed, Free };

double scaleOf(const Spread& spread) { return kNeighboursAlike * std::max(1.0, spread.sigmas * spread.sigmas); }

Found refined(Found found, std::vector<Piece>& pieces, const Layout& layout, Light light) {
  constexpr int kRounds = 4;
  constexpr double kFixed = 1e9;
  for (int round = 0; round < kRounds; ++round) {
    improve(found.fit, pieces, found.limit, light == Light::Fixed ? kFixed : scaleOf(found.spread), layout);
    found.spread = spreadOf(found.fit, pieces);
    found.limit = std::clamp(4.5 * found.spread.sigmas, 4.0, found.limit);
  }
  return found;
}

/// Of linear frames: what the middle of green says between frames that are joined by most samples. A step of the light is far beyond what
/// noise explains, and a fit that began without it would take the pairs across it for outliers.
void startLight(Fit& fit, const std::vector<Piece>& pieces, std::size_t frames) {
  constexpr std::size_t kFewest = 200;
  std::vector<const Piece*> green;
  for (const Piece& piece : pieces)
    if (piece.channel == 1 && piece.pair->samples >= kFewest) green.push_back(&piece);
  std::stable_sort(green.begin(), green.end(), [](const Piece* a, const Piece* b) { return a->pair->samples > b->pair->samples; });
  std::vector<char> known(frames, 0);
  for (std::size_t root = 0; root < frames; ++root) {
    if (known[root]) continue;
    known[root] = 1;
    for (bool grown = true; grown;) {
      grown = false;
      for (const Piece* piece : green) {
        const auto dark = std::size_t(piece->pair->dark), bright = std::size_t(piece->pair->light);
        if (known[dark] == known[bright]) continue;
        const Residuals residuals(fit, *piece);
        std::vector<Weighted> list;
        for (std::size_t i = 0; i < piece->bins().size(); ++i) list.push_back({residuals[i].value, residuals[i].weight / (residuals[i].sigma * residuals[i].sigma)});
        if (list.empty()) continue;
        const double step = weightedMedian(list);
        if (known[dark]) fit.light[bright].stops += step;
        else fit.light[dark].stops -= step;
        known[dark] = known[bright] = grown = 1;
        break;
      }
    }
  }
  double mean = 0;
  for (const FrameLight& l : fit.light) mean += l.stops / double(frames);
  for (FrameLight& l : fit.light) l.stops -= mean;
}

constexpr double kMostLight = 0.6; ///< Stops of a frame beyond its settings; more is the curve's, in tones that no two pairs share.

/// First the curve by the settings as they are, then the light of each frame: else a frame that is lost to the curve can make up for it.
Found curveAndLight(const Found& first, std::vector<Piece>& pieces, const Layout& layout) {
  const Found curve = refined(first, pieces, layout, Light::Fixed);
  Found both = refined(curve, pieces, layout, Light::Free);
  const bool sound = std::all_of(both.fit.light.begin(), both.fit.light.end(), [](const FrameLight& l) { return std::abs(l.stops) <= kMostLight; });
  return sound ? both : refined(curve, pieces, layout, Light::Fixed);
}

Response responseOf(const Fit& fit, const std::vector<CodePairs>& pairs, int size) {
  Response out;
  float low = 1, high = 0;
  for (const auto& pair : pairs) {
    out.samples += pair.samples;
    for (const auto& bins : pair.bins)
      for (const auto& bin : bins) low = std::min({low, bin.a, bin.b}), high = std::max({high, bin.a, bin.b});
  }
  out.start = fit.start->name;
  out.lowestCode = int(low * float(size - 1));
  out.highestCode = int(high * float(size - 1));
  out.table = tableOf(fit, size, std::max(double(low), 3.0 / 255), 0.985f);
  return out;
}

} // namespace

LightKnowledge::Step LightKnowledge::stepOf(const std::vector<char>& later, const std::vector<double>& ownSigma) const {
  const auto n = Eigen::Index(later.size());
  if (std::size_t(n * n) != precision.size() || n == 0) return {};
  const Eigen::Map<const Eigen::MatrixXd> p(precision.data(), n, n);
  const Eigen::Map<const Eigen::VectorXd> q(information.data(), n);
  Eigen::MatrixXd with = p;
  Eigen::VectorXd u(n);
  for (Eigen::Index i = 0; i < n; ++i) with(i, i) += 1 / (ownSigma[std::size_t(i)] * ownSigma[std::size_t(i)]), u[i] = later[std::size_t(i)] ? 1 : 0;
  const Eigen::LDLT<Eigen::MatrixXd> solver(with);
  // (P^-1 + S)^-1 = P - P (P + S^-1)^-1 P, without the inverse of P that need not be.
  const Eigen::VectorXd pu = p * u, known = pu - p * solver.solve(pu);
  const double information_ = u.dot(known), value = u.dot(q - p * solver.solve(Eigen::VectorXd(q)));
  if (!(information_ > 1e-6)) return {};
  return {value / information_, 1 / std::sqrt(information_)};
}

Photometry findPhotometry(const std::vector<CodePairs>& pairs, std::size_t frames, int size, bool linear) {
  Photometry out;
  out.light.resize(frames);
  std::size_t samples = 0;
  for (const auto& pair : pairs) samples += pair.samples;
  if (samples < kEnoughSamples) return out;
  auto pieces = piecesOf(pairs);
  const Layout layout{frames, !linear};
  Start start{Fit(frames), {}, 0};
  if (linear) {
    start.fit.start = &kSquare;
    startFrom(kSquare, pieces);
    startLight(start.fit, pieces, frames);
    start.spread = spreadOf(start.fit, pieces);
  } else {
    start = bestStart(pieces, frames);
    startFrom(*start.fit.start, pieces);
  }
  const Found first{start.fit, start.spread, std::max(12.0, 4 * start.spread.sigmas)};
  const Layout known{frames, false};
  Found found = linear ? refined(first, pieces, known, Light::Free) : curveAndLight(first, pieces, layout);
  const bool changed = !linear && found.spread.sigmas < 0.9 * start.spread.sigmas;
  if (!linear && !changed) found = refined(first, pieces, known, Light::Free); // the known curve will do, and light is found by it
  const Layout& used = changed ? layout : known;
  out.light = found.fit.light;
  const Equations last = equationsOf(found.fit, pieces, found.limit, used);
  const double scale = scaleOf(found.spread);
  const Eigen::MatrixXd stretches = stretchesOf(pieces, frames);
  out.overall = knowledgeOf(last, used, stretches, scale, Group::Light);
  out.red = knowledgeOf(last, used, stretches, scale, Group::Red);
  out.blue = knowledgeOf(last, used, stretches, scale, Group::Blue);
  if (linear) return out;
  Response response = responseOf(changed ? found.fit : start.fit, pairs, size);
  response.changed = changed;
  response.disagreementBefore = start.disagreementBefore;
  response.disagreementAfter = found.spread.stops;
  out.response = std::move(response);
  return out;
}

Photometry findPhotometry(const std::vector<PlacedFrame>& frames) {
  Photometry none;
  none.light.resize(frames.size());
  if (frames.size() < 2) return none;
  const Frame& first = *frames.front().frame;
  return findPhotometry(allPairs(frames), frames.size(), first.table.size(), !first.curveAssumed);
}

std::optional<Response> recoverResponse(const std::vector<PlacedFrame>& frames) { return findPhotometry(frames).response; }

} // namespace ml
