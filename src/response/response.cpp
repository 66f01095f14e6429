// SPDX-License-Identifier: GPL-3.0-or-later
#include "response/response.h"

#include "base/parallel.h"
#include "response/fit_equations.h"

#include <Eigen/Dense>
#include <cmath>
#include <functional>

namespace ml {
namespace {

using namespace fit;

constexpr std::size_t kEnoughSamples = 400;
constexpr double kLeastStops = 0.2, kMostStops = 6; ///< Between two frames that are compared.

/// How a curve goes on below the lowest measured code: as it falls against the known one over the octave of codes above
/// it, within what curves of cameras do.
double fallBelow(const Fit& fit, std::size_t channel, double lowest) {
  constexpr double kLeastFall = -0.5, kMostFall = 2; // beyond, noise has bent it
  const auto beyond = [&](double v) { return fit.log2Of(channel, v) - logOf(*fit.start, v); };
  return std::clamp(beyond(std::min(1.0, 2 * lowest)) - beyond(lowest), kLeastFall, kMostFall);
}

/// Light for each code, rising, 1 at the top.
CodeTable tableOf(const Fit& fit, int size, double lowest, float clipCode) {
  std::array<std::vector<float>, 3> tables;
  double top = 0;
  for (std::size_t c = 0; c < 3; ++c) top = std::max(top, fit.log2Of(c, 1));
  float clip = 1;
  for (std::size_t c = 0; c < 3; ++c) {
    auto& table = tables[c];
    table.resize(std::size_t(size));
    const double shift = fit.log2Of(c, lowest) - logOf(*fit.start, lowest), fall = fallBelow(fit, c, lowest);
    for (int code = 0; code < size; ++code) {
      const double v = double(code) / (size - 1);
      const double log =
          v < lowest ? shift + logOf(*fit.start, v) + fall * std::log2(std::max(v, 1e-4) / lowest) : fit.log2Of(c, v);
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
      const double stops =
          std::log2(relativeExposure(frames[j].frame->settings) / relativeExposure(frames[i].frame->settings));
      if (stops >= kLeastStops && stops <= kMostStops) wanted.push_back({i, j, stops});
    }
  std::vector<CodePairs> pairs(wanted.size());
  forEachBand(
      int(wanted.size()),
      [&](const Band& band) {
        const auto& [dark, light, stops] = wanted[std::size_t(band.begin)];
        pairs[std::size_t(band.begin)] = pairsOf(cells[dark], cells[light], int(dark), int(light), stops);
      },
      1);
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

double scaleOf(const Spread& spread) {
  return kNeighboursAlike * std::max(1.0, spread.sigmas * spread.sigmas);
}

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

constexpr double kAlike = 0.1;  ///< Stops about a step within which places say the same.
constexpr double kUsual = 0.35; ///< Stops that shutters and lamps depart from what was set without a fault.
constexpr double kClearly = 4;  ///< How many times more must speak for an unusual step than for a usual one.

/// The step that most places agree on, not the middle of them: what a walker covers may be more than all that two
/// frames share otherwise, but its places do not agree with each other. Reorders the list.
double commonStep(std::vector<Weighted>& list) {
  std::sort(list.begin(), list.end());
  double within = 0, usual = -1, any = -1;
  std::size_t first = 0, usualAt = 0, anyAt = 0;
  for (std::size_t last = 0; last < list.size(); ++last) {
    within += list[last].weight;
    while (list[last].value - list[first].value > 2 * kAlike) within -= list[first++].weight;
    if (within > any) any = within, anyAt = first;
    if (std::abs(list[first].value + kAlike) <= kUsual && within > usual) usual = within, usualAt = first;
  }
  const std::size_t from = any > kClearly * usual ? anyAt : usualAt;
  std::vector<Weighted> alike;
  for (std::size_t i = from; i < list.size() && list[i].value - list[from].value <= 2 * kAlike; ++i)
    alike.push_back(list[i]);
  return weightedMedian(alike);
}

/// Of linear frames: what green says between frames that are joined by most samples. A step of the light is far beyond
/// what noise explains, and a fit that began without it would take the pairs across it for outliers.
void startLight(Fit& fit, const std::vector<Piece>& pieces, std::size_t frames) {
  constexpr std::size_t kFewest = 200;
  constexpr float kClearlyLit =
      0.15f; // root of light: nearer to the least that is looked at, noise has chosen the cells
  std::vector<const Piece*> green;
  for (const Piece& piece : pieces)
    if (piece.channel == 1 && piece.pair->samples >= kFewest) green.push_back(&piece);
  std::stable_sort(green.begin(), green.end(),
                   [](const Piece* a, const Piece* b) { return a->pair->samples > b->pair->samples; });
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
        const double beyond = fit.beyond(*piece->pair, 1); // of the one that is known already
        std::vector<Weighted> list;
        double samples = 0;
        for (const float least : {kClearlyLit, 0.f}) {
          if (samples >= kFewest) break;
          list.clear();
          samples = 0;
          for (std::size_t i = 0; i < piece->bins().size(); ++i)
            if (piece->bins()[i].a >= least)
              list.push_back(
                  {residuals[i].value + beyond, residuals[i].weight / (residuals[i].sigma * residuals[i].sigma)}),
                  samples += residuals[i].weight;
        }
        if (list.empty()) continue;
        const double step = commonStep(list);
        if (known[dark])
          fit.light[bright].stops = fit.light[dark].stops + step;
        else
          fit.light[dark].stops = fit.light[bright].stops - step;
        known[dark] = known[bright] = grown = 1;
        break;
      }
    }
  }
  double mean = 0;
  for (const FrameLight& l : fit.light) mean += l.stops / double(frames);
  for (FrameLight& l : fit.light) l.stops -= mean;
}

constexpr double kMostLight =
    0.6; ///< Stops of a frame beyond its settings; more is the curve's, in tones that no two pairs share.

/// First the curve by the settings as they are, then the light of each frame: else a frame that is lost to the curve
/// can make up for it.
Found curveAndLight(const Found& first, std::vector<Piece>& pieces, const Layout& layout) {
  const Found curve = refined(first, pieces, layout, Light::Fixed);
  Found both = refined(curve, pieces, layout, Light::Free);
  const bool sound = std::all_of(both.fit.light.begin(), both.fit.light.end(),
                                 [](const FrameLight& l) { return std::abs(l.stops) <= kMostLight; });
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
  for (Eigen::Index i = 0; i < n; ++i)
    with(i, i) += 1 / (ownSigma[std::size_t(i)] * ownSigma[std::size_t(i)]), u[i] = later[std::size_t(i)] ? 1 : 0;
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
  if (!linear && !changed)
    found = refined(first, pieces, known, Light::Free); // the known curve will do, and light is found by it
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

std::optional<Response> recoverResponse(const std::vector<PlacedFrame>& frames) {
  return findPhotometry(frames).response;
}

} // namespace ml
