// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/radiance_hdr.h"

#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <sstream>
#include <vector>

namespace ml {
namespace {

using Bytes = std::vector<std::uint8_t>;

void toRgbe(const float* rgb, std::uint8_t* out) {
  const float largest = std::max({rgb[0], rgb[1], rgb[2], 0.f});
  if (!(largest > 1e-32f)) {
    std::fill_n(out, 4, std::uint8_t(0));
    return;
  }
  int exponent = 0;
  const float mantissa = std::frexp(std::min(largest, 1e37f), &exponent);
  const float scale = mantissa * 256 / std::min(largest, 1e37f);
  for (int c = 0; c < 3; ++c) out[c] = std::uint8_t(std::clamp(rgb[c] * scale, 0.f, 255.f));
  out[3] = std::uint8_t(exponent + 128);
}

/// One channel of one row: runs of four and more as (128 + length, value), the rest as (length, values).
void encodeChannel(const std::uint8_t* values, int width, Bytes& out) {
  for (int x = 0; x < width;) {
    int run = 1;
    while (x + run < width && run < 127 && values[x + run] == values[x]) ++run;
    if (run >= 4) {
      out.push_back(std::uint8_t(128 + run));
      out.push_back(values[x]);
      x += run;
      continue;
    }
    const int start = x;
    int length = 0;
    while (x < width && length < 128) {
      if (x + 3 < width && values[x] == values[x + 1] && values[x] == values[x + 2] && values[x] == values[x + 3])
        break;
      ++x;
      ++length;
    }
    out.push_back(std::uint8_t(length));
    out.insert(out.end(), values + start, values + x);
  }
}

bool decodeChannel(std::istream& in, std::uint8_t* values, int width) {
  for (int x = 0; x < width;) {
    const int code = in.get();
    if (code <= 0) return false;
    const int length = code > 128 ? code - 128 : code;
    if (x + length > width) return false;
    if (code > 128) {
      const int value = in.get();
      if (value < 0) return false;
      std::fill_n(values + x, length, std::uint8_t(value));
    } else if (!in.read(reinterpret_cast<char*>(values + x), length)) {
      return false;
    }
    x += length;
  }
  return true;
}

} // namespace

Result<void> writeHdr(const std::filesystem::path& path, ImageView<const float> rgb) {
  std::ofstream out(path, std::ios::binary);
  if (!out) return unwritable(path, "it cannot be opened");
  out << fmt::format("#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y {} +X {}\n", rgb.height, rgb.width);
  const int width = rgb.width;
  const bool coded = width >= 8 && width < 32768;
  Bytes planes(std::size_t(width) * 4), row;
  for (int y = 0; y < rgb.height; ++y) {
    row.clear();
    if (coded) row = {2, 2, std::uint8_t(width >> 8), std::uint8_t(width & 255)};
    for (int x = 0; x < width; ++x) {
      std::uint8_t rgbe[4];
      toRgbe(rgb.at(x, y), rgbe);
      if (!coded) row.insert(row.end(), rgbe, rgbe + 4);
      for (int c = 0; c < 4; ++c) planes[std::size_t(c) * width + x] = rgbe[c];
    }
    if (coded)
      for (int c = 0; c < 4; ++c) encodeChannel(planes.data() + std::size_t(c) * width, width, row);
    out.write(reinterpret_cast<const char*>(row.data()), std::streamsize(row.size()));
  }
  out.close();
  if (!out) return unwritable(path, "the disk is full");
  return {};
}

Result<Image<float>> readHdr(const std::filesystem::path& path) {
  std::ifstream in(path, std::ios::binary);
  std::string line;
  bool format = false;
  while (std::getline(in, line) && !line.empty()) format = format || line == "FORMAT=32-bit_rle_rgbe";
  std::int64_t width = 0, height = 0;
  if (!format || !std::getline(in, line) || std::sscanf(line.c_str(), "-Y %ld +X %ld", &height, &width) != 2)
    return unreadable(path, "its Radiance header is not understood");
  if (auto size = checkSize(path, width, height); !size) return passOn(size.error());
  Image<float> image(int(width), int(height), 3);
  Bytes planes(std::size_t(width) * 4);
  for (int y = 0; y < height; ++y) {
    std::uint8_t head[4];
    if (!in.read(reinterpret_cast<char*>(head), 4)) return unreadable(path, "the Radiance data end early");
    if (head[0] == 2 && head[1] == 2 && head[2] * 256 + head[3] == width) {
      for (int c = 0; c < 4; ++c)
        if (!decodeChannel(in, planes.data() + std::size_t(c) * width, int(width)))
          return unreadable(path, "the Radiance data are damaged");
    } else {
      for (int x = 0; x < width; ++x) {
        if (x > 0 && !in.read(reinterpret_cast<char*>(head), 4)) return unreadable(path, "the Radiance data end early");
        for (int c = 0; c < 4; ++c) planes[std::size_t(c) * width + x] = head[c];
      }
    }
    for (int x = 0; x < width; ++x) {
      const int exponent = planes[3 * std::size_t(width) + x];
      const float scale = exponent ? std::ldexp(1.f, exponent - 136) : 0.f;
      for (int c = 0; c < 3; ++c) image.at(x, y)[c] = (float(planes[std::size_t(c) * width + x]) + 0.5f) * scale;
    }
  }
  return image;
}

} // namespace ml
