#include "codec/exr.h"

#include <ImfChannelList.h>
#include <ImfChromaticitiesAttribute.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfInputFile.h>
#include <ImfOutputFile.h>
#include <ImfStandardAttributes.h>
#include <ImfStringAttribute.h>
#include <half.h>
#include <string>
#include <vector>

namespace ml {
namespace {

const std::vector<std::string>& channelNames(int channels) {
  static const std::vector<std::string> grey{"Y"}, colour{"R", "G", "B"}, alpha{"R", "G", "B", "A"};
  return channels == 1 ? grey : channels == 3 ? colour : alpha;
}

int channelsOf(const Imf::ChannelList& list) {
  if (list.findChannel("R") && list.findChannel("G") && list.findChannel("B")) return list.findChannel("A") ? 4 : 3;
  return list.findChannel("Y") ? 1 : 0;
}

/// Imf counts from the origin of the whole picture, so the base pointer lies before the data.
Imf::FrameBuffer frameBuffer(char* data, std::size_t sampleSize, Imf::PixelType type, const Imath::Box2i& window, int channels) {
  const std::size_t xStride = sampleSize * channels, yStride = xStride * std::size_t(window.max.x - window.min.x + 1);
  Imf::FrameBuffer buffer;
  for (int c = 0; c < channels; ++c) {
    char* base = data + c * sampleSize - std::ptrdiff_t(window.min.x) * std::ptrdiff_t(xStride) -
                 std::ptrdiff_t(window.min.y) * std::ptrdiff_t(yStride);
    buffer.insert(channelNames(channels)[c], Imf::Slice(type, base, xStride, yStride));
  }
  return buffer;
}

} // namespace

Result<PlacedImage> readExr(const std::filesystem::path& path) {
  try {
    Imf::InputFile file(path.c_str());
    const auto window = file.header().dataWindow(), display = file.header().displayWindow();
    const std::int64_t width = std::int64_t(window.max.x) - window.min.x + 1, height = std::int64_t(window.max.y) - window.min.y + 1;
    if (auto size = checkSize(path, width, height); !size) return passOn(size.error());
    const int channels = channelsOf(file.header().channels());
    if (channels == 0) return unreadable(path, "it has no R, G, B or Y channel");
    PlacedImage image;
    image.pixels = Image<float>(int(width), int(height), channels);
    image.x = window.min.x - display.min.x;
    image.y = window.min.y - display.min.y;
    image.fullWidth = display.max.x - display.min.x + 1;
    image.fullHeight = display.max.y - display.min.y + 1;
    file.setFrameBuffer(frameBuffer(reinterpret_cast<char*>(image.pixels.data()), sizeof(float), Imf::FLOAT, window, channels));
    file.readPixels(window.min.y, window.max.y);
    return image;
  } catch (const std::exception& error) {
    return unreadable(path, std::string("the OpenEXR data are damaged (") + error.what() + ")");
  }
}

Result<void> writePlacedExr(const std::filesystem::path& path, const PlacedImage& image, const ExrOptions& options) {
  try {
    const auto& pixels = image.pixels;
    const Imath::Box2i display({0, 0}, {image.fullWidth - 1, image.fullHeight - 1});
    const Imath::Box2i window({image.x, image.y}, {image.x + pixels.width() - 1, image.y + pixels.height() - 1});
    Imf::Header header(display, window);
    header.compression() = options.lossy ? Imf::DWAA_COMPRESSION : Imf::ZIP_COMPRESSION;
    if (options.lossy) header.dwaCompressionLevel() = float(options.lossyLevel);
    const auto type = options.half ? Imf::HALF : Imf::FLOAT;
    for (const auto& name : channelNames(pixels.channels())) header.channels().insert(name, Imf::Channel(type));
    Imf::addChromaticities(header, Imf::Chromaticities());
    for (const auto& [key, value] : options.text) header.insert(key, Imf::StringAttribute(value));
    Imf::OutputFile file(path.c_str(), header);
    if (options.half) {
      std::vector<half> halves(pixels.size());
      for (std::size_t i = 0; i < halves.size(); ++i) halves[i] = std::clamp(pixels.data()[i], -65504.f, 65504.f);
      file.setFrameBuffer(frameBuffer(reinterpret_cast<char*>(halves.data()), sizeof(half), type, window, pixels.channels()));
      file.writePixels(pixels.height());
    } else {
      auto* data = const_cast<float*>(pixels.data());
      file.setFrameBuffer(frameBuffer(reinterpret_cast<char*>(data), sizeof(float), type, window, pixels.channels()));
      file.writePixels(pixels.height());
    }
    return {};
  } catch (const std::exception& error) {
    return unwritable(path, error.what());
  }
}

Result<void> writeExr(const std::filesystem::path& path, ImageView<const float> view, const ExrOptions& options) {
  PlacedImage placed;
  placed.pixels = Image<float>(view.width, view.height, view.channels);
  for (int y = 0; y < view.height; ++y) std::copy_n(view.row(y), view.width * view.channels, placed.pixels.row(y));
  placed.fullWidth = view.width;
  placed.fullHeight = view.height;
  return writePlacedExr(path, placed, options);
}

} // namespace ml
