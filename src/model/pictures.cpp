// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/pictures.h"

#include "capture/developed.h"
#include "exposure/ev.h"
#include "image/resample.h"
#include "merge/tile.h"

#include <cmath>

namespace ml {

QImage toQImage(const Image<std::uint8_t>& rgb) {
  QImage out(rgb.width(), rgb.height(), QImage::Format_RGB888);
  for (int y = 0; y < rgb.height(); ++y) std::copy_n(rgb.row(y), rgb.width() * 3, out.scanLine(y));
  return out;
}

QImage toQImage(ImageView<const std::uint16_t> codes) {
  QImage out(codes.width, codes.height, QImage::Format_RGB888);
  for (int y = 0; y < codes.height; ++y) {
    uchar* line = out.scanLine(y);
    for (int i = 0; i < codes.width * 3; ++i) line[i] = uchar((codes.row(y)[i] + 128) / 257);
  }
  return out;
}

namespace {

/// Every `step`-th pixel of a part, as the camera would show it.
QImage shown(const Frame& frame, const Roi& part, int step) {
  const int width = part.width / step, height = part.height / step;
  QImage out(width, height, QImage::Format_RGB888);
  const float gain = 0.18f / frame.midTone;
  float m[9];
  for (int i = 0; i < 9; ++i) m[i] = float(frame.toRec709[i]) * gain;
  static const std::vector<uchar> encode = [] {
    std::vector<uchar> table(4097);
    for (int i = 0; i <= 4096; ++i) table[i] = uchar(std::lround(srgbEncode(i / 4096.0) * 255));
    return table;
  }();
  for (int y = 0; y < height; ++y) {
    uchar* line = out.scanLine(y);
    for (int x = 0; x < width; ++x) {
      float rgb[3];
      frame.linearAt(part.x + x * step, part.y + y * step, rgb);
      for (int c = 0; c < 3; ++c) {
        const float v = m[3 * c] * rgb[0] + m[3 * c + 1] * rgb[1] + m[3 * c + 2] * rgb[2];
        line[3 * x + c] = encode[int(std::clamp(v, 0.f, 1.f) * 4096)];
      }
    }
  }
  return out;
}

} // namespace

QImage displayOf(const Frame& frame) {
  const int step = std::max(1, (std::max(frame.width(), frame.height()) + kPreviewEdge - 1) / kPreviewEdge);
  const Roi whole{0, 0, frame.width(), frame.height()};
  return frame.isMosaic() ? shown(developed(frame), whole, step) : shown(frame, whole, step);
}

QImage displayOf(const Frame& frame, const Roi& part) {
  if (frame.isMosaic()) return shown(developed(frame, part), {0, 0, part.width, part.height}, 1);
  return shown(frame, part, 1);
}

Roi pixelsOf(const QRectF& part, int width, int height) {
  Roi r{int(part.x() * width), int(part.y() * height), int(part.width() * width) + 2, int(part.height() * height) + 2};
  r.x = std::clamp(r.x, 0, width - 1), r.y = std::clamp(r.y, 0, height - 1);
  r.width = std::clamp(r.width, 1, width - r.x), r.height = std::clamp(r.height, 1, height - r.y);
  return r;
}

std::vector<float> paperTones(const QImage& finished, int steps, double stops) {
  constexpr int kEvery = 5; // pixels: enough for shares, next to nothing for a drag
  static const std::vector<float> linear = [] {
    std::vector<float> table(256);
    for (int i = 0; i < 256; ++i) table[std::size_t(i)] = float(srgbDecode(i / 255.0));
    return table;
  }();
  std::vector<float> share(std::size_t(steps), 0.f);
  int count = 0;
  for (int y = 0; y < finished.height(); y += kEvery) {
    const uchar* line = finished.constScanLine(y);
    for (int x = 0; x < finished.width(); x += kEvery, ++count) {
      const uchar* p = line + 3 * x;
      const float light = 0.2126f * linear[p[0]] + 0.7152f * linear[p[1]] + 0.0722f * linear[p[2]];
      const double down = light > 0 ? -std::log2(light) / stops : 1;
      ++share[std::size_t(std::clamp(int(down * steps), 0, steps - 1))];
    }
  }
  for (float& s : share) s /= float(std::max(1, count));
  return share;
}

void markExtremes(QImage& picture) {
  for (int y = 0; y < picture.height(); ++y) {
    uchar* line = picture.scanLine(y);
    for (int x = 0; x < picture.width(); ++x) {
      uchar* p = line + 3 * x;
      const bool white = p[0] >= 254 && p[1] >= 254 && p[2] >= 254, black = p[0] <= 2 && p[1] <= 2 && p[2] <= 2;
      if (white && (x + y) % 10 < 2) p[0] = p[1] = p[2] = 150;
      if (black && x % 9 == 0 && y % 9 == 0) p[0] = p[1] = p[2] = 110;
    }
  }
}

SpotMeasure readSpot(const Frame& frame, double x, double y, double radius) {
  const double r = std::max(1.0, radius * frame.width()), cx = x * frame.width(), cy = y * frame.height();
  double sum = 0, squares = 0;
  int count = 0, clipped = 0;
  float inverseClip[3];
  for (int c = 0; c < 3; ++c) inverseClip[c] = 1 / (frame.table.clipFrom * frame.saturation[c]);
  for (int v = std::max(0, int(cy - r)); v <= std::min(frame.height() - 1, int(cy + r)); ++v)
    for (int u = std::max(0, int(cx - r)); u <= std::min(frame.width() - 1, int(cx + r)); ++u) {
      if (std::hypot(u - cx, v - cy) > r) continue;
      float rgb[3];
      frame.linearAt(u, v, rgb);
      sum += rgb[1];
      squares += double(rgb[1]) * rgb[1];
      clipped += clipLevel(rgb, inverseClip) > 0.97f;
      ++count;
    }
  const double mean = std::max(1e-7, count ? sum / count : 0.0);
  const double spread = count ? std::sqrt(std::max(0.0, squares / count - mean * mean)) / mean : 0;
  return {{ev100(frame.settings).value + std::log2(mean / frame.midTone)},
          std::log2(1 + spread),
          count > 0 && clipped * 20 > count};
}

} // namespace ml
