// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/consistency.h"

#include "base/parallel.h"
#include "merge/cell_mask.h"
#include "merge/lent.h"
#include "merge/placed_cells.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

namespace ml {
namespace {

constexpr int kThingsAcross = 64;     ///< Gaps of a sixty-fourth of the width or less do not part a thing.
constexpr double kDisagreeing = 0.02; ///< A frame that differs on more of a region than this is left out of all of it.
constexpr std::size_t kShown = 4;     ///< Cells; smaller parts of a region are not told one by one.
constexpr int kGrow = kBorderCells;
constexpr double kUntold = 30,
                 kFar = 0.08; ///< What a share of a region costs that nobody tells, and a stop of distance.

struct Sensitivity {
  float sigmas, relative, edge,
      chroma; ///< Differences below noise x sigmas + relative x light + edge x local range are no movement.
};

Sensitivity sensitivityOf(MotionMode mode) {
  switch (mode) {
  case MotionMode::Low: return {6, 0.20f, 0.5f, 0.35f};
  case MotionMode::High: return {3, 0.07f, 0.18f, 0.14f};
  default: return {4, 0.12f, 0.3f, 0.2f};
  }
}

/// One cell of one frame.
struct Reading {
  float radiance, sigma, range, chroma, chromaRange;
};
Reading reading(const PlacedCells& cells, int x, int y) {
  return {*cells.radiance.at(x, y), *cells.sigma.at(x, y), *cells.range.at(x, y), *cells.chroma.at(x, y),
          *cells.chromaRange.at(x, y)};
}
bool records(const PlacedCells& cells, int x, int y) {
  return *cells.recorded.at(x, y);
}
/// Well enough to do without the others.
bool recordsWell(const PlacedCells& cells, int x, int y) {
  return records(cells, x, y) && *cells.radiance.at(x, y) > 16 * *cells.sigma.at(x, y);
}

bool agree(const Reading& a, const Reading& b, const Sensitivity& s) {
  const float noise = a.sigma + b.sigma - 0.59f * std::min(a.sigma, b.sigma); // close to the root of the sum of squares
  if (std::abs(a.radiance - b.radiance) >
      s.sigmas * noise + s.relative * std::max(a.radiance, b.radiance) + s.edge * std::max(a.range, b.range))
    return false;
  // As light as what stands there otherwise, but of another colour. The colour of dark places is noise.
  const float uncertain = 4 * s.sigmas * noise / std::max(1e-12f, std::min(a.radiance, b.radiance));
  return std::abs(a.chroma - b.chroma) <= s.chroma + uncertain + s.edge * std::max(a.chromaRange, b.chromaRange);
}

/// Whether `r` can be what a frame saw there that only says "at least" (clipped) or "at most" (dark).
bool within(const PlacedCells& frame, int x, int y, const Reading& r, const Sensitivity& s) {
  const Reading seen = reading(frame, x, y);
  const float slack = s.sigmas * std::max(r.sigma, seen.sigma) * 1.2f + s.edge * std::max(r.range, seen.range);
  if (*frame.clipped.at(x, y)) return r.radiance * (1 + s.relative) + slack >= seen.radiance * 0.8f;
  return r.radiance <= seen.radiance * (1 + s.relative) + slack + 2 * seen.sigma;
}

/// Everything the steps share.
struct Scene {
  std::vector<PlacedCells> cells;
  std::vector<int> order; ///< By distance in exposure from the reference, that first.
  int reference = 0;
  bool emptied = false;
  [[nodiscard]] int width() const { return cells.front().radiance.width(); }
  [[nodiscard]] int height() const { return cells.front().radiance.height(); }
  [[nodiscard]] double stopsAway(std::size_t i) const {
    return std::abs(std::log2(cells[i].exposure / cells[std::size_t(reference)].exposure));
  }
};

std::vector<int> byDistance(const std::vector<PlacedFrame>& frames, int reference) {
  const auto exposure = [&](int i) {
    return relativeExposure(frames[std::size_t(i)].frame->settings) * frames[std::size_t(i)].frame->midTone;
  };
  std::vector<int> order(frames.size());
  std::iota(order.begin(), order.end(), 0);
  std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
    const auto distance = [&](int i) {
      return i == reference ? -1.0 : std::abs(std::log2(exposure(i) / exposure(reference)));
    };
    return distance(a) < distance(b);
  });
  return order;
}

bool same(const Scene& scene, std::size_t i, int x, int y, const Reading& truth, const Sensitivity& s) {
  const PlacedCells& frame = scene.cells[i];
  return *frame.clipped.at(x, y) ? within(frame, x, y, truth, s) : agree(truth, reading(frame, x, y), s);
}

int guidedOwner(const Scene& scene, int x, int y, const Sensitivity& s) {
  const PlacedCells& reference = scene.cells[std::size_t(scene.reference)];
  if (records(reference, x, y)) return scene.reference;
  int fallback = -1, atAnEdge = -1;
  for (const int i : scene.order) {
    if (i == scene.reference || !records(scene.cells[std::size_t(i)], x, y)) continue;
    Reading r = reading(scene.cells[std::size_t(i)], x, y);
    if (fallback < 0) fallback = i;
    if (atAnEdge < 0 && within(reference, x, y, r, s)) atAnEdge = i;
    r.range = 0; // a frame in which the cell lies across the edge of a thing owns it only when no other can
    if (within(reference, x, y, r, s)) return i;
  }
  return atAnEdge >= 0 ? atAnEdge : fallback;
}

/// A frame that most of the others agree with; of those with equal company the nearest to the reference.
int commonOwner(const Scene& scene, int x, int y, const Sensitivity& s) {
  int best = -1, most = 0;
  for (const int i : scene.order) {
    if (!records(scene.cells[std::size_t(i)], x, y)) continue;
    const Reading truth = reading(scene.cells[std::size_t(i)], x, y);
    int company = 0;
    for (std::size_t k = 0; k < scene.cells.size(); ++k)
      company += !scene.cells[k].outside(x, y) && same(scene, k, x, y, truth, s);
    if (company > most) most = company, best = i;
  }
  return best;
}

constexpr std::int8_t kNobody = -1;

struct Disagreements {
  Image<std::int8_t> owner;    ///< Frame that owns a cell; kNobody where none records it.
  std::vector<CellMask> masks; ///< For each frame the cells where it disagrees with their owner.
};

/// With `where`, only inside it.
Disagreements disagreements(const Scene& scene, const Sensitivity& s, const CellMask* where) {
  const int width = scene.width(), height = scene.height();
  Disagreements out{Image<std::int8_t>(width, height, 1), {}};
  out.owner.fill(kNobody);
  for (std::size_t i = 0; i < scene.cells.size(); ++i) out.masks.push_back(emptyMask(width, height));
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        if (where && !*where->at(x, y)) continue;
        const int owner = scene.emptied ? commonOwner(scene, x, y, s) : guidedOwner(scene, x, y, s);
        *out.owner.at(x, y) = std::int8_t(owner);
        if (owner < 0) continue;
        const Reading truth = reading(scene.cells[std::size_t(owner)], x, y);
        for (std::size_t i = 0; i < scene.cells.size(); ++i)
          if (int(i) != owner && !scene.cells[i].outside(x, y) && !same(scene, i, x, y, truth, s))
            *out.masks[i].at(x, y) = 1;
      }
  });
  return out;
}

/// Share of a region that a frame does not record; outside counts four times.
double lackOf(const PlacedCells& cells, const std::vector<int>& region) {
  double lacking = 0;
  const int w = cells.radiance.width();
  for (const int at : region)
    if (!records(cells, at % w, at / w)) lacking += cells.outside(at % w, at / w) ? 4 : 1;
  return lacking / double(region.size());
}

/// The frame that a place is taken from which the reference does not record: it records most of it, does not contradict
/// what the reference says, and lies near it in exposure.
int takerOf(const Scene& scene, const std::vector<int>& part, const Sensitivity& s) {
  const PlacedCells& reference = scene.cells[std::size_t(scene.reference)];
  const int w = scene.width();
  int best = scene.reference;
  double least = 1e9;
  for (std::size_t i = 0; i < scene.cells.size(); ++i) {
    const auto contradicts = [&](int at) {
      return int(i) != scene.reference && records(scene.cells[i], at % w, at / w) &&
             !same(scene, std::size_t(scene.reference), at % w, at / w, reading(scene.cells[i], at % w, at / w), s);
    };
    const double wrong = reference.radiance.empty()
                             ? 0
                             : double(std::count_if(part.begin(), part.end(), contradicts)) / double(part.size());
    const double lack = 6 * (lackOf(scene.cells[i], part) + wrong) + 0.08 * scene.stopsAway(i);
    if (lack < least) least = lack, best = int(i);
  }
  return best;
}

/// Cells of a region and around it.
std::vector<int> grown(const std::vector<int>& region, int by, int w, int h) {
  CellMask mask = emptyMask(w, h);
  for (const int at : region) mask.data()[at] = 1;
  const CellMask wider = dilated(mask, by);
  std::vector<int> cells;
  for (int at = 0; at < w * h; ++at)
    if (wider.data()[at]) cells.push_back(at);
  return cells;
}

/// Signal to noise ratio of a cell that one frame alone tells well, and roughly; of a pixel a quarter to an eighth of
/// it.
constexpr float kTellsAlone = 40, kTellsRoughly = 16;
constexpr double kDoubtful =
    0.25; ///< What noise leaves open, or two that contradict each other: both are near the truth.

/// How much it is left open what stands at a cell in the moment of frame `moment`, 0 to 1. Nothing where it records the
/// cell itself, or most of the others that do, and show nothing that would contradict it, show the same.
double untold(const Scene& scene, std::size_t moment, int x, int y, const Sensitivity& s) {
  const PlacedCells& frame = scene.cells[moment];
  const float signal = records(frame, x, y) ? *frame.radiance.at(x, y) / *frame.sigma.at(x, y) : 0;
  if (signal > (int(moment) == scene.reference ? kTellsRoughly : kTellsAlone)) return 0;
  std::size_t first = scene.cells.size();
  int more = 0; // who says the same as the first, less those who do not
  bool any = signal > kTellsRoughly;
  for (std::size_t i = 0; i < scene.cells.size(); ++i) {
    if (i == moment || !records(scene.cells[i], x, y)) continue;
    const Reading r = reading(scene.cells[i], x, y);
    if (!frame.outside(x, y) && !within(frame, x, y, r, s)) continue;
    any = true;
    if (more == 0) first = i;
    more += agree(reading(scene.cells[first], x, y), r, s) ? 1 : -1;
  }
  return more > 0 ? 0 : any ? kDoubtful : 1;
}

/// The moment that is shown, for each region: of the reference, unless less can be told of that than of another. All
/// show the same, so that nobody stands twice, but a region of which it tells too little.
class Moments {
public:
  Moments(const Scene& scene, const std::vector<std::vector<int>>& regions, const Sensitivity& s)
      : scene_(scene), untold_(regions.size(), std::vector<double>(scene.cells.size())) {
    forEachBand(
        int(regions.size()),
        [&](const Band& band) {
          const auto& cells = regions[std::size_t(band.begin)];
          const int w = scene.width();
          for (std::size_t i = 0; i < scene.cells.size(); ++i)
            for (const int at : cells) untold_[std::size_t(band.begin)][i] += untold(scene, i, at % w, at / w, s);
        },
        1);
    std::vector<double> all(scene.cells.size(), 0);
    std::size_t size = 0;
    for (std::size_t k = 0; k < regions.size(); ++k) {
      for (std::size_t i = 0; i < all.size(); ++i) all[i] += untold_[k][i];
      size += regions[k].size();
    }
    common_ = best(all, double(size));
  }
  [[nodiscard]] int of(std::size_t region, std::size_t cells) const {
    const std::vector<double>& untold = untold_[region];
    if (untold[std::size_t(common_)] <= kTooMuch * double(cells)) return common_;
    const int own = best(untold, double(cells));
    return untold[std::size_t(own)] < untold[std::size_t(common_)] / 2 ? own : common_;
  }

private:
  static constexpr double kTooMuch = 0.15; ///< Of a region, that nobody tells.
  static constexpr double kHardlySeen = 0.005;
  static constexpr double kAnother = 0.3; ///< What it costs that it is not the reference's.
  [[nodiscard]] int best(const std::vector<double>& untold, double cells) const {
    const auto cost = [&](int i) {
      return kUntold * std::max(0.0, untold[std::size_t(i)] / std::max(1.0, cells) - kHardlySeen) +
             kFar * scene_.stopsAway(std::size_t(i)) + (i == scene_.reference ? 0 : kAnother);
    };
    return *std::min_element(scene_.order.begin(), scene_.order.end(), [&](int a, int b) { return cost(a) < cost(b); });
  }

  const Scene& scene_;
  std::vector<std::vector<double>> untold_; ///< Cells of each region that each frame's moment leaves open.
  int common_ = 0;
};

/// A region in the parts that are taken from one frame each: all of it from the frame whose moment it shows, when that
/// is not the reference. Else what the reference records is taken from that, and each connected place that it does not
/// record from another.
struct Part {
  std::vector<int> cells;
  int taker = 0;
  bool alone = false; ///< Nobody but the taker speaks anywhere in it.
};

std::vector<Part> partsOf(const Scene& scene, const std::vector<int>& region, int moment, const Disagreements& found,
                          const Sensitivity& s) {
  const int w = scene.width();
  if (scene.emptied) {
    std::vector<int> count(scene.cells.size(), 0);
    for (const int at : region)
      if (found.owner.data()[at] >= 0) ++count[std::size_t(found.owner.data()[at])];
    return {{region, int(std::max_element(count.begin(), count.end()) - count.begin()), false}};
  }
  if (moment != scene.reference) return {{region, moment, true}};
  if (lackOf(scene.cells[std::size_t(scene.reference)], region) == 0) return {{region, scene.reference, false}};
  std::vector<Part> parts(1, Part{{}, scene.reference, false});
  CellMask lost = emptyMask(w, scene.height());
  for (const int at : region) {
    if (records(scene.cells[std::size_t(scene.reference)], at % w, at / w))
      parts[0].cells.push_back(at);
    else
      lost.data()[at] = 1;
  }
  for (auto& cells : components(lost)) {
    const int taker = takerOf(scene, cells, s);
    parts.push_back({std::move(cells), taker, false});
  }
  return parts;
}

MovedRegion describe(const Scene& scene, const std::vector<int>& region, int taker) {
  MovedRegion out = regionOf(region, scene.width(), taker);
  for (std::size_t i = 0; i < scene.cells.size(); ++i)
    if (int(i) == taker || lackOf(scene.cells[i], region) < 0.3) out.recording.push_back(int(i));
  return out;
}

/// How far from what a frame disagrees on it is left out: `near` where the taken frame records the place poorly and the
/// others are needed, `far` where it records it well.
struct Surroundings {
  std::vector<CellMask> near, far;
};

Surroundings surroundingsOf(const std::vector<CellMask>& masks, int near, int far) {
  Surroundings out{std::vector<CellMask>(masks.size()), std::vector<CellMask>(masks.size())};
  forEachBand(
      2 * int(masks.size()),
      [&](const Band& band) {
        const OnThisThread enoughPieces;
        const std::size_t i = std::size_t(band.begin / 2);
        if (band.begin % 2 == 0)
          out.near[i] = dilated(masks[i], near);
        else
          out.far[i] = dilated(masks[i], far);
      },
      1);
  return out;
}

/// Marks in `left` the cells of a region that each frame is left out of.
void leaveOut(const Scene& scene, const std::vector<Part>& parts, const std::vector<int>& region,
              const Disagreements& found, const Surroundings& around, std::vector<CellMask>& left) {
  const int w = scene.width();
  for (std::size_t i = 0; i < scene.cells.size(); ++i) {
    const auto count = std::count_if(region.begin(), region.end(), [&](int at) { return found.masks[i].data()[at]; });
    const bool disagrees = double(count) > kDisagreeing * double(region.size());
    for (const Part& part : parts) {
      const PlacedCells& taken = scene.cells[std::size_t(part.taker)];
      for (const int at : part.cells) {
        const bool well = !scene.emptied && recordsWell(taken, at % w, at / w);
        const bool near = well ? around.far[i].data()[at] : around.near[i].data()[at];
        // The taker of a part is left out of it only where it is the odd one itself.
        const bool speaks = !scene.emptied && int(i) == part.taker;
        if (part.alone && records(taken, at % w, at / w) ? !speaks
                                                         : found.masks[i].data()[at] || (disagrees && near && !speaks))
          left[i].data()[at] = 1;
      }
    }
  }
}

/// Grown borders may leave a cell to nobody who records it: then the one that agrees there and was left most of a say
/// has it, else its owner.
void leaveNoGap(const Scene& scene, const Disagreements& found, const CellMask& settled,
                std::vector<Image<float>>& share) {
  const int w = scene.width(), h = scene.height();
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        if (*settled.at(x, y)) continue;
        float most = 0, agreeing = -1;
        int next = *found.owner.at(x, y);
        for (std::size_t i = 0; i < share.size(); ++i) {
          if (!records(scene.cells[i], x, y)) continue;
          const float s = *share[i].at(x, y);
          most = std::max(most, s);
          if (!*found.masks[i].at(x, y) && s > agreeing) agreeing = s, next = int(i);
        }
        if (most < 0.5f && next >= 0) *share[std::size_t(next)].at(x, y) = 1;
      }
  });
}

/// What moved, as connected regions of cells.
std::vector<std::vector<int>> findRegions(const Scene& scene, MotionMode mode, Disagreements& found) {
  const int width = scene.width(), height = scene.height(), reach = std::max(3, width / kThingsAcross);
  found = disagreements(scene, sensitivityOf(mode), nullptr);
  CellMask any = emptyMask(width, height);
  forEachBand(
      int(found.masks.size()), [&](const Band& band) { dropSpecks(found.masks[std::size_t(band.begin)], 4); }, 1);
  for (const auto& mask : found.masks) unite(any, mask);
  if (std::none_of(any.data(), any.data() + any.size(), [](auto v) { return v; })) return {};
  // Near what moved for certain, less is needed: a head, a foot, a rope's end are only a cell or two.
  const CellMask close = dilated(any, reach);
  const auto finer = disagreements(scene, sensitivityOf(MotionMode::High), &close);
  for (std::size_t i = 0; i < found.masks.size(); ++i) {
    unite(found.masks[i], finer.masks[i]);
    unite(any, finer.masks[i]);
  }
  // Parts of one thing are joined across the gaps where it happens to be as bright as what is behind it.
  std::vector<std::vector<int>> regions;
  for (const auto& grown : components(dilated(any, reach))) {
    regions.emplace_back();
    for (const int at : grown)
      if (any.data()[at]) regions.back().push_back(at);
  }
  return regions;
}

constexpr std::size_t kGhost = 6; ///< Cells; smaller places are noise.
constexpr std::size_t kGhostsShown = 12;
constexpr float kMixed = 0.12f; ///< Of the information in a cell; what says less than this is not seen.

/// Where two frames that differ still make up the picture together.
void findGhosts(const Scene& scene, const std::vector<Image<float>>& share, MotionReport& report) {
  const int w = scene.width(), h = scene.height();
  const Sensitivity s = sensitivityOf(MotionMode::Medium);
  CellMask mixed = emptyMask(w, h);
  forEachBand(h, [&](const Band& band) {
    std::vector<float> says(scene.cells.size());
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float all = 0, most = 0;
        std::size_t first = 0;
        for (std::size_t i = 0; i < scene.cells.size(); ++i) {
          const float sigma = *scene.cells[i].sigma.at(x, y);
          says[i] = records(scene.cells[i], x, y) && sigma > 0
                        ? (share.empty() ? 1.f : *share[i].at(x, y)) / (sigma * sigma)
                        : 0.f;
          all += says[i];
          if (says[i] > most) most = says[i], first = i;
        }
        if (!(all > 0)) continue;
        const Reading truth = reading(scene.cells[first], x, y);
        for (std::size_t i = 0; i < scene.cells.size(); ++i)
          if (i != first && says[i] > kMixed * all && !agree(truth, reading(scene.cells[i], x, y), s))
            *mixed.at(x, y) = 1;
      }
  });
  auto places = components(mixed);
  std::erase_if(places, [](const auto& cells) { return cells.size() < kGhost; });
  std::sort(places.begin(), places.end(), [](const auto& a, const auto& b) { return a.size() > b.size(); });
  for (const auto& cells : places) {
    report.ghostShare += double(cells.size()) / (double(w) * h);
    if (report.ghosts.size() >= kGhostsShown) continue;
    const int middle = cells[cells.size() / 2];
    report.ghosts.push_back({(middle % w + 0.5) / w, (middle / w + 0.5) / h});
  }
}

} // namespace

std::vector<int> choiceCells(const SourceChoice& choice, const std::vector<MovedRegion>& places, int w, int h) {
  const auto cellAt = [&](const SourceChoice::Point& p) {
    return std::pair(std::clamp(int(p.x * w), 0, w - 1), std::clamp(int(p.y * h), 0, h - 1));
  };
  if (choice.radius <= 0 && !choice.stroke.empty()) {
    const auto at = cellAt(choice.stroke.front());
    std::vector<int> cells;
    const auto place = std::find_if(places.begin(), places.end(),
                                    [&](const MovedRegion& p) { return !p.painted && p.holds(at.first, at.second); });
    if (place == places.end()) return {};
    for (int v = place->cells.y; v < place->cells.y + place->cells.height; ++v)
      for (int u = place->cells.x; u < place->cells.x + place->cells.width; ++u)
        if (place->holds(u, v)) cells.push_back(v * w + u);
    return cells;
  }
  return strokeCells(choice, w, h);
}

MovedRegion regionOf(const std::vector<int>& cells, int w, int source) {
  int left = w, top = std::numeric_limits<int>::max(), right = 0, bottom = 0;
  for (const int at : cells)
    left = std::min(left, at % w), right = std::max(right, at % w), top = std::min(top, at / w),
    bottom = std::max(bottom, at / w);
  MovedRegion out{{left, top, right - left + 1, bottom - top + 1}, {}, source, {}, false};
  out.mask.assign(std::size_t(out.cells.width * out.cells.height), 0);
  for (const int at : cells) out.mask[std::size_t((at / w - top) * out.cells.width + at % w - left)] = 1;
  return out;
}

std::vector<int> strokeCells(const SourceChoice& stroke, int w, int h) {
  std::vector<int> cells;
  CellMask covered = emptyMask(w, h);
  const double radius = std::max(1.0, stroke.radius * w);
  for (std::size_t k = 0; k < stroke.stroke.size(); ++k) {
    const auto& a = stroke.stroke[k > 0 ? k - 1 : 0];
    const auto& b = stroke.stroke[k];
    const double length = std::hypot((b.x - a.x) * w, (b.y - a.y) * h);
    const int steps = std::clamp(int(length / (radius / 2)) + 1, 1, 4 * (w + h));
    for (int step = 0; step <= steps; ++step) {
      const double t = double(step) / steps, cx = (a.x + t * (b.x - a.x)) * w, cy = (a.y + t * (b.y - a.y)) * h;
      for (int y = std::max(0, int(cy - radius)); y <= std::min(h - 1, int(cy + radius)); ++y)
        for (int x = std::max(0, int(cx - radius)); x <= std::min(w - 1, int(cx + radius)); ++x)
          if (std::hypot(x + 0.5 - cx, y + 0.5 - cy) <= radius) *covered.at(x, y) = 1;
    }
  }
  for (int at = 0; at < w * h; ++at)
    if (covered.data()[at]) cells.push_back(at);
  return cells;
}

int consistencyCell(int width, int height) {
  return std::clamp(int(std::lround(std::sqrt(double(width) * height / 1e6))), 4, 8);
}

Consistency findConsistency(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                            const Progress& progress) {
  if (!options.lent.empty()) return consistencyWithLent(frames, options, progress);
  Consistency out;
  out.report.excludedShare.assign(frames.size(), 0);
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  out.cell = consistencyCell(reference.width(), reference.height());
  const int width = reference.width() / out.cell, height = reference.height() / out.cell;
  const bool looked = options.motion != MotionMode::Off && frames.size() > 1;
  if ((!looked && options.choices.empty()) || width < 8 || height < 8) return out;
  Scene scene{{}, byDistance(frames, options.reference), options.reference, options.emptyScene && frames.size() > 2};
  scene.cells = placeCells(frames, out.cell, scene.order, progress);
  if (progress.stopRequested()) return out;

  Disagreements found;
  std::vector<CellMask> left;
  Surroundings around;
  for (std::size_t i = 0; i < frames.size(); ++i) left.push_back(emptyMask(width, height));
  std::vector<std::vector<int>> regions;
  if (looked) regions = findRegions(scene, options.motion, found);
  const int reach = std::max(3, width / kThingsAcross);
  if (!regions.empty()) around = surroundingsOf(found.masks, scene.emptied ? reach : kGrow, 2 * reach);
  CellMask settled = emptyMask(width, height); // where one frame alone has been given the word
  if (looked && !scene.emptied && !regions.empty()) out.decides = emptyMask(width, height);
  const Sensitivity s = sensitivityOf(options.motion);
  const Moments moments(scene, regions, s);
  for (const auto& region : regions) {
    const int moment =
        scene.emptied ? scene.reference : moments.of(std::size_t(&region - regions.data()), region.size());
    if (!out.decides.empty())
      for (const int at : grown(region, reach, width, height)) out.decides.data()[at] = std::uint8_t(1 + moment);
    const auto parts = partsOf(scene, region, moment, found, s);
    for (const Part& part : parts)
      if (part.cells.size() >= kShown || parts.size() == 1)
        out.report.places.push_back(describe(scene, part.cells, part.taker));
    leaveOut(scene, parts, region, found, around, left);
    for (const Part& part : parts)
      if (part.alone)
        for (const int at : grown(part.cells, kGrow, width, height))
          if (records(scene.cells[std::size_t(part.taker)], at % width, at / width)) settled.data()[at] = 1;
  }
  for (const auto& choice : options.choices) {
    const auto cells = choiceCells(choice, out.report.places, width, height);
    if (cells.empty() || choice.frame < 0 || choice.frame >= int(frames.size())) continue;
    for (const int at : cells) left[std::size_t(choice.frame)].data()[at] = 0;
    if (choice.radius > 0) {
      out.report.places.push_back(describe(scene, cells, choice.frame));
      out.report.places.back().painted = true;
    } else {
      for (MovedRegion& place : out.report.places)
        if (!place.painted && place.holds(cells.front() % width, cells.front() / width)) place.source = choice.frame;
    }
    for (std::size_t i = 0; i < frames.size(); ++i)
      if (int(i) != choice.frame)
        for (const int at : cells) left[i].data()[at] = 1;
  }
  out.report.regions = int(regions.size());
  out.report.cell = out.cell;
  out.report.looked = looked;
  if (out.report.places.empty()) {
    if (looked) findGhosts(scene, out.share, out.report);
    return out;
  }
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const auto count = std::count(left[i].data(), left[i].data() + left[i].size(), std::uint8_t(1));
    out.report.excludedShare[i] = double(count) / double(left[i].size());
    out.share.push_back(softShare(left[i], kGrow));
  }
  if (!out.decides.empty())
    for (const auto& choice : options.choices) // the user's word stands
      for (const int at : grown(choiceCells(choice, out.report.places, width, height), kGrow, width, height))
        out.decides.data()[at] = 0;
  if (looked && options.choices.empty()) leaveNoGap(scene, found, settled, out.share);
  if (looked) findGhosts(scene, out.share, out.report);
  return out;
}

} // namespace ml
