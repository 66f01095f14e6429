// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/raw_file.h"

#include "base/phrase.h"
#include "image/orientation.h"
#include "mosaic/bayer.h"
#include "mosaic/defects.h"
#include "mosaic/dng_colour.h"
#include "mosaic/row_black.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <libraw/libraw.h>
#include <memory>

namespace ml {
namespace {

/// Camera colour to Rec. 709 from the XYZ-to-camera matrix, scaled so that balanced white stays white.
Matrix3 cameraToRec709(const libraw_colordata_t& colour) {
  Matrix3 xyzToCamera{};
  double size = 0;
  for (int r = 0; r < 3; ++r)
    for (int c = 0; c < 3; ++c) {
      xyzToCamera[3 * r + c] = colour.cam_xyz[r][c];
      size += std::abs(colour.cam_xyz[r][c]);
    }
  if (size == 0)
    for (int r = 0; r < 3; ++r)
      for (int c = 0; c < 3; ++c) {
        xyzToCamera[3 * r + c] = colour.dng_color[0].colormatrix[r][c];
        size += std::abs(xyzToCamera[3 * r + c]);
      }
  if (size == 0) return kIdentity3;
  Matrix3 rec709ToCamera = multiply(xyzToCamera, kRec709ToXyz);
  for (int r = 0; r < 3; ++r) {
    const double sum = rec709ToCamera[3 * r] + rec709ToCamera[3 * r + 1] + rec709ToCamera[3 * r + 2];
    if (!(sum > 1e-6)) return kIdentity3;
    for (int c = 0; c < 3; ++c) rec709ToCamera[3 * r + c] /= sum;
  }
  return inverse(rec709ToCamera);
}

/// `at(r, c)` for all; nothing when all are 0 (LibRaw 0.20 says of few fields whether the file had them).
template <class At> std::optional<Matrix3> matrixOf(const At& at) {
  Matrix3 out{};
  double size = 0;
  for (std::size_t i = 0; i < 9; ++i) size += std::abs(out[i] = at(i / 3, i % 3));
  return size > 0 ? std::optional(out) : std::nullopt;
}

/// By both illuminants of a DNG; nothing when it has one, or is none.
std::optional<Matrix3> byTwoIlluminants(const libraw_colordata_t& colour, const std::array<float, 3>& gain) {
  std::array<IlluminantColour, 2> lights;
  for (std::size_t k = 0; k < 2; ++k) {
    const libraw_dng_color_t& from = colour.dng_color[k];
    const auto fromXyz = matrixOf([&](auto r, auto c) { return from.colormatrix[r][c]; });
    if (!fromXyz || from.illuminant == 0) return {};
    lights[k].illuminant = from.illuminant;
    lights[k].fromXyz = *fromXyz;
    lights[k].forward = matrixOf([&](auto r, auto c) { return from.forwardmatrix[r][c]; });
    if (const auto own = matrixOf([&](auto r, auto c) { return from.calibration[r][c]; })) lights[k].calibration = *own;
  }
  std::array<double, 3> analog{1, 1, 1}, neutral{};
  for (std::size_t c = 0; c < 3; ++c) {
    if (const float a = colour.dng_levels.analogbalance[c]; a > 0) analog[c] = a;
    if (!(gain[c] > 0)) return {};
    neutral[c] = 1.0 / double(gain[c]);
  }
  return balancedToRec709(lights, analog, neutral);
}

std::array<float, 3> balance(const libraw_colordata_t& colour) {
  const float* source =
      colour.cam_mul[0] > 0 && colour.cam_mul[1] > 0 && colour.cam_mul[2] > 0 ? colour.cam_mul : colour.pre_mul;
  const float largest = std::max({source[0], source[1], source[2]});
  if (!(largest > 0)) return {1, 1, 1};
  return {source[0] / largest, source[1] / largest, source[2] / largest};
}

void configure(libraw_output_params_t& out, const std::array<float, 3>& multipliers) {
  out.output_bps = 16;
  out.output_color = 0;
  out.gamm[0] = out.gamm[1] = 1;
  out.no_auto_bright = 1;
  out.highlight = 1; // the largest multiplier is 1: no channel is cut
  out.user_qual = 3; // X-Trans gets its three passes; mosaics of red, green and blue do not come here
  for (int c = 0; c < 4; ++c) out.user_mul[c] = multipliers[c == 3 ? 1 : c];
}

tl::unexpected<Error> damaged(const std::filesystem::path& path, int code) {
  return unreadable(path, phrase("the raw data are damaged or unknown ({})", libraw_strerror(code)));
}

Result<std::unique_ptr<LibRaw>> unpacked(const std::filesystem::path& path) {
  auto raw = std::make_unique<LibRaw>();
  if (const int code = raw->open_file(path.c_str()); code != LIBRAW_SUCCESS) return damaged(path, code);
  const auto& sizes = raw->imgdata.sizes;
  if (auto size = checkSize(path, sizes.width, sizes.height); !size) return passOn(size.error());
  if (const int code = raw->unpack(); code != LIBRAW_SUCCESS) return damaged(path, code);
  return raw;
}

/// The visible part of a plain mosaic; no data when the file holds another kind.
MosaicView mosaicOf(LibRaw& raw) {
  const auto& sizes = raw.imgdata.sizes;
  if (!raw.imgdata.rawdata.raw_image || raw.imgdata.idata.filters < 1000) return {nullptr, 0, 0, 0};
  const auto pitch = std::ptrdiff_t(sizes.raw_pitch / sizeof(std::uint16_t));
  return {raw.imgdata.rawdata.raw_image + sizes.top_margin * pitch + sizes.left_margin, sizes.width, sizes.height,
          pitch};
}

/// Left and right of the picture, where the file says that no light comes.
std::vector<MaskedStrip> stripsOf(LibRaw& raw) {
  const auto& s = raw.imgdata.sizes;
  const auto pitch = std::ptrdiff_t(s.raw_pitch / sizeof(std::uint16_t));
  const int top = s.top_margin, left = s.left_margin, right = left + s.width;
  std::vector<MaskedStrip> strips;
  for (const auto& [maskTop, maskLeft, maskBottom, maskRight] : s.mask) {
    const int from = std::max(0, maskLeft), to = std::min(int(s.raw_width), maskRight);
    if (maskTop > top || maskBottom < top + s.height || from >= to || (to > left && from < right)) continue;
    strips.push_back({raw.imgdata.rawdata.raw_image + top * pitch + from, to - from, pitch, left - from});
  }
  return strips;
}

/// A file whose pixels were stripped opens without complaint: all its samples are the same.
bool holdsNothing(const MosaicView& mosaic) {
  for (int y = 0; y < mosaic.height; ++y)
    for (int x = 0; x < mosaic.width; ++x)
      if (mosaic.data[y * mosaic.pitch + x] != mosaic.data[0]) return false;
  return true;
}

} // namespace

namespace {

/// Colours, black and white of a mosaic of three colours; nothing when it has another pattern.
std::optional<BayerMosaic> bayerOf(LibRaw& raw, const MosaicView& view) {
  const auto& colour = raw.imgdata.color;
  BayerMosaic m;
  m.codes = {view.data, view.width, view.height, 1, view.pitch};
  for (int k = 0; k < 4; ++k) {
    const int x = k & 1, y = k >> 1, found = raw.COLOR(y, x);
    m.colours[std::size_t(k)] = found == 3 ? 1 : found;
    double black = double(colour.black) + double(colour.cblack[found]);
    if (const unsigned rows = colour.cblack[4], columns = colour.cblack[5]; rows * columns > 0)
      black += colour.cblack[6 + (unsigned(y) % rows) * columns + unsigned(x) % columns];
    m.black[std::size_t(k)] = float(black);
  }
  const auto& c = m.colours;
  const bool diagonal = (c[0] == 1 && c[3] == 1 && c[1] + c[2] == 2 && c[1] != 1) ||
                        (c[1] == 1 && c[2] == 1 && c[0] + c[3] == 2 && c[0] != 1);
  m.white = float(int(colour.maximum));
  if (!diagonal || raw.imgdata.idata.colors != 3 || view.width < 16 || view.height < 16) return {};
  return m;
}

/// Exif's number for LibRaw's.
int orientationOf(int flip) {
  return flip == 3 ? 3 : flip == 5 ? 8 : flip == 6 ? 6 : 1;
}

/// The same photosites as they lie in `codes`, which are turned: colours and blacks go with them.
BayerMosaic turnedAs(const BayerMosaic& stored, ImageView<const std::uint16_t> codes, int orientation) {
  BayerMosaic m = stored;
  m.codes = codes;
  const Turn turn{stored.codes.width, stored.codes.height, orientation};
  for (int k = 0; k < 4; ++k) {
    int u, v;
    turn.source(k & 1, k >> 1, u, v);
    const std::size_t from = std::size_t(2 * (v & 1) + (u & 1));
    m.colours[std::size_t(k)] = stored.colours[from];
    m.black[std::size_t(k)] = stored.black[from];
  }
  if (stored.rows.empty()) return m;
  const bool sideways = orientation >= 5;
  std::vector<float>& lines = sideways ? m.columns : m.rows;
  lines.resize(std::size_t(sideways ? codes.width : codes.height));
  for (std::size_t i = 0; i < lines.size(); ++i) {
    int u, v;
    turn.source(sideways ? int(i) : 0, sideways ? 0 : int(i), u, v);
    lines[i] = stored.rows[std::size_t(v)];
  }
  if (sideways) m.rows.clear();
  return m;
}

Result<void> keepPhotosites(const std::filesystem::path& path, LibRaw& raw, const BayerMosaic& mosaic, bool half,
                            RawImage& image) {
  const float most = *std::max_element(mosaic.black.begin(), mosaic.black.end());
  if (!(mosaic.white > most + 15))
    return unreadable(
        path, phrase("its black level ({}) leaves no room below its white level ({}); use the camera's original file",
                     std::to_string(int(most)), std::to_string(int(mosaic.white))));
  const int orientation = orientationOf(raw.imgdata.sizes.flip);
  Image<std::uint16_t> codes;
  if (orientation != 1) codes = oriented(mosaic.codes, orientation);
  const BayerMosaic turned = orientation == 1 ? mosaic : turnedAs(mosaic, codes.view(), orientation);
  image.pixels = half ? binned(turned) : photositeCodes(turned);
  if (!half) image.pattern = turned.colours;
  image.black = kPedestal;
  return {};
}

Result<void> developByLibrary(const std::filesystem::path& path, LibRaw& raw, bool half, RawImage& image) {
  configure(raw.imgdata.params, image.saturation);
  raw.imgdata.params.half_size = half;
  if (const int code = raw.dcraw_process(); code != LIBRAW_SUCCESS) return damaged(path, code);
  int code = LIBRAW_SUCCESS;
  const std::unique_ptr<libraw_processed_image_t, void (*)(libraw_processed_image_t*)> made(
      raw.dcraw_make_mem_image(&code), LibRaw::dcraw_clear_mem);
  if (!made || made->colors != 3 || made->bits != 16) return damaged(path, code);
  image.pixels = Image<std::uint16_t>(made->width, made->height, 3);
  std::memcpy(image.pixels.data(), made->data, image.pixels.size() * sizeof(std::uint16_t));
  return {};
}

} // namespace

Result<RawImage> readRaw(const std::filesystem::path& path, int edge) {
  auto opened = unpacked(path);
  if (!opened) return passOn(opened.error());
  LibRaw& raw = **opened;
  const bool half = edge > 0 && std::max(raw.imgdata.sizes.width, raw.imgdata.sizes.height) >= 2 * edge;
  RawImage image;
  image.saturation = balance(raw.imgdata.color);
  const MosaicView view = mosaicOf(raw);
  if (view.data && holdsNothing(view))
    return unreadable(path, phrase("the raw file holds no picture, all its pixels are the same"));
  auto mosaic = view.data ? bayerOf(raw, view) : std::nullopt;
  if (view.data) mendDefects(view, mosaic ? double(mosaic->black[0]) : double(raw.imgdata.color.black));
  if (mosaic) mosaic->gain = image.saturation;
  if (auto masked = mosaic ? maskedBlack(stripsOf(raw), view.height) : std::nullopt)
    mosaic->black = masked->black, mosaic->rows = std::move(masked->rows);
  if (auto done = mosaic ? keepPhotosites(path, raw, *mosaic, half, image) : developByLibrary(path, raw, half, image);
      !done)
    return passOn(done.error());
  const auto byBoth = byTwoIlluminants(raw.imgdata.color, image.saturation);
  image.toRec709 = byBoth ? *byBoth : cameraToRec709(raw.imgdata.color);
  image.metadata.orientation = orientationOf(raw.imgdata.sizes.flip);
  const auto& other = raw.imgdata.other;
  if (other.shutter > 0) image.metadata.time = Seconds{other.shutter};
  if (other.aperture > 0) image.metadata.aperture = FNumber{other.aperture};
  if (other.iso_speed > 0) image.metadata.iso = Iso{other.iso_speed};
  return image;
}

Result<RawMosaic> readMosaic(const std::filesystem::path& path) {
  auto opened = unpacked(path);
  if (!opened) return passOn(opened.error());
  const auto& raw = *opened;
  if (!raw->imgdata.rawdata.raw_image || raw->imgdata.idata.filters < 1000)
    return fail(ErrorCode::UnsupportedFormat,
                phrase("`{}` holds no plain mosaic of one sample a pixel; measure with an uncompressed raw file.",
                       path.string()));
  const auto& sizes = raw->imgdata.sizes;
  RawMosaic mosaic;
  mosaic.codes = Image<std::uint16_t>(sizes.width, sizes.height, 1);
  const std::size_t pitch = sizes.raw_pitch / sizeof(std::uint16_t);
  for (int y = 0; y < sizes.height; ++y)
    std::memcpy(mosaic.codes.row(y),
                raw->imgdata.rawdata.raw_image + (std::size_t(y) + sizes.top_margin) * pitch + sizes.left_margin,
                std::size_t(sizes.width) * 2);
  const auto& colour = raw->imgdata.color;
  mosaic.black = colour.black + colour.cblack[1];
  if (colour.cblack[4] * colour.cblack[5] > 0) mosaic.black = colour.black + colour.cblack[6];
  mosaic.white = colour.maximum;
  mosaic.iso.value = raw->imgdata.other.iso_speed;
  mosaic.time.value = raw->imgdata.other.shutter;
  return mosaic;
}

} // namespace ml
