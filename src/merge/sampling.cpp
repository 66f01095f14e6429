#include "merge/sampling.h"

#include "align/transform.h"
#include "base/parallel.h"
#include "image/resample.h"

#include <cmath>

namespace ml {
namespace {

void sampleInPlace(const Frame& frame, const Image<std::uint8_t>& trust, int y, int width, RowSamples& out) {
  const float* table = frame.table.linear.data();
  const std::uint16_t* codes = frame.codes.row(y);
  for (int i = 0; i < 3 * width; ++i) out.linear[i] = table[codes[i]];
  for (int x = 0; x < width; ++x) out.trust[x] = float(trust.row(y)[x]) / 255;
}

/// Least of five neighbours along a line; `stride` between them.
std::uint8_t leastOfFive(const std::uint8_t* at, int position, int count, std::ptrdiff_t stride) {
  std::uint8_t least = 255;
  for (int k = std::max(0, position - 2); k <= std::min(count - 1, position + 2); ++k) least = std::min(least, at[(k - position) * stride]);
  return least;
}

} // namespace

Image<std::uint8_t> trustMap(const Frame& frame) {
  const int w = frame.width(), h = frame.height();
  float inverseClip[3];
  for (int c = 0; c < 3; ++c) inverseClip[c] = 1 / (frame.table.clipFrom * frame.saturation[c]);
  Image<std::uint8_t> own(w, h, 1), across(w, h, 1), out(w, h, 1);
  const float* table = frame.table.linear.data();
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const std::uint16_t* code = frame.codes.row(y);
      for (int x = 0; x < w; ++x, code += 3) {
        const float rgb[3] = {table[code[0]], table[code[1]], table[code[2]]};
        own.row(y)[x] = std::uint8_t(trustOf(clipLevel(rgb, inverseClip)) * 255 + 0.5f);
      }
      for (int x = 0; x < w; ++x) across.row(y)[x] = leastOfFive(own.row(y) + x, x, w, 1);
    }
  });
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) out.row(y)[x] = leastOfFive(across.row(y) + x, y, h, w);
  });
  return out;
}

void sampleRow(const PlacedFrame& placed, const Image<std::uint8_t>& trust, int y, int width, RowSamples& out) {
  const Frame& frame = *placed.frame;
  out.linear.resize(std::size_t(width) * 3);
  out.trust.resize(width);
  const Transform transform{placed.toFrame};
  if (transform.isIdentity()) return sampleInPlace(frame, trust, y, width, out);
  const float* table = frame.table.linear.data();
  for (int x = 0; x < width; ++x) {
    double u, v;
    transform.map(x, y, u, v);
    const int ix = int(std::floor(u)), iy = int(std::floor(v));
    float* rgb = &out.linear[3 * std::size_t(x)];
    if (ix < 1 || iy < 1 || ix > frame.width() - 3 || iy > frame.height() - 3) {
      rgb[0] = rgb[1] = rgb[2] = 0;
      out.trust[x] = -1;
      continue;
    }
    float wx[4], wy[4], sum[3] = {0, 0, 0}, least[3] = {1e9f, 1e9f, 1e9f}, most[3] = {-1e9f, -1e9f, -1e9f};
    cubicWeights(float(u - ix), wx);
    cubicWeights(float(v - iy), wy);
    for (int j = 0; j < 4; ++j) {
      const std::uint16_t* code = frame.codes.at(ix - 1, iy + j - 1);
      for (int i = 0; i < 4; ++i, code += 3)
        for (int c = 0; c < 3; ++c) {
          const float value = table[code[c]];
          sum[c] += wx[i] * wy[j] * value;
          least[c] = std::min(least[c], value);
          most[c] = std::max(most[c], value);
        }
    }
    for (int c = 0; c < 3; ++c) rgb[c] = std::clamp(sum[c], least[c], most[c]);
    const std::uint8_t *a = trust.at(ix, iy), *b = trust.at(ix, iy + 1);
    out.trust[x] = float(std::min({a[0], a[1], b[0], b[1]})) / 255;
  }
}

} // namespace ml
