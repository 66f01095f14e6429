// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/focus.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "positions/light_codes.h"
#include "positions/multiband.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace ml {
namespace {

constexpr int kFocusTile = 448;
constexpr int kWindows[] = {2, 5, 12}; ///< Half sides of the windows that texture is summed in, pixels.

/// Sums over (2 r + 1)^2 windows, one channel; edges repeat.
void boxMean(Image<float>& in, int r) {
  const int w = in.width(), h = in.height();
  std::vector<float> line(std::size_t(std::max(w, h)));
  const auto pass = [&](float* first, int n, std::ptrdiff_t step) {
    const auto at = [&](int i) { return first[std::clamp(i, 0, n - 1) * step]; };
    double sum = 0;
    for (int i = -r; i <= r; ++i) sum += at(i);
    for (int i = 0; i < n; ++i) {
      line[std::size_t(i)] = float(sum / (2 * r + 1));
      sum += at(i + r + 1) - at(i - r);
    }
    for (int i = 0; i < n; ++i) first[i * step] = line[std::size_t(i)];
  };
  for (int y = 0; y < h; ++y) pass(in.row(y), w, 1);
  for (int x = 0; x < w; ++x) pass(in.data() + x, h, w);
}

/// Energy of fine texture: the square of a sum-modified Laplacian (Nayar and Nakagawa 1994) of green, in stops.
Image<float> textureOf(const Warped& layer) {
  const int w = layer.stops.width(), h = layer.stops.height();
  Image<float> out(w, h, 1);
  const auto green = [&](int x, int y) { return layer.stops.at(std::clamp(x, 0, w - 1), std::clamp(y, 0, h - 1))[1]; };
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const float c = 2 * green(x, y);
      float sum = 0;
      for (const int s : {1, 2})
        sum += std::abs(c - green(x - s, y) - green(x + s, y)) + std::abs(c - green(x, y - s) - green(x, y + s));
      *out.at(x, y) = *layer.covered.at(x, y) ? sum * sum : 0;
    }
  return out;
}

/// The sharpest plane of each pixel: the logarithms of texture in windows of several sizes, summed.
Image<std::uint8_t> sharpest(const std::vector<Warped>& layers) {
  const int w = layers[0].stops.width(), h = layers[0].stops.height();
  std::vector<Image<float>> scores;
  constexpr float kFaint = 1e-6f; ///< Stops^2, below which texture is nothing.
  for (const Warped& layer : layers) {
    const Image<float> texture = textureOf(layer);
    Image<float> score(w, h, 1);
    score.fill(0);
    for (const int r : kWindows) {
      Image<float> mean = texture.clone();
      boxMean(mean, r);
      for (std::size_t i = 0; i < score.size(); ++i) score.data()[i] += std::log2(mean.data()[i] + kFaint);
    }
    boxMean(score, 2);
    scores.push_back(std::move(score));
  }
  Image<std::uint8_t> out(w, h, 1);
  for (std::size_t i = 0; i < out.size(); ++i) {
    std::size_t best = layers.size();
    for (std::size_t k = 0; k < layers.size(); ++k)
      if (layers[k].covered.data()[i] && (best == layers.size() || scores[k].data()[i] > scores[best].data()[i]))
        best = k;
    out.data()[i] = std::uint8_t(best == layers.size() ? 0 : best + 1);
  }
  return out;
}

/// Islands smaller than a window go to what surrounds them: the most common plane of a 9 x 9 window.
Image<std::uint8_t> calmed(const Image<std::uint8_t>& in, std::size_t planes) {
  const int w = in.width(), h = in.height();
  std::vector<Image<float>> shares;
  for (std::size_t k = 0; k < planes; ++k) {
    Image<float> share(w, h, 1);
    for (std::size_t i = 0; i < in.size(); ++i) share.data()[i] = in.data()[i] == k + 1 ? 1.f : 0.f;
    boxMean(share, 4);
    shares.push_back(std::move(share));
  }
  Image<std::uint8_t> out(w, h, 1);
  for (std::size_t i = 0; i < in.size(); ++i) {
    std::size_t best = 0;
    for (std::size_t k = 1; k < planes; ++k)
      if (shares[k].data()[i] > shares[best].data()[i]) best = k;
    out.data()[i] = in.data()[i] == 0 ? std::uint8_t(0) : std::uint8_t(best + 1);
  }
  return out;
}

/// How much more light each plane shows than the first, stops a channel: the median over the frame.
std::array<double, 3> gainOf(const Warped& first, const Warped& other) {
  std::array<std::vector<float>, 3> off;
  for (std::size_t i = 0; i < first.covered.size(); ++i)
    if (first.covered.data()[i] && other.covered.data()[i])
      for (std::size_t c = 0; c < 3; ++c)
        off[c].push_back(other.stops.data()[3 * i + c] - first.stops.data()[3 * i + c]);
  std::array<double, 3> out{};
  for (std::size_t c = 0; c < 3; ++c) {
    if (off[c].empty()) continue;
    const auto middle = off[c].begin() + std::ptrdiff_t(off[c].size() / 2);
    std::nth_element(off[c].begin(), middle, off[c].end());
    out[c] = *middle;
  }
  return out;
}

} // namespace

std::vector<std::vector<std::size_t>> viewsOf(const Arrangement& arrangement) {
  std::map<int, std::vector<std::size_t>> views;
  for (std::size_t i = 0; i < arrangement.poses.size(); ++i) views[arrangement.view[i]].push_back(i);
  std::vector<std::vector<std::size_t>> out;
  for (auto& [number, members] : views) out.push_back(std::move(members));
  std::sort(out.begin(), out.end());
  return out;
}

FocusJoined joinFocus(const Arrangement& a, const std::vector<std::size_t>& members,
                      const std::vector<Image<std::uint16_t>>& pictures, const Progress& progress) {
  // Focusing nearer shows less: on the frame that shows least every plane has something everywhere.
  const std::size_t narrowest = *std::max_element(members.begin(), members.end(), [&](std::size_t p, std::size_t q) {
    return a.poses[p].focal < a.poses[q].focal;
  });
  const CameraGeometry target = a.camera(narrowest);
  const DirectionAt direction = [&](double x, double y) { return target.ray(x, y); };
  const int width = a.width, height = a.height;
  // Gains from a row of small tiles through the picture.
  std::vector<LightChange> changes(members.size());
  const int probe = std::min({256, width, height});
  const Roi middle{(width - probe) / 2, (height - probe) / 2, probe, probe};
  const Warped first = warp(a.camera(members[0]), pictures[members[0]], {}, direction, middle);
  for (std::size_t k = 1; k < members.size(); ++k)
    changes[k].gain = gainOf(first, warp(a.camera(members[k]), pictures[members[k]], {}, direction, middle));

  FocusJoined out{narrowest, Image<std::uint16_t>(width, height, 3), Image<std::uint8_t>(width, height, 1)};
  const int columns = (width + kFocusTile - 1) / kFocusTile, rows = (height + kFocusTile - 1) / kFocusTile;
  const bool finished = forEachBand(
      columns * rows, progress.stop,
      [&](const Band& band) {
        const int x = band.begin % columns * kFocusTile, y = band.begin / columns * kFocusTile;
        const Roi inner{x, y, std::min(kFocusTile, width - x), std::min(kFocusTile, height - y)};
        const int left = std::max(0, x - kBlendReach), top = std::max(0, y - kBlendReach);
        const Roi outer{left, top, std::min(width, inner.x + inner.width + kBlendReach) - left,
                        std::min(height, inner.y + inner.height + kBlendReach) - top};
        std::vector<Warped> layers;
        for (std::size_t k = 0; k < members.size(); ++k)
          layers.push_back(warp(a.camera(members[k]), pictures[members[k]], changes[k], direction, outer));
        const Image<std::uint8_t> held = calmed(sharpest(layers), layers.size());
        Image<float> hard(outer.width, outer.height, 3);
        for (std::size_t i = 0; i < held.size(); ++i)
          std::copy_n(layers[std::size_t(std::max(1, int(held.data()[i])) - 1)].stops.data() + 3 * i, 3,
                      hard.data() + 3 * i);
        const Image<float> blended = blendLayers(layers, hard, held);
        for (int v = 0; v < inner.height; ++v)
          for (int u = 0; u < inner.width; ++u) {
            const float* from = blended.at(x - left + u, y - top + v);
            for (int c = 0; c < 3; ++c)
              out.picture.at(x + u, y + v)[c] =
                  std::uint16_t(std::clamp(LightCodes::kSteps * from[c] + 1.5f, 1.f, 65535.f)); // rounds
            *out.plane.at(x + u, y + v) = std::uint8_t(std::max(1, int(*held.at(x - left + u, y - top + v))) - 1);
          }
        progress.at(phrase("Join the planes of focus"), double(band.begin + 1) / (columns * rows));
      },
      1);
  return finished ? std::move(out) : FocusJoined{};
}

} // namespace ml
