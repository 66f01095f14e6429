// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/defects.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <vector>

namespace ml {
namespace {

struct Defect {
  int x, y;
  std::uint16_t value;
};

using Ring = std::array<int, 8>;

/// The eight nearest of the same colour, in rising order.
Ring ringAt(const MosaicView& m, int x, int y) {
  const std::uint16_t* p = m.data + y * m.pitch + x;
  const std::ptrdiff_t down = 2 * m.pitch;
  Ring ring{p[-2], p[2], p[-down], p[down], p[-down - 2], p[-down + 2], p[down - 2], p[down + 2]};
  std::sort(ring.begin(), ring.end());
  return ring;
}

int medianOf(const Ring& ring) {
  return (ring[3] + ring[4]) / 2;
}

/// Standard deviation of a sample by the light above black: the median departure from the ring's median, by half stops.
class SampleNoise {
public:
  SampleNoise(const MosaicView& m, double black) : black_(black) {
    std::array<std::vector<int>, kBins> departures;
    const int step = std::max(1, int(std::sqrt(double(m.width) * m.height / 60000)));
    for (int y = 2; y < m.height - 2; y += step)
      for (int x = 2; x < m.width - 2; x += step) {
        const int middle = medianOf(ringAt(m, x, y));
        departures[std::size_t(bin(middle))].push_back(std::abs(m.data[y * m.pitch + x] - middle));
      }
    double last = 1;
    for (int i = 0; i < kBins; ++i) {
      auto& list = departures[std::size_t(i)];
      if (list.size() >= 30) {
        std::nth_element(list.begin(), list.begin() + std::ptrdiff_t(list.size() / 2), list.end());
        last = std::max(1.0, 1.4826 * list[list.size() / 2]);
      }
      sigma_[std::size_t(i)] = last;
    }
  }
  [[nodiscard]] double at(int code) const { return sigma_[std::size_t(bin(code))]; }

private:
  static constexpr int kBins = 34;
  [[nodiscard]] int bin(int code) const {
    return std::clamp(int(2 * std::log2(std::max(1.0, code - black_))), 0, kBins - 1);
  }
  double black_;
  std::array<double, kBins> sigma_{};
};

constexpr double kSigmas = 8, kSpreads = 3;
constexpr double kAboveFour = 2; ///< Sigmas by which it stands out from each of the four nearest: one in fifty of sound
                                 ///< samples, where every fifth is the largest of five.
constexpr double kNeighboursToo = 0.15; ///< Of its own departure: from here on its neighbours show something as well.

/// Departures of the four nearest, which have other colours, from what is usual for them.
double aroundIt(const MosaicView& m, int x, int y) {
  double sum = 0;
  for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
    const int u = std::clamp(x + dx, 2, m.width - 3), v = std::clamp(y + dy, 2, m.height - 3);
    sum += m.data[v * m.pitch + u] - medianOf(ringAt(m, u, v));
  }
  return sum / 4;
}

bool isDefect(const MosaicView& m, int x, int y, const SampleNoise& noise, int& mended) {
  const int value = m.data[y * m.pitch + x];
  const Ring ring = ringAt(m, x, y);
  mended = medianOf(ring);
  const double departure = value - mended, spread = ring[6] - ring[1];
  if (std::abs(departure) < kSigmas * noise.at(std::max(value, mended)) || std::abs(departure) < kSpreads * spread)
    return false;
  if (value >= ring[0] && value <= ring[7]) return false;
  const double around = aroundIt(m, x, y);
  return departure > 0 ? around < kNeighboursToo * departure : around > kNeighboursToo * departure;
}

/// 1 where a sample lies beyond its four nearest of the same colour by more than `step` of the largest of them says (by
/// code / 64): most do not, and need no closer look.
ML_VECTOR_CLONES void markBeyond(const std::uint16_t* above, const std::uint16_t* row, const std::uint16_t* below,
                                 const int* step, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const int value = row[i], left = row[i - 2], right = row[i + 2], up = above[i], down = below[i];
    const int h = left > right ? left : right, v = up > down ? up : down, most = h > v ? h : v,
              low = left < right ? left : right, deep = up < down ? up : down, least = low < deep ? low : deep;
    const int enough = step[most >> 6], high = value - most, beneath = least - value;
    out[i] = (high > beneath ? high : beneath) > enough;
  }
}

} // namespace

std::size_t mendDefects(const MosaicView& m, double black) {
  if (m.width < 16 || m.height < 16) return 0;
  const SampleNoise noise(m, black);
  std::array<int, 1024> step; // of a closer look, by code / 64
  for (std::size_t i = 0; i < step.size(); ++i) step[i] = int(kAboveFour * noise.at(int(i) * 64 + 32));
  std::vector<std::vector<Defect>> found(std::size_t(bandCount(m.height)));
  forEachBand(m.height, [&](const Band& band) {
    const int n = m.width - 4;
    std::vector<std::uint8_t> beyond(std::size_t(n), 0);
    for (int y = std::max(2, band.begin); y < std::min(m.height - 2, band.end); ++y) {
      const std::uint16_t* row = m.data + y * m.pitch + 2;
      markBeyond(row - 2 * m.pitch, row, row + 2 * m.pitch, step.data(), n, beyond.data());
      for (int i = 0; const void* at = std::memchr(beyond.data() + i, 1, std::size_t(n - i)); ++i) {
        i = int(static_cast<const std::uint8_t*>(at) - beyond.data());
        int mended;
        if (isDefect(m, i + 2, y, noise, mended))
          found[std::size_t(band.index)].push_back({i + 2, y, std::uint16_t(mended)});
      }
    }
  });
  std::size_t count = 0;
  for (const auto& part : found)
    for (const Defect& d : part) m.data[d.y * m.pitch + d.x] = d.value, ++count;
  return count;
}

} // namespace ml
