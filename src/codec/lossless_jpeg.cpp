// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/lossless_jpeg.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>

namespace ml {
namespace {

using ByteSpan = std::span<const std::uint8_t>;

unsigned twoBytes(ByteSpan b, std::size_t at) {
  return unsigned(b[at]) << 8 | b[at + 1];
}

constexpr unsigned kQuick = 11; // bits that one look decides

/// Which difference category (0 to 16 bits) the next bits mean.
struct HuffmanTable {
  std::array<std::uint8_t, 1u << kQuick> length{}, size{}; ///< By the next bits; length 0: a longer code.
  std::array<unsigned, 18> beyond{}; ///< By length: first value of 16 bits that is not such a code.
  std::array<int, 17> offset{};
  std::array<std::uint8_t, 256> symbols{};
  bool known = false;
};

/// `body`: sixteen counts, then the symbols. Returns the bytes used; 0: not a table of differences.
std::size_t readTable(ByteSpan body, HuffmanTable& table) {
  table = {};
  if (body.size() < 16) return 0;
  unsigned code = 0, used = 0;
  for (unsigned length = 1; length <= 16; ++length, code <<= 1) {
    const unsigned count = body[length - 1];
    table.offset[length] = int(used) - int(code);
    if (code + count > (1u << length) || 16 + used + count > body.size()) return 0;
    for (unsigned i = 0; i < count; ++i, ++code, ++used) {
      const std::uint8_t symbol = body[16 + used];
      if (symbol > 16) return 0;
      table.symbols[used] = symbol;
      if (length > kQuick) continue;
      const unsigned spread = kQuick - length;
      std::fill_n(table.length.begin() + (code << spread), 1u << spread, std::uint8_t(length));
      std::fill_n(table.size.begin() + (code << spread), 1u << spread, symbol);
    }
    table.beyond[length] = code << (16 - length);
  }
  table.known = used > 0;
  return used > 0 ? 16 + used : 0;
}

struct Header {
  int precision = 0, columns = 0, lines = 0, predictor = 0;
  std::vector<int> components;       ///< Their identifiers, as the frame lists them.
  std::array<std::size_t, 4> tables; ///< Of each component.
  std::array<HuffmanTable, 4> huffman;
  std::size_t scan = 0; ///< Where the coded samples begin.
};

bool readFrame(ByteSpan body, Header& h) {
  if (body.size() < 6) return false;
  h.precision = body[0], h.lines = int(twoBytes(body, 1)), h.columns = int(twoBytes(body, 3));
  const std::size_t count = body[5];
  if (h.precision < 2 || h.precision > 16 || h.lines == 0 || h.columns == 0 || count < 1 || count > 4) return false;
  if (body.size() < 6 + 3 * count) return false;
  h.components.clear();
  for (std::size_t c = 0; c < count; ++c) {
    if (body[7 + 3 * c] != 0x11) return false; // subsampled
    h.components.push_back(body[6 + 3 * c]);
  }
  return true;
}

bool readTables(ByteSpan body, Header& h) {
  while (!body.empty()) {
    const unsigned kindAndPlace = body[0];
    if (kindAndPlace > 3) return false;
    const std::size_t used = readTable(body.subspan(1), h.huffman[kindAndPlace]);
    if (used == 0) return false;
    body = body.subspan(1 + used);
  }
  return true;
}

bool readScan(ByteSpan body, Header& h) {
  const std::size_t count = h.components.size();
  if (count == 0 || body.size() < 4 + 2 * count || body[0] != count) return false;
  for (std::size_t c = 0; c < count; ++c) {
    h.tables[c] = body[2 + 2 * c] >> 4;
    if (int(body[1 + 2 * c]) != h.components[c] || h.tables[c] > 3 || !h.huffman[h.tables[c]].known) return false;
  }
  h.predictor = body[1 + 2 * count];
  const bool transformed = (body[3 + 2 * count] & 15) != 0;
  return h.predictor >= 1 && h.predictor <= 7 && !transformed;
}

/// Markers up to the coded samples.
bool readHeader(ByteSpan stream, Header& h) {
  if (stream.size() < 4 || twoBytes(stream, 0) != 0xffd8) return false;
  for (std::size_t at = 2; at + 4 <= stream.size();) {
    const unsigned marker = twoBytes(stream, at), length = twoBytes(stream, at + 2);
    if (marker < 0xff01 || length < 2 || at + 2 + length > stream.size()) return false;
    const ByteSpan body = stream.subspan(at + 4, length - 2);
    at += 2 + length;
    if (marker == 0xffc3 && !readFrame(body, h)) return false;
    if (marker == 0xffc4 && !readTables(body, h)) return false;
    if (marker == 0xffdd) return false; // restart intervals
    if (marker != 0xffda) continue;
    h.scan = at;
    return readScan(body, h);
  }
  return false;
}

/// The coded bytes without the zeros that follow each 0xff, up to the next marker.
void withoutStuffing(ByteSpan coded, std::vector<std::uint8_t>& out) {
  out.resize(coded.size());
  std::size_t filled = 0;
  while (!coded.empty()) {
    const void* found = std::memchr(coded.data(), 0xff, coded.size());
    const std::size_t plain =
        found ? std::size_t(static_cast<const std::uint8_t*>(found) - coded.data()) : coded.size();
    std::memcpy(out.data() + filled, coded.data(), plain);
    filled += plain;
    if (!found || plain + 1 >= coded.size() || coded[plain + 1] != 0) break;
    out[filled++] = 0xff;
    coded = coded.subspan(plain + 2);
  }
  out.resize(filled);
}

/// Differences out of bits, the next ones at the upper end of `held_`; zeros follow the end.
class Differences {
public:
  explicit Differences(ByteSpan bytes) : next_(bytes.data()), end_(bytes.data() + bytes.size()) {}

  int next(const HuffmanTable& table) {
    if (count_ < 32) fill();
    const std::size_t look = std::size_t(held_ >> (64 - kQuick));
    unsigned length = table.length[look], size = table.size[look];
    if (length == 0) longer(table, length, size);
    held_ <<= length, count_ -= int(length);
    if (size == 16) return 32768; // no bits follow (T.81, H.1.2.2)
    const int negative = int(held_ >> 63) - 1, bits = int(held_ >> 1 >> (63 - size));
    held_ <<= size, count_ -= int(size);
    return bits + (negative & (1 - (1 << size)));
  }

  /// A code that stands in no table, or more bits were taken than there were.
  bool failed() const { return failed_ || 8 * behind_ > count_; }

private:
  void fill() {
    if (end_ - next_ >= 8) {
      std::uint64_t eight;
      std::memcpy(&eight, next_, 8);
      if constexpr (std::endian::native == std::endian::little) eight = __builtin_bswap64(eight);
      held_ |= eight >> count_;
      const int bytes = (64 - count_) / 8;
      next_ += bytes, count_ += 8 * bytes;
      return;
    }
    for (; count_ <= 56; count_ += 8)
      if (next_ < end_)
        held_ |= std::uint64_t(*next_++) << (56 - count_);
      else
        ++behind_;
  }

  void longer(const HuffmanTable& table, unsigned& length, unsigned& size) {
    const unsigned sixteen = unsigned(held_ >> 48);
    for (length = kQuick + 1; length <= 16; ++length)
      if (sixteen < table.beyond[length]) {
        size = table.symbols[std::size_t(int(sixteen >> (16 - length)) + table.offset[length])];
        return;
      }
    length = 16, size = 0, failed_ = true;
  }

  const std::uint8_t *next_, *end_;
  std::uint64_t held_ = 0;
  int count_ = 0;  ///< Bits in held_.
  int behind_ = 0; ///< ByteSpan of zeros that were put in behind the end.
  bool failed_ = false;
};

/// What T.81's table H.1 foresees from the samples on the left, above, and above on the left.
int foreseen(int predictor, int left, int above, int corner) {
  switch (predictor) {
  case 2: return above;
  case 3: return corner;
  case 4: return left + above - corner;
  case 5: return left + ((above - corner) >> 1);
  case 6: return above + ((left - corner) >> 1);
  case 7: return (left + above) >> 1;
  default: return left;
  }
}

/// One line; `above` is null in the first.
template <int N> void readLine(Differences& bits, const Header& h, const std::uint16_t* above, std::uint16_t* out) {
  std::array<const HuffmanTable*, N> tables;
  std::array<int, N> left;
  for (std::size_t c = 0; c < N; ++c) {
    tables[c] = &h.huffman[h.tables[c]];
    left[c] = (above ? above[c] : 1 << (h.precision - 1)) + bits.next(*tables[c]);
    out[c] = std::uint16_t(left[c]);
  }
  if (!above || h.predictor == 1) {
    for (int x = 1; x < h.columns; ++x)
      for (std::size_t c = 0; c < N; ++c) out[std::size_t(x * N) + c] = std::uint16_t(left[c] += bits.next(*tables[c]));
    return;
  }
  for (int x = N; x < N * h.columns; ++x)
    out[x] = std::uint16_t(foreseen(h.predictor, out[x - N], above[x], above[x - N]) +
                           bits.next(*tables[std::size_t(x % N)]));
}

} // namespace

bool readLosslessJpeg(std::span<const std::uint8_t> stream, std::size_t most, LosslessJpeg& out) {
  Header h;
  if (!readHeader(stream, h)) return false;
  const std::size_t n = h.components.size();
  out.width = int(n) * h.columns, out.height = h.lines;
  if (std::size_t(out.width) * std::size_t(out.height) > most) return false;
  thread_local std::vector<std::uint8_t> plain; // one for each thread: tiles are many and small
  withoutStuffing(stream.subspan(h.scan), plain);
  out.samples.resize(std::size_t(out.width) * std::size_t(out.height));
  constexpr std::array kLines{readLine<1>, readLine<2>, readLine<3>, readLine<4>};
  Differences bits(plain);
  const std::uint16_t* above = nullptr;
  for (std::uint16_t* line = out.samples.data(); line < out.samples.data() + out.samples.size(); line += out.width) {
    kLines[n - 1](bits, h, above, line);
    if (bits.failed()) return false;
    above = line;
  }
  return true;
}

} // namespace ml
