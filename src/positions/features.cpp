// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/features.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "image/fast_math.h"
#include "image/resample.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

// Constants of Lowe 2004, sections 3 to 6; the least height is ours, in stops.
constexpr int kLayers = 3;
constexpr double kFirstSigma = 1.6, kGivenSigma = 0.5;
constexpr float kLeastHeight = 0.005f, kMostEdge = 10;
constexpr int kBorder = 5;

ML_VECTOR_CLONES void blurRow(const float* in, const float* w, int radius, int n, float* __restrict out) {
  for (int x = 0; x < n; ++x) out[x] = w[0] * in[x];
  for (int k = 1; k <= radius; ++k)
    for (int x = 0; x < n; ++x) out[x] += w[k] * (in[x - k] + in[x + k]);
}

Image<float> blurred(const Image<float>& in, double sigma) {
  const int radius = std::max(1, int(std::ceil(3.5 * sigma))), width = in.width(), height = in.height();
  std::vector<float> w(std::size_t(radius) + 1);
  double sum = 0;
  for (int k = 0; k <= radius; ++k) {
    const double value = std::exp(-k * k / (2 * sigma * sigma));
    w[std::size_t(k)] = float(value);
    sum += k == 0 ? value : 2 * value;
  }
  for (float& value : w) value = float(value / sum);
  Image<float> across(width, height, 1), out(width, height, 1);
  forEachBand(height, [&](const Band& band) {
    std::vector<float> line(std::size_t(width + 2 * radius));
    for (int y = band.begin; y < band.end; ++y) {
      for (int x = -radius; x < width + radius; ++x)
        line[std::size_t(x + radius)] = in.row(y)[std::clamp(x, 0, width - 1)];
      blurRow(line.data() + radius, w.data(), radius, width, across.row(y));
    }
  });
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      float* to = out.row(y);
      std::fill_n(to, width, 0.f);
      for (int k = -radius; k <= radius; ++k) {
        const float* from = across.row(std::clamp(y + k, 0, height - 1));
        const float weight = w[std::size_t(std::abs(k))];
        for (int x = 0; x < width; ++x) to[x] += weight * from[x];
      }
    }
  });
  return out;
}

Image<float> halved(const Image<float>& in) {
  Image<float> out(in.width() / 2, in.height() / 2, 1);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) *out.at(x, y) = *in.at(2 * x, 2 * y);
  return out;
}

struct Octave {
  std::vector<Image<float>> levels, differences;
};

Octave octaveFrom(Image<float> first) {
  Octave out;
  const double k = std::exp2(1.0 / kLayers);
  out.levels.push_back(std::move(first));
  for (int i = 1; i < kLayers + 3; ++i) {
    const double before = kFirstSigma * std::pow(k, i - 1);
    out.levels.push_back(blurred(out.levels.back(), before * std::sqrt(k * k - 1)));
  }
  for (int i = 0; i + 1 < int(out.levels.size()); ++i) {
    const auto &a = out.levels[std::size_t(i)], &b = out.levels[std::size_t(i) + 1];
    Image<float> d(a.width(), a.height(), 1);
    for (std::size_t p = 0; p < d.size(); ++p) d.data()[p] = b.data()[p] - a.data()[p];
    out.differences.push_back(std::move(d));
  }
  return out;
}

bool isExtremum(const Octave& o, int layer, int x, int y, float value) {
  for (int s = -1; s <= 1; ++s)
    for (int v = -1; v <= 1; ++v)
      for (int u = -1; u <= 1; ++u) {
        if (s == 0 && v == 0 && u == 0) continue;
        const float other = *o.differences[std::size_t(layer + s)].at(x + u, y + v);
        if (value > 0 ? other >= value : other <= value) return false;
      }
  return true;
}

struct Place {
  double x = 0, y = 0, layer = 0;
  float height = 0;
  int wholeLayer = 0;
};

/// Top of the parabola through the neighbours; false where it leaves, is low, or lies along an edge.
bool refine(const Octave& o, int x, int y, int layer, Place& out) {
  for (int turn = 0; turn < 5; ++turn) {
    const auto at = [&](int u, int v, int s) {
      return double(*o.differences[std::size_t(layer + s)].at(x + u, y + v));
    };
    const double c = at(0, 0, 0);
    const Eigen::Vector3d g(0.5 * (at(1, 0, 0) - at(-1, 0, 0)), 0.5 * (at(0, 1, 0) - at(0, -1, 0)),
                            0.5 * (at(0, 0, 1) - at(0, 0, -1)));
    const double xx = at(1, 0, 0) + at(-1, 0, 0) - 2 * c, yy = at(0, 1, 0) + at(0, -1, 0) - 2 * c,
                 ss = at(0, 0, 1) + at(0, 0, -1) - 2 * c;
    const double xy = 0.25 * (at(1, 1, 0) - at(-1, 1, 0) - at(1, -1, 0) + at(-1, -1, 0)),
                 xs = 0.25 * (at(1, 0, 1) - at(-1, 0, 1) - at(1, 0, -1) + at(-1, 0, -1)),
                 ys = 0.25 * (at(0, 1, 1) - at(0, -1, 1) - at(0, 1, -1) + at(0, -1, -1));
    Eigen::Matrix3d h;
    h << xx, xy, xs, xy, yy, ys, xs, ys, ss;
    const Eigen::Vector3d step = -h.fullPivLu().solve(g);
    if (!step.allFinite()) return false;
    if (step.cwiseAbs().maxCoeff() < 0.6) {
      const double height = c + 0.5 * g.dot(step), trace = xx + yy, det = xx * yy - xy * xy;
      if (std::abs(height) < kLeastHeight || det <= 0 ||
          trace * trace * kMostEdge >= (kMostEdge + 1) * (kMostEdge + 1) * det)
        return false;
      out = {x + step[0], y + step[1], layer + step[2], float(std::abs(height)), layer};
      return true;
    }
    x += int(std::lround(std::clamp(step[0], -1.0, 1.0)));
    y += int(std::lround(std::clamp(step[1], -1.0, 1.0)));
    layer += int(std::lround(std::clamp(step[2], -1.0, 1.0)));
    const auto& d = o.differences[0];
    if (layer < 1 || layer > kLayers || x < kBorder || y < kBorder || x >= d.width() - kBorder ||
        y >= d.height() - kBorder)
      return false;
  }
  return false;
}

std::vector<Place> placesIn(const Octave& o) {
  const int width = o.differences[0].width(), height = o.differences[0].height();
  std::vector<std::vector<Place>> found(std::size_t(bandCount(std::max(0, height - 2 * kBorder))));
  forEachBand(std::max(0, height - 2 * kBorder), [&](const Band& band) {
    for (int layer = 1; layer <= kLayers; ++layer)
      for (int y = band.begin + kBorder; y < band.end + kBorder; ++y)
        for (int x = kBorder; x < width - kBorder; ++x) {
          const float value = *o.differences[std::size_t(layer)].at(x, y);
          Place place;
          if (std::abs(value) > 0.5f * kLeastHeight && isExtremum(o, layer, x, y, value) &&
              refine(o, x, y, layer, place))
            found[std::size_t(band.index)].push_back(place);
        }
  });
  std::vector<Place> out;
  for (const auto& part : found) out.insert(out.end(), part.begin(), part.end());
  return out;
}

struct Gradient {
  float size, angle;
};
[[gnu::always_inline]] inline Gradient gradientAt(const Image<float>& in, int x, int y) {
  const float dx = *in.at(x + 1, y) - *in.at(x - 1, y), dy = *in.at(x, y + 1) - *in.at(x, y - 1);
  return {std::sqrt(dx * dx + dy * dy), fastAtan2(dy, dx)};
}

float gaussian(float distance2, float sigma2) {
  return fastExp2(-0.72134752f * distance2 / sigma2); // log2(e) / 2
}

/// Strongest directions of the gradients about a place, radians.
std::vector<float> directionsAt(const Image<float>& in, double px, double py, double sigma) {
  constexpr int kBins = 36;
  std::array<float, kBins> raw{}, bins{};
  const double spread = 1.5 * sigma;
  const int radius = int(std::lround(3 * spread)), cx = int(std::lround(px)), cy = int(std::lround(py));
  for (int v = -radius; v <= radius; ++v)
    for (int u = -radius; u <= radius; ++u) {
      const int x = cx + u, y = cy + v;
      if (x < 1 || y < 1 || x >= in.width() - 1 || y >= in.height() - 1) continue;
      const Gradient g = gradientAt(in, x, y);
      const int bin = int(std::floor((g.angle / (2 * std::numbers::pi_v<float>)+1) * kBins + 0.5f)) % kBins;
      raw[std::size_t(bin)] += g.size * gaussian(float(u * u + v * v), float(spread * spread));
    }
  for (int i = 0; i < kBins; ++i) {
    const auto at = [&](int k) { return raw[std::size_t((i + k + kBins) % kBins)]; };
    bins[std::size_t(i)] = (at(-2) + at(2)) / 16 + (at(-1) + at(1)) / 4 + at(0) * 6 / 16;
  }
  const float highest = *std::max_element(bins.begin(), bins.end());
  std::vector<float> out;
  for (int i = 0; i < kBins && out.size() < 2; ++i) {
    const float l = bins[std::size_t((i + kBins - 1) % kBins)], c = bins[std::size_t(i)],
                r = bins[std::size_t((i + 1) % kBins)];
    if (c > l && c > r && c >= 0.8f * highest)
      out.push_back((float(i) + 0.5f * (l - r) / (l - 2 * c + r)) * 2 * std::numbers::pi_v<float> / kBins);
  }
  return out;
}

constexpr int kCells = 4, kDirections = 8;

void describe(const Image<float>& in, double px, double py, double sigma, float direction,
              std::array<float, 128>& look) {
  const float cell = float(3 * sigma), c = std::cos(direction) / cell, s = std::sin(direction) / cell;
  const int radius = std::min(int(std::lround(cell * 1.4142f * (kCells + 1) * 0.5f)), 64), cx = int(std::lround(px)),
            cy = int(std::lround(py));
  // With a border of cells that do not count, and direction 8 for 0.
  float sums[kCells + 2][kCells + 2][kDirections + 1] = {};
  for (int v = -radius; v <= radius; ++v)
    for (int u = -radius; u <= radius; ++u) {
      const int x = cx + u, y = cy + v;
      if (x < 1 || y < 1 || x >= in.width() - 1 || y >= in.height() - 1) continue;
      const float a = c * float(u) + s * float(v), b = c * float(v) - s * float(u);
      const float col = a + kCells / 2 - 0.5f, row = b + kCells / 2 - 0.5f;
      if (col <= -1 || row <= -1 || col >= kCells || row >= kCells) continue;
      const Gradient g = gradientAt(in, x, y);
      const float weight = g.size * gaussian(a * a + b * b, 0.25f * kCells * kCells);
      float turn = (g.angle - direction) * (kDirections / (2 * std::numbers::pi_v<float>));
      turn -= kDirections * std::floor(turn / kDirections);
      const int c0 = int(std::floor(col)), r0 = int(std::floor(row)), t0 = int(turn) % kDirections;
      const float fc = col - float(c0), fr = row - float(r0), ft = turn - std::floor(turn);
      float* const above = &sums[r0 + 1][c0 + 1][t0];
      float* const below = &sums[r0 + 2][c0 + 1][t0];
      const float top = weight * (1 - fr), bottom = weight * fr;
      const auto add = [&](float* to, float w) { to[0] += w * (1 - ft), to[1] += w * ft; };
      add(above, top * (1 - fc)), add(above + kDirections + 1, top * fc);
      add(below, bottom * (1 - fc)), add(below + kDirections + 1, bottom * fc);
    }
  auto to = look.begin();
  for (int row = 1; row <= kCells; ++row)
    for (int column = 1; column <= kCells; ++column) {
      float* sum = sums[row][column];
      sum[0] += sum[kDirections];
      to = std::copy_n(sum, kDirections, to);
    }
  const auto scaleToOne = [&] {
    float sum = 1e-12f;
    for (const float value : look) sum += value * value;
    for (float& value : look) value /= std::sqrt(sum);
  };
  scaleToOne();
  for (float& value : look) value = std::min(value, 0.2f);
  scaleToOne();
}

/// The strongest, but no part of the picture has more than its fair share twice over.
std::vector<std::size_t> spreadOut(const std::vector<Feature>& all, int width, int height, int most) {
  std::vector<std::size_t> order(all.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return all[a].strength > all[b].strength; });
  if (int(order.size()) <= most) return order;
  constexpr int kColumns = 10, kRows = 8;
  std::vector<int> held(kColumns * kRows);
  std::vector<std::size_t> out, rest;
  for (const std::size_t i : order) {
    const int column = std::clamp(int(all[i].x * kColumns / float(width)), 0, kColumns - 1),
              row = std::clamp(int(all[i].y * kRows / float(height)), 0, kRows - 1);
    int& count = held[std::size_t(row * kColumns + column)];
    (count++ < 2 * most / (kColumns * kRows) ? out : rest).push_back(i);
  }
  for (const std::size_t i : rest)
    if (int(out.size()) < most) out.push_back(i);
  if (int(out.size()) > most) out.resize(std::size_t(most));
  return out;
}

} // namespace

std::vector<Feature> findFeatures(const Image<float>& tones, int most, const StopFlag& stop) {
  std::vector<Feature> all;
  struct Found {
    Place place;
    std::size_t octave;
  };
  std::vector<Octave> octaves;
  std::vector<Found> found;
  Image<float> first = blurred(tones, std::sqrt(kFirstSigma * kFirstSigma - kGivenSigma * kGivenSigma));
  while (std::min(first.width(), first.height()) >= 24 && !stop.requested()) {
    octaves.push_back(octaveFrom(std::move(first)));
    for (const Place& place : placesIn(octaves.back())) found.push_back({place, octaves.size() - 1});
    first = halved(octaves.back().levels[kLayers]);
  }
  for (const Found& f : found) {
    Feature feature;
    const auto scale = float(1 << f.octave);
    feature.x = float(f.place.x) * scale;
    feature.y = float(f.place.y) * scale;
    feature.size = scale * float(kFirstSigma * std::exp2(f.place.layer / kLayers));
    feature.strength = f.place.height;
    all.push_back(feature);
  }
  const auto kept = spreadOut(all, tones.width(), tones.height(), most);
  std::vector<std::vector<Feature>> described(kept.size());
  forEachBand(
      int(kept.size()), stop,
      [&](const Band& band) {
        for (int i = band.begin; i < band.end; ++i) {
          const Found& f = found[kept[std::size_t(i)]];
          const Image<float>& level = octaves[f.octave].levels[std::size_t(f.place.wholeLayer)];
          const double sigma = kFirstSigma * std::exp2(f.place.layer / kLayers);
          for (const float direction : directionsAt(level, f.place.x, f.place.y, sigma)) {
            Feature feature = all[kept[std::size_t(i)]];
            describe(level, f.place.x, f.place.y, sigma, direction, feature.look);
            described[std::size_t(i)].push_back(feature);
          }
        }
      },
      16);
  std::vector<Feature> out;
  for (const auto& some : described) out.insert(out.end(), some.begin(), some.end());
  return out;
}

namespace {

constexpr int kLook = 128, kAbreast = 16, kRowsAtOnce = 4;

/// Looks of sixteen features side by side: number d of each, then number d + 1. The last block is filled with zeros.
std::vector<float> packed(const std::vector<Feature>& features) {
  const std::size_t blocks = (features.size() + kAbreast - 1) / kAbreast;
  std::vector<float> out(blocks * kLook * kAbreast);
  for (std::size_t i = 0; i < features.size(); ++i)
    for (std::size_t d = 0; d < kLook; ++d)
      out[(i / kAbreast * kLook + d) * kAbreast + i % kAbreast] = features[i].look[d];
  return out;
}

/// Cosines of four features with each of sixteen. A plain loop is vectorised along the looks, with shuffles, and takes
/// nine times as long.
ML_VECTOR_CLONES void cosinesOf(const float* const* looks, const float* block, float* out, std::ptrdiff_t stride) {
  using Abreast = float __attribute__((vector_size(kAbreast * sizeof(float)), aligned(sizeof(float)), may_alias));
  Abreast a = {}, b = {}, c = {}, e = {};
  for (int d = 0; d < kLook; ++d) {
    const Abreast others = *reinterpret_cast<const Abreast*>(block + d * kAbreast);
    a += looks[0][d] * others;
    b += looks[1][d] * others;
    c += looks[2][d] * others;
    e += looks[3][d] * others;
  }
  *reinterpret_cast<Abreast*>(out) = a;
  *reinterpret_cast<Abreast*>(out + stride) = b;
  *reinterpret_cast<Abreast*>(out + 2 * stride) = c;
  *reinterpret_cast<Abreast*>(out + 3 * stride) = e;
}

struct Nearest {
  int index = -1;
  float best = -1, second = -1; ///< Cosines.
};

/// A second direction of the same place is no rival.
Nearest nearestOf(const float* cosines, const std::vector<Feature>& to) {
  Nearest n;
  const auto same = [&](int j) {
    const Feature &held = to[std::size_t(n.index)], &other = to[std::size_t(j)];
    return std::abs(held.x - other.x) < 1 && std::abs(held.y - other.y) < 1;
  };
  for (int j = 0; j < int(to.size()); ++j) {
    const float cosine = cosines[j];
    if (cosine <= n.second) continue;
    if (cosine > n.best) {
      if (n.index < 0 || !same(j)) n.second = n.best;
      n.best = cosine;
      n.index = j;
    } else if (!same(j)) {
      n.second = cosine;
    }
  }
  return n;
}

struct Neighbours {
  std::vector<Nearest> forth; ///< Of each of the first, among the second.
  std::vector<int> back;      ///< Of each of the second, the nearest of the first.
};

Neighbours neighboursOf(const std::vector<Feature>& from, const std::vector<Feature>& to) {
  const std::vector<float> others = packed(to);
  const std::size_t width = (to.size() + kAbreast - 1) / kAbreast * kAbreast;
  const int count = int(from.size()), groups = (count + kRowsAtOnce - 1) / kRowsAtOnce;
  Neighbours out;
  out.forth.resize(from.size());
  struct Back {
    std::vector<float> best;
    std::vector<int> index;
  };
  std::vector<Back> backs(std::size_t(bandCount(groups)));
  forEachBand(groups, [&](const Band& band) {
    Back& back = backs[std::size_t(band.index)];
    back.best.assign(to.size(), -2), back.index.assign(to.size(), -1);
    std::vector<float> cosines(kRowsAtOnce * width);
    for (int group = band.begin; group < band.end; ++group) {
      const float* looks[kRowsAtOnce];
      for (int r = 0; r < kRowsAtOnce; ++r)
        looks[r] = from[std::size_t(std::min(group * kRowsAtOnce + r, count - 1))].look.data();
      for (std::size_t j = 0; j < width; j += kAbreast)
        cosinesOf(looks, others.data() + j * kLook, cosines.data() + j, std::ptrdiff_t(width));
      for (int i = group * kRowsAtOnce; i < std::min((group + 1) * kRowsAtOnce, count); ++i) {
        const float* row = cosines.data() + std::size_t(i % kRowsAtOnce) * width;
        out.forth[std::size_t(i)] = nearestOf(row, to);
        for (std::size_t j = 0; j < to.size(); ++j)
          if (row[j] > back.best[j]) back.best[j] = row[j], back.index[j] = i;
      }
    }
  });
  out.back.assign(to.size(), -1);
  std::vector<float> best(to.size(), -2);
  for (const Back& back : backs)
    for (std::size_t j = 0; j < back.best.size(); ++j)
      if (back.best[j] > best[j]) best[j] = back.best[j], out.back[j] = back.index[j];
  return out;
}

} // namespace

std::vector<FeaturePair> pairFeatures(const std::vector<Feature>& a, const std::vector<Feature>& b) {
  constexpr float kRatio = 0.85f; // of the distances; Lowe 2004, section 7.1, takes 0.8
  std::vector<FeaturePair> out;
  if (a.empty() || b.size() < 2) return out;
  const Neighbours neighbours = neighboursOf(a, b);
  for (std::size_t i = 0; i < a.size(); ++i) {
    const Nearest& n = neighbours.forth[i];
    if (n.index < 0) continue;
    const int there = neighbours.back[std::size_t(n.index)];
    const bool mutual = there == int(i) || (there >= 0 && std::abs(a[std::size_t(there)].x - a[i].x) < 1 &&
                                            std::abs(a[std::size_t(there)].y - a[i].y) < 1);
    // |u - v|^2 = 2 - 2 cos for vectors of length one.
    if (mutual && 2 - 2 * n.best < kRatio * kRatio * (2 - 2 * n.second)) out.push_back({int(i), n.index});
  }
  return out;
}

} // namespace ml
