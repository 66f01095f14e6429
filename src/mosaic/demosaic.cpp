// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/bayer.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "mosaic/demosaic_tile.h"

#include <algorithm>

namespace ml {
namespace {

constexpr float kRange = 65535 - kPedestal;

/// `beyond`: of the row, on top of black.
ML_VECTOR_CLONES void lightOf(const std::uint16_t* codes, const float* black, float beyond, const float* scale, int n,
                              float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = (float(codes[i]) - black[i] - beyond) * scale[i];
}

/// A mosaic's photosites as light, tile by tile.
class Reader {
public:
  explicit Reader(const BayerMosaic& m) : m_(m), beyond_(DemosaicTile::kStride) {
    for (std::size_t i = 0; i < DemosaicTile::kStride; ++i)
      for (std::size_t row = 0; row < 2; ++row) {
        const std::size_t place = 2 * row + (i & 1);
        levels_[row].black[i] = m.black[place];
        levels_[row].scale[i] = m.gain[std::size_t(m.colours[place])] / std::max(1.f, m.white - m.black[place]);
      }
  }

  /// The tile whose first pixel is (x0, y0), both even.
  void read(int x0, int y0, DemosaicTile& tile) {
    constexpr int n = DemosaicTile::kStride;
    const int from = x0 - DemosaicTile::kMargin;
    if (!m_.columns.empty())
      for (int i = 0; i < n; ++i)
        for (std::size_t row = 0; row < 2; ++row)
          levels_[row].black[std::size_t(i)] =
              m_.black[2 * row + std::size_t(i & 1)] + m_.columns[std::size_t(mirrored(from + i, m_.codes.width))];
    for (int y = 0; y < DemosaicTile::kRows; ++y) {
      const int v = mirrored(y0 + y - DemosaicTile::kMargin, m_.codes.height);
      const std::uint16_t* row = m_.codes.row(v);
      const std::uint16_t* codes = row + from;
      if (from < 0 || from + n > m_.codes.width) {
        for (int i = 0; i < n; ++i) beyond_[std::size_t(i)] = row[mirrored(from + i, m_.codes.width)];
        codes = beyond_.data();
      }
      const Levels& levels = levels_[std::size_t(y & 1)];
      const float beyond = m_.rows.empty() ? 0 : m_.rows[std::size_t(v)];
      lightOf(codes, levels.black.data(), beyond, levels.scale.data(), n, tile.light(y));
    }
  }

private:
  struct Levels {
    std::array<float, DemosaicTile::kStride> black, scale;
  };

  const BayerMosaic& m_;
  std::array<Levels, 2> levels_; ///< Of even rows and of odd ones.
  std::vector<std::uint16_t> beyond_;
};

} // namespace

Image<std::uint16_t> demosaiced(const BayerMosaic& m) {
  Image<std::uint16_t> out(m.codes.width, m.codes.height, 3);
  MosaicScale scale{m.colours, {}};
  for (std::size_t c = 0; c < 3; ++c) scale.full[c] = kFullPhotosite * m.gain[c];
  forEachBand(
      out.height(),
      [&](const Band& band) {
        Reader reader(m);
        DemosaicTile tile(scale);
        for (int x = 0; x < out.width(); x += DemosaicTile::kWidth) {
          const int width = std::min(DemosaicTile::kWidth, out.width() - x);
          reader.read(x, band.begin, tile);
          tile.prepare();
          for (int y = 0; y < band.end - band.begin; ++y) {
            tile.develop(y, width);
            tile.takeCodes(width, kPedestal, kRange, out.at(x, band.begin + y));
          }
        }
      },
      DemosaicTile::kHeight);
  return out;
}

Image<std::uint16_t> binned(const BayerMosaic& m) {
  Image<std::uint16_t> out(std::max(1, m.codes.width / 2), std::max(1, m.codes.height / 2), 3);
  float scale[4], zero[3] = {};
  for (std::size_t k = 0; k < 4; ++k) {
    const std::size_t c = std::size_t(m.colours[k]);
    scale[k] = m.gain[c] * kRange / std::max(1.f, m.white - m.black[k]) * (c == 1 ? 0.5f : 1.f);
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
