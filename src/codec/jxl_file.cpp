// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/jxl_file.h"
#include "base/phrase.h"

#include <fstream>
#include <iterator>
#include <jxl/decode_cxx.h>
#include <jxl/encode_cxx.h>

namespace ml {
namespace {

constexpr JxlPixelFormat kFormat{3, JXL_TYPE_UINT16, JXL_NATIVE_ENDIAN, 0};
constexpr int kEffort = 3; ///< 1 fast .. 9.

void describeColour(JxlColorEncoding& colour) {
  colour = {};
  colour.color_space = JXL_COLOR_SPACE_RGB;
  colour.white_point = JXL_WHITE_POINT_D65;
  colour.primaries = JXL_PRIMARIES_2100;
  colour.transfer_function = JXL_TRANSFER_FUNCTION_PQ;
  colour.rendering_intent = JXL_RENDERING_INTENT_RELATIVE;
}

} // namespace

Result<void> writeJxlPq(const std::filesystem::path& file, ImageView<const std::uint16_t> signal, float distance,
                        const std::vector<unsigned char>& exif) {
  const auto encoder = JxlEncoderMake(nullptr);
  const auto failed = [&](const std::string& what) {
    return unwritable(file, phrase("the JPEG XL encoder refuses {}", what));
  };
  JxlBasicInfo info;
  JxlEncoderInitBasicInfo(&info);
  info.xsize = std::uint32_t(signal.width);
  info.ysize = std::uint32_t(signal.height);
  info.bits_per_sample = 16;
  info.uses_original_profile = distance == 0 ? JXL_TRUE : JXL_FALSE;
  info.intensity_target = 10000;
  if (!exif.empty() && JxlEncoderUseBoxes(encoder.get()) != JXL_ENC_SUCCESS) return failed("boxes");
  if (JxlEncoderSetBasicInfo(encoder.get(), &info) != JXL_ENC_SUCCESS) return failed(phrase("the size"));
  JxlColorEncoding colour;
  describeColour(colour);
  if (JxlEncoderSetColorEncoding(encoder.get(), &colour) != JXL_ENC_SUCCESS) return failed(phrase("the colour space"));
  JxlEncoderFrameSettings* settings = JxlEncoderFrameSettingsCreate(encoder.get(), nullptr);
  JxlEncoderFrameSettingsSetOption(settings, JXL_ENC_FRAME_SETTING_EFFORT, kEffort);
  if (distance == 0)
    JxlEncoderSetFrameLossless(settings, JXL_TRUE);
  else
    JxlEncoderSetFrameDistance(settings, distance);
  if (!exif.empty()) {
    std::vector<unsigned char> box(4, 0); // offset to the TIFF header
    box.insert(box.end(), exif.begin(), exif.end());
    if (JxlEncoderAddBox(encoder.get(), "Exif", box.data(), box.size(), JXL_FALSE) != JXL_ENC_SUCCESS)
      return failed(phrase("the metadata"));
    JxlEncoderCloseBoxes(encoder.get());
  }
  std::vector<std::uint16_t> packed;
  packed.reserve(std::size_t(signal.width) * std::size_t(signal.height) * 3);
  for (int y = 0; y < signal.height; ++y) packed.insert(packed.end(), signal.row(y), signal.row(y) + 3 * signal.width);
  if (JxlEncoderAddImageFrame(settings, &kFormat, packed.data(), packed.size() * 2) != JXL_ENC_SUCCESS)
    return failed(phrase("the pixels"));
  JxlEncoderCloseInput(encoder.get());
  std::ofstream out(file, std::ios::binary);
  std::vector<std::uint8_t> buffer(1 << 20);
  for (JxlEncoderStatus status = JXL_ENC_NEED_MORE_OUTPUT; status == JXL_ENC_NEED_MORE_OUTPUT;) {
    std::uint8_t* next = buffer.data();
    std::size_t room = buffer.size();
    status = JxlEncoderProcessOutput(encoder.get(), &next, &room);
    if (status == JXL_ENC_ERROR) return failed(phrase("to go on"));
    out.write(reinterpret_cast<const char*>(buffer.data()), std::streamsize(buffer.size() - room));
  }
  out.close();
  if (!out) return unwritable(file, phrase("the disk is full"));
  return {};
}

Result<HdrReading> readJxl(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  const std::vector<std::uint8_t> bytes{std::istreambuf_iterator<char>(in), {}};
  const auto decoder = JxlDecoderMake(nullptr);
  if (JxlDecoderSubscribeEvents(decoder.get(), JXL_DEC_BASIC_INFO | JXL_DEC_COLOR_ENCODING | JXL_DEC_FULL_IMAGE) !=
      JXL_DEC_SUCCESS)
    return unreadable(file, phrase("the JPEG XL decoder does not start"));
  JxlDecoderSetInput(decoder.get(), bytes.data(), bytes.size());
  JxlDecoderCloseInput(decoder.get());
  HdrReading out;
  for (;;) {
    switch (JxlDecoderProcessInput(decoder.get())) {
    case JXL_DEC_BASIC_INFO: {
      JxlBasicInfo info;
      if (JxlDecoderGetBasicInfo(decoder.get(), &info) != JXL_DEC_SUCCESS)
        return unreadable(file, phrase("its header is damaged"));
      if (auto size = checkSize(file, info.xsize, info.ysize); !size) return passOn(size.error());
      out.signal = Image<std::uint16_t>(int(info.xsize), int(info.ysize), 3);
      break;
    }
    case JXL_DEC_COLOR_ENCODING: {
      JxlColorEncoding colour;
      if (JxlDecoderGetColorAsEncodedProfile(decoder.get(), &kFormat, JXL_COLOR_PROFILE_TARGET_ORIGINAL, &colour) ==
          JXL_DEC_SUCCESS) {
        out.primaries = int(colour.primaries); // the numbers are those of ITU-T H.273
        out.transfer = int(colour.transfer_function);
      }
      break;
    }
    case JXL_DEC_NEED_IMAGE_OUT_BUFFER:
      if (JxlDecoderSetImageOutBuffer(decoder.get(), &kFormat, out.signal.data(), out.signal.size() * 2) !=
          JXL_DEC_SUCCESS)
        return unreadable(file, phrase("its pixels are not RGB"));
      break;
    case JXL_DEC_FULL_IMAGE: break;
    case JXL_DEC_SUCCESS:
      if (out.signal.empty()) return unreadable(file, phrase("it holds no picture"));
      return out;
    default: return unreadable(file, phrase("the JPEG XL data are damaged or end early"));
    }
  }
}

} // namespace ml
