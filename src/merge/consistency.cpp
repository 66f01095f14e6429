// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/consistency.h"

#include "base/parallel.h"
#include "merge/cell_mask.h"
#include "merge/compared_cells.h"
#include "merge/lent.h"
#include "merge/moments.h"
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

int guidedOwner(const CellScene& scene, int moment, int x, int y, const Sensitivity& s) {
  const PlacedCells& reference = scene.cells[std::size_t(moment)];
  if (records(reference, x, y)) return moment;
  int fallback = -1, atAnEdge = -1;
  for (const int i : scene.order(moment)) {
    if (i == moment || !records(scene.cells[std::size_t(i)], x, y)) continue;
    Reading r = reading(scene.cells[std::size_t(i)], x, y);
    if (fallback < 0) fallback = i;
    if (atAnEdge < 0 && within(reference, x, y, r, s)) atAnEdge = i;
    r.range = 0; // a frame in which the cell lies across the edge of a thing owns it only when no other can
    if (within(reference, x, y, r, s)) return i;
  }
  return atAnEdge >= 0 ? atAnEdge : fallback;
}

/// A frame that most of the others agree with; of those with equal company the nearest to the reference.
int commonOwner(const CellScene& scene, int x, int y, const Sensitivity& s) {
  int best = -1, most = 0;
  for (const int i : scene.order(scene.reference)) {
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

/// Finds the owner of a cell in the moment of a frame, and who disagrees with it.
void compareCell(const CellScene& scene, int moment, int x, int y, const Sensitivity& s, Disagreements& out) {
  const int owner = scene.emptied ? commonOwner(scene, x, y, s) : guidedOwner(scene, moment, x, y, s);
  *out.owner.at(x, y) = std::int8_t(owner);
  for (std::size_t i = 0; i < scene.cells.size(); ++i)
    *out.masks[i].at(x, y) = owner >= 0 && int(i) != owner && !scene.cells[i].outside(x, y) &&
                             !same(scene, i, x, y, reading(scene.cells[std::size_t(owner)], x, y), s);
}

/// In the reference's moment. With `where`, only inside it.
Disagreements disagreements(const CellScene& scene, const Sensitivity& s, const CellMask* where) {
  const int width = scene.width(), height = scene.height();
  Disagreements out{Image<std::int8_t>(width, height, 1), {}};
  out.owner.fill(kNobody);
  for (std::size_t i = 0; i < scene.cells.size(); ++i) out.masks.push_back(emptyMask(width, height));
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        if (where && !*where->at(x, y)) continue;
        compareCell(scene, scene.reference, x, y, s, out);
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

/// The frame that a place is taken from which that of the moment does not record: it records most of it, does not
/// contradict what that says, and lies near it in exposure.
int takerOf(const CellScene& scene, int moment, const std::vector<int>& part, const Sensitivity& s) {
  const int w = scene.width();
  int best = moment;
  double least = 1e9;
  for (std::size_t i = 0; i < scene.cells.size(); ++i) {
    const auto contradicts = [&](int at) {
      return int(i) != moment && records(scene.cells[i], at % w, at / w) &&
             !same(scene, std::size_t(moment), at % w, at / w, reading(scene.cells[i], at % w, at / w), s);
    };
    const double wrong = double(std::count_if(part.begin(), part.end(), contradicts)) / double(part.size());
    const double lack = 6 * (lackOf(scene.cells[i], part) + wrong) + kPerStop * scene.stopsAway(i, moment);
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

/// Who decides around each region (Consistency::decides). Where it is not the reference, `found` becomes what it is in
/// that frame's moment.
CellMask decidersOf(const CellScene& scene, const std::vector<std::vector<int>>& regions,
                    const std::vector<int>& moments, int reach, Disagreements& found) {
  const int width = scene.width();
  CellMask out = emptyMask(width, scene.height());
  const Sensitivity s = sensitivityOf(MotionMode::High);
  for (std::size_t k = 0; k < regions.size(); ++k)
    for (const int at : grown(regions[k], reach, width, scene.height())) {
      out.data()[at] = std::uint8_t(1 + moments[k]);
      if (moments[k] != scene.reference) compareCell(scene, moments[k], at % width, at / width, s, found);
    }
  return out;
}

/// A region in the parts that are taken from one frame each: what the frame of its moment records from that, and each
/// connected place that it does not record from another. When it records little of a region, the thing that moved lies
/// mostly beyond it, and all is taken from another.
struct Part {
  std::vector<int> cells;
  int taker = 0;
};
constexpr double kRecordsTooLittle = 0.25;

std::vector<Part> partsOf(const CellScene& scene, const std::vector<int>& region, int moment,
                          const Disagreements& found, const Sensitivity& s) {
  const int w = scene.width();
  if (scene.emptied) {
    std::vector<int> count(scene.cells.size(), 0);
    for (const int at : region)
      if (found.owner.data()[at] >= 0) ++count[std::size_t(found.owner.data()[at])];
    return {{region, int(std::max_element(count.begin(), count.end()) - count.begin())}};
  }
  const double lack = lackOf(scene.cells[std::size_t(moment)], region);
  if (lack == 0) return {{region, moment}};
  if (lack > 1 - kRecordsTooLittle) return {{region, takerOf(scene, moment, region, s)}};
  std::vector<Part> parts(1, Part{{}, moment});
  CellMask lost = emptyMask(w, scene.height());
  for (const int at : region) {
    if (records(scene.cells[std::size_t(moment)], at % w, at / w))
      parts[0].cells.push_back(at);
    else
      lost.data()[at] = 1;
  }
  for (auto& cells : components(lost)) {
    const int taker = takerOf(scene, moment, cells, s);
    parts.push_back({std::move(cells), taker});
  }
  return parts;
}

MovedRegion describe(const CellScene& scene, const std::vector<int>& region, int taker) {
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
void leaveOut(const CellScene& scene, const std::vector<Part>& parts, const std::vector<int>& region,
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
        if (found.masks[i].data()[at] || (disagrees && near && !speaks)) left[i].data()[at] = 1;
      }
    }
  }
}

/// Grown borders may leave a cell to nobody who records it: then the one that agrees there and was left most of a say
/// has it, else its owner.
void leaveNoGap(const CellScene& scene, const Disagreements& found, std::vector<Image<float>>& share) {
  const int w = scene.width(), h = scene.height();
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
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
std::vector<std::vector<int>> findRegions(const CellScene& scene, MotionMode mode, Disagreements& found) {
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
void findGhosts(const CellScene& scene, const std::vector<Image<float>>& share, MotionReport& report) {
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
  CellScene scene{{}, {}, options.reference, options.emptyScene && frames.size() > 2};
  for (int i = 0; i < int(frames.size()); ++i) scene.orders.push_back(byDistance(frames, i));
  scene.cells = placeCells(frames, out.cell, scene.order(options.reference), progress);
  if (progress.stopRequested()) return out;

  Disagreements found;
  std::vector<CellMask> left;
  for (std::size_t i = 0; i < frames.size(); ++i) left.push_back(emptyMask(width, height));
  std::vector<std::vector<int>> regions;
  if (looked) regions = findRegions(scene, options.motion, found);
  const int reach = std::max(3, width / kThingsAcross);
  const Sensitivity s = sensitivityOf(options.motion);
  Moments moments{std::vector<int>(regions.size(), scene.reference), -1};
  if (!regions.empty() && !scene.emptied) {
    if (options.referenceFree) moments = momentsOf(scene, regions, s);
    out.decides = decidersOf(scene, regions, moments.ofRegions, reach, found);
  }
  out.moment = moments.common;
  Surroundings around;
  if (!regions.empty()) around = surroundingsOf(found.masks, scene.emptied ? reach : kGrow, 2 * reach);
  for (std::size_t k = 0; k < regions.size(); ++k) {
    const auto parts = partsOf(scene, regions[k], moments.ofRegions[k], found, s);
    for (const Part& part : parts)
      if (part.cells.size() >= kShown || parts.size() == 1)
        out.report.places.push_back(describe(scene, part.cells, part.taker));
    leaveOut(scene, parts, regions[k], found, around, left);
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
  if (looked && options.choices.empty()) leaveNoGap(scene, found, out.share);
  if (looked) findGhosts(scene, out.share, out.report);
  return out;
}

} // namespace ml
