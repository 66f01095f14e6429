// SPDX-License-Identifier: GPL-3.0-or-later
// Packs the renders of a demo world for shipping: sprites are cropped to what is not transparent, masks become one
// channel, everything is written as half-float OpenEXR. Usage: ml_pack_world RENDERS WORLD_FOLDER
#include "codec/exr.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <string>

namespace fs = std::filesystem;
using namespace ml;

namespace {

PlacedImage read(const fs::path& file) {
  auto image = readExr(file);
  if (!image) {
    std::fprintf(stderr, "%s\n", image.error().message.c_str());
    std::exit(1);
  }
  return std::move(*image);
}

void write(const fs::path& file, const PlacedImage& image, bool lossy) {
  ExrOptions options;
  options.lossy = lossy;
  // A picture of all directions is five times as large, and shown through a lens that softens it.
  constexpr int kWide = 4000;
  options.lossyLevel = image.fullWidth > kWide ? 160 : 36;
  if (auto written = writePlacedExr(file, image, options); !written) {
    std::fprintf(stderr, "%s\n", written.error().message.c_str());
    std::exit(1);
  }
  std::printf("%s %d x %d, %ju kB\n", file.filename().c_str(), image.pixels.width(), image.pixels.height(),
              fs::file_size(file) / 1000);
}

/// Smallest rectangle around pixels whose last channel is above 0.
PlacedImage trimmed(const PlacedImage& in) {
  const int channels = in.pixels.channels();
  int x0 = in.pixels.width(), y0 = in.pixels.height(), x1 = -1, y1 = -1;
  for (int y = 0; y < in.pixels.height(); ++y)
    for (int x = 0; x < in.pixels.width(); ++x)
      if (in.pixels.at(x, y)[channels - 1] > 0) {
        x0 = std::min(x0, x), x1 = std::max(x1, x);
        y0 = std::min(y0, y), y1 = std::max(y1, y);
      }
  PlacedImage out{Image<float>(x1 - x0 + 1, y1 - y0 + 1, channels), in.x + x0, in.y + y0, in.fullWidth, in.fullHeight};
  for (int y = y0; y <= y1; ++y)
    std::copy_n(in.pixels.at(x0, y), out.pixels.width() * channels, out.pixels.row(y - y0));
  return out;
}

/// Green of `in` over `white`, 0..1.
PlacedImage mask(const PlacedImage& in, float white) {
  PlacedImage out{Image<float>(in.pixels.width(), in.pixels.height(), 1), in.x, in.y, in.fullWidth, in.fullHeight};
  for (std::size_t i = 0; i < out.pixels.size(); ++i) {
    const float share = in.pixels.data()[i * in.pixels.channels() + 1] / white;
    out.pixels.data()[i] = share < 0.004f ? 0.f : share > 0.996f ? 1.f : share;
  }
  return out;
}

/// A view out of doors: open everywhere.
PlacedImage wholeView(const PlacedImage& base) {
  PlacedImage out{Image<float>(base.pixels.width(), base.pixels.height(), 1), base.x, base.y, base.fullWidth,
                  base.fullHeight};
  std::fill_n(out.pixels.data(), out.pixels.size(), 1.f);
  return out;
}

/// The lake at another moment: opaque where the lake mask is, premultiplied; only the part that shows in the window.
PlacedImage water(const PlacedImage& render, const PlacedImage& lake, const PlacedImage& view) {
  PlacedImage out{Image<float>(render.pixels.width(), render.pixels.height(), 4), render.x, render.y, render.fullWidth,
                  render.fullHeight};
  for (int y = 0; y < out.pixels.height(); ++y)
    for (int x = 0; x < out.pixels.width(); ++x) {
      const bool shown = *view.pixels.at(x + render.x, y + render.y) > 0;
      const bool rendered = render.pixels.at(x, y)[1] > 0;
      const float alpha = shown && rendered ? *lake.pixels.at(x + render.x, y + render.y) : 0;
      for (int c = 0; c < 3; ++c) out.pixels.at(x, y)[c] = alpha * render.pixels.at(x, y)[c];
      out.pixels.at(x, y)[3] = alpha;
    }
  return trimmed(out);
}

/// 1 / metres from what a fog of 20 m shows: 60000 (1 - exp(-metres / 20)). In steps of 1/128, which is finer than any
/// blur shows and packs well.
PlacedImage dioptres(const PlacedImage& fog) {
  constexpr float kFog = 20, kWhite = 60000, kSteps = 128, kNearest = 0.1f;
  PlacedImage out{Image<float>(fog.pixels.width(), fog.pixels.height(), 1), fog.x, fog.y, fog.fullWidth,
                  fog.fullHeight};
  for (std::size_t i = 0; i < out.pixels.size(); ++i) {
    const float clear = 1 - fog.pixels.data()[i * fog.pixels.channels() + 1] / kWhite;
    const float metres = clear > 0 ? std::max(kNearest, -kFog * std::log(clear)) : 1e9f;
    out.pixels.data()[i] = std::round(kSteps / metres) / kSteps;
  }
  return out;
}

} // namespace

int main(int count, char** arguments) {
  if (count != 3) return std::fprintf(stderr, "Usage: ml_pack_world RENDERS WORLD_FOLDER\n"), 2;
  const fs::path from = arguments[1], to = arguments[2];
  PlacedImage base = read(from / "base.exr");
  write(to / "base.exr", base, true);
  if (fs::exists(from / "lamps.exr")) write(to / "lamps.exr", read(from / "lamps.exr"), true);
  const PlacedImage lake =
      fs::exists(from / "lake_mask.exr") ? mask(read(from / "lake_mask.exr"), 60000) : PlacedImage{};
  if (fs::exists(from / "depth.exr")) write(to / "dioptres.exr", dioptres(read(from / "depth.exr")), false);
  PlacedImage view = wholeView(base);
  if (fs::exists(from / "view_mask.exr")) {
    view = mask(read(from / "view_mask.exr"), 100);
    write(to / "view_mask.exr", view, false);
  }
  for (const auto& entry : fs::directory_iterator(from)) {
    const std::string name = entry.path().filename().string();
    if (entry.path().extension() != ".exr" || name == "base.exr" || name == "lamps.exr" || name == "depth.exr" ||
        name.find("mask") != std::string::npos)
      continue;
    if (name.rfind("water", 0) == 0)
      write(to / name, water(read(entry.path()), lake, view), true);
    else
      write(to / name, trimmed(read(entry.path())), false);
  }
  return 0;
}
