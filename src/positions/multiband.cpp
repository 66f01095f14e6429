// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/multiband.h"

#include "image/laplacian.h"

#include <algorithm>

namespace ml {
namespace {

constexpr int kLevels = 5;

using Planes = std::vector<Image<float>>; ///< One level after the other, one channel.

Planes gaussian(Image<float> first) {
  Planes out;
  out.push_back(std::move(first));
  std::vector<float> scratch;
  for (int level = 1; level < kLevels && std::min(out.back().width(), out.back().height()) > 4; ++level) {
    const auto& fine = out.back();
    Image<float> coarse(halvedSize(fine.width()), halvedSize(fine.height()), 1);
    for (int y = 0; y < coarse.height(); ++y) halveRow(fine.view(), y, scratch, coarse.row(y));
    out.push_back(std::move(coarse));
  }
  return out;
}

/// sum[level] += weight[level] * (picture's detail at that level).
void addWeighted(const Planes& picture, const Planes& weight, Planes& sum) {
  std::vector<float> scratch, smooth;
  for (std::size_t level = 0; level < picture.size(); ++level) {
    const auto& fine = picture[level];
    smooth.resize(std::size_t(fine.width()));
    for (int y = 0; y < fine.height(); ++y) {
      const bool last = level + 1 == picture.size();
      if (!last) doubleRow(picture[level + 1].view(), y, fine.width(), scratch, smooth.data());
      addDetail(fine.row(y), last ? nullptr : smooth.data(), weight[level].row(y), fine.width(), sum[level].row(y));
    }
  }
}

Image<float> collapsed(Planes sum) {
  std::vector<float> scratch, smooth;
  for (std::size_t level = sum.size() - 1; level-- > 0;) {
    auto& fine = sum[level];
    smooth.resize(std::size_t(fine.width()));
    for (int y = 0; y < fine.height(); ++y) {
      doubleRow(sum[level + 1].view(), y, fine.width(), scratch, smooth.data());
      for (int x = 0; x < fine.width(); ++x) *fine.at(x, y) += smooth[std::size_t(x)];
    }
  }
  return std::move(sum[0]);
}

Image<float> channelOf(const Image<float>& in, int channel) {
  Image<float> out(in.width(), in.height(), 1);
  const float* from = in.data() + channel;
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = from[3 * i];
  return out;
}

Planes zeros(const Planes& like) {
  Planes out;
  for (const auto& plane : like) {
    out.emplace_back(plane.width(), plane.height(), 1);
    out.back().fill(0);
  }
  return out;
}

} // namespace

Image<float> blendLayers(std::vector<Warped>& layers, const Image<float>& hard, const Image<std::uint8_t>& held) {
  std::vector<Planes> weights;
  for (std::size_t i = 0; i < layers.size(); ++i) {
    Image<float> mine(held.width(), held.height(), 1);
    for (std::size_t p = 0; p < held.size(); ++p) mine.data()[p] = held.data()[p] == i + 1 ? 1.f : 0.f;
    // What nobody covers goes to the first layer: it is not shown, and weights must sum to one.
    if (i == 0)
      for (std::size_t p = 0; p < held.size(); ++p)
        if (held.data()[p] == 0) mine.data()[p] = 1;
    weights.push_back(gaussian(std::move(mine)));
    // Where a layer does not cover, it shows what the others do: no edge arises.
    Warped& layer = layers[i];
    for (std::size_t p = 0; p < held.size(); ++p)
      if (!layer.covered.data()[p]) std::copy_n(hard.data() + 3 * p, 3, layer.stops.data() + 3 * p);
  }
  Image<float> out(held.width(), held.height(), 3);
  for (int c = 0; c < 3; ++c) {
    Planes sum = zeros(weights[0]);
    for (std::size_t i = 0; i < layers.size(); ++i)
      addWeighted(gaussian(channelOf(layers[i].stops, c)), weights[i], sum);
    const Image<float> plane = collapsed(std::move(sum));
    for (std::size_t p = 0; p < plane.size(); ++p) out.data()[3 * p + std::size_t(c)] = plane.data()[p];
  }
  return out;
}

} // namespace ml
