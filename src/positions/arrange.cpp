// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/arrange.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "positions/features.h"
#include "positions/refine.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <functional>
#include <numeric>

namespace ml {
namespace {

constexpr int kFeatureEdge = 1400, kRefineEdge = 2000, kFeatures = 1400, kFeaturesOfLook = 800;
constexpr int kLeastInliers = 10;
constexpr double kLeastShare = 0.12;      ///< Of the matches of a pair, that must agree.
constexpr double kLooseTolerance = 0.012; ///< Of the frame's width: a bent lens is not known yet.
constexpr double kLeastFound = 0.1;       ///< Share of textured places of two frames that must be found again.
constexpr int kLeastPlaces = 6;
/// Correlation from which two patches show the same; blurred planes of focus share less.
constexpr double kAlikeNeighbours = 0.85, kAlikePlanes = 0.75;
constexpr int kPlaneEdge = 700;    ///< Planes of focus are compared this small: what is out of focus is alike there.
constexpr double kSamePlace = 0.8; ///< Overlap from which two positions are planes of focus of one view.
constexpr double kLeastOverlap = 0.03;

ComparedPictures comparedPictures(const std::vector<Image<std::uint16_t>>& pictures, const LightCodes& codes,
                                  int edge) {
  ComparedPictures out;
  const int longest = std::max(pictures[0].width(), pictures[0].height());
  out.factor = std::max(1, (longest + edge - 1) / edge);
  for (const auto& picture : pictures)
    out.tones.push_back(comparedTones(picture, codes, std::max(1e-30f, medianLight(picture, codes)), out.factor));
  return out;
}

ComparedPictures halved(const ComparedPictures& in) {
  ComparedPictures out;
  out.factor = 2 * in.factor;
  for (const auto& tones : in.tones) {
    Image<float> half(tones.width() / 2, tones.height() / 2, 1);
    for (int y = 0; y < half.height(); ++y)
      for (int x = 0; x < half.width(); ++x)
        *half.at(x, y) = 0.25f * (*tones.at(2 * x, 2 * y) + *tones.at(2 * x + 1, 2 * y) + *tones.at(2 * x, 2 * y + 1) +
                                  *tones.at(2 * x + 1, 2 * y + 1));
    out.tones.push_back(std::move(half));
  }
  return out;
}

std::vector<PairMatches> matchAll(const ComparedPictures& compared, int most, std::vector<int>& counts,
                                  const Progress& progress) {
  std::vector<std::vector<Feature>> features;
  const int n = int(compared.tones.size());
  for (int i = 0; i < n && !progress.stopRequested(); ++i) {
    features.push_back(findFeatures(compared.tones[std::size_t(i)], most, progress.stop));
    counts.push_back(int(features.back().size()));
    progress.at(phrase("Find places that positions share"), 0.5 * (i + 1) / n);
  }
  const double f = compared.factor;
  std::vector<PairMatches> out;
  for (int a = 0; a < n; ++a)
    for (int b = a + 1; b < n && !progress.stopRequested(); ++b) {
      PairMatches pair{a, b, {}};
      const auto &one = features[std::size_t(a)], &other = features[std::size_t(b)];
      for (const FeaturePair& p : pairFeatures(one, other)) {
        const Feature &fa = one[std::size_t(p.a)], &fb = other[std::size_t(p.b)];
        pair.matches.push_back(
            {(fa.x + 0.5) * f - 0.5, (fa.y + 0.5) * f - 0.5, (fb.x + 0.5) * f - 0.5, (fb.y + 0.5) * f - 0.5});
      }
      if (pair.matches.size() >= 5) out.push_back(std::move(pair));
      progress.at(phrase("Find places that positions share"), 0.5 + 0.5 * (a * n + b) / double(n * n));
    }
  return out;
}

struct FrameSize {
  int width, height;
};

/// Many that agree, or few matches of which most agree; what holds is looked at closely before it is believed.
bool holds(const PairFit& fit, const PairMatches& pair) {
  const double agree = double(fit.inliers.size()), share = agree / double(pair.matches.size());
  return (agree >= kLeastInliers && share >= kLeastShare) || (agree >= 6 && share >= 0.45) ||
         (agree >= 5 && share >= 0.7);
}

/// The lens by which most matches agree, of a coarse grid and what is known.
LensGuess guessLens(const std::vector<PairMatches>& pairs, FrameSize size, double known) {
  std::vector<const PairMatches*> best;
  for (const auto& pair : pairs) best.push_back(&pair);
  std::stable_sort(best.begin(), best.end(),
                   [](const auto* a, const auto* b) { return a->matches.size() > b->matches.size(); });
  best.resize(std::min<std::size_t>(best.size(), 12));
  std::vector<LensGuess> guesses;
  const double width = std::max(size.width, size.height);
  for (const double f : {0.4, 0.5, 0.63, 0.8, 1.0, 1.25, 1.6, 2.0, 2.5, 3.2, 4.5, 7.0})
    for (const double k1 : {0.0, -0.05, 0.05}) guesses.push_back({f * width, {k1, 0}});
  if (known > 0) guesses.push_back({known, {0, 0}});
  std::vector<int> scores(guesses.size());
  forEachBand(
      int(guesses.size()),
      [&](const Band& band) {
        for (const auto* pair : best)
          scores[std::size_t(band.begin)] += int(
              fitTurn(*pair, guesses[std::size_t(band.begin)], size.width, size.height, 0.5 * kLooseTolerance * width)
                  .inliers.size());
      },
      1);
  std::size_t chosen = 0;
  for (std::size_t i = 1; i < guesses.size(); ++i) {
    // An unbent lens unless the matches say otherwise clearly.
    const double favour = guesses[i].bend.k1 == 0 ? 1 : 0.95, held = guesses[chosen].bend.k1 == 0 ? 1 : 0.95;
    if (scores[i] * favour > scores[chosen] * held) chosen = i;
  }
  return guesses[chosen];
}

struct Tied {
  std::vector<PairMatches> pairs; ///< Inliers of the pairs that hold.
  std::vector<PairFit> fits;
  std::vector<int> component; ///< Of each position.
  int largest = 0;
};

std::vector<int> componentsOf(int n, const std::vector<PairMatches>& pairs) {
  std::vector<int> out(static_cast<std::size_t>(n));
  std::iota(out.begin(), out.end(), 0);
  for (const auto& pair : pairs) {
    const int from = out[std::size_t(pair.b)], to = out[std::size_t(pair.a)];
    for (int& c : out)
      if (c == from) c = to;
  }
  return out;
}

int largestOf(const std::vector<int>& component) {
  int best = component[0];
  for (const int c : component)
    if (std::count(component.begin(), component.end(), c) > std::count(component.begin(), component.end(), best))
      best = c;
  return best;
}

Tied tie(int n, const std::vector<PairMatches>& all, const std::function<PairFit(const PairMatches&)>& fit) {
  Tied out;
  std::vector<PairFit> fits(all.size());
  forEachBand(
      int(all.size()), [&](const Band& band) { fits[std::size_t(band.begin)] = fit(all[std::size_t(band.begin)]); }, 1);
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (!holds(fits[i], all[i])) continue;
    PairMatches kept{all[i].a, all[i].b, {}};
    for (const int k : fits[i].inliers) kept.matches.push_back(all[i].matches[std::size_t(k)]);
    out.pairs.push_back(std::move(kept));
    out.fits.push_back(std::move(fits[i]));
  }
  out.component = componentsOf(n, out.pairs);
  out.largest = largestOf(out.component);
  return out;
}

/// Chains the pairs from the best tied position outwards, the surest first.
void chain(Arrangement& a, const Tied& tied) {
  const std::size_t n = a.poses.size();
  std::vector<bool> placed(n);
  std::vector<std::size_t> sum(n);
  for (std::size_t i = 0; i < tied.pairs.size(); ++i) {
    sum[std::size_t(tied.pairs[i].a)] += tied.fits[i].inliers.size();
    sum[std::size_t(tied.pairs[i].b)] += tied.fits[i].inliers.size();
  }
  placed[std::size_t(std::max_element(sum.begin(), sum.end()) - sum.begin())] = true;
  for (;;) {
    int best = -1;
    for (int i = 0; i < int(tied.pairs.size()); ++i) {
      const auto& pair = tied.pairs[std::size_t(i)];
      if (placed[std::size_t(pair.a)] == placed[std::size_t(pair.b)]) continue;
      if (best < 0 || tied.fits[std::size_t(i)].inliers.size() > tied.fits[std::size_t(best)].inliers.size()) best = i;
    }
    if (best < 0) return;
    const auto& pair = tied.pairs[std::size_t(best)];
    const PairFit& fit = tied.fits[std::size_t(best)];
    const bool forward = placed[std::size_t(pair.a)];
    Pose& from = a.poses[std::size_t(forward ? pair.a : pair.b)];
    Pose& to = a.poses[std::size_t(forward ? pair.b : pair.a)];
    // ray_b = turn ray_a, so world = T_a ray_a = T_a turn^T ray_b. A place moves against the frame's shift.
    to.turn = multiply(from.turn, forward ? transposed(fit.turn) : fit.turn);
    to.shiftX = from.shiftX + (forward ? -fit.shiftX : fit.shiftX);
    to.shiftY = from.shiftY + (forward ? -fit.shiftY : fit.shiftY);
    placed[std::size_t(forward ? pair.b : pair.a)] = true;
  }
}

/// Positions that look at one place become planes of focus of it, in the order of their first files.
void findPlanes(Arrangement& a, const std::vector<PairMatches>& pairs) {
  a.plane.assign(a.poses.size(), 0);
  std::vector<PairMatches> same;
  for (const auto& pair : pairs)
    if (overlapOf(a, std::size_t(pair.a), std::size_t(pair.b)) > kSamePlace) same.push_back({pair.a, pair.b, {}});
  const auto component = componentsOf(int(a.poses.size()), same);
  for (std::size_t i = 0; i < a.poses.size(); ++i)
    a.plane[i] = int(std::count(component.begin(), component.begin() + std::ptrdiff_t(i), component[i]));
  a.view = component;
}

/// Planes of focus of one view say nothing of the lens.
bool isOneView(const Arrangement& a) {
  return std::all_of(a.view.begin(), a.view.end(), [&](int v) { return v == a.view[0]; });
}
bool hasPlanes(const Arrangement& a) {
  return std::any_of(a.plane.begin(), a.plane.end(), [](int p) { return p > 0; });
}
void unbend(Arrangement& a, const ArrangeOptions& options) {
  const double focal = options.focalKnown > 0 ? options.focalKnown : std::max(a.width, a.height);
  for (Pose& pose : a.poses) pose.focal *= focal / a.poses[0].focal;
  a.bend = {};
}

struct Solved {
  Arrangement arrangement;
  Tied tied;
  double rms = 0;
  std::size_t agreeing = 0;
};

Solved solve(PositionKind kind, const std::vector<PairMatches>& all, int n, FrameSize size,
             const ArrangeOptions& options) {
  const double width = std::max(size.width, size.height);
  Solved out;
  Arrangement& a = out.arrangement;
  a.kind = kind, a.width = size.width, a.height = size.height;
  LensGuess lens{options.focalKnown > 0 ? options.focalKnown : width, {}};
  if (kind == PositionKind::Turned) lens = guessLens(all, size, options.focalKnown);
  out.tied = tie(n, all, [&](const PairMatches& pair) {
    return kind == PositionKind::Turned ? fitTurn(pair, lens, size.width, size.height, kLooseTolerance * width)
                                        : fitShift(pair, 0.5 * kLooseTolerance * width);
  });
  a.poses.assign(std::size_t(n), {kIdentity3, lens.focal, 0, 0});
  a.bend = lens.bend;
  chain(a, out.tied);
  findPlanes(a, out.tied.pairs);
  // All matches of the pairs that hold take part again: the tolerance shrinks while the lens becomes known.
  std::vector<PairMatches> held;
  for (const auto& pair : all)
    if (std::any_of(out.tied.pairs.begin(), out.tied.pairs.end(),
                    [&](const auto& p) { return p.a == pair.a && p.b == pair.b; }))
      held.push_back(pair);
  const bool oneView = isOneView(a);
  if (oneView) unbend(a, options);
  for (const double scale : {kLooseTolerance, 0.5 * kLooseTolerance, 0.25 * kLooseTolerance, 0.0015})
    out.rms = adjust(a, held, {std::max(1.0, scale * width), !oneView, options.focalKnown});
  for (const auto& pair : held)
    for (const auto& m : pair.matches) out.agreeing += residualOf(a, pair.a, pair.b, m) < 0.002 * width + 0.5;
  return out;
}

std::string called(const std::vector<std::string>& names, std::size_t i) {
  return phrase("Position {} (`{}`)", i + 1, names[i]);
}

Error loose(const std::vector<std::string>& names, const std::vector<int>& features, std::size_t i) {
  constexpr int kFew = 40;
  if (features[i] < kFew)
    return {ErrorCode::CannotAlign, phrase("{} shows too little detail to be placed (a bare wall, sky or water); shoot "
                                           "it with more of its neighbours in it, or leave it out.",
                                           called(names, i))};
  return {ErrorCode::CannotAlign, phrase("{} cannot be joined: it shares too little with the others, or shows another "
                                         "place; shoot it with a third of overlap, or leave it out.",
                                         called(names, i))};
}

double medianOf(std::vector<double> v) {
  if (v.empty()) return 0;
  std::nth_element(v.begin(), v.begin() + std::ptrdiff_t(v.size() / 2), v.end());
  return v[v.size() / 2];
}

/// From places of either frame: what either sees twice counts twice, with noise of its own.
PairLook lookBothWays(const Arrangement& a, const ComparedPictures& compared, int i, int k, double alike) {
  PairLook forth = lookAtPair(a, compared, i, k, alike);
  const PairLook back = lookAtPair(a, compared, k, i, alike);
  forth.backwards = back.found.matches;
  forth.tried += back.tried;
  return forth;
}

/// The same pictures at several sizes: the finer are exact, the coarser hold less noise. Planes of focus of a view are
/// compared small, because what is sharp in one is blurred in the other.
struct Looking {
  std::vector<const ComparedPictures*> neighbours;
  const ComparedPictures* planes;
};

/// Pairs that the arrangement says overlap, looked at closely; the matches of those that agree.
std::vector<PairMatches> lookClosely(const Arrangement& a, const Looking& looking, const Progress& progress) {
  std::vector<std::pair<int, int>> wanted;
  const int n = int(a.poses.size());
  for (int i = 0; i < n; ++i)
    for (int k = i + 1; k < n; ++k)
      if (overlapOf(a, std::size_t(i), std::size_t(k)) > kLeastOverlap) wanted.emplace_back(i, k);
  std::vector<std::vector<PairLook>> looks(wanted.size());
  std::atomic<int> done{0};
  forEachBand(
      int(wanted.size()), progress.stop,
      [&](const Band& band) {
        const auto [i, k] = wanted[std::size_t(band.begin)];
        const bool planes = a.view[std::size_t(i)] == a.view[std::size_t(k)];
        auto& said = looks[std::size_t(band.begin)];
        if (planes)
          said.push_back(lookBothWays(a, *looking.planes, i, k, kAlikePlanes));
        else
          for (const auto* pictures : looking.neighbours)
            said.push_back(lookBothWays(a, *pictures, i, k, kAlikeNeighbours));
        progress.at(phrase("Place the positions"), double(++done) / double(wanted.size()));
      },
      1);
  std::vector<PairMatches> out;
  for (const auto& said : looks)
    for (const PairLook& look : said) {
      const int found = int(look.found.matches.size() + look.backwards.size());
      if (found < kLeastPlaces || found < kLeastFound * look.tried) continue;
      out.push_back(look.found);
      out.push_back({look.found.b, look.found.a, look.backwards});
    }
  return out;
}

void measureFits(Arranged& out, double scale) {
  const Arrangement& a = out.arrangement;
  const std::size_t n = a.poses.size();
  out.fits.assign(n, {});
  std::vector<std::vector<double>> residuals(n);
  for (const auto& pair : out.pairs)
    for (const auto& m : pair.matches) {
      const double r = residualOf(a, pair.a, pair.b, m);
      residuals[std::size_t(pair.a)].push_back(r);
      residuals[std::size_t(pair.b)].push_back(r);
    }
  for (std::size_t i = 0; i < n; ++i) {
    const double middle = medianOf(residuals[i]);
    double sum = 0;
    int count = 0;
    for (const double r : residuals[i])
      if (r < 3 * middle + 0.5 * scale) sum += r * r, ++count; // what moved is no residual of the position
    out.fits[i].residual = count ? std::sqrt(sum / count) : 0;
    std::sort(residuals[i].begin(), residuals[i].end());
    if (!residuals[i].empty()) out.fits[i].parallax = residuals[i][residuals[i].size() * 9 / 10];
    for (std::size_t k = 0; k < n; ++k)
      if (k != i) out.fits[i].overlap = std::max(out.fits[i].overlap, overlapOf(a, i, k));
  }
}

/// What a seam must hide is said, the worst first.
void sayParallax(Arranged& out, const std::vector<std::string>& names) {
  const auto worst = std::max_element(out.fits.begin(), out.fits.end(),
                                      [](const auto& a, const auto& b) { return a.parallax < b.parallax; });
  const double limit = std::max(2.0, 0.001 * out.arrangement.width);
  if (worst->parallax > limit)
    out.remarks.push_back(phrase("Near and far things lie differently by {:.0f} pixels about position {} (`{}`): "
                                 "look at the seams there.",
                                 worst->parallax, worst - out.fits.begin() + 1,
                                 names[std::size_t(worst - out.fits.begin())]));
}

/// A position whose matches still contradict each other: near and far lie differently.
std::optional<Error> contradiction(const Arranged& arranged, const std::vector<std::string>& names) {
  const double limit = std::max(3.0, 0.003 * arranged.arrangement.width);
  for (std::size_t i = 0; i < names.size(); ++i)
    if (arranged.fits[i].residual > limit)
      return Error{ErrorCode::CannotAlign,
                   phrase("{} cannot be joined: near and far things lie differently in it, by {:.0f} pixels; "
                          "turn the camera about the lens's entrance pupil, or leave it out.",
                          called(names, i), arranged.fits[i].residual)};
  return {};
}

} // namespace

Result<Arranged> arrangePositions(const std::vector<Image<std::uint16_t>>& pictures, const LightCodes& codes,
                                  const std::vector<std::string>& names, const ArrangeOptions& options,
                                  const Progress& progress) {
  const int n = int(pictures.size());
  if (n < 2)
    return fail(ErrorCode::TooFewFrames, phrase("One position cannot be joined to another; name at least two."));
  const FrameSize size{pictures[0].width(), pictures[0].height()};
  for (std::size_t i = 1; i < pictures.size(); ++i)
    if (pictures[i].width() != size.width || pictures[i].height() != size.height)
      return fail(ErrorCode::SizeMismatch,
                  phrase("{} has {} x {} pixels and `{}` has {} x {}; join only positions of one size.",
                         called(names, i), pictures[i].width(), pictures[i].height(), names[0], size.width,
                         size.height));
  const auto coarse = comparedPictures(pictures, codes, kFeatureEdge);
  std::vector<int> features;
  const auto all = matchAll(coarse, options.firstLook ? kFeaturesOfLook : kFeatures, features, progress.part(0, 0.6));
  if (progress.stopRequested()) return stopped();

  std::optional<Solved> best;
  if (options.kind != PositionWish::Shifted) best = solve(PositionKind::Turned, all, n, size, options);
  if (options.kind != PositionWish::Turned) {
    Solved shifted = solve(PositionKind::Shifted, all, n, size, options);
    // A turned camera of a long lens explains every shift; the shift is taken where it explains as much.
    // Planes of focus of one view are neither.
    if (!best || (!isOneView(shifted.arrangement) && double(shifted.agreeing) > 0.93 * double(best->agreeing) &&
                  shifted.rms < 1.25 * best->rms + 0.15))
      best = std::move(shifted);
  }
  const auto looseOne = std::find_if(best->tied.component.begin(), best->tied.component.end(),
                                     [&](int c) { return c != best->tied.largest; });
  if (looseOne != best->tied.component.end())
    return tl::unexpected(loose(names, features, std::size_t(looseOne - best->tied.component.begin())));

  Arranged out{std::move(best->arrangement), {}, {}, {}};
  const auto fine =
      coarse.factor > 1 && !options.firstLook ? comparedPictures(pictures, codes, kRefineEdge) : ComparedPictures{};
  const ComparedPictures& finest = fine.tones.empty() ? coarse : fine;
  const auto half = halved(finest), quarter = halved(half);
  const bool planes = hasPlanes(out.arrangement);
  const auto small = planes ? comparedPictures(pictures, codes, kPlaneEdge / 2) : ComparedPictures{},
             larger = planes ? comparedPictures(pictures, codes, kPlaneEdge) : ComparedPictures{};
  for (int round = 0; round < (options.firstLook ? 1 : 3); ++round) {
    const Looking looking{round == 0 ? std::vector{&coarse} : std::vector{&finest, &half, &quarter},
                          round == 0 ? &small : &larger};
    out.pairs = lookClosely(out.arrangement, looking, progress.part(0.6 + 0.13 * round, 0.73 + 0.13 * round));
    if (progress.stopRequested()) return stopped();
    const auto component = componentsOf(n, out.pairs);
    const int largest = largestOf(component);
    for (std::size_t i = 0; i < component.size(); ++i)
      if (component[i] != largest) return tl::unexpected(loose(names, features, i));
    adjust(out.arrangement, out.pairs, {round == 0 ? 12.0 : 4.0, !isOneView(out.arrangement), options.focalKnown});
  }
  measureFits(out, finest.factor);
  sayParallax(out, names);
  if (auto error = contradiction(out, names)) return tl::unexpected(*error);
  return out;
}

} // namespace ml
