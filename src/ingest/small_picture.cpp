// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/small_picture.h"

#include "capture/developed.h"
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "image/colour.h"
#include "image/orientation.h"
#include "image/resample.h"
#include "ingest/load_frame.h"

#include <cmath>

namespace ml {
namespace {

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

Signature signatureOf(const Image<std::uint8_t>& picture) {
  Image<float> wide(picture.width(), picture.height(), 1);
  for (std::size_t i = 0; i < wide.size(); ++i) wide.data()[i] = float(picture.data()[3 * i + 1]);
  Signature s;
  s.tones = Image<float>(Signature::kWidth, Signature::kHeight, 1);
  s.tones.fill(0);
  if (picture.width() < Signature::kWidth || picture.height() < Signature::kHeight) return s;
  const Image<float> small = shrinkTo(wide.view(), Signature::kWidth, Signature::kHeight);
  const auto speaks = [&](int x, int y) { return *small.at(x, y) > 3 && *small.at(x, y) < 250; };
  const auto log = [&](int x, int y) { return std::log2(srgbDecode(*small.at(x, y) / 255.0)); };
  double sum = 0, squares = 0, steps = 0;
  int count = 0, pairs = 0;
  for (int y = 0; y < Signature::kHeight; ++y)
    for (int x = 0; x < Signature::kWidth; ++x) {
      if (!speaks(x, y)) continue;
      sum += log(x, y), squares += log(x, y) * log(x, y), ++count;
      if (x > 0 && speaks(x - 1, y)) steps += std::abs(log(x, y) - log(x - 1, y)), ++pairs;
    }
  if (count < 40) return s;
  const double mean = sum / count, deviation = std::sqrt(std::max(1e-9, squares / count - mean * mean));
  for (int y = 0; y < Signature::kHeight; ++y)
    for (int x = 0; x < Signature::kWidth; ++x)
      if (speaks(x, y)) *s.tones.at(x, y) = float((log(x, y) - mean) / deviation);
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
      if (n < 120) continue;
      const double va = aa - sa * sa / n, vb = bb - sb * sb / n;
      // Less overlap must agree better: chance is greater there.
      const double correlation = va > 0 && vb > 0 ? (ab - sa * sb / n) / std::sqrt(va * vb) -
                                                        0.15 * (std::abs(dx) / double(w) + std::abs(dy) / double(h))
                                                  : 0;
      if (correlation > best.correlation) best = {correlation, double(dx) / w, double(dy) / h};
    }
  return best;
}

} // namespace ml
