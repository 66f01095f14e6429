// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/local_laplacian.h"

#include "base/parallel.h"
#include "tone/base_layer.h"

#include <algorithm>
#include <cmath>
#include <mutex>
#include <vector>

namespace ml {
namespace {

constexpr int kMostSamples = 64;
constexpr int kLeastEdge = 8;       ///< Pixels: the coarsest level is no smaller.
constexpr int kBesideEdge = 6;      ///< Pixels.
constexpr float kStrongEdge = 1.5f; ///< Stops over four pixels.

/// Half the size, by the binomial filter of five (Burt and Adelson, 1983); borders repeat.
Image<float> halved(const Image<float>& in) {
  const int w = in.width(), h = in.height(), hw = (w + 1) / 2, hh = (h + 1) / 2;
  Image<float> out(hw, hh, 1);
  std::vector<float> column(std::size_t(w) + 4);
  for (int y = 0; y < hh; ++y) {
    const auto row = [&](int v) { return in.row(std::clamp(v, 0, h - 1)); };
    const float *a = row(2 * y - 2), *b = row(2 * y - 1), *c = row(2 * y), *d = row(2 * y + 1), *e = row(2 * y + 2);
    float* to = column.data() + 2;
    for (int x = 0; x < w; ++x) to[x] = 0.0625f * (a[x] + e[x]) + 0.25f * (b[x] + d[x]) + 0.375f * c[x];
    to[-1] = to[-2] = to[0], to[w] = to[w + 1] = to[w - 1];
    float* half = out.row(y);
    for (int x = 0; x < hw; ++x) {
      const float* p = to + 2 * x;
      half[x] = 0.0625f * (p[-2] + p[2]) + 0.25f * (p[-1] + p[1]) + 0.375f * p[0];
    }
  }
  return out;
}

/// `sign` times the picture of twice the size is added to `to`.
void addDoubled(const Image<float>& in, float sign, Image<float>& to) {
  const int w = in.width(), h = in.height(), tw = to.width();
  std::vector<float> column(std::size_t(w) + 2);
  for (int y = 0; y < to.height(); ++y) {
    const int v = y / 2;
    const float *a = in.row(std::max(0, v - 1)), *b = in.row(v), *c = in.row(std::min(h - 1, v + 1));
    float* from = column.data() + 1;
    for (int x = 0; x < w; ++x) from[x] = y % 2 ? 0.5f * (b[x] + c[x]) : 0.125f * (a[x] + c[x]) + 0.75f * b[x];
    from[-1] = from[0], from[w] = from[w - 1];
    float* row = to.row(y);
    for (int x = 0; x < tw; ++x) {
      const float* p = from + x / 2;
      row[x] += sign * (x % 2 ? 0.5f * (p[0] + p[1]) : 0.125f * (p[-1] + p[1]) + 0.75f * p[0]);
    }
  }
}

using Pyramid = std::vector<Image<float>>;

/// The finest first; each level lacks what the next one holds, the last is what is left.
Pyramid laplacianOf(Image<float> in, int levels) {
  Pyramid out;
  out.push_back(std::move(in));
  for (int l = 0; l < levels; ++l) {
    out.push_back(halved(out.back()));
    addDoubled(out.back(), -1, out[std::size_t(l)]);
  }
  return out;
}

Image<float> collapsed(Pyramid pyramid) {
  for (std::size_t l = pyramid.size() - 1; l-- > 0;) addDoubled(pyramid[l + 1], 1, pyramid[l]);
  return std::move(pyramid.front());
}

Pyramid gaussianOf(const Image<float>& in, int levels) {
  Pyramid out;
  out.push_back(in.clone());
  while (int(out.size()) <= levels && std::min(out.back().width(), out.back().height()) > kLeastEdge)
    out.push_back(halved(out.back()));
  return out;
}

/// 1 where nothing is an edge, nearly 0 beside strong ones.
Image<float> awayFromEdges(const Image<float>& log) {
  const int w = log.width(), h = log.height();
  Image<float> free(w, h, 1);
  for (int y = 0; y < h; ++y) {
    const float *above = log.row(std::max(0, y - 2)), *row = log.row(y), *below = log.row(std::min(h - 1, y + 2));
    for (int x = 0; x < w; ++x) {
      const float step = std::hypot(row[std::min(w - 1, x + 2)] - row[std::max(0, x - 2)], below[x] - above[x]),
                  strong = step / kStrongEdge;
      free.row(y)[x] = 1 / (1 + strong * strong * strong * strong);
    }
  }
  return leastAround(free, kBesideEdge);
}

/// Table of light that lies around a level, as it is shown.
class Remap {
public:
  Remap(const LocalTones& tones, double level, double least, double most) : start_(float(least)) {
    const double at = tones.curve(level), contrast = tones.contrast(level);
    for (double light = least; light < most + 2 * kStep; light += kStep) {
      const double d = light - level, far = std::abs(d) / tones.reach;
      const double added = (contrast * d - (tones.curve(light) - at)) / (1 + far * far);
      table_.push_back(float(tones.curve(light) + added));
    }
  }
  float operator()(float light) const {
    const float at = (light - start_) * float(1 / kStep);
    const int cell = std::clamp(int(at), 0, int(table_.size()) - 2);
    return table_[std::size_t(cell)] + (at - float(cell)) * (table_[std::size_t(cell) + 1] - table_[std::size_t(cell)]);
  }

private:
  static constexpr double kStep = 1 / 16.0;
  float start_;
  std::vector<float> table_;
};

} // namespace

Image<float> localLaplacian(const Image<float>& log, const LocalTones& tones) {
  const Pyramid levelsOf = gaussianOf(log, tones.levels), free = gaussianOf(awayFromEdges(log), tones.levels);
  const int levels = int(levelsOf.size()) - 1;
  const auto [least, most] = std::minmax_element(log.data(), log.data() + log.size());
  const double step = std::max(tones.reach / 2, (tones.to - tones.from) / kMostSamples);
  const int samples = int(std::ceil(std::max(0.0, tones.to - tones.from) / step)) + 1;
  Pyramid out; // what the levels' own contrasts make of it
  for (const Image<float>& level : levelsOf) out.emplace_back(level.width(), level.height(), 1).fill(0);
  std::mutex adding; // each pixel gets something of two samples at most, so their order changes nothing
  forEachBand(
      samples,
      [&](const Band& band) {
        for (int k = band.begin; k < band.end; ++k) {
          const Remap remap(tones, tones.from + k * step, *least, *most);
          Image<float> seen(log.width(), log.height(), 1);
          for (std::size_t i = 0; i < log.size(); ++i) seen.data()[i] = remap(log.data()[i]);
          const Pyramid from = laplacianOf(std::move(seen), levels);
          const std::lock_guard lock(adding);
          for (std::size_t l = 0; l + 1 < out.size(); ++l)
            for (std::size_t i = 0; i < out[l].size(); ++i) {
              const double at = std::clamp((levelsOf[l].data()[i] - tones.from) / step, 0.0, double(samples - 1));
              if (const float share = float(1 - std::abs(at - k)); share > 0)
                out[l].data()[i] += share * from[l].data()[i];
            }
        }
      },
      1);
  Image<float> curved(log.width(), log.height(), 1);
  for (std::size_t i = 0; i < log.size(); ++i) curved.data()[i] = float(tones.curve(log.data()[i]));
  Pyramid plain = laplacianOf(std::move(curved), levels);
  for (std::size_t l = 0; l + 1 < out.size(); ++l)
    for (std::size_t i = 0; i < out[l].size(); ++i)
      plain[l].data()[i] += free[l].data()[i] * (out[l].data()[i] - plain[l].data()[i]);
  return collapsed(std::move(plain));
}

} // namespace ml
