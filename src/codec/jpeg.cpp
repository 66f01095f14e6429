// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/jpeg.h"
#include "base/phrase.h"

#include <algorithm>
#include <csetjmp>
#include <cstdio>
#include <cstdlib>
#include <jpeglib.h>
#include <memory>

namespace ml {
namespace {

struct ErrorTrap : jpeg_error_mgr {
  std::jmp_buf jump;
  char message[JMSG_LENGTH_MAX] = "";
};

[[noreturn]] void onFatal(j_common_ptr info) {
  auto* trap = static_cast<ErrorTrap*>(info->err);
  info->err->format_message(info, trap->message);
  std::longjmp(trap->jump, 1);
}

void onMessage(j_common_ptr info) {
  auto* trap = static_cast<ErrorTrap*>(info->err);
  info->err->format_message(info, trap->message);
}

void arm(ErrorTrap& trap) {
  jpeg_std_error(&trap);
  trap.error_exit = onFatal;
  trap.output_message = onMessage;
}

using File = std::unique_ptr<std::FILE, int (*)(std::FILE*)>;

/// No C++ object with a destructor may be made between setjmp and a longjmp: the callers own everything.
bool startReading(jpeg_decompress_struct& info, ErrorTrap& trap, std::FILE* file, int edge, JOCTET** profile,
                  unsigned* profileSize) {
  if (setjmp(trap.jump)) return false;
  jpeg_create_decompress(&info);
  jpeg_stdio_src(&info, file);
  jpeg_save_markers(&info, JPEG_APP0 + 2, 0xffff);
  jpeg_read_header(&info, TRUE);
  if (!jpeg_read_icc_profile(&info, profile, profileSize)) *profile = nullptr;
  info.out_color_space = JCS_RGB;
  info.dct_method = JDCT_ISLOW;
  if (edge > 0) {
    const unsigned longer = std::max(info.image_width, info.image_height);
    for (unsigned parts : {8u, 4u, 2u})
      if (longer / parts >= unsigned(edge)) {
        info.scale_denom = parts;
        break;
      }
  }
  jpeg_start_decompress(&info);
  return true;
}

bool readHeader(jpeg_decompress_struct& info, ErrorTrap& trap, std::FILE* file) {
  if (setjmp(trap.jump)) return false;
  jpeg_create_decompress(&info);
  jpeg_stdio_src(&info, file);
  jpeg_read_header(&info, TRUE);
  return true;
}

bool readRows(jpeg_decompress_struct& info, ErrorTrap& trap, ImageView<std::uint8_t> out, const StopFlag& stop) {
  if (setjmp(trap.jump)) return false;
  while (info.output_scanline < info.output_height) {
    if (stop.requested()) return true;
    JSAMPROW row = out.row(int(info.output_scanline));
    jpeg_read_scanlines(&info, &row, 1);
  }
  jpeg_finish_decompress(&info);
  return info.err->num_warnings == 0;
}

bool writeRows(jpeg_compress_struct& info, ErrorTrap& trap, std::FILE* file, ImageView<const std::uint8_t> rgb,
               const JpegOptions& options) {
  if (setjmp(trap.jump)) return false;
  jpeg_create_compress(&info);
  jpeg_stdio_dest(&info, file);
  info.image_width = JDIMENSION(rgb.width);
  info.image_height = JDIMENSION(rgb.height);
  info.input_components = 3;
  info.in_color_space = JCS_RGB;
  jpeg_set_defaults(&info);
  jpeg_set_quality(&info, options.quality, TRUE);
  if (options.fullColour)
    for (int c = 0; c < 3; ++c) info.comp_info[c].h_samp_factor = info.comp_info[c].v_samp_factor = 1;
  info.optimize_coding = options.smallest;
  jpeg_start_compress(&info, TRUE);
  if (!options.icc.empty()) jpeg_write_icc_profile(&info, options.icc.data(), unsigned(options.icc.size()));
  while (info.next_scanline < info.image_height) {
    if (options.stop.requested()) return true;
    JSAMPROW line = const_cast<JSAMPROW>(rgb.row(int(info.next_scanline)));
    jpeg_write_scanlines(&info, &line, 1);
  }
  jpeg_finish_compress(&info);
  return true;
}

} // namespace

namespace {

File opened(const std::filesystem::path& path, const char* how) {
  return {std::fopen(path.c_str(), how), std::fclose};
}

/// Everything that a longjmp must find alive.
struct Decoder {
  jpeg_decompress_struct info{};
  ErrorTrap trap;
  Decoder() {
    arm(trap);
    info.err = &trap;
  }
  Decoder(const Decoder&) = delete;
  ~Decoder() { jpeg_destroy_decompress(&info); }
};

Result<CodeImage> decode(const File& file, const std::filesystem::path& path, int edge, const StopFlag& stop = {}) {
  if (!file) return unreadable(path, phrase("it cannot be opened"));
  Decoder decoder;
  auto& [info, trap] = decoder;
  JOCTET* profile = nullptr;
  unsigned profileSize = 0;
  const bool started = startReading(info, trap, file.get(), edge, &profile, &profileSize);
  const std::unique_ptr<JOCTET, void (*)(void*)> owned(profile, std::free);
  if (!started) return unreadable(path, phrase("the JPEG data are damaged ({})", trap.message));
  if (auto size = checkSize(path, info.image_width, info.image_height); !size) return passOn(size.error());
  if (info.output_components != 3) return unreadable(path, phrase("only grey and RGB JPEG files are read"));
  Image<std::uint8_t> pixels(int(info.output_width), int(info.output_height), 3);
  const bool read = readRows(info, trap, pixels.view(), stop);
  if (stop.requested()) return stopped();
  if (!read) return unreadable(path, phrase("the JPEG data end early or are damaged ({})", trap.message));
  CodeImage image{std::move(pixels), 255, {}};
  if (profile) image.icc.assign(profile, profile + profileSize);
  return image;
}

} // namespace

Result<Roi> jpegSize(const std::filesystem::path& path) {
  const File file = opened(path, "rb");
  if (!file) return unreadable(path, phrase("it cannot be opened"));
  Decoder decoder;
  const bool read = readHeader(decoder.info, decoder.trap, file.get());
  if (!read) return unreadable(path, phrase("the JPEG data are damaged ({})", decoder.trap.message));
  return Roi{0, 0, int(decoder.info.image_width), int(decoder.info.image_height)};
}

Result<CodeImage> readJpeg(const std::filesystem::path& path, const StopFlag& stop) {
  return decode(opened(path, "rb"), path, 0, stop);
}

Result<CodeImage> readJpeg(std::span<const unsigned char> bytes) {
  const File file(::fmemopen(const_cast<unsigned char*>(bytes.data()), bytes.size(), "rb"), std::fclose);
  return decode(file, "picture", 0);
}

Result<CodeImage> readSmallJpeg(const std::filesystem::path& path, int edge) {
  return decode(opened(path, "rb"), path, edge);
}

Result<void> writeJpeg(const std::filesystem::path& path, ImageView<const std::uint8_t> rgb,
                       const JpegOptions& options) {
  assert(rgb.channels == 3);
  if (rgb.width > JPEG_MAX_DIMENSION || rgb.height > JPEG_MAX_DIMENSION)
    return unwritable(path, phrase("JPEG holds at most 65500 pixels a side; use TIFF"));
  File file = opened(path, "wb");
  if (!file) return unwritable(path, phrase("it cannot be opened"));
  jpeg_compress_struct info{};
  ErrorTrap trap;
  arm(trap);
  info.err = &trap;
  const bool written = writeRows(info, trap, file.get(), rgb, options);
  jpeg_destroy_compress(&info);
  if (options.stop.requested()) return stopped();
  if (!written) return unwritable(path, trap.message);
  if (std::fclose(file.release()) != 0) return unwritable(path, phrase("the disk is full"));
  return {};
}

} // namespace ml
