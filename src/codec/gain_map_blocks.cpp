// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/gain_map_blocks.h"

#include <cmath>
#include <fmt/format.h>
#include <functional>

namespace ml {
namespace {

using Bytes = std::vector<unsigned char>;
constexpr unsigned char kApp1 = 0xE1, kApp2 = 0xE2, kScan = 0xDA;
constexpr std::string_view kIsoName{"urn:iso:std:iso:ts:21496:-1\0", 28}, kIndexName{"MPF\0", 4},
    kXmpName{"http://ns.adobe.com/xap/1.0/\0", 29};
constexpr std::uint32_t kDenominator = 1000000;
constexpr std::uint8_t kManyChannels = 1 << 7, kBaseColour = 1 << 6;
constexpr std::uint32_t kPrimary = 0x00030000; ///< DC-007, 5.2.3.3.1: baseline primary picture.

void put(Bytes& out, std::uint64_t value, int bytes) {
  for (int i = bytes - 1; i >= 0; --i) out.push_back(static_cast<unsigned char>(value >> (8 * i)));
}
void put(Bytes& out, std::string_view text) {
  for (const char c : text) out.push_back(static_cast<unsigned char>(c));
}
void putFraction(Bytes& out, double value) {
  put(out, std::uint32_t(std::int32_t(std::lround(value * kDenominator))), 4);
  put(out, kDenominator, 4);
}

/// The most significant byte first; past the end everything is 0 and `ok` false.
struct Reader {
  std::span<const unsigned char> bytes;
  bool ok = true;
  std::uint32_t number(int width) {
    if (bytes.size() < std::size_t(width)) {
      ok = false;
      return 0;
    }
    std::uint32_t value = 0;
    for (int i = 0; i < width; ++i) value = value << 8 | bytes[std::size_t(i)];
    bytes = bytes.subspan(std::size_t(width));
    return value;
  }
  double fraction() {
    const auto over = std::int32_t(number(4));
    const auto under = number(4);
    ok = ok && under > 0;
    return under > 0 ? double(over) / under : 0;
  }
};

Bytes segment(unsigned char marker, const Bytes& content) {
  Bytes out{0xFF, marker};
  put(out, content.size() + 2, 2);
  for (const unsigned char c : content) out.push_back(c);
  return out;
}

/// Calls `see` with marker, where the segment's content begins, and the content, until the picture's data or until it
/// says true.
void forEachSegment(std::span<const unsigned char> jpeg,
                    const std::function<bool(unsigned char, std::size_t, std::span<const unsigned char>)>& see) {
  std::size_t at = 2;
  while (at + 4 <= jpeg.size() && jpeg[at] == 0xFF) {
    const unsigned char marker = jpeg[at + 1];
    const std::size_t size = std::size_t(jpeg[at + 2]) << 8 | jpeg[at + 3];
    if (marker == kScan || size < 2 || at + 2 + size > jpeg.size()) return;
    if (see(marker, at + 4, jpeg.subspan(at + 4, size - 2))) return;
    at += 2 + size;
  }
}

bool begins(std::span<const unsigned char> content, std::string_view name) {
  return content.size() >= name.size() &&
         std::equal(name.begin(), name.end(), content.begin(),
                    [](char a, unsigned char b) { return static_cast<unsigned char>(a) == b; });
}

} // namespace

Bytes isoVersion() {
  return {0, 0, 0, 0}; // the least version that a reader must know, and the writer's
}

Bytes isoBlock(const GainMap& map) {
  Bytes out = isoVersion();
  out.push_back(kBaseColour); // one set of figures for all channels
  putFraction(out, 0);        // headroom of the picture
  putFraction(out, map.headroom);
  putFraction(out, map.least);
  putFraction(out, map.most);
  putFraction(out, 1); // gamma
  putFraction(out, map.offset);
  putFraction(out, map.offset);
  return out;
}

std::optional<GainMap> mapFromIso(std::span<const unsigned char> jpeg) {
  std::optional<GainMap> found;
  forEachSegment(jpeg, [&](unsigned char marker, std::size_t, std::span<const unsigned char> content) {
    if (marker != kApp2 || !begins(content, kIsoName)) return false;
    Reader in{content.subspan(kIsoName.size())};
    const auto version = in.number(2);
    (void)in.number(2);
    const auto flags = in.number(1);
    GainMap map;
    const double baseHeadroom = in.fraction();
    map.headroom = in.fraction();
    map.least = in.fraction();
    map.most = in.fraction();
    const double gamma = in.fraction();
    map.offset = in.fraction();
    const double other = in.fraction();
    const bool ours =
        version == 0 && !(flags & kManyChannels) && baseHeadroom == 0 && gamma == 1 && other == map.offset;
    if (in.ok && ours && map.most > map.least && map.headroom > 0 && map.headroom < 16) found = std::move(map);
    return true;
  });
  return found;
}

std::string gainMapXmp(const GainMap& map) {
  return fmt::format(
      "<x:xmpmeta xmlns:x=\"adobe:ns:meta/\"><rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\">"
      "<rdf:Description rdf:about=\"\" xmlns:hdrgm=\"http://ns.adobe.com/hdr-gain-map/1.0/\" hdrgm:Version=\"1.0\" "
      "hdrgm:GainMapMin=\"{:.6f}\" hdrgm:GainMapMax=\"{:.6f}\" hdrgm:Gamma=\"1\" hdrgm:OffsetSDR=\"{:.6f}\" "
      "hdrgm:OffsetHDR=\"{:.6f}\" hdrgm:HDRCapacityMin=\"0\" hdrgm:HDRCapacityMax=\"{:.6f}\" "
      "hdrgm:BaseRenditionIsHDR=\"False\"/></rdf:RDF></x:xmpmeta>",
      map.least, map.most, map.offset, map.offset, map.headroom);
}

Bytes xmpSegment(const std::string& xmp) {
  Bytes content;
  put(content, kXmpName);
  put(content, xmp);
  return segment(kApp1, content);
}

Bytes isoSegment(const Bytes& block) {
  Bytes content;
  put(content, kIsoName);
  for (const unsigned char c : block) content.push_back(c);
  return segment(kApp2, content);
}

Bytes indexSegment(std::size_t first, std::size_t second, std::size_t offset) {
  constexpr int kUndefined = 7, kLong = 4, kEntryBytes = 16, kPictures = 2;
  constexpr std::uint32_t kDirectory = 8, kEntries = kDirectory + 2 + 3 * 12 + 4;
  Bytes content;
  put(content, kIndexName);
  put(content, "MM");
  put(content, 42, 2);
  put(content, kDirectory, 4);
  put(content, 3, 2);
  put(content, 0xB000, 2), put(content, kUndefined, 2), put(content, 4, 4), put(content, "0100");
  put(content, 0xB001, 2), put(content, kLong, 2), put(content, 1, 4), put(content, kPictures, 4);
  put(content, 0xB002, 2), put(content, kUndefined, 2), put(content, kPictures * kEntryBytes, 4),
      put(content, kEntries, 4);
  put(content, 0, 4); // no further directory
  put(content, kPrimary, 4), put(content, first, 4), put(content, 0, 4), put(content, 0, 4);
  put(content, 0, 4), put(content, second, 4), put(content, offset, 4), put(content, 0, 4);
  return segment(kApp2, content);
}

Bytes withSegments(const Bytes& jpeg, const std::vector<Bytes>& segments) {
  // Behind the metadata (APP0, APP1), before profiles and tables.
  std::size_t at = 2;
  forEachSegment(jpeg, [&](unsigned char marker, std::size_t begin, std::span<const unsigned char> content) {
    if (marker != 0xE0 && marker != kApp1) return true;
    at = begin + content.size();
    return false;
  });
  Bytes out(jpeg.begin(), jpeg.begin() + std::ptrdiff_t(at));
  for (const Bytes& s : segments) out.insert(out.end(), s.begin(), s.end());
  out.insert(out.end(), jpeg.begin() + std::ptrdiff_t(at), jpeg.end());
  return out;
}

std::size_t indexOffset(std::span<const unsigned char> jpeg) {
  std::size_t offset = 0;
  forEachSegment(jpeg, [&](unsigned char marker, std::size_t begin, std::span<const unsigned char> content) {
    if (marker != kApp2 || !begins(content, kIndexName)) return false;
    offset = begin + kIndexName.size();
    return true;
  });
  return offset;
}

std::optional<PicturePlace> secondPicture(std::span<const unsigned char> jpeg) {
  const std::size_t base = indexOffset(jpeg);
  if (base == 0) return {};
  Reader in{jpeg.subspan(base)};
  const auto at = [&](std::size_t offset) { return Reader{jpeg.subspan(std::min(jpeg.size(), base + offset))}; };
  if (in.number(2) != 0x4D4D || in.number(2) != 42) return {}; // ours are written so
  Reader directory = at(in.number(4));
  std::uint32_t entries = 0;
  for (auto n = directory.number(2); n > 0 && directory.ok; --n) {
    const auto tag = directory.number(2);
    (void)directory.number(2), (void)directory.number(4);
    const auto value = directory.number(4);
    if (tag == 0xB002) entries = value;
  }
  if (entries == 0) return {};
  constexpr std::uint32_t kEntryBytes = 16;
  Reader second = at(std::size_t(entries) + kEntryBytes);
  (void)second.number(4);
  const auto size = second.number(4), offset = second.number(4);
  if (!second.ok || offset == 0) return {};
  return PicturePlace{base + offset, size};
}

} // namespace ml
