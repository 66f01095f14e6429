// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/bayer.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

#include <algorithm>

namespace ml {
namespace {

/// Black and scale of each column of a row; `beyond`: of the row, on top of black.
ML_VECTOR_CLONES void codesOf(const std::uint16_t* codes, const float* black, float beyond, const float* scale, int n,
                              std::uint16_t* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float code = (float(codes[i]) - black[i] - beyond) * scale[i] + (kPedestal + 0.5f);
    out[i] = std::uint16_t(int(std::min(std::max(code, 0.f), 65535.f)));
  }
}

} // namespace

ML_VECTOR_CLONES void lightOfCodes(const std::uint16_t* codes, int n, float* __restrict light) {
  for (int i = 0; i < n; ++i) light[i] = (float(codes[i]) - float(kPedestal)) * (1.f / float(kLightRange));
}

Image<std::uint16_t> photositeCodes(const BayerMosaic& m) {
  const std::size_t n = std::size_t(m.codes.width);
  std::vector<float> black[2], scale[2]; // of even rows and of odd ones
  for (std::size_t row = 0; row < 2; ++row)
    for (std::size_t x = 0; x < n; ++x) {
      const std::size_t place = 2 * row + (x & 1);
      black[row].push_back(m.black[place] + (m.columns.empty() ? 0 : m.columns[x]));
      scale[row].push_back(kLightRange * m.gain[std::size_t(m.colours[place])] /
                           std::max(1.f, m.white - m.black[place]));
    }
  Image<std::uint16_t> out(m.codes.width, m.codes.height, 1);
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      codesOf(m.codes.row(y), black[y & 1].data(), m.rows.empty() ? 0 : m.rows[std::size_t(y)], scale[y & 1].data(),
              out.width(), out.row(y));
  });
  return out;
}

Image<std::uint16_t> binned(const BayerMosaic& m) {
  Image<std::uint16_t> out(std::max(1, m.codes.width / 2), std::max(1, m.codes.height / 2), 3);
  float scale[4], zero[3] = {};
  for (std::size_t k = 0; k < 4; ++k) {
    const std::size_t c = std::size_t(m.colours[k]);
    scale[k] = m.gain[c] * kLightRange / std::max(1.f, m.white - m.black[k]) * (c == 1 ? 0.5f : 1.f);
    zero[c] -= scale[k] * m.black[k];
  }
  for (float& z : zero) z += kPedestal + 0.5f;
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const std::uint16_t *even = m.codes.row(std::min(2 * y, m.codes.height - 1)),
                          *odd = m.codes.row(std::min(2 * y + 1, m.codes.height - 1));
      std::uint16_t* pixel = out.row(y);
      for (int x = 0; x < out.width(); ++x, pixel += 3) {
        const int left = 2 * x, right = std::min(left + 1, m.codes.width - 1);
        float sum[3] = {zero[0], zero[1], zero[2]};
        sum[m.colours[0]] += scale[0] * float(even[left]);
        sum[m.colours[1]] += scale[1] * float(even[right]);
        sum[m.colours[2]] += scale[2] * float(odd[left]);
        sum[m.colours[3]] += scale[3] * float(odd[right]);
        for (int c = 0; c < 3; ++c) pixel[c] = std::uint16_t(std::clamp(sum[c], 0.f, 65535.f));
      }
    }
  });
  return out;
}

} // namespace ml
