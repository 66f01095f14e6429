// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/raw_file.h"

#include "base/phrase.h"
#include "codec/dng_samples.h"
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

constexpr int kSmallest = 16; // of either side of a mosaic that we demosaic

/// Where the picture begins in what sees light, from which patterns are counted.
struct Offset {
  int x, y;
};
Offset offsetOf(const LibRaw& raw, const Roi& shown) {
  return {shown.x - raw.imgdata.sizes.left_margin, shown.y - raw.imgdata.sizes.top_margin};
}

/// Red, green and blue of each block of two by two; nothing when the file has another pattern, or none.
std::optional<std::array<int, 4>> bayerColours(LibRaw& raw, const Roi& shown) {
  if (raw.imgdata.idata.filters < 1000 || raw.imgdata.idata.colors != 3) return {};
  if (shown.width < kSmallest || shown.height < kSmallest) return {};
  std::array<int, 4> c;
  const Offset from = offsetOf(raw, shown);
  for (int k = 0; k < 4; ++k) {
    const int found = raw.COLOR(from.y + (k >> 1), from.x + (k & 1));
    c[std::size_t(k)] = found == 3 ? 1 : found;
  }
  const bool diagonal = (c[0] == 1 && c[3] == 1 && c[1] + c[2] == 2 && c[1] != 1) ||
                        (c[1] == 1 && c[2] == 1 && c[0] + c[3] == 2 && c[0] != 1);
  return diagonal ? std::optional(c) : std::nullopt;
}

/// A raw file whose samples can be had: LibRaw's, or ours where we read them ourselves.
struct Unpacked {
  std::unique_ptr<LibRaw> library;
  Image<std::uint16_t> own;
  Roi shown; ///< Of the sensor; what LibRaw develops is not cropped.
};

/// What sees light, and of that what a DNG wants shown.
Roi shownPart(const std::filesystem::path& path, const LibRaw& raw) {
  const auto& s = raw.imgdata.sizes;
  const Roi active{s.left_margin, s.top_margin, s.width, s.height};
  const auto crop = raw.imgdata.idata.dng_version ? readDngCrop(path, s.raw_width, s.raw_height) : std::nullopt;
  if (!crop || crop->width < kSmallest || crop->height < kSmallest) return active;
  if (crop->x + crop->width > active.width || crop->y + crop->height > active.height) return active;
  return {active.x + crop->x, active.y + crop->y, crop->width, crop->height};
}

Result<Unpacked> unpacked(const std::filesystem::path& path) {
  Unpacked file{std::make_unique<LibRaw>(LIBRAW_OPIONS_NO_DATAERR_CALLBACK), {}, {}}; // it would write to the terminal
  LibRaw& raw = *file.library;
  if (const int code = raw.open_file(path.c_str()); code != LIBRAW_SUCCESS) return damaged(path, code);
  const auto& sizes = raw.imgdata.sizes;
  if (auto size = checkSize(path, sizes.width, sizes.height); !size) return passOn(size.error());
  file.shown = shownPart(path, raw);
  constexpr unsigned kDng11 = 0x01010000; // before it, differences of 16 bits were coded otherwise
  if (raw.imgdata.idata.dng_version >= kDng11 && bayerColours(raw, file.shown) &&
      checkSize(path, sizes.raw_width, sizes.raw_height))
    if (auto own = readDngSamples(path, {sizes.raw_width, sizes.raw_height, raw.imgdata.color.curve})) {
      file.own = std::move(*own);
      return file;
    }
  if (const int code = raw.unpack(); code != LIBRAW_SUCCESS) return damaged(path, code);
  return file;
}

/// Samples of the whole sensor; no data when the file holds no mosaic of one sample a pixel.
MosaicView sensorOf(Unpacked& file) {
  const auto& s = file.library->imgdata.sizes;
  if (!file.own.empty()) return {file.own.data(), file.own.width(), file.own.height(), file.own.width()};
  std::uint16_t* samples = file.library->imgdata.rawdata.raw_image;
  if (!samples || file.library->imgdata.idata.filters < 1000) return {nullptr, 0, 0, 0};
  return {samples, s.raw_width, s.raw_height, std::ptrdiff_t(s.raw_pitch / sizeof(std::uint16_t))};
}

/// The visible part of it.
MosaicView visible(const Roi& part, MosaicView sensor) {
  if (!sensor.data) return sensor;
  return {sensor.data + part.y * sensor.pitch + part.x, part.width, part.height, sensor.pitch};
}

/// Left and right of the picture, where the file says that no light comes.
std::vector<MaskedStrip> stripsOf(const LibRaw& raw, const Roi& part, const MosaicView& sensor) {
  const auto& s = raw.imgdata.sizes;
  const int top = part.y, left = part.x, right = left + part.width;
  std::vector<MaskedStrip> strips;
  for (const auto& [maskTop, maskLeft, maskBottom, maskRight] : s.mask) {
    const int from = std::max(0, maskLeft), to = std::min(int(s.raw_width), maskRight);
    if (maskTop > top || maskBottom < top + part.height || from >= to || (to > left && from < right)) continue;
    strips.push_back({sensor.data + top * sensor.pitch + from, to - from, sensor.pitch, left - from});
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
std::optional<BayerMosaic> bayerOf(LibRaw& raw, const Roi& shown, const MosaicView& view) {
  const auto& colour = raw.imgdata.color;
  const auto colours = bayerColours(raw, shown);
  if (!colours) return {};
  BayerMosaic m;
  m.codes = {view.data, view.width, view.height, 1, view.pitch};
  m.colours = *colours;
  const Offset from = offsetOf(raw, shown);
  for (int k = 0; k < 4; ++k) {
    const int x = from.x + (k & 1), y = from.y + (k >> 1);
    double black = double(colour.black) + double(colour.cblack[raw.COLOR(y, x)]);
    if (const unsigned rows = colour.cblack[4], columns = colour.cblack[5]; rows * columns > 0)
      black += colour.cblack[6 + (unsigned(y) % rows) * columns + unsigned(x) % columns];
    m.black[std::size_t(k)] = float(black);
  }
  m.white = float(int(colour.maximum));
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
  LibRaw& raw = *opened->library;
  const bool half = edge > 0 && std::max(raw.imgdata.sizes.width, raw.imgdata.sizes.height) >= 2 * edge;
  RawImage image;
  image.saturation = balance(raw.imgdata.color);
  const MosaicView sensor = sensorOf(*opened), view = visible(opened->shown, sensor);
  if (view.data && holdsNothing(view))
    return unreadable(path, phrase("the raw file holds no picture, all its pixels are the same"));
  auto mosaic = view.data ? bayerOf(raw, opened->shown, view) : std::nullopt;
  if (view.data) mendDefects(view, mosaic ? double(mosaic->black[0]) : double(raw.imgdata.color.black));
  if (mosaic) mosaic->gain = image.saturation;
  if (auto masked = mosaic ? maskedBlack(stripsOf(raw, opened->shown, sensor), view.height) : std::nullopt)
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
  const LibRaw& raw = *opened->library;
  const MosaicView view = visible(opened->shown, sensorOf(*opened));
  if (!view.data)
    return fail(ErrorCode::UnsupportedFormat,
                phrase("`{}` holds no plain mosaic of one sample a pixel; measure with an uncompressed raw file.",
                       path.string()));
  RawMosaic mosaic;
  mosaic.codes = Image<std::uint16_t>(view.width, view.height, 1);
  for (int y = 0; y < view.height; ++y) std::copy_n(view.data + y * view.pitch, view.width, mosaic.codes.row(y));
  const auto& colour = raw.imgdata.color;
  mosaic.black = colour.black + colour.cblack[1];
  if (colour.cblack[4] * colour.cblack[5] > 0) mosaic.black = colour.black + colour.cblack[6];
  mosaic.white = colour.maximum;
  mosaic.iso.value = raw.imgdata.other.iso_speed;
  mosaic.time.value = raw.imgdata.other.shutter;
  return mosaic;
}

} // namespace ml
