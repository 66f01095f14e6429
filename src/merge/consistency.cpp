#include "merge/consistency.h"

#include "align/transform.h"
#include "base/parallel.h"
#include "merge/tile.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace ml {
namespace {

constexpr int kCell = Consistency::kCell;
constexpr int kThingsAcross = 64; ///< Gaps of a thirty-second of the width or less do not part a thing.

/// Mean light of a frame on its own grid of cells: channel 0 light, channel 1 share of clipped pixels.
Image<float> cellsOf(const Frame& frame) {
  const int width = frame.width() / kCell, height = frame.height() / kCell;
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  float inverseClip[3];
  for (int c = 0; c < 3; ++c) inverseClip[c] = 1 / (frame.table.clipFrom * frame.saturation[c]);
  Image<float> cells(width, height, 2);
  frame.codes.visit([&](auto codes) { forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        float sum = 0, clipped = 0;
        for (int v = 0; v < kCell; ++v)
          for (int u = 0; u < kCell; ++u) {
            const auto* code = codes.at(x * kCell + u, y * kCell + v);
            const float rgb[3] = {table[0][code[0]], table[1][code[1]], table[2][code[2]]};
            sum += (rgb[0] + rgb[1] + rgb[2]) / 3;
            clipped += clipLevel(rgb, inverseClip) > 0.97f ? 1.f : 0.f;
          }
        cells.at(x, y)[0] = sum / (kCell * kCell);
        cells.at(x, y)[1] = clipped / (kCell * kCell);
      }
  }); });
  return cells;
}

/// Factor on a frame's radiance by its own light, learnt from cells that other frames record too: a response curve that is
/// not the assumed one must not look like movement. Two bins a stop.
class ToneCorrection {
public:
  ToneCorrection() { factors_.fill(1); }
  static int bin(double light) { return std::clamp(int((std::log2(std::max(light, 1e-9)) + kStops) * 2), 0, kBins - 1); }
  [[nodiscard]] double at(double light) const { return factors_[std::size_t(bin(light))]; }

  using Samples = std::array<std::vector<float>, 28>;
  /// `samples`: ratios of what others say to what this frame says, by bin. Bins with few samples follow their neighbours.
  void learn(Samples& samples) {
    constexpr std::size_t kEnough = 25;
    std::array<float, kBins> medians{};
    float last = 0;
    for (int i = kBins - 1; i >= 0; --i) { // from the bright end, where samples are good
      auto& s = samples[std::size_t(i)];
      if (s.size() >= kEnough) {
        std::nth_element(s.begin(), s.begin() + std::ptrdiff_t(s.size() / 2), s.end());
        last = std::clamp(s[s.size() / 2], 0.5f, 2.f);
      }
      medians[std::size_t(i)] = last;
    }
    for (int i = 0; i < kBins; ++i) {
      if (medians[std::size_t(i)] == 0) medians[std::size_t(i)] = i > 0 ? medians[std::size_t(i) - 1] : 0;
      factors_[std::size_t(i)] = medians[std::size_t(i)] == 0 ? 1 : medians[std::size_t(i)];
    }
  }

private:
  static constexpr int kBins = 28;
  static constexpr double kStops = 14;
  std::array<float, kBins> factors_{};
};

/// A frame's cells on the reference's grid, and how much they vary around (what a small misplacement could explain).
struct PlacedCells {
  Image<float> light, clipped, range;
  double exposure = 1;
  NoiseModel noise;
  ToneCorrection tone{};
};

PlacedCells place(const PlacedFrame& placed, int width, int height) {
  const Image<float> own = cellsOf(*placed.frame);
  const Transform transform = Transform{placed.toFrame}.scaled(1.0 / kCell);
  PlacedCells out{Image<float>(width, height, 1), Image<float>(width, height, 1), Image<float>(width, height, 1),
                  relativeExposure(placed.frame->settings) * placed.frame->midTone, placed.frame->noise, {}};
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        double u, v;
        transform.map(x, y, u, v);
        const int ix = int(std::floor(u)), iy = int(std::floor(v));
        if (ix < 0 || iy < 0 || ix >= own.width() - 1 || iy >= own.height() - 1) {
          *out.light.at(x, y) = -1; // outside
          *out.clipped.at(x, y) = 1;
          continue;
        }
        const float fx = float(u - ix), fy = float(v - iy);
        const float *a = own.at(ix, iy), *b = own.at(ix + 1, iy), *c = own.at(ix, iy + 1), *d = own.at(ix + 1, iy + 1);
        *out.light.at(x, y) = (1 - fy) * ((1 - fx) * a[0] + fx * b[0]) + fy * ((1 - fx) * c[0] + fx * d[0]);
        *out.clipped.at(x, y) = std::max({a[1], b[1], c[1], d[1]});
      }
  });
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        float low = 1e30f, high = -1e30f;
        for (int v = std::max(0, y - 1); v <= std::min(height - 1, y + 1); ++v)
          for (int u = std::max(0, x - 1); u <= std::min(width - 1, x + 1); ++u) {
            low = std::min(low, *out.light.at(u, v));
            high = std::max(high, *out.light.at(u, v));
          }
        *out.range.at(x, y) = high - low;
      }
  });
  return out;
}

struct Sensitivity {
  double sigmas, relative, edge; ///< Differences below noise x sigmas + relative x light + edge x local range are no movement.
};

Sensitivity sensitivityOf(MotionMode mode) {
  switch (mode) {
  case MotionMode::Low: return {6, 0.20, 0.6};
  case MotionMode::High: return {3, 0.07, 0.25};
  default: return {4, 0.12, 0.4};
  }
}

/// One cell of one frame as radiance with its standard deviation.
struct Reading {
  double radiance, sigma, range;
};

Reading reading(const PlacedCells& cells, int x, int y) {
  const double light = *cells.light.at(x, y);
  const double variance = cells.noise.variance(light) / (kCell * kCell) * 1.5; // neighbouring samples share demosaicing
  const double scale = cells.tone.at(light) / cells.exposure;
  return {light * scale, std::sqrt(variance) * scale, *cells.range.at(x, y) * scale};
}

bool records(const PlacedCells& cells, int x, int y) {
  const double light = *cells.light.at(x, y);
  return *cells.clipped.at(x, y) == 0 && light > 2 * std::sqrt(cells.noise.variance(light) / (kCell * kCell));
}

bool agree(const Reading& a, const Reading& b, const Sensitivity& s) {
  const double noise = std::hypot(a.sigma, b.sigma);
  const double allowed = s.sigmas * noise + s.relative * std::max(a.radiance, b.radiance) + s.edge * std::max(a.range, b.range);
  return std::abs(a.radiance - b.radiance) <= allowed;
}

/// Whether `r` can be what the reference saw there, when the reference only says "at least" (clipped) or "at most" (dark).
bool within(const PlacedCells& reference, int x, int y, const Reading& r, const Sensitivity& s) {
  const Reading seen = reading(reference, x, y);
  const double slack = s.sigmas * std::hypot(r.sigma, seen.sigma) + s.edge * std::max(r.range, seen.range);
  if (*reference.clipped.at(x, y) > 0) return r.radiance * (1 + s.relative) + slack >= seen.radiance * 0.8;
  return r.radiance <= seen.radiance * (1 + s.relative) + slack + 2 * seen.sigma;
}

std::vector<int> byDistance(const std::vector<PlacedCells>& cells, int reference) {
  std::vector<int> order(cells.size());
  std::iota(order.begin(), order.end(), 0);
  std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
    const auto distance = [&](int i) { return std::abs(std::log2(cells[i].exposure / cells[reference].exposure)); };
    return distance(a) < distance(b);
  });
  return order;
}

/// Frame by frame away from the reference, each is brought to what the nearer ones say.
void learnTones(std::vector<PlacedCells>& cells, const std::vector<int>& order) {
  const int w = cells.front().light.width(), h = cells.front().light.height();
  Image<float> known(w, h, 1);
  known.fill(-1);
  for (std::size_t k = 0; k < order.size(); ++k) {
    PlacedCells& frame = cells[std::size_t(order[k])];
    if (k > 0) {
      ToneCorrection::Samples samples;
      for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
          if (*known.at(x, y) > 0 && records(frame, x, y))
            samples[std::size_t(ToneCorrection::bin(*frame.light.at(x, y)))].push_back(float(*known.at(x, y) * frame.exposure / *frame.light.at(x, y)));
      frame.tone.learn(samples);
    }
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x)
        if (*known.at(x, y) <= 0 && records(frame, x, y)) *known.at(x, y) = float(reading(frame, x, y).radiance);
  }
}

int ownerOf(const std::vector<PlacedCells>& cells, const std::vector<int>& order, int reference, int x, int y, const Sensitivity& s) {
  if (records(cells[reference], x, y)) return reference;
  int fallback = -1;
  for (const int i : order) {
    if (i == reference || !records(cells[i], x, y)) continue;
    if (fallback < 0) fallback = i;
    if (within(cells[reference], x, y, reading(cells[i], x, y), s)) return i;
  }
  return fallback;
}

/// Connected components (8 neighbours) of the cells set in `mask`, each a list of cell indices in scan order.
std::vector<std::vector<int>> components(const Image<std::uint8_t>& mask) {
  const int w = mask.width(), h = mask.height();
  Image<std::uint8_t> seen(w, h, 1);
  seen.fill(0);
  std::vector<std::vector<int>> found;
  std::vector<int> stack;
  for (int start = 0; start < w * h; ++start) {
    if (!mask.data()[start] || seen.data()[start]) continue;
    found.emplace_back();
    stack.assign(1, start);
    seen.data()[start] = 1;
    while (!stack.empty()) {
      const int at = stack.back();
      stack.pop_back();
      found.back().push_back(at);
      for (int v = std::max(0, at / w - 1); v <= std::min(h - 1, at / w + 1); ++v)
        for (int u = std::max(0, at % w - 1); u <= std::min(w - 1, at % w + 1); ++u)
          if (const int next = v * w + u; mask.data()[next] && !seen.data()[next]) {
            seen.data()[next] = 1;
            stack.push_back(next);
          }
    }
  }
  return found;
}

Image<std::uint8_t> dilated(const Image<std::uint8_t>& mask, int radius) {
  const int w = mask.width(), h = mask.height();
  Image<std::uint8_t> out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        std::uint8_t any = 0;
        for (int v = std::max(0, y - radius); v <= std::min(h - 1, y + radius); ++v)
          for (int u = std::max(0, x - radius); u <= std::min(w - 1, x + radius); ++u) any |= *mask.at(u, v);
        *out.at(x, y) = any;
      }
  });
  return out;
}

void dropSpecks(Image<std::uint8_t>& mask, std::size_t least) {
  for (const auto& component : components(mask))
    if (component.size() < least)
      for (const int at : component) mask.data()[at] = 0;
}

/// What a frame lacks of a region: cells it does not record count, and so does its distance in exposure.
double lackOf(const PlacedCells& cells, const std::vector<int>& region, double stopsAway) {
  double lacking = 0;
  const int w = cells.light.width();
  for (const int at : region)
    if (!records(cells, at % w, at / w)) lacking += *cells.light.at(at % w, at / w) < 0 ? 4 : 1;
  return 6 * lacking / double(region.size()) + 0.08 * stopsAway;
}

/// The frame that a region is taken from.
int takerOf(const std::vector<PlacedCells>& cells, const std::vector<int>& region, int reference) {
  int best = reference;
  double least = 1e9;
  for (std::size_t i = 0; i < cells.size(); ++i) {
    const double away = std::abs(std::log2(cells[i].exposure / cells[reference].exposure));
    if (const double lack = lackOf(cells[i], region, away); lack < least) {
      least = lack;
      best = int(i);
    }
  }
  return best;
}

/// Grows by `radius` cells (square), then a box mean of the same radius: 1 far away, 0 inside.
Image<float> softShare(const Image<std::uint8_t>& mask, int radius) {
  const int w = mask.width(), h = mask.height();
  const Image<std::uint8_t> grown = dilated(mask, radius);
  Image<float> share(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        int open = 0, count = 0;
        for (int v = std::max(0, y - radius); v <= std::min(h - 1, y + radius); ++v)
          for (int u = std::max(0, x - radius); u <= std::min(w - 1, x + radius); ++u) {
            open += *grown.at(u, v) ? 0 : 1;
            ++count;
          }
        *share.at(x, y) = *grown.at(x, y) ? 0.f : float(open) / float(count); // stays 0 inside the grown place
      }
  });
  return share;
}

/// For each frame the cells where it disagrees with the frame that owns them; with `where`, only inside it.
std::vector<Image<std::uint8_t>> disagreements(const std::vector<PlacedCells>& cells, const std::vector<int>& order, int reference, const Sensitivity& s,
                                               const Image<std::uint8_t>* where) {
  const int width = cells.front().light.width(), height = cells.front().light.height();
  std::vector<Image<std::uint8_t>> masks;
  for (std::size_t i = 0; i < cells.size(); ++i) {
    masks.emplace_back(width, height, 1);
    masks.back().fill(0);
  }
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        if (where && !*where->at(x, y)) continue;
        const int owner = ownerOf(cells, order, reference, x, y, s);
        if (owner < 0) continue;
        const Reading truth = reading(cells[owner], x, y);
        for (std::size_t i = 0; i < cells.size(); ++i) {
          if (int(i) == owner || *cells[i].light.at(x, y) < 0) continue;
          const Reading other = reading(cells[i], x, y);
          const bool same = *cells[i].clipped.at(x, y) == 0 ? agree(truth, other, s) : within(cells[i], x, y, truth, s);
          if (!same) *masks[i].at(x, y) = 1;
        }
      }
  });
  return masks;
}

Image<std::uint8_t> unionOf(const std::vector<Image<std::uint8_t>>& masks) {
  Image<std::uint8_t> any = masks.front().clone();
  for (const auto& mask : masks)
    for (std::size_t k = 0; k < any.size(); ++k) any.data()[k] |= mask.data()[k];
  return any;
}

} // namespace

Consistency findConsistency(const std::vector<PlacedFrame>& frames, const MergeOptions& options, const Progress& progress) {
  Consistency out;
  out.report.excludedShare.assign(frames.size(), 0);
  if (options.motion == MotionMode::Off || frames.size() < 2) return out;
  const Frame& reference = *frames[options.reference].frame;
  const int width = reference.width() / kCell, height = reference.height() / kCell;
  if (width < 8 || height < 8) return out;
  std::vector<PlacedCells> cells;
  for (const auto& frame : frames) {
    if (progress.stopRequested()) return out;
    cells.push_back(place(frame, width, height));
  }
  const Sensitivity s = sensitivityOf(options.motion);
  const auto order = byDistance(cells, options.reference);
  learnTones(cells, order);
  const int reach = std::max(3, width / kThingsAcross);
  auto masks = disagreements(cells, order, options.reference, s, nullptr);
  for (auto& mask : masks) dropSpecks(mask, 4);
  // Near what moved for certain, less is needed: a head, a foot, a rope's end are only a cell or two.
  const Image<std::uint8_t> near = dilated(unionOf(masks), reach);
  const auto finer = disagreements(cells, order, options.reference, sensitivityOf(MotionMode::High), &near);
  Image<std::uint8_t> any = unionOf(masks);
  for (const auto& mask : finer)
    for (std::size_t k = 0; k < any.size(); ++k) any.data()[k] |= mask.data()[k];
  for (auto& mask : masks) mask.fill(0);
  // Parts of one thing are joined across the gaps where it happens to be as bright as what is behind it.
  for (const auto& grown : components(dilated(any, reach))) {
    std::vector<int> region;
    for (const int at : grown)
      if (any.data()[at]) region.push_back(at);
    const int taker = takerOf(cells, region, options.reference);
    for (std::size_t i = 0; i < frames.size(); ++i)
      if (int(i) != taker)
        for (const int at : region) masks[i].data()[at] = 1;
    ++out.report.regions;
  }
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const auto left = std::count(masks[i].data(), masks[i].data() + masks[i].size(), std::uint8_t(1));
    out.report.excludedShare[i] = double(left) / double(masks[i].size());
    out.share.push_back(softShare(masks[i], 2));
  }
  return out;
}

} // namespace ml
