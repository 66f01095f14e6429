// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/gain_map.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "codec/exif.h"
#include "codec/gain_map_blocks.h"
#include "codec/jpeg.h"
#include "image/colour.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>

namespace ml {
namespace fs = std::filesystem;
namespace {

using Bytes = std::vector<unsigned char>;

const std::array<float, 256>& linearCodes() {
  static const std::array<float, 256> table = [] {
    std::array<float, 256> t{};
    for (int i = 0; i < 256; ++i) t[std::size_t(i)] = float(srgbDecode(i / 255.0));
    return t;
  }();
  return table;
}

Result<Bytes> bytesOfFile(const fs::path& file) {
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in) return fail(ErrorCode::FileUnreadable, phrase("`{}` cannot be opened.", file.string()));
  Bytes bytes(std::size_t(in.tellg()));
  in.seekg(0);
  in.read(reinterpret_cast<char*>(bytes.data()), std::streamsize(bytes.size()));
  if (!in) return fail(ErrorCode::FileUnreadable, phrase("`{}` cannot be read.", file.string()));
  return bytes;
}

Result<void> writeBytes(const fs::path& file, const std::vector<const Bytes*>& parts) {
  std::ofstream out(file, std::ios::binary | std::ios::trunc);
  for (const Bytes* part : parts) out.write(reinterpret_cast<const char*>(part->data()), std::streamsize(part->size()));
  out.close();
  if (!out) return fail(ErrorCode::CannotWrite, phrase("`{}` cannot be written; is the disk full?", file.string()));
  return {};
}

/// A file beside another that goes when this does.
struct Beside {
  fs::path file;
  explicit Beside(const fs::path& other) : file(other.string() + ".map.jpg") {}
  ~Beside() {
    std::error_code error;
    fs::remove(file, error);
  }
  Beside(const Beside&) = delete;
  Beside& operator=(const Beside&) = delete;
};

/// What was just written; a full disk may have left less than a picture, and the library that wrote it does not say so.
Result<Bytes> wholeJpeg(const fs::path& file) {
  auto bytes = bytesOfFile(file);
  if (!bytes) return bytes;
  const auto ends = [&](std::size_t at, unsigned char mark) {
    return (*bytes)[at] == 0xFF && (*bytes)[at + 1] == mark;
  };
  if (bytes->size() < 4 || !ends(0, 0xD8) || !ends(bytes->size() - 2, 0xD9))
    return fail(ErrorCode::CannotWrite,
                phrase("`{}` could not be written whole; free some space or choose another folder.", file.string()));
  return bytes;
}

/// The map as a JPEG of its own, with what is said of it inside.
Result<Bytes> mapFile(const fs::path& jpeg, const GainMap& map, int quality) {
  const Beside beside(jpeg);
  if (auto written = writeJpeg(beside.file, map.codes.view(), {quality, true, {}, false}); !written)
    return passOn(written.error());
  const auto plain = wholeJpeg(beside.file);
  if (!plain) return passOn(plain.error());
  return withSegments(*plain, {xmpSegment(gainMapXmp(map)), isoSegment(isoBlock(map))});
}

} // namespace

GainMap gainMapOf(ImageView<const std::uint8_t> base, ImageView<const float> light, double headroom) {
  GainMap map;
  map.headroom = headroom;
  const int w = (base.width + 1) / 2, h = (base.height + 1) / 2;
  Image<float> gains(w, h, 3);
  const auto& linear = linearCodes();
  const float offset = float(map.offset);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x)
        for (int c = 0; c < 3; ++c) {
          double sum = 0;
          int n = 0;
          for (int v = 2 * y; v < std::min(2 * y + 2, base.height); ++v)
            for (int u = 2 * x; u < std::min(2 * x + 2, base.width); ++u, ++n)
              sum += std::log2((std::max(0.f, light.at(u, v)[c]) + offset) / (linear[base.at(u, v)[c]] + offset));
          gains.at(x, y)[c] = float(sum / n);
        }
  });
  const auto [least, most] = std::minmax_element(gains.data(), gains.data() + gains.size());
  map.least = std::max(-double(headroom), double(*least));
  map.most = std::max(map.least + 1e-3, std::min(2 * headroom, double(*most)));
  map.codes = Image<std::uint8_t>(w, h, 3);
  const double scale = 255 / (map.most - map.least);
  for (std::size_t i = 0; i < gains.size(); ++i)
    map.codes.data()[i] = std::uint8_t(std::lround(std::clamp((gains.data()[i] - map.least) * scale, 0.0, 255.0)));
  return map;
}

Image<float> lightOf(ImageView<const std::uint8_t> base, const GainMap& map, double headroom) {
  Image<float> out(base.width, base.height, 3);
  const auto& linear = linearCodes();
  const double weight = map.headroom > 0 ? std::clamp(headroom / map.headroom, 0.0, 1.0) : 0;
  const int w = map.codes.width(), h = map.codes.height();
  forEachBand(base.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const float v = std::clamp((float(y) + 0.5f) * float(h) / float(base.height) - 0.5f, 0.f, float(h - 1));
      const int y0 = int(v), y1 = std::min(h - 1, y0 + 1);
      for (int x = 0; x < base.width; ++x) {
        const float u = std::clamp((float(x) + 0.5f) * float(w) / float(base.width) - 0.5f, 0.f, float(w - 1));
        const int x0 = int(u), x1 = std::min(w - 1, x0 + 1);
        const float fx = u - float(x0), fy = v - float(y0);
        for (int c = 0; c < 3; ++c) {
          const auto at = [&](int i, int j) { return float(map.codes.at(i, j)[c]); };
          const float code =
              (at(x0, y0) * (1 - fx) + at(x1, y0) * fx) * (1 - fy) + (at(x0, y1) * (1 - fx) + at(x1, y1) * fx) * fy;
          const double gain = map.least + (map.most - map.least) * code / 255;
          out.at(x, y)[c] = float((linear[base.at(x, y)[c]] + map.offset) * std::exp2(gain * weight) - map.offset);
        }
      }
    }
  });
  return out;
}

Result<void> attachGainMap(const fs::path& jpeg, const GainMap& map, int quality) {
  const auto behind = mapFile(jpeg, map, quality);
  if (!behind) return passOn(behind.error());
  if (auto marked = markGainMap(jpeg, behind->size()); !marked) return marked;
  const auto plain = wholeJpeg(jpeg);
  if (!plain) return passOn(plain.error());
  // The index says how long the picture is that it lies in: it is laid in once to know, and once to say.
  const Bytes version = isoSegment(isoVersion());
  const Bytes measured = withSegments(*plain, {version, indexSegment(0, 0, 0)});
  const std::size_t at = indexOffset(measured);
  const Bytes front =
      withSegments(*plain, {version, indexSegment(measured.size(), behind->size(), measured.size() - at)});
  return writeBytes(jpeg, {&front, &*behind});
}

Result<GainMap> readGainMap(const fs::path& jpeg) {
  const auto bytes = bytesOfFile(jpeg);
  if (!bytes) return passOn(bytes.error());
  const auto place = secondPicture(*bytes);
  if (!place) return fail(ErrorCode::UnsupportedFormat, phrase("`{}` carries no gain map.", jpeg.string()));
  const auto damaged = [&] {
    return fail(ErrorCode::FileUnreadable,
                phrase("`{}` is damaged behind its picture: the light for bright screens is lost; deliver it again.",
                       jpeg.string()));
  };
  if (place->begin >= bytes->size() || place->size > bytes->size() - place->begin) return damaged();
  const std::span<const unsigned char> part(bytes->data() + place->begin, place->size);
  auto map = mapFromIso(part);
  if (!map) return damaged();
  auto codes = readJpeg(part);
  if (!codes) return damaged();
  bool bytesWide = false;
  codes->pixels.visit([&]<class T>(ImageView<const T> view) {
    if constexpr (std::is_same_v<T, std::uint8_t>) {
      map->codes = Image<std::uint8_t>(view.width, view.height, 3);
      for (int y = 0; y < view.height; ++y) std::copy_n(view.row(y), 3 * view.width, map->codes.row(y));
      bytesWide = true;
    }
  });
  if (!bytesWide) return damaged();
  return std::move(*map);
}

} // namespace ml
