// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/heif_file.h"
#include "base/phrase.h"
#include "codec/icc.h"

#include <cstring>
#include <libheif/heif.h>
#include <memory>

namespace ml {
namespace {

using Context = std::unique_ptr<heif_context, void (*)(heif_context*)>;
using Handle = std::unique_ptr<heif_image_handle, void (*)(const heif_image_handle*)>;
using Picture = std::unique_ptr<heif_image, void (*)(const heif_image*)>;

/// Codes of `bits` bits in 16, little-endian, to 0..65535.
Image<std::uint16_t> widened(const std::uint8_t* plane, int stride, int width, int height, int bits) {
  Image<std::uint16_t> out(width, height, 3);
  const int most = (1 << bits) - 1;
  for (int y = 0; y < height; ++y)
    for (int i = 0; i < 3 * width; ++i) {
      std::uint16_t code;
      std::memcpy(&code, plane + std::ptrdiff_t(y) * stride + 2 * i, 2);
      out.row(y)[i] = std::uint16_t((std::min<int>(code, most) * 65535 + most / 2) / most);
    }
  return out;
}

/// Are the colours Display P3's by their numbers (ITU-T H.273: primaries 12, transfer 13)?
bool saysDisplayP3(const heif_image_handle* handle) {
  heif_color_profile_nclx* numbers = nullptr;
  if (heif_image_handle_get_nclx_color_profile(handle, &numbers).code != heif_error_Ok || !numbers) return false;
  const bool p3 = numbers->color_primaries == heif_color_primaries_SMPTE_EG_432_1 &&
                  numbers->transfer_characteristics == heif_transfer_characteristic_IEC_61966_2_1;
  heif_nclx_color_profile_free(numbers);
  return p3;
}

/// Empty where there is none and the colours are sRGB's, or of a kind not known here.
std::vector<unsigned char> profileOf(const heif_image_handle* handle) {
  std::vector<unsigned char> icc(heif_image_handle_get_raw_color_profile_size(handle));
  if (!icc.empty() && heif_image_handle_get_raw_color_profile(handle, icc.data()).code != heif_error_Ok) icc.clear();
  if (icc.empty() && saysDisplayP3(handle)) icc = profileOf(ColourSpace::DisplayP3);
  return icc;
}

} // namespace

Result<CodeImage> readHeif(const std::filesystem::path& path) {
  const Context context(heif_context_alloc(), heif_context_free);
  const auto refuse = [&](const heif_error& error) {
    return unreadable(path, phrase("the HEIF data are damaged or of a kind not read here ({})", error.message));
  };
  if (const auto error = heif_context_read_from_file(context.get(), path.c_str(), nullptr); error.code != heif_error_Ok)
    return refuse(error);
  heif_image_handle* rawHandle = nullptr;
  if (const auto error = heif_context_get_primary_image_handle(context.get(), &rawHandle); error.code != heif_error_Ok)
    return refuse(error);
  const Handle handle(rawHandle, heif_image_handle_release);
  const int width = heif_image_handle_get_width(handle.get()), height = heif_image_handle_get_height(handle.get());
  if (auto size = checkSize(path, width, height); !size) return passOn(size.error());
  const int bits = heif_image_handle_get_luma_bits_per_pixel(handle.get());
  heif_image* rawPicture = nullptr;
  const auto chroma = bits > 8 ? heif_chroma_interleaved_RRGGBB_LE : heif_chroma_interleaved_RGB;
  if (const auto error = heif_decode_image(handle.get(), &rawPicture, heif_colorspace_RGB, chroma, nullptr);
      error.code != heif_error_Ok)
    return refuse(error);
  const Picture picture(rawPicture, heif_image_release);
  int stride = 0;
  const std::uint8_t* plane = heif_image_get_plane_readonly(picture.get(), heif_channel_interleaved, &stride);
  if (!plane || heif_image_get_width(picture.get(), heif_channel_interleaved) != width ||
      heif_image_get_height(picture.get(), heif_channel_interleaved) != height)
    return unreadable(path, phrase("its header contradicts its data"));
  if (bits > 8)
    return CodeImage{widened(plane, stride, width, height,
                             heif_image_get_bits_per_pixel_range(picture.get(), heif_channel_interleaved)),
                     65535, profileOf(handle.get())};
  Image<std::uint8_t> pixels(width, height, 3);
  for (int y = 0; y < height; ++y)
    std::memcpy(pixels.row(y), plane + std::ptrdiff_t(y) * stride, std::size_t(width) * 3);
  return CodeImage{std::move(pixels), 255, profileOf(handle.get())};
}

} // namespace ml
