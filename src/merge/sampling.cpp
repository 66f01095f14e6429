#include "merge/sampling.h"

#include "align/transform.h"
#include "image/resample.h"

#include <cmath>

namespace ml {
namespace {

void sampleInPlace(const Frame& frame, int y, int width, const float inverseClip[3], RowSamples& out) {
  const float* table = frame.table.linear.data();
  const std::uint16_t* codes = frame.codes.row(y);
  for (int x = 0; x < width; ++x) {
    float* rgb = &out.linear[3 * std::size_t(x)];
    for (int c = 0; c < 3; ++c) rgb[c] = table[codes[3 * x + c]];
    out.trust[x] = trustOf(clipLevel(rgb, inverseClip));
  }
}

} // namespace

void sampleRow(const PlacedFrame& placed, int y, int width, RowSamples& out) {
  const Frame& frame = *placed.frame;
  out.linear.resize(std::size_t(width) * 3);
  out.trust.resize(width);
  float inverseClip[3];
  for (int c = 0; c < 3; ++c) inverseClip[c] = 1 / (frame.table.clipFrom * frame.saturation[c]);
  const Transform transform{placed.toFrame};
  if (transform.isIdentity()) return sampleInPlace(frame, y, width, inverseClip, out);
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
    float wx[4], wy[4], largest[3] = {0, 0, 0};
    cubicWeights(float(u - ix), wx);
    cubicWeights(float(v - iy), wy);
    rgb[0] = rgb[1] = rgb[2] = 0;
    for (int j = 0; j < 4; ++j) {
      const std::uint16_t* code = frame.codes.at(ix - 1, iy + j - 1);
      for (int i = 0; i < 4; ++i, code += 3)
        for (int c = 0; c < 3; ++c) {
          const float value = table[code[c]];
          rgb[c] += wx[i] * wy[j] * value;
          largest[c] = std::max(largest[c], value);
        }
    }
    out.trust[x] = trustOf(clipLevel(largest, inverseClip));
  }
}

} // namespace ml
