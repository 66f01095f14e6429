// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace ml::ptp {

using Bytes = std::vector<std::uint8_t>;

/// Puts figures together as the protocol wants them: the least significant byte first.
class ByteWriter {
public:
  /// The lowest `width` bytes of `value`, 1 to 8.
  ByteWriter& number(std::uint64_t value, int width);
  ByteWriter& u8(std::uint64_t v) { return number(v, 1); }
  ByteWriter& u16(std::uint64_t v) { return number(v, 2); }
  ByteWriter& u32(std::uint64_t v) { return number(v, 4); }
  ByteWriter& u64(std::uint64_t v) { return number(v, 8); }
  /// A count of characters in one byte, then UTF-16, end included; an empty one is a count of 0. ASCII only.
  ByteWriter& text(const std::string& ascii);
  /// UTF-16 with an end and no count, as the network's greetings have it.
  ByteWriter& openText(const std::string& ascii);
  /// A count in four bytes, then values of `width` bytes.
  template <class List> ByteWriter& list(const List& values, int width) {
    u32(std::size(values));
    for (const auto v : values) number(std::uint64_t(v), width);
    return *this;
  }
  ByteWriter& raw(std::span<const std::uint8_t> bytes);
  [[nodiscard]] Bytes take() { return std::move(bytes_); }

private:
  Bytes bytes_;
};

/// Takes them apart again. Past the end everything reads as 0, and `ok` is false from then on.
class ByteReader {
public:
  explicit ByteReader(std::span<const std::uint8_t> bytes) : bytes_(bytes) {}
  std::uint64_t number(int width);
  std::uint16_t u16() { return std::uint16_t(number(2)); }
  std::uint32_t u32() { return std::uint32_t(number(4)); }
  std::uint64_t u64() { return number(8); }
  [[nodiscard]] bool ok() const { return ok_; }
  [[nodiscard]] std::size_t left() const { return bytes_.size(); }
  /// All that is left.
  std::span<const std::uint8_t> rest();

private:
  std::span<const std::uint8_t> bytes_;
  bool ok_ = true;
};

} // namespace ml::ptp
