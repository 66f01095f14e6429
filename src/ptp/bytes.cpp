// SPDX-License-Identifier: GPL-3.0-or-later
#include "ptp/bytes.h"

#include <algorithm>

namespace ml::ptp {
namespace {
constexpr std::size_t kLongestText = 254; // characters, the end not counted
}

ByteWriter& ByteWriter::number(std::uint64_t value, int width) {
  for (int i = 0; i < width; ++i) bytes_.push_back(std::uint8_t(value >> (8 * i)));
  return *this;
}

ByteWriter& ByteWriter::text(const std::string& ascii) {
  const std::size_t length = std::min(ascii.size(), kLongestText);
  if (length == 0) return u8(0);
  u8(length + 1);
  return openText(ascii.substr(0, length));
}

ByteWriter& ByteWriter::openText(const std::string& ascii) {
  for (const char c : ascii) u16(static_cast<unsigned char>(c));
  return u16(0);
}

ByteWriter& ByteWriter::raw(std::span<const std::uint8_t> bytes) {
  bytes_.insert(bytes_.end(), bytes.begin(), bytes.end());
  return *this;
}

std::uint64_t ByteReader::number(int width) {
  if (bytes_.size() < std::size_t(width)) {
    ok_ = false;
    bytes_ = {};
    return 0;
  }
  std::uint64_t value = 0;
  for (int i = 0; i < width; ++i) value |= std::uint64_t(bytes_[std::size_t(i)]) << (8 * i);
  bytes_ = bytes_.subspan(std::size_t(width));
  return value;
}

std::span<const std::uint8_t> ByteReader::rest() {
  const auto all = bytes_;
  bytes_ = {};
  return all;
}

} // namespace ml::ptp
