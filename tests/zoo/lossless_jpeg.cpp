// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/lossless_jpeg.h"

#include <algorithm>
#include <array>
#include <bit>

namespace ml::zoo {
namespace {

using Bytes = std::vector<std::uint8_t>;

// Codes of 3 to 7 bits: how many of each length, and whose they are, how many bits a difference needs.
constexpr std::array<std::uint8_t, 16> kLengths{0, 0, 4, 4, 4, 3, 2};
constexpr std::array<std::uint8_t, 17> kSymbols{5, 6, 7, 4, 8, 3, 9, 2, 10, 1, 0, 11, 12, 13, 14, 15, 16};

struct Code {
  unsigned bits = 0, length = 0;
};
std::array<Code, 17> codes() {
  std::array<Code, 17> out;
  unsigned next = 0, at = 0;
  for (unsigned length = 1; length <= 16; ++length, next <<= 1)
    for (unsigned i = 0; i < kLengths[length - 1]; ++i) out[kSymbols[at++]] = {next++, length};
  return out;
}

class BitWriter {
public:
  explicit BitWriter(Bytes& out) : out_(out) {}
  void put(unsigned bits, unsigned count) {
    held_ = held_ << count | (bits & ((1ull << count) - 1));
    for (waiting_ += count; waiting_ >= 8;) byte(std::uint8_t(held_ >> (waiting_ -= 8)));
  }
  void end() {
    if (waiting_ > 0) put(0xff, 8 - waiting_);
  }

private:
  void byte(std::uint8_t value) {
    out_.push_back(value);
    if (value == 0xff) out_.push_back(0);
  }
  Bytes& out_;
  std::uint64_t held_ = 0;
  unsigned waiting_ = 0;
};

void segment(Bytes& out, std::uint8_t marker, const Bytes& body) {
  const std::size_t length = body.size() + 2;
  for (const std::size_t v : {std::size_t(0xff), std::size_t(marker), length >> 8, length & 0xff})
    out.push_back(std::uint8_t(v));
  out.insert(out.end(), body.begin(), body.end());
}

} // namespace

std::vector<std::uint8_t> losslessJpeg(const Samples& samples, int width, int height) {
  static const std::array<Code, 17> table = codes();
  const auto high = [](int v) { return std::uint8_t(v >> 8); };
  const auto low = [](int v) { return std::uint8_t(v & 0xff); };
  Bytes out{0xff, 0xd8}, tables{0};
  segment(out, 0xc3, {16, high(height), low(height), high(width), low(width), 1, 0, 0x11, 0});
  tables.insert(tables.end(), kLengths.begin(), kLengths.end());
  tables.insert(tables.end(), kSymbols.begin(), kSymbols.end());
  segment(out, 0xc4, tables);
  segment(out, 0xda, {1, 0, 0, 1, 0, 0});
  BitWriter bits(out);
  int above = 1 << 15;
  for (int y = 0; y < height; ++y) {
    const std::uint16_t* row = samples.first + std::min(y, samples.insideHeight - 1) * samples.pitch;
    int before = above;
    above = row[0];
    for (int x = 0; x < width; ++x) {
      const int value = row[std::min(x, samples.insideWidth - 1)], difference = std::int16_t(value - before);
      before = value;
      const unsigned size = unsigned(std::bit_width(unsigned(difference < 0 ? -difference : difference)));
      bits.put(table[size].bits, table[size].length);
      if (size < 16) bits.put(unsigned(difference < 0 ? difference - 1 : difference), size);
    }
  }
  bits.end();
  out.push_back(0xff), out.push_back(0xd9);
  return out;
}

} // namespace ml::zoo
