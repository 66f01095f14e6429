// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exr.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "image/half.h"

#include <ImfChannelList.h>
#include <ImfChromaticitiesAttribute.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfIO.h>
#include <ImfInputFile.h>
#include <ImfOutputFile.h>
#include <ImfStandardAttributes.h>
#include <ImfStringAttribute.h>
#include <ImfThreading.h>
#include <fstream>
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
Imf::FrameBuffer frameBuffer(char* data, std::size_t sampleSize, Imf::PixelType type, const Imath::Box2i& window,
                             int channels) {
  const std::size_t xStride = sampleSize * channels, yStride = xStride * std::size_t(window.max.x - window.min.x + 1);
  Imf::FrameBuffer buffer;
  for (int c = 0; c < channels; ++c) {
    char* base = data + c * sampleSize - std::ptrdiff_t(window.min.x) * std::ptrdiff_t(xStride) -
                 std::ptrdiff_t(window.min.y) * std::ptrdiff_t(yStride);
    buffer.insert(channelNames(channels)[c], Imf::Slice(type, base, xStride, yStride));
  }
  return buffer;
}

/// Compression runs on as many threads as everything else.
int threads() {
  if (Imf::globalThreadCount() < threadCount()) Imf::setGlobalThreadCount(threadCount());
  return threadCount();
}

Result<ExrSize> sizeOf(const Imf::InputFile& file, const std::filesystem::path& path) {
  const auto window = file.header().dataWindow();
  const std::int64_t width = std::int64_t(window.max.x) - window.min.x + 1,
                     height = std::int64_t(window.max.y) - window.min.y + 1;
  if (auto size = checkSize(path, width, height); !size) return passOn(size.error());
  const int channels = channelsOf(file.header().channels());
  if (channels == 0) return unreadable(path, phrase("it has no R, G, B or Y channel"));
  return ExrSize{int(width), int(height), channels};
}

} // namespace

std::optional<ExrSize> exrSize(const std::filesystem::path& path) {
  try {
    const auto size = sizeOf(Imf::InputFile(path.c_str()), path);
    return size ? std::optional(*size) : std::nullopt;
  } catch (const std::exception&) {
    return {};
  }
}

Result<PlacedImage> readExr(const std::filesystem::path& path, const StopFlag& stop) {
  try {
    Imf::InputFile file(path.c_str(), threads());
    const auto window = file.header().dataWindow(), display = file.header().displayWindow();
    const auto size = sizeOf(file, path);
    if (!size) return passOn(size.error());
    PlacedImage image;
    image.pixels = Image<float>(size->width, size->height, size->channels);
    image.x = window.min.x - display.min.x;
    image.y = window.min.y - display.min.y;
    image.fullWidth = display.max.x - display.min.x + 1;
    image.fullHeight = display.max.y - display.min.y + 1;
    file.setFrameBuffer(
        frameBuffer(reinterpret_cast<char*>(image.pixels.data()), sizeof(float), Imf::FLOAT, window, size->channels));
    constexpr int kRows = 512; // enough for all threads, and soon over
    for (int y = window.min.y; y <= window.max.y; y += kRows) {
      if (stop.requested()) return stopped();
      file.readPixels(y, std::min(y + kRows - 1, window.max.y));
    }
    return image;
  } catch (const std::exception& error) {
    return unreadable(path, phrase("the OpenEXR data are damaged ({})", error.what()));
  }
}

std::map<std::string, std::string> exrText(const std::filesystem::path& path) {
  std::map<std::string, std::string> out;
  try {
    const Imf::InputFile file(path.c_str());
    for (auto it = file.header().begin(); it != file.header().end(); ++it)
      if (const auto* text = dynamic_cast<const Imf::StringAttribute*>(&it.attribute())) out[it.name()] = text->value();
  } catch (const std::exception&) {
    return {};
  }
  return out;
}

Result<void> readExrInBands(const std::filesystem::path& path,
                            const std::function<void(int y, ImageView<const float>)>& work, const StopFlag& stop) {
  try {
    Imf::InputFile file(path.c_str(), threads());
    const auto window = file.header().dataWindow();
    const auto size = sizeOf(file, path);
    if (!size) return passOn(size.error());
    constexpr int kRows = 256;
    Image<float> rows(size->width, std::min(kRows, size->height), size->channels);
    for (int y = 0; y < size->height; y += kRows) {
      if (stop.requested()) return stopped();
      const int count = std::min(kRows, size->height - y);
      const Imath::Box2i part({window.min.x, window.min.y + y}, {window.max.x, window.min.y + y + count - 1});
      file.setFrameBuffer(
          frameBuffer(reinterpret_cast<char*>(rows.data()), sizeof(float), Imf::FLOAT, part, size->channels));
      file.readPixels(part.min.y, part.max.y);
      work(y, rows.view().crop({0, 0, size->width, count}));
    }
    return {};
  } catch (const std::exception& error) {
    return unreadable(path, phrase("the OpenEXR data are damaged ({})", error.what()));
  }
}

namespace {

Imf::Header headerOf(const Imath::Box2i& display, const Imath::Box2i& window, int channels, const ExrOptions& options) {
  Imf::Header header(display, window);
  header.compression() = options.lossy  ? Imf::DWAA_COMPRESSION
                         : options.half ? Imf::PIZ_COMPRESSION
                                        : Imf::ZIP_COMPRESSION; // PIZ: noise of half floats in a third of the time
  if (options.lossy)
    header.dwaCompressionLevel() = float(options.lossyLevel);
  else
    header.zipCompressionLevel() = 2; // half the time of the usual 4, and 2 % more bytes
  for (const auto& name : channelNames(channels))
    header.channels().insert(name, Imf::Channel(options.half ? Imf::HALF : Imf::FLOAT));
  Imf::addChromaticities(header, Imf::Chromaticities());
  for (const auto& [key, value] : options.text) header.insert(key, Imf::StringAttribute(value));
  return header;
}

/// The next rows, without gaps between them, at row `y` of the window; a few at a time: the halves never exist as a
/// whole. False: told to stop.
bool writeSome(Imf::OutputFile& file, ImageView<const float> pixels, const Imath::Box2i& window, int y,
               const ExrOptions& options) {
  const auto part = [&](int from, int rows) {
    return Imath::Box2i({window.min.x, window.min.y + y + from}, {window.max.x, window.min.y + y + from + rows - 1});
  };
  if (!options.half) {
    auto* data = const_cast<float*>(pixels.data);
    file.setFrameBuffer(
        frameBuffer(reinterpret_cast<char*>(data), sizeof(float), Imf::FLOAT, part(0, pixels.height), pixels.channels));
    file.writePixels(pixels.height);
    return true;
  }
  constexpr int kRows = 256;
  Image<std::uint16_t> halves(pixels.width, std::min(kRows, pixels.height), pixels.channels);
  for (int from = 0; from < pixels.height; from += kRows) {
    if (options.stop.requested()) return false;
    const int rows = std::min(kRows, pixels.height - from);
    forEachBand(rows, [&](const Band& band) {
      for (int v = band.begin; v < band.end; ++v)
        toHalf(pixels.row(from + v), pixels.width * pixels.channels, halves.row(v));
    });
    file.setFrameBuffer(frameBuffer(reinterpret_cast<char*>(halves.data()), sizeof(::half), Imf::HALF, part(from, rows),
                                    pixels.channels));
    file.writePixels(rows);
  }
  return true;
}

/// `pixels` without gaps between its rows.
/// A file that remembers whether all of it was written. It never throws into the library, which swallows what goes
/// wrong while its file goes out of scope (the table of where rows lie), and did not survive it elsewhere.
class CheckedFile : public Imf::OStream {
public:
  explicit CheckedFile(const std::filesystem::path& path)
      : Imf::OStream(path.c_str()), out_(path, std::ios::binary | std::ios::trunc) {}
  void write(const char* bytes, int count) override {
    out_.write(bytes, count);
    at_ += std::uint64_t(count);
  }
  std::uint64_t tellp() override { return at_; }
  void seekp(std::uint64_t at) override {
    out_.seekp(std::streamoff(at));
    at_ = at;
  }
  /// All of it is with the system.
  [[nodiscard]] bool close() {
    out_.close();
    return bool(out_);
  }

private:
  std::uint64_t at_ = 0;
  std::ofstream out_;
};

Result<void> writePart(const std::filesystem::path& path, ImageView<const float> pixels, int x, int y0, int fullWidth,
                       int fullHeight, const ExrOptions& options) {
  try {
    const Imath::Box2i display({0, 0}, {fullWidth - 1, fullHeight - 1});
    const Imath::Box2i window({x, y0}, {x + pixels.width - 1, y0 + pixels.height - 1});
    CheckedFile out(path);
    {
      Imf::OutputFile file(out, headerOf(display, window, pixels.channels, options), threads());
      if (!writeSome(file, pixels, window, 0, options)) return stopped();
    }
    if (!out.close()) return unwritable(path, phrase("no space is left on the device"));
    return {};
  } catch (const std::exception& error) {
    return unwritable(path, error.what());
  }
}

} // namespace

Result<void> writeExrRows(
    const std::filesystem::path& path, int width, int height, const ExrOptions& options,
    const std::function<Result<void>(const std::function<Result<void>(ImageView<const float>)>& write)>& fill) {
  try {
    const Imath::Box2i whole({0, 0}, {width - 1, height - 1});
    CheckedFile out(path);
    const auto written = [&]() -> Result<void> {
      Imf::OutputFile file(out, headerOf(whole, whole, 3, options), threads());
      int y = 0;
      return fill([&](ImageView<const float> rows) -> Result<void> {
        try {
          if (!writeSome(file, rows, whole, y, options)) return stopped();
          y += rows.height;
          return {};
        } catch (const std::exception& error) {
          return unwritable(path, error.what());
        }
      });
    }();
    if (!written) return written;
    if (!out.close()) return unwritable(path, phrase("no space is left on the device"));
    return {};
  } catch (const std::exception& error) {
    return unwritable(path, error.what());
  }
}

Result<void> writePlacedExr(const std::filesystem::path& path, const PlacedImage& image, const ExrOptions& options) {
  return writePart(path, image.pixels.view(), image.x, image.y, image.fullWidth, image.fullHeight, options);
}

Result<void> writeExr(const std::filesystem::path& path, ImageView<const float> view, const ExrOptions& options) {
  if (view.stride == std::ptrdiff_t(view.width) * view.channels)
    return writePart(path, view, 0, 0, view.width, view.height, options);
  PlacedImage placed;
  placed.pixels = Image<float>(view.width, view.height, view.channels);
  for (int y = 0; y < view.height; ++y) std::copy_n(view.row(y), view.width * view.channels, placed.pixels.row(y));
  placed.fullWidth = view.width;
  placed.fullHeight = view.height;
  return writePlacedExr(path, placed, options);
}

} // namespace ml
