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

std::vector<std::uint8_t> losslessJpeg(const Samples& samples, int width, int height, Coding coding) {
  static const std::array<Code, 17> table = codes();
  const auto high = [](int v) { return std::uint8_t(v >> 8); };
  const auto low = [](int v) { return std::uint8_t(v & 0xff); };
  const int n = coding.components, columns = width / n;
  Bytes out{0xff, 0xd8}, tables{0};
  Bytes frame{16, high(height), low(height), high(columns), low(columns), std::uint8_t(n)}, scan{std::uint8_t(n)};
  for (int c = 0; c < n; ++c) {
    for (const int v : {c, 0x11, 0}) frame.push_back(std::uint8_t(v));
    for (const int v : {c, 0}) scan.push_back(std::uint8_t(v));
  }
  for (const int v : {coding.predictor, 0, 0}) scan.push_back(std::uint8_t(v));
  segment(out, 0xc3, frame);
  tables.insert(tables.end(), kLengths.begin(), kLengths.end());
  tables.insert(tables.end(), kSymbols.begin(), kSymbols.end());
  segment(out, 0xc4, tables);
  segment(out, 0xda, scan);
  BitWriter bits(out);
  const auto at = [&](int x, int y) {
    return int(
        samples.first[std::min(y, samples.insideHeight - 1) * samples.pitch + std::min(x, samples.insideWidth - 1)]);
  };
  const auto expected = [&](int x, int y) {
    if (x < n) return y == 0 ? 1 << 15 : at(x, y - 1);
    const int a = at(x - n, y);
    if (y == 0) return a;
    const int b = at(x, y - 1), c = at(x - n, y - 1);
    const int by[] = {0, a, b, c, a + b - c, a + ((b - c) >> 1), b + ((a - c) >> 1), (a + b) >> 1};
    return by[coding.predictor];
  };
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const int difference = std::int16_t(at(x, y) - expected(x, y));
      const unsigned size = unsigned(std::bit_width(unsigned(difference < 0 ? -difference : difference)));
      bits.put(table[size].bits, table[size].length);
      if (size < 16) bits.put(unsigned(difference < 0 ? difference - 1 : difference), size);
    }
  bits.end();
  out.push_back(0xff), out.push_back(0xd9);
  return out;
}

} // namespace ml::zoo
