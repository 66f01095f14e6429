// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/small_picture.h"

#include "capture/developed.h"
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "image/colour.h"
#include "image/orientation.h"
#include "image/resample.h"
#include "ingest/load_frame.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr int kFewestCells = 120; ///< Of a signature, that must speak in both.

Image<std::uint8_t> reduced(ImageView<const std::uint8_t> picture, int edge) {
  const Roi size = fitted(picture.width, picture.height, edge);
  Image<float> wide(picture.width, picture.height, 3);
  for (int y = 0; y < picture.height; ++y) std::copy_n(picture.row(y), picture.width * 3, wide.row(y));
  const Image<float> small = shrinkTo(wide.view(), size.width, size.height);
  Image<std::uint8_t> out(size.width, size.height, 3);
  for (std::size_t i = 0; i < out.size(); ++i)
    out.data()[i] = std::uint8_t(std::lround(std::clamp(small.data()[i], 0.f, 255.f)));
  return out;
}

/// A frame that had to be decoded whole, as it would be shown.
Image<std::uint8_t> displayed(const Frame& frame, int edge) {
  const int step = std::max(1, std::max(frame.width(), frame.height()) / (2 * edge));
  const float gain = 0.18f / frame.midTone;
  Image<std::uint8_t> out(frame.width() / step, frame.height() / step, 3);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      float rgb[3];
      frame.linearAt(x * step, y * step, rgb);
      const auto seen = apply(frame.toRec709, {rgb[0], rgb[1], rgb[2]});
      for (std::size_t c = 0; c < 3; ++c)
        out.at(x, y)[c] = std::uint8_t(std::lround(255 * srgbEncode(std::clamp(seen[c] * gain, 0.0, 1.0))));
    }
  return out;
}

} // namespace

Result<Image<std::uint8_t>> loadSmallPicture(const std::filesystem::path& file, int edge) {
  const auto kind = sniff(file);
  if (!kind) return passOn(kind.error());
  if (*kind == FileKind::Jpeg) {
    auto picture = readSmallJpeg(file, edge);
    if (!picture) return passOn(picture.error());
    const auto metadata = readExif(file);
    const int orientation = metadata ? metadata->orientation : 1;
    return picture->pixels.visit([&](auto stored) -> Image<std::uint8_t> {
      if constexpr (std::is_same_v<decltype(stored), ImageView<const std::uint8_t>>)
        return reduced(oriented(stored, orientation).view(), edge);
      else
        return {};
    });
  }
  auto frame = loadFrame(file, Unsaid::Allowed);
  if (!frame) return passOn(frame.error());
  if (frame->isMosaic()) frame = developed(*frame);
  return reduced(displayed(*frame, edge).view(), edge);
}

namespace {

/// Linear green light on the signature's cells; 0 where it is black or white.
Image<float> cellsOf(const Image<std::uint8_t>& picture) {
  Image<float> wide(picture.width(), picture.height(), 1);
  for (std::size_t i = 0; i < wide.size(); ++i) wide.data()[i] = float(picture.data()[3 * i + 1]);
  Image<float> cells = shrinkTo(wide.view(), Signature::kWidth, Signature::kHeight);
  for (std::size_t i = 0; i < cells.size(); ++i) {
    const float code = cells.data()[i];
    cells.data()[i] = code > 3 && code < 250 ? float(srgbDecode(code / 255.0)) : 0;
  }
  return cells;
}

/// What stands out from the five by five cells around.
Image<float> detailOf(const Image<float>& log, const Image<float>& speaks) {
  Image<float> out(log.width(), log.height(), 1);
  out.fill(0);
  for (int y = 0; y < log.height(); ++y)
    for (int x = 0; x < log.width(); ++x) {
      if (!(*speaks.at(x, y) > 0)) continue;
      double sum = 0, count = 0;
      for (int v = std::max(0, y - 2); v <= std::min(log.height() - 1, y + 2); ++v)
        for (int u = std::max(0, x - 2); u <= std::min(log.width() - 1, x + 2); ++u)
          if (*speaks.at(u, v) > 0) sum += *log.at(u, v), ++count;
      *out.at(x, y) = float(std::clamp(*log.at(x, y) - sum / count, -1.0, 1.0));
    }
  return out;
}

} // namespace

Signature signatureOf(const Image<std::uint8_t>& picture) {
  Signature s;
  for (Image<float>* map : {&s.tones, &s.detail}) {
    *map = Image<float>(Signature::kWidth, Signature::kHeight, 1);
    map->fill(0);
  }
  if (picture.width() < Signature::kWidth || picture.height() < Signature::kHeight) return s;
  const Image<float> green = cellsOf(picture);
  const auto speaks = [&](int x, int y) { return *green.at(x, y) > 0; };
  Image<float> log(Signature::kWidth, Signature::kHeight, 1);
  double sum = 0, squares = 0, steps = 0;
  int count = 0, pairs = 0;
  for (int y = 0; y < Signature::kHeight; ++y)
    for (int x = 0; x < Signature::kWidth; ++x) {
      if (!speaks(x, y)) continue;
      const float here = *log.at(x, y) = std::log2(*green.at(x, y));
      sum += here, squares += double(here) * here, ++count;
      if (x > 0 && speaks(x - 1, y)) steps += std::abs(here - *log.at(x - 1, y)), ++pairs;
    }
  if (count < 40) return s;
  const double mean = sum / count, deviation = std::sqrt(std::max(1e-9, squares / count - mean * mean));
  for (int y = 0; y < Signature::kHeight; ++y)
    for (int x = 0; x < Signature::kWidth; ++x)
      if (speaks(x, y)) *s.tones.at(x, y) = float((*log.at(x, y) - mean) / deviation);
  s.detail = detailOf(log, green);
  s.deviation = deviation;
  s.structure = pairs ? steps / pairs * double(count) / (Signature::kWidth * Signature::kHeight) : 0;
  return s;
}

Likeness likenessOf(const Signature& a, const Signature& b, double reach) {
  constexpr int w = Signature::kWidth, h = Signature::kHeight;
  const int rx = int(reach * w), ry = std::max(1, int(reach * h / 4));
  Likeness best;
  for (int dy = -ry; dy <= ry; ++dy)
    for (int dx = -rx; dx <= rx; ++dx) {
      double aa = 0, bb = 0, ab = 0, sa = 0, sb = 0;
      int n = 0;
      for (int y = std::max(0, -dy); y < std::min(h, h - dy); ++y)
        for (int x = std::max(0, -dx); x < std::min(w, w - dx); ++x) {
          const double p = *a.tones.at(x, y), q = *b.tones.at(x + dx, y + dy);
          if (p == 0 || q == 0) continue;
          aa += p * p, bb += q * q, ab += p * q, sa += p, sb += q, ++n;
        }
      if (n < kFewestCells) continue;
      const double va = aa - sa * sa / n, vb = bb - sb * sb / n;
      // Less overlap must agree better: chance is greater there.
      const double correlation = va > 0 && vb > 0 ? (ab - sa * sb / n) / std::sqrt(va * vb) -
                                                        0.15 * (std::abs(dx) / double(w) + std::abs(dy) / double(h))
                                                  : 0;
      if (correlation > best.correlation) best = {correlation, double(dx) / w, double(dy) / h};
    }
  return best;
}

namespace {

struct TonePair {
  double first, second;
};

/// Half of the second tones lie further from the middle of those whose first tone is about the same.
double scatterOf(std::vector<TonePair> pairs) {
  constexpr std::size_t kAbout = 48;
  std::sort(pairs.begin(), pairs.end(), [](const TonePair& a, const TonePair& b) { return a.first < b.first; });
  std::vector<double> off;
  for (std::size_t begin = 0; begin + kAbout <= pairs.size(); begin += kAbout) {
    const auto from = pairs.begin() + std::ptrdiff_t(begin), middle = from + kAbout / 2;
    std::nth_element(from, middle, from + kAbout,
                     [](const TonePair& a, const TonePair& b) { return a.second < b.second; });
    const double half = middle->second;
    for (auto p = from; p != from + kAbout; ++p) off.push_back(std::abs(p->second - half));
  }
  std::nth_element(off.begin(), off.begin() + std::ptrdiff_t(off.size() / 2), off.end());
  return off[off.size() / 2];
}

} // namespace

namespace {

/// Correlation of detail where both pictures speak, the second looked at `dx`, `dy` cells further; 0 where few do.
double detailAlike(const Signature& a, const Signature& b, int dx, int dy) {
  double ab = 0, aa = 0, bb = 0;
  int count = 0;
  for (int y = std::max(0, -dy); y < std::min(Signature::kHeight, Signature::kHeight - dy); ++y)
    for (int x = std::max(0, -dx); x < std::min(Signature::kWidth, Signature::kWidth - dx); ++x) {
      if (*a.tones.at(x, y) == 0 || *b.tones.at(x + dx, y + dy) == 0) continue;
      const double p = *a.detail.at(x, y), q = *b.detail.at(x + dx, y + dy);
      ab += p * q, aa += p * p, bb += q * q, ++count;
    }
  return count >= kFewestCells && aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : 0;
}

} // namespace

LightChanged lightChanged(const Signature& a, const Signature& b) {
  std::vector<TonePair> pairs; // stops
  for (std::size_t i = 0; i < a.tones.size(); ++i)
    if (a.tones.data()[i] != 0 && b.tones.data()[i] != 0)
      pairs.push_back({a.tones.data()[i] * a.deviation, b.tones.data()[i] * b.deviation});
  if (pairs.size() < kFewestCells) return {};
  LightChanged out{detailAlike(a, b, 0, 0), 0, scatterOf(std::move(pairs))};
  constexpr int kReach = 6;
  for (int dy = -kReach / 2; dy <= kReach / 2; ++dy)
    for (int dx = -kReach; dx <= kReach; ++dx)
      if (std::abs(dx) > 1 || std::abs(dy) > 1) out.elsewhere = std::max(out.elsewhere, detailAlike(a, b, dx, dy));
  return out;
}

bool underAnotherLight(const Signature& a, const Signature& b) {
  const LightChanged changed = lightChanged(a, b);
  return changed.detail > 0.4 && changed.detail > 1.5 * changed.elsewhere && changed.light > 0.1;
}

} // namespace ml
