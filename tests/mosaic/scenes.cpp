// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/scenes.h"

#include "codec/raw_file.h"
#include "image/colour.h"
#include "image/colour_difference.h"
#include "mosaic/bayer.h"
#include "mosaic/developer.h"
#include "support/radiance_sets.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <libraw/libraw.h>
#include <memory>
#include <numbers>
#include <random>
#include <tiffio.h>

namespace ml::test {
namespace {

constexpr int kBlack = 512, kWhite = 15800;

/// Gaussian, separable, borders repeated.
Image<float> blurred(const Image<float>& in, double sigma) {
  const int reach = int(std::ceil(3 * sigma));
  std::vector<double> kernel;
  double sum = 0;
  for (int k = -reach; k <= reach; ++k) kernel.push_back(std::exp(-k * k / (2 * sigma * sigma))), sum += kernel.back();
  Image<float> across(in.width(), in.height(), 3), out(in.width(), in.height(), 3);
  for (int pass = 0; pass < 2; ++pass) {
    const Image<float>& from = pass == 0 ? in : across;
    Image<float>& to = pass == 0 ? across : out;
    for (int y = 0; y < in.height(); ++y)
      for (int x = 0; x < in.width(); ++x)
        for (int c = 0; c < 3; ++c) {
          double v = 0;
          for (int k = -reach; k <= reach; ++k)
            v += kernel[std::size_t(k + reach)] * double(pass == 0
                                                             ? from.at(std::clamp(x + k, 0, in.width() - 1), y)[c]
                                                             : from.at(x, std::clamp(y + k, 0, in.height() - 1))[c]);
          to.at(x, y)[c] = float(v / sum);
        }
  }
  return out;
}

float lit(double v) {
  return float(std::clamp(v, 0.0, 1.0));
}

/// Bars at slants in twelve fields, and rings; as fine as two pixels a bar.
std::array<double, 3> chartAt(double x, double y, int width, int height) {
  const int field = int(std::floor(x * 4 / width)) + 4 * int(std::floor(y * 3 / height)), kind = ((field % 5) + 5) % 5;
  const double u = x * std::cos(field * 0.35) + y * std::sin(field * 0.35),
               r = std::hypot(x - width / 2.0, y - height / 2.0);
  const double bars = std::sin(u * (0.25 + 0.12 * field)) > 0 ? 0.85 : 0.06,
               rings = 0.45 + 0.4 * std::sin(r * r * 0.0016);
  constexpr double colours[4][3] = {{1, 1, 1}, {1, 0.35, 0.2}, {0.25, 0.6, 0.3}, {0.3, 0.4, 0.95}};
  std::array<double, 3> out;
  for (std::size_t c = 0; c < 3; ++c) out[c] = (kind == 4 ? rings : bars) * colours[((field % 4) + 4) % 4][c];
  return out;
}

/// Woven threads of two colours, each brighter in its middle.
std::array<double, 3> fabricAt(double x, double y, int width) {
  const double period = 5 + 4.0 * x / width, u = x / period, v = y / period;
  const bool warp = (int(std::floor(u)) + int(std::floor(v))) % 2 == 0;
  const double shade = 0.55 + 0.45 * std::sin(std::numbers::pi * (warp ? u - std::floor(u) : v - std::floor(v)));
  constexpr double red[3] = {0.5, 0.08, 0.07}, blue[3] = {0.10, 0.16, 0.42};
  std::array<double, 3> out;
  for (std::size_t c = 0; c < 3; ++c) out[c] = shade * (warp ? red : blue)[c];
  return out;
}

Image<float> drawn(const char* scene, int width, int height) {
  Image<float> out(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const std::array<double, 3> colour = colourOf(scene, x, y, width, height);
      for (std::size_t c = 0; c < 3; ++c) out.at(x, y)[c] = float(colour[c]);
    }
  return out;
}

} // namespace

std::array<double, 3> colourOf(const std::string& scene, double x, double y, int width, int height) {
  return scene == "chart" ? chartAt(x, y, width, height) : fabricAt(x, y, width);
}

std::vector<MosaicScene> mosaicScenes(int width, int height, double blur) {
  std::vector<MosaicScene> scenes;
  const auto add = [&](const std::string& name, const Image<float>& light) {
    Image<float> drawn = blurred(light, blur);
    for (std::size_t i = 0; i < drawn.size(); ++i) drawn.data()[i] = lit(drawn.data()[i] * kCameraBalance[i % 3]);
    scenes.push_back({name, std::move(drawn)});
  };
  for (const char* name : {"apartment", "forest", "workshop", "venice", "city", "lobby"}) {
    const RadianceView view(name, width, height);
    Image<float> light = view.seen(0, 0, 0, -1);
    const float scale = float(0.25 / view.median());
    for (std::size_t i = 0; i < light.size(); ++i) light.data()[i] *= scale;
    add(name, light);
  }
  add("chart", drawn("chart", width, height));
  add("fabric", drawn("fabric", width, height));
  return scenes;
}

Image<std::uint16_t> mosaicked(const Image<float>& truth, double fullWell, double readNoise, int dx, int dy,
                               unsigned seed) {
  Image<std::uint16_t> out(truth.width(), truth.height(), 1);
  std::mt19937 random(seed);
  std::normal_distribution<double> normal;
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      const int u = (x + dx) & 1, v = (y + dy) & 1, c = u + v;
      double light = truth.at(x, y)[c];
      if (fullWell > 0)
        light += std::sqrt(light / fullWell + readNoise * readNoise / (fullWell * fullWell)) * normal(random);
      out.row(y)[x] = std::uint16_t(std::clamp(std::lround(kBlack + light * (kWhite - kBlack)), 0L, long(kWhite)));
    }
  return out;
}

void writeMosaicDng(const std::filesystem::path& file, const Image<std::uint16_t>& mosaic, int dx, int dy, int masked) {
  TIFF* tiff = TIFFOpen(file.c_str(), "w");
  if (!tiff) std::abort();
  const int w = mosaic.width(), h = mosaic.height();
  TIFFSetField(tiff, TIFFTAG_SUBFILETYPE, 0);
  TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, w);
  TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, h);
  TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 16);
  TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, 1);
  TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, 32803);
  TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  TIFFSetField(tiff, TIFFTAG_COMPRESSION, COMPRESSION_NONE);
  TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, h);
  TIFFSetField(tiff, TIFFTAG_MAKE, "Test");
  TIFFSetField(tiff, TIFFTAG_MODEL, "Mosaic");
  const std::uint16_t repeat[2] = {2, 2};
  TIFFSetField(tiff, TIFFTAG_CFAREPEATPATTERNDIM, repeat);
  std::uint8_t pattern[4];
  for (int k = 0; k < 4; ++k) pattern[k] = std::uint8_t((((k & 1) + dx) & 1) + (((k >> 1) + dy) & 1));
  TIFFSetField(tiff, TIFFTAG_CFAPATTERN, 4, pattern);
  const std::uint8_t version[4] = {1, 4, 0, 0};
  TIFFSetField(tiff, TIFFTAG_DNGVERSION, version);
  TIFFSetField(tiff, TIFFTAG_UNIQUECAMERAMODEL, "Test Mosaic");
  const float matrix[9] = {3.2406f, -1.5372f, -0.4986f, -0.9689f, 1.8758f,
                           0.0415f, 0.0557f,  -0.2040f, 1.0570f}; // XYZ to Rec. 709, IEC 61966-2-1
  float camera[9];
  for (int i = 0; i < 9; ++i) camera[i] = matrix[i] * kCameraBalance[std::size_t(i / 3)];
  TIFFSetField(tiff, TIFFTAG_COLORMATRIX1, 9, camera);
  TIFFSetField(tiff, TIFFTAG_CALIBRATIONILLUMINANT1, 21);
  TIFFSetField(tiff, TIFFTAG_ASSHOTNEUTRAL, 3, kCameraBalance.data());
  if (masked > 0) {
    const std::uint32_t active[4] = {0, std::uint32_t(masked), std::uint32_t(h), std::uint32_t(w)},
                        areas[4] = {0, 0, std::uint32_t(h), std::uint32_t(masked)};
    TIFFSetField(tiff, TIFFTAG_ACTIVEAREA, active);
    TIFFSetField(tiff, TIFFTAG_MASKEDAREAS, 4, areas);
  }
  const float black = kBlack;
  const std::uint32_t white = kWhite;
  TIFFSetField(tiff, TIFFTAG_BLACKLEVEL, 1, &black);
  TIFFSetField(tiff, TIFFTAG_WHITELEVEL, 1, &white);
  for (int y = 0; y < h; ++y) TIFFWriteScanline(tiff, const_cast<std::uint16_t*>(mosaic.row(y)), std::uint32_t(y), 0);
  TIFFClose(tiff);
}

Image<float> developedByLibrary(const std::filesystem::path& file, int quality) {
  LibRaw raw;
  if (raw.open_file(file.c_str()) != LIBRAW_SUCCESS || raw.unpack() != LIBRAW_SUCCESS) std::abort();
  auto& p = raw.imgdata.params;
  p.output_bps = 16, p.output_color = 0, p.gamm[0] = p.gamm[1] = 1, p.no_auto_bright = 1, p.highlight = 1,
  p.user_qual = quality, p.adjust_maximum_thr = 0;
  float most = 0;
  std::array<float, 3> gain;
  for (std::size_t c = 0; c < 3; ++c) gain[c] = 1 / kCameraBalance[c], most = std::max(most, gain[c]);
  for (int c = 0; c < 4; ++c) p.user_mul[c] = gain[std::size_t(c == 3 ? 1 : c)] / most;
  if (raw.dcraw_process() != LIBRAW_SUCCESS) std::abort();
  int code = 0;
  const std::unique_ptr<libraw_processed_image_t, void (*)(libraw_processed_image_t*)> made(
      raw.dcraw_make_mem_image(&code), LibRaw::dcraw_clear_mem);
  Image<float> out(made->width, made->height, 3);
  const auto* codes = reinterpret_cast<const std::uint16_t*>(made->data);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = float(codes[i]) / 65535 * most;
  return out;
}

Image<std::uint16_t> demosaiced(const BayerMosaic& mosaic) {
  const Image<std::uint16_t> sites = photositeCodes(mosaic);
  std::array<float, 3> full;
  for (std::size_t c = 0; c < 3; ++c) full[c] = kFullPhotosite * mosaic.gain[c];
  return developed(PhotositeCodes{sites.view(), mosaic.colours, full});
}

Image<std::uint16_t> demosaiced(const RawImage& raw) {
  std::array<float, 3> full;
  for (std::size_t c = 0; c < 3; ++c) full[c] = kFullPhotosite * raw.saturation[c];
  return developed(PhotositeCodes{raw.pixels.view(), raw.pattern, full});
}

Image<float> developedByUs(const std::filesystem::path& file) {
  const auto raw = readRaw(file);
  if (!raw) std::abort();
  const Image<std::uint16_t> pixels = demosaiced(*raw);
  Image<float> out(pixels.width(), pixels.height(), 3);
  for (std::size_t i = 0; i < out.size(); ++i)
    out.data()[i] = (float(pixels.data()[i]) - float(raw->black)) / float(65535 - raw->black) / raw->saturation[1];
  return out;
}

Quality qualityOf(const Image<float>& developed, const Image<float>& truth) {
  constexpr int kBorder = 8;
  const auto lightAt = [&](int x, int y, float rgb[3]) {
    for (std::size_t c = 0; c < 3; ++c) rgb[c] = truth.at(x, y)[c] / kCameraBalance[c];
  };
  const int w = truth.width();
  std::vector<std::array<double, 3>> labs;
  for (int y = 0; y < truth.height(); ++y)
    for (int x = 0; x < w; ++x) {
      float rgb[3];
      lightAt(x, y, rgb);
      labs.push_back(labOf(rgb));
    }
  Quality q;
  double squares = 0, edges = 0;
  long count = 0, edgeCount = 0, coloured = 0;
  for (int y = kBorder; y < truth.height() - kBorder; ++y)
    for (int x = kBorder; x < truth.width() - kBorder; ++x) {
      bool clipped = false;
      double chroma = 0, low = 1e9, high = 0;
      for (int v = y - 2; v <= y + 2; ++v)
        for (int u = x - 2; u <= x + 2; ++u) {
          const float* t = truth.at(u, v);
          clipped = clipped || std::max({t[0], t[1], t[2]}) > 0.97f;
          const auto& lab = labs[std::size_t(v) * std::size_t(w) + std::size_t(u)];
          chroma = std::max(chroma, std::hypot(lab[1], lab[2])), low = std::min(low, lab[0]),
          high = std::max(high, lab[0]);
        }
      if (clipped) continue;
      float want[3], have[3];
      lightAt(x, y, want);
      for (int c = 0; c < 3; ++c) {
        have[c] = std::clamp(developed.at(x, y)[c], 0.f, 1.5f);
        const double d = 255 * (srgbEncode(std::min(1.f, have[c])) - srgbEncode(std::min(1.f, want[c])));
        squares += d * d;
      }
      ++count;
      const auto &a = labs[std::size_t(y) * std::size_t(w) + std::size_t(x)], b = labOf(have);
      if (high - low > 15) edges += ciede2000(a, b), ++edgeCount;
      coloured += std::hypot(b[1], b[2]) > chroma + 8;
    }
  q.cpsnr = 10 * std::log10(255.0 * 255.0 / (squares / double(3 * count)));
  q.edges = edges / double(std::max(1L, edgeCount));
  q.coloured = double(coloured) / double(count);
  return q;
}

} // namespace ml::test
