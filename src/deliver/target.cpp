// SPDX-License-Identifier: GPL-3.0-or-later
#include "deliver/target.h"

#include "base/atomic_file.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "base/vector_clones.h"
#include "base/version.h"
#include "codec/avif_file.h"
#include "codec/exr.h"
#include "codec/gain_map.h"
#include "codec/icc.h"
#include "codec/jpeg.h"
#include "codec/jxl_file.h"
#include "codec/png_file.h"
#include "codec/tiff_file.h"
#include "image/bytes.h"
#include "image/resample.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr int kFields = 8;
constexpr double kMeanTolerance = 0.006; ///< Of full scale; compression moves the mean of a large field less,
constexpr double kLargeField = 24 * 24;  ///< of fewer pixels, as of independent ones, by more.

double toleranceFor(int width, int height) {
  const double pixels = std::max(1.0, double(width) * height / (kFields * kFields));
  return kMeanTolerance * std::max(1.0, std::sqrt(kLargeField / pixels));
}

using Means = std::array<double, kFields * kFields * 3>;

// Sums of a stretch of pixels by channel, in lanes that are a multiple of three channels and of any vector.
constexpr int kLanes = 48;
ML_VECTOR_CLONES void addLanes(const float* p, int n, float* __restrict lanes) {
  for (int i = 0; i < n; i += kLanes)
    for (int k = 0; k < kLanes; ++k) lanes[k] += p[i + k];
}
ML_VECTOR_CLONES void addLanes(const std::uint8_t* p, int n, std::uint32_t* __restrict lanes) {
  for (int i = 0; i < n; i += kLanes)
    for (int k = 0; k < kLanes; ++k) lanes[k] += p[i + k];
}
ML_VECTOR_CLONES void addLanes(const std::uint16_t* p, int n, std::uint32_t* __restrict lanes) {
  for (int i = 0; i < n; i += kLanes)
    for (int k = 0; k < kLanes; ++k) lanes[k] += p[i + k];
}
/// Adds three channels of pixels, at most 65536 of them, to `sum`.
template <class T> void addPixels(const T* p, int pixels, double* sum) {
  std::conditional_t<std::is_floating_point_v<T>, float, std::uint32_t> lanes[kLanes] = {};
  const int n = 3 * pixels, whole = n / kLanes * kLanes;
  addLanes(p, whole, lanes);
  for (int i = whole; i < n; ++i) lanes[i - whole] += p[i];
  for (int k = 0; k < kLanes; ++k) sum[k % 3] += double(lanes[k]);
}

ML_VECTOR_CLONES float mostOf(const float* in, int n) {
  float most = 0;
  for (int i = 0; i < n; ++i) most = most > in[i] ? most : in[i];
  return most;
}

/// Means of 8 x 8 fields of a picture that comes a few rows at a time.
class MeansByRows {
public:
  MeansByRows(int width, int height) : width_(width), height_(height) {}

  void add(int y0, ImageView<const float> rows) {
    if (y0 + rows.height > height_ || rows.width != width_ || rows.channels != 3) {
      sameShape_ = false;
      return;
    }
    forEachBand(
        kFields,
        [&](const Band& column) {
          for (int y = 0; y < rows.height; ++y)
            addRow(rows.row(y), column.begin, std::min(kFields - 1, ((y0 + y + 1) * kFields - 1) / height_));
        },
        1);
    seen_ += rows.height;
  }
  [[nodiscard]] bool complete() const { return sameShape_ && seen_ == height_; }
  [[nodiscard]] Means means(double full) const {
    Means out{};
    for (std::size_t k = 0; k < out.size(); ++k) out[k] = count_[k / 3] > 0 ? sums_[k] / count_[k / 3] / full : 0;
    return out;
  }

private:
  void addRow(const float* row, int i, int j) {
    const int x0 = width_ * i / kFields, x1 = width_ * (i + 1) / kFields, field = j * kFields + i;
    addPixels(row + 3 * x0, x1 - x0, sums_.data() + 3 * field);
    count_[std::size_t(field)] += x1 - x0;
  }

  int width_, height_, seen_ = 0;
  bool sameShape_ = true;
  Means sums_{};
  std::array<double, kFields * kFields> count_{};
};

template <class T> Means meansOf(ImageView<const T> in, double full) {
  Means out{};
  forEachBand(
      kFields,
      [&](const Band& band) {
        const int j = band.begin;
        for (int i = 0; i < kFields; ++i) {
          const int x0 = in.width * i / kFields, x1 = std::max(x0 + 1, in.width * (i + 1) / kFields),
                    y0 = in.height * j / kFields, y1 = std::max(y0 + 1, in.height * (j + 1) / kFields);
          const int rows = std::max(0, std::min(y1, in.height) - y0),
                    columns = std::max(0, std::min(x1, in.width) - x0);
          double sum[3] = {};
          for (int y = y0; y < y0 + rows; ++y) addPixels(in.at(x0, y), columns, sum);
          const double n = double(rows) * columns;
          for (int c = 0; c < 3; ++c) out[std::size_t((j * kFields + i) * 3 + c)] = n > 0 ? sum[c] / n / full : 0;
        }
      },
      1);
  return out;
}

Result<void> compare(const fs::path& file, const Means& meant, const Means& found, bool sameSize, double tolerance) {
  double worst = sameSize ? 0 : 1;
  for (std::size_t i = 0; i < meant.size(); ++i) worst = std::max(worst, std::abs(meant[i] - found[i]));
  if (worst <= tolerance) return {};
  return fail(ErrorCode::CannotWrite,
              phrase("`{}` was written, but what can be read back differs from the picture; write it to another disk.",
                     file.string()));
}

/// Display-linear Rec. 709 of sRGB codes.
Image<float> linearOf(ImageView<const std::uint16_t> codes) {
  static const std::vector<float> table = [] {
    std::vector<float> values(65536);
    for (std::size_t i = 0; i < values.size(); ++i) values[i] = float(srgbDecode(double(i) / 65535));
    return values;
  }();
  Image<float> out(codes.width, codes.height, 3);
  forEachBand(codes.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int i = 0; i < 3 * codes.width; ++i) out.row(y)[i] = table[codes.row(y)[i]];
  });
  return out;
}

/// Unsharp mask of one pixel on roots of light, limited as in the finish.
void sharpen(Image<float>& light, double amount) {
  const int w = light.width(), h = light.height();
  Image<float> root(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) root.row(y)[x] = std::sqrt(std::max(0.f, luminance(light.at(x, y))));
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        const auto at = [&](int u, int v) { return root.row(std::clamp(v, 0, h - 1))[std::clamp(u, 0, w - 1)]; };
        const float here = std::max(1e-3f, at(x, y));
        const float mean = (4 * at(x, y) + 2 * (at(x - 1, y) + at(x + 1, y) + at(x, y - 1) + at(x, y + 1)) +
                            at(x - 1, y - 1) + at(x + 1, y - 1) + at(x - 1, y + 1) + at(x + 1, y + 1)) /
                           16;
        const float sharper = std::max(0.f, here + 2 * float(amount) * std::clamp(here - mean, -0.04f, 0.04f)),
                    gain = sharper * sharper / (here * here);
        for (int c = 0; c < 3; ++c) light.at(x, y)[c] *= gain;
      }
  });
}

/// Codes 0..65535 of a target's size and space.
Image<std::uint16_t> codesFor(const Material& m, const Target& t) {
  Image<float> light = linearOf(m.picture);
  if (t.longEdge > 0 && t.longEdge < std::max(light.width(), light.height())) {
    const Roi size = fitted(light.width(), light.height(), t.longEdge);
    light = shrinkTo(std::as_const(light).view(), size.width, size.height);
  }
  if (t.sharpening > 0) sharpen(light, t.sharpening);
  std::vector<std::uint16_t> table(65537);
  for (std::size_t i = 0; i < table.size(); ++i) { // over the square root of light
    const double root = double(i) / 65536;
    table[i] = std::uint16_t(std::lround(65535 * encodeFor(t.space, root * root)));
  }
  const Matrix3& m3 = rec709To(t.space);
  Image<std::uint16_t> out(light.width(), light.height(), 3);
  forEachBand(light.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < light.width(); ++x) {
        const float* p = light.at(x, y);
        for (std::size_t c = 0; c < 3; ++c) {
          const double v = m3[3 * c] * p[0] + m3[3 * c + 1] * p[1] + m3[3 * c + 2] * p[2];
          out.at(x, y)[c] = table[std::size_t(std::lround(std::sqrt(std::clamp(v, 0.0, 1.0)) * 65536))];
        }
      }
  });
  return out;
}

/// The best quality whose file is small enough; halving between 40 and the wanted one.
Result<void> writeJpegWithin(const fs::path& file, ImageView<const std::uint8_t> bytes, const Target& t,
                             const StopFlag& stop) {
  const auto write = [&](int quality) {
    return writeJpeg(file, bytes, {quality, true, profileOf(t.space), t.mostKilobytes > 0, stop});
  };
  auto done = write(t.quality);
  const auto fits = [&] {
    std::error_code error;
    return fs::file_size(file, error) <= std::uintmax_t(t.mostKilobytes) * 1000;
  };
  if (!done || t.mostKilobytes <= 0 || fits()) return done;
  int low = 40, high = t.quality;
  while (high - low > 1) {
    const int middle = (low + high) / 2;
    if (done = write(middle); !done) return done;
    (fits() ? low : high) = middle;
  }
  if (done = write(low); !done) return done;
  if (!fits())
    return fail(ErrorCode::CannotWrite, phrase("`{}` does not fit into {} kB even at quality {}; ask for fewer pixels.",
                                               file.filename().string(), t.mostKilobytes, low));
  return done;
}

/// Writes JPEG, TIFF or PNG of codes that have the target's size and space, with metadata, and reads it back.
template <class T, class Write>
Result<void> writeAndReadBack(const Material& m, const Target& t, const fs::path& file, ImageView<const T> codes,
                              double full, const StopFlag& stop, const Write& write) {
  const Means meant = meansOf<T>(codes, full);
  if (Result<void> done = write(); !done) return done;
  MetadataWishes wishes = m.wishes;
  wishes.ppi = t.ppi;
  if (m.metadataFrom)
    if (auto done = carryMetadata(*m.metadataFrom, file, software(), wishes); !done) return done;
  if (m.sphere && t.format != Target::Format::Png)
    if (auto done = markSphere(file, codes.width, codes.height); !done) return done;
  const auto back = t.format == Target::Format::Tiff  ? readTiff(file, stop)
                    : t.format == Target::Format::Png ? readPng(file)
                                                      : readJpeg(file, stop);
  if (!back) return passOn(back.error());
  const bool same = back->pixels.width() == codes.width && back->pixels.height() == codes.height;
  const double most = back->maxCode;
  const Means found = back->pixels.visit([&]<class U>(ImageView<const U> view) { return meansOf<U>(view, most); });
  return compare(file, meant, found, same, toleranceFor(codes.width, codes.height));
}

Result<void> writeJpegOf(const Material& m, const Target& t, const fs::path& file, ImageView<const std::uint8_t> bytes,
                         const StopFlag& stop) {
  return writeAndReadBack(m, t, file, bytes, 255, stop, [&] { return writeJpegWithin(file, bytes, t, stop); });
}

Result<void> writeCodes(const Material& m, const Target& t, const fs::path& file, const StopFlag& stop) {
  if (!needsDeepCodes(t) && !m.bytes.empty()) return writeJpegOf(m, t, file, m.bytes, stop);
  const bool asItIs = t.space == ColourSpace::Srgb && t.sharpening == 0 &&
                      (t.longEdge <= 0 || t.longEdge >= std::max(m.picture.width, m.picture.height));
  const Image<std::uint16_t> made = asItIs ? Image<std::uint16_t>() : codesFor(m, t);
  const ImageView<const std::uint16_t> codes = asItIs ? m.picture : made.view();
  if (t.format == Target::Format::Jpeg) {
    const Image<std::uint8_t> bytes = bytesOf(codes);
    return writeJpegOf(m, t, file, bytes.view(), stop);
  }
  if (stop.requested()) return stopped();
  return writeAndReadBack(m, t, file, codes, 65535, stop, [&] {
    return t.format == Target::Format::Tiff ? writeTiff16(file, codes, profileOf(t.space), t.ppi, stop)
                                            : writePng(file, codes, 65535, profileOf(t.space));
  });
}

Result<void> writeHdrPicture(const Material& m, const Target& t, const fs::path& file, const Progress& progress) {
  auto light = m.light(kHeadroomStops);
  if (!light) return passOn(light.error());
  if (progress.stopRequested()) return stopped();
  std::vector<std::uint16_t> table(65537); // over the fourth root of light up to 2^headroom
  const double most = std::exp2(kHeadroomStops);
  for (std::size_t i = 0; i < table.size(); ++i)
    table[i] = std::uint16_t(std::lround(65535 * pqEncode(kPaperWhiteNits * most * std::pow(double(i) / 65536, 4))));
  Image<std::uint16_t> signal(light->width(), light->height(), 3);
  forEachBand(signal.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < signal.width(); ++x) {
        const float* p = light->at(x, y);
        for (std::size_t c = 0; c < 3; ++c) {
          const double v =
              kRec709ToRec2020[3 * c] * p[0] + kRec709ToRec2020[3 * c + 1] * p[1] + kRec709ToRec2020[3 * c + 2] * p[2];
          signal.at(x, y)[c] =
              table[std::size_t(std::lround(std::sqrt(std::sqrt(std::clamp(v / most, 0.0, 1.0))) * 65536))];
        }
      }
  });
  const auto exif = m.metadataFrom ? exifBlob(*m.metadataFrom, software(), m.wishes) : std::vector<unsigned char>{};
  const bool avif = t.format == Target::Format::AvifHdr;
  if (auto done =
          avif ? writeAvifPq(file, signal.view(), t.quality, exif) : writeJxlPq(file, signal.view(), 1.0f, exif);
      !done)
    return done;
  const auto back = avif ? readAvif(file) : readJxl(file);
  if (!back) return passOn(back.error());
  const bool same = back->signal.width() == signal.width() && back->signal.height() == signal.height() &&
                    back->primaries == 9 && back->transfer == 16;
  return compare(file, meansOf<std::uint16_t>(std::as_const(signal).view(), 65535),
                 meansOf<std::uint16_t>(back->signal.view(), 65535), same,
                 toleranceFor(signal.width(), signal.height()));
}

/// An ordinary JPEG of the finish, with what bright screens show beyond it as a gain map behind it.
Result<void> writeHdrJpeg(const Material& m, const Target& t, const fs::path& file, const Progress& progress) {
  auto light = m.light(kHeadroomStops);
  if (!light) return passOn(light.error());
  if (progress.stopRequested()) return stopped();
  const Image<std::uint8_t> reduced = m.bytes.empty() ? bytesOf(m.picture) : Image<std::uint8_t>();
  const ImageView<const std::uint8_t> base = m.bytes.empty() ? reduced.view() : m.bytes;
  const GainMap map = gainMapOf(base, std::as_const(*light).view(), kHeadroomStops);
  if (auto written = writeJpegOf(m, t, file, base, progress.stop); !written) return written;
  if (auto attached = attachGainMap(file, map); !attached) return attached;
  const auto picture = readJpeg(file, progress.stop);
  if (!picture) return passOn(picture.error());
  const auto back = readGainMap(file);
  if (!back) return passOn(back.error());
  const bool same = picture->pixels.width() == base.width && back->codes.width() == map.codes.width() &&
                    back->codes.height() == map.codes.height();
  return compare(file, meansOf<std::uint8_t>(map.codes.view(), 255),
                 meansOf<std::uint8_t>(std::as_const(back->codes).view(), 255), same,
                 toleranceFor(map.codes.width(), map.codes.height()));
}

Result<void> writeArchive(const Material& m, const fs::path& file, const StopFlag& stop) {
  ExrOptions exr;
  exr.stop = stop;
  exr.text = m.notes;
  exr.text["software"] = software();
  if (auto done = writeExr(file, m.radiance, exr); !done) return done;
  float most = 1e-9f;
  MeansByRows meant(m.radiance.width, m.radiance.height), found(m.radiance.width, m.radiance.height);
  meant.add(0, m.radiance);
  for (int y = 0; y < m.radiance.height; y += 7) most = std::max(most, mostOf(m.radiance.row(y), 3 * m.radiance.width));
  if (auto back = readExrInBands(
          file, [&](int y, ImageView<const float> rows) { found.add(y, rows); }, stop);
      !back)
    return back;
  return compare(file, meant.means(double(most)), found.means(double(most)), found.complete(), kMeanTolerance);
}

} // namespace

const std::vector<Target>& targets() {
  static const std::vector<Target> all = [] {
    const auto make = [](std::string id, std::string shortName, std::string name, Target::Format format,
                         ColourSpace space, std::string suffix) {
      Target t;
      t.id = std::move(id), t.shortName = std::move(shortName), t.name = std::move(name), t.format = format,
      t.space = space, t.suffix = std::move(suffix);
      return t;
    };
    std::vector<Target> list{
        make("jpeg", "JPEG", phrase("JPEG, full size, sRGB"), Target::Format::Jpeg, ColourSpace::Srgb, ""),
        make("web", phrase("web JPEG"), phrase("JPEG for the web"), Target::Format::Jpeg, ColourSpace::Srgb, "-web"),
        make("print", phrase("print TIFF"), phrase("TIFF for print, 16 bit, opRGB"), Target::Format::Tiff,
             ColourSpace::OpRgb, "-print"),
        make("archive", "OpenEXR", phrase("OpenEXR, the radiance itself"), Target::Format::Exr, ColourSpace::Srgb, ""),
        make("hdr-avif", phrase("HDR AVIF"), phrase("AVIF for HDR screens"), Target::Format::AvifHdr, ColourSpace::Srgb,
             "-hdr"),
        make("hdr-jxl", phrase("HDR JPEG XL"), phrase("JPEG XL for HDR screens"), Target::Format::JxlHdr,
             ColourSpace::Srgb, "-hdr"),
        make("hdr-jpeg", phrase("HDR JPEG"), phrase("JPEG that bright screens show brighter"), Target::Format::JpegHdr,
             ColourSpace::Srgb, "-hdr")};
    list[1].longEdge = 2048, list[1].mostKilobytes = 1500, list[1].sharpening = 0.25;
    list[2].ppi = 300, list[2].sharpening = 0.2;
    list[4].quality = 85;
    return list;
  }();
  return all;
}

const Target* findTarget(const std::string& id) {
  for (const Target& t : targets())
    if (t.id == id) return &t;
  return nullptr;
}

bool needsDeepCodes(const Target& t) {
  if (t.format == Target::Format::Exr || t.hdr()) return false;
  return t.format != Target::Format::Jpeg || t.space != ColourSpace::Srgb || t.sharpening > 0 || t.longEdge > 0;
}

const char* endingOf(const Target& t) {
  static const char* kEndings[] = {".jpg", ".tif", ".png", ".exr", ".avif", ".jxl", ".jpg"};
  return kEndings[int(t.format)];
}

std::string sizeWords(const Target& t, int width, int height) {
  const Roi size = t.longEdge > 0 ? fitted(width, height, t.longEdge) : Roi{0, 0, width, height};
  std::string words = phrase("{} x {} pixels", size.width, size.height);
  if (t.ppi > 0)
    words += phrase(", {:.1f} x {:.1f} cm at {} ppi", size.width * 2.54 / t.ppi, size.height * 2.54 / t.ppi, t.ppi);
  if (t.mostKilobytes > 0) words += phrase(", up to {} kB", t.mostKilobytes);
  return words;
}

Result<std::string> fileName(const std::string& pattern, const NameFacts& f, const Target& t) {
  std::string out;
  for (std::size_t i = 0; i < pattern.size(); ++i) {
    if (pattern[i] != '{') {
      out += pattern[i];
      continue;
    }
    const std::size_t end = pattern.find('}', i);
    const std::string word = end == std::string::npos ? pattern.substr(i) : pattern.substr(i + 1, end - i - 1);
    if (word == "job")
      out += f.job;
    else if (word == "view")
      out += f.view;
    else if (word == "date")
      out += f.date;
    else if (word == "number")
      out += fmt::format("{:02d}", f.number);
    else if (word == "target")
      out += t.suffix;
    else if (word == "width")
      out += std::to_string(f.width);
    else if (word == "height")
      out += std::to_string(f.height);
    else
      return fail(ErrorCode::InvalidArgument, phrase("The file name knows {{job}}, {{view}}, {{number}}, {{date}}, "
                                                     "{{target}}, {{width}} and {{height}}, but not `{{{}}}`.",
                                                     word));
    i = end;
  }
  for (char& c : out)
    if (c == '/' || c == '\\' || c == ':' || static_cast<unsigned char>(c) < 32) c = '-';
  while (!out.empty() && (out.front() == '.' || out.front() == ' ')) out.erase(out.begin());
  if (out.empty()) return fail(ErrorCode::InvalidArgument, phrase("The file name is empty; put {view} into it."));
  return out;
}

fs::path freePath(const fs::path& folder, const std::string& name, const std::string& ending) {
  fs::path file = folder / (name + ending);
  std::error_code error;
  for (int n = 2; fs::exists(file, error); ++n) file = folder / fmt::format("{}-{}{}", name, n, ending);
  return file;
}

Result<void> deliverTarget(const Material& m, const Target& t, const fs::path& file, const Progress& progress) {
  if (progress.stopRequested()) return stopped();
  return writeAtomically(file, [&](const fs::path& temporary) -> Result<void> {
    if (t.format == Target::Format::Exr) return writeArchive(m, temporary, progress.stop);
    if (t.format == Target::Format::JpegHdr) return writeHdrJpeg(m, t, temporary, progress);
    if (t.hdr()) return writeHdrPicture(m, t, temporary, progress);
    return writeCodes(m, t, temporary, progress.stop);
  });
}

} // namespace ml
