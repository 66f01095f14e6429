// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/png_file.h"
#include "base/phrase.h"

#include <csetjmp>
#include <cstdio>
#include <memory>
#include <png.h>

namespace ml {
namespace {

using File = std::unique_ptr<std::FILE, int (*)(std::FILE*)>;

struct Message {
  char text[200] = "damaged data";
};

[[noreturn]] void onFatal(png_structp png, png_const_charp text) {
  std::snprintf(static_cast<Message*>(png_get_error_ptr(png))->text, sizeof Message::text, "%s", text);
  png_longjmp(png, 1);
}
void onWarning(png_structp, png_const_charp) {}

bool readHeader(png_structp png, png_infop info, std::FILE* file) {
  if (setjmp(png_jmpbuf(png))) return false;
  png_init_io(png, file);
  png_read_info(png, info);
  png_set_expand(png);
  png_set_strip_alpha(png);
  png_set_gray_to_rgb(png);
  if (png_get_bit_depth(png, info) == 16) png_set_swap(png);
  return true;
}

bool readBody(png_structp png, png_infop info, std::uint8_t* bytes, png_bytep* rows) {
  if (setjmp(png_jmpbuf(png))) return false;
  png_read_update_info(png, info);
  const auto stride = png_get_rowbytes(png, info);
  for (png_uint_32 y = 0; y < png_get_image_height(png, info); ++y) rows[y] = bytes + y * stride;
  png_read_image(png, rows);
  png_read_end(png, nullptr);
  return true;
}

std::vector<unsigned char> profileOf(png_structp png, png_infop info) {
  png_charp name = nullptr;
  png_bytep bytes = nullptr;
  png_uint_32 size = 0;
  int compression = 0;
  if (!png_get_iCCP(png, info, &name, &compression, &bytes, &size)) return {};
  return {bytes, bytes + size};
}

bool writeAll(png_structp png, png_infop info, std::FILE* file, ImageView<const std::uint16_t> rgb, int maxCode,
              const std::vector<unsigned char>& icc, std::uint8_t* line) {
  if (setjmp(png_jmpbuf(png))) return false;
  png_init_io(png, file);
  png_set_IHDR(png, info, png_uint_32(rgb.width), png_uint_32(rgb.height), maxCode > 255 ? 16 : 8, PNG_COLOR_TYPE_RGB,
               PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
  if (!icc.empty()) png_set_iCCP(png, info, "display", 0, icc.data(), png_uint_32(icc.size()));
  png_write_info(png, info);
  for (int y = 0; y < rgb.height; ++y) {
    const std::uint16_t* row = rgb.row(y);
    for (int i = 0; i < rgb.width * 3; ++i)
      if (maxCode > 255) {
        line[2 * i] = std::uint8_t(row[i] >> 8);
        line[2 * i + 1] = std::uint8_t(row[i] & 255);
      } else {
        line[i] = std::uint8_t(row[i]);
      }
    png_write_row(png, line);
  }
  png_write_end(png, info);
  return true;
}

} // namespace

Result<CodeImage> readPng(const std::filesystem::path& path) {
  File file(std::fopen(path.c_str(), "rb"), std::fclose);
  if (!file) return unreadable(path, phrase("it cannot be opened"));
  Message message;
  struct Reader {
    png_structp png;
    png_infop info;
    ~Reader() { png_destroy_read_struct(&png, &info, nullptr); }
  } reader{png_create_read_struct(PNG_LIBPNG_VER_STRING, &message, onFatal, onWarning), nullptr};
  reader.info = png_create_info_struct(reader.png);
  if (!readHeader(reader.png, reader.info, file.get()))
    return unreadable(path, phrase("the PNG data are damaged ({})", message.text));
  const int width = int(png_get_image_width(reader.png, reader.info)),
            height = int(png_get_image_height(reader.png, reader.info));
  if (auto size = checkSize(path, width, height); !size) return passOn(size.error());
  const bool deep = png_get_bit_depth(reader.png, reader.info) == 16;
  Image<std::uint8_t> narrow(deep ? 0 : width, deep ? 0 : height, 3);
  Image<std::uint16_t> wide(deep ? width : 0, deep ? height : 0, 3);
  auto* bytes = deep ? reinterpret_cast<std::uint8_t*>(wide.data()) : narrow.data();
  std::vector<png_bytep> rows(height);
  if (!readBody(reader.png, reader.info, bytes, rows.data()))
    return unreadable(path, phrase("the PNG data are damaged ({})", message.text));
  std::vector<unsigned char> icc = profileOf(reader.png, reader.info);
  return deep ? CodeImage{std::move(wide), 65535, std::move(icc)} : CodeImage{std::move(narrow), 255, std::move(icc)};
}

Result<void> writePng(const std::filesystem::path& path, ImageView<const std::uint16_t> rgb, int maxCode,
                      const std::vector<unsigned char>& icc) {
  File file(std::fopen(path.c_str(), "wb"), std::fclose);
  if (!file) return unwritable(path, phrase("it cannot be opened"));
  Message message;
  png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, &message, onFatal, onWarning);
  png_infop info = png_create_info_struct(png);
  std::vector<std::uint8_t> line(std::size_t(rgb.width) * 6);
  const bool written = writeAll(png, info, file.get(), rgb, maxCode, icc, line.data());
  png_destroy_write_struct(&png, &info);
  if (!written) return unwritable(path, message.text);
  if (std::fclose(file.release()) != 0) return unwritable(path, phrase("the disk is full"));
  return {};
}

} // namespace ml
