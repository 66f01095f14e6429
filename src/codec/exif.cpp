// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exif.h"

#include "codec/code_image.h"
#include "exposure/marks.h"

#include <cmath>
#include <exiv2/exiv2.hpp>
#include <fmt/format.h>
#include <mutex>

namespace ml {
namespace {

void quiet() {
  static std::once_flag once;
  std::call_once(once, [] {
    Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
    Exiv2::XmpParser::initialize();
    Exiv2::enableBMFF(true); // HEIF
  });
}

/// Exiv2 of Debian 12 throws one of two types (its errors carry narrow or wide text).
template <class Work> std::optional<std::string> attempt(const Work& work) {
  quiet();
  try {
    work();
    return {};
  } catch (const std::exception& error) {
    return std::string(error.what());
  }
}

std::optional<double> positive(const Exiv2::ExifData& exif, const char* key) {
  const auto found = exif.findKey(Exiv2::ExifKey(key));
  if (found == exif.end() || found->count() < 1) return {};
  const double value = found->toFloat();
  return std::isfinite(value) && value > 0 ? std::optional(value) : std::nullopt;
}

std::string text(const Exiv2::ExifData& exif, const char* key) {
  const auto found = exif.findKey(Exiv2::ExifKey(key));
  return found == exif.end() ? std::string() : found->toString();
}

ShotMetadata fromExif(const Exiv2::ExifData& exif) {
  ShotMetadata m;
  if (const auto t = positive(exif, "Exif.Photo.ExposureTime"))
    m.time = Seconds{*t};
  else if (const auto tv = exif.findKey(Exiv2::ExifKey("Exif.Photo.ShutterSpeedValue"));
           tv != exif.end() && tv->count() > 0)
    m.time = Seconds{std::exp2(-double(tv->toFloat()))};
  if (const auto n = positive(exif, "Exif.Photo.FNumber"))
    m.aperture = FNumber{*n};
  else if (const auto av = positive(exif, "Exif.Photo.ApertureValue"))
    m.aperture = FNumber{std::exp2(*av / 2)};
  if (const auto s = positive(exif, "Exif.Photo.ISOSpeedRatings")) m.iso = Iso{*s};
  if (const auto bias = exif.findKey(Exiv2::ExifKey("Exif.Photo.ExposureBiasValue"));
      bias != exif.end() && bias->count() > 0)
    if (const double value = bias->toFloat(); std::isfinite(value)) m.bias = Stops{value};
  if (const auto f = positive(exif, "Exif.Photo.FocalLength")) m.focalLengthMm = *f;
  if (const auto f = positive(exif, "Exif.Photo.FocalLengthIn35mmFilm")) m.focalLength35mm = *f;
  if (const auto o = positive(exif, "Exif.Image.Orientation"); o && *o <= 8) m.orientation = int(*o);
  if (const auto w = positive(exif, "Exif.Photo.PixelXDimension")) m.width = int(std::min(*w, 1e6));
  if (const auto h = positive(exif, "Exif.Photo.PixelYDimension")) m.height = int(std::min(*h, 1e6));
  if (const auto flash = exif.findKey(Exiv2::ExifKey("Exif.Photo.Flash")); flash != exif.end() && flash->count() > 0)
    m.flash = flash->toLong() & 1; // Exif 2.32, table of tag 9209.H
  m.camera = text(exif, "Exif.Image.Model");
  m.takenAt = text(exif, "Exif.Photo.DateTimeOriginal");
  const std::string fraction = "0." + text(exif, "Exif.Photo.SubSecTimeOriginal");
  m.subSecond = int(1000 * std::strtod(fraction.c_str(), nullptr));
  return m;
}

/// "1/125" is stored as 1/125, "0.4 s" as 4/10: what the camera's display says.
Exiv2::Rational printedTime(Seconds t) {
  const std::string mark = markOf(t);
  if (mark.rfind("1/", 0) == 0) return {1, std::stoi(mark.substr(2))};
  const double shown = mark.rfind("bulb", 0) == 0 ? std::round(t.value) : std::strtod(mark.c_str(), nullptr);
  return {int(std::lround(shown * 10)), 10};
}

void toExif(const ShotMetadata& m, Exiv2::ExifData& exif) {
  if (m.time) exif["Exif.Photo.ExposureTime"] = printedTime(*m.time);
  if (m.aperture)
    exif["Exif.Photo.FNumber"] =
        Exiv2::Rational(int(std::lround(std::strtod(markOf(*m.aperture).c_str() + 2, nullptr) * 10)), 10);
  if (m.iso)
    exif["Exif.Photo.ISOSpeedRatings"] =
        std::uint16_t(std::min(65535.0, std::strtod(print(*m.iso).c_str() + 4, nullptr)));
  if (m.bias) exif["Exif.Photo.ExposureBiasValue"] = Exiv2::Rational(int(std::lround(m.bias->value * 3)), 3);
  if (m.focalLengthMm) exif["Exif.Photo.FocalLength"] = Exiv2::Rational(int(std::lround(*m.focalLengthMm * 10)), 10);
  if (m.focalLength35mm)
    exif["Exif.Photo.FocalLengthIn35mmFilm"] = std::uint16_t(std::clamp(*m.focalLength35mm, 0.0, 65535.0) + 0.5);
  if (m.flash) exif["Exif.Photo.Flash"] = std::uint16_t{1};
  if (!m.camera.empty()) exif["Exif.Image.Model"] = m.camera;
  if (!m.takenAt.empty()) {
    exif["Exif.Photo.DateTimeOriginal"] = m.takenAt;
    exif["Exif.Photo.SubSecTimeOriginal"] = fmt::format("{:03d}", m.subSecond);
  }
}

void eraseStale(Exiv2::ExifData& exif) {
  for (auto i = exif.begin(); i != exif.end();) {
    const std::string group = i->groupName(), key = i->key();
    const bool wanted =
        (group == "Image" || group == "Photo" || group == "GPSInfo") &&
        // of an Image group only what describes the picture, not how its samples lie in the file
        (group != "Image" || key == "Exif.Image.Make" || key == "Exif.Image.Model" || key == "Exif.Image.Artist" ||
         key == "Exif.Image.Copyright" || key == "Exif.Image.ImageDescription" || key == "Exif.Image.DateTime") &&
        key != "Exif.Photo.MakerNote" && key != "Exif.Photo.ExposureBiasValue" && key != "Exif.Photo.PixelXDimension" &&
        key != "Exif.Photo.PixelYDimension";
    i = wanted ? std::next(i) : exif.erase(i);
  }
}

} // namespace

Result<ShotMetadata> readExif(const std::filesystem::path& path) {
  ShotMetadata metadata;
  const auto problem = attempt([&] {
    auto image = Exiv2::ImageFactory::open(path.string());
    image->readMetadata();
    metadata = fromExif(image->exifData());
  });
  if (problem) return unreadable(path, "its metadata are damaged (" + *problem + ")");
  return metadata;
}

namespace {

/// Degrees of three rationals, and its sign.
std::optional<double> degreesOf(const Exiv2::ExifData& exif, const char* key, const char* reference,
                                const char* negative) {
  const auto value = exif.findKey(Exiv2::ExifKey(key)), side = exif.findKey(Exiv2::ExifKey(reference));
  if (value == exif.end() || side == exif.end() || value->count() < 1 || value->count() > 3) return {};
  double degrees = 0, unit = 1;
  for (long i = 0; i < long(value->count()); ++i, unit *= 60) {
    const auto part = value->toRational(i);
    if (part.second == 0) return {};
    degrees += double(part.first) / double(part.second) / unit;
  }
  return side->toString().starts_with(negative) ? -degrees : degrees;
}

} // namespace

std::optional<std::pair<double, double>> readLocation(const std::filesystem::path& path) {
  std::optional<std::pair<double, double>> out;
  (void)attempt([&] {
    auto image = Exiv2::ImageFactory::open(path.string());
    image->readMetadata();
    const auto& exif = image->exifData();
    const auto latitude = degreesOf(exif, "Exif.GPSInfo.GPSLatitude", "Exif.GPSInfo.GPSLatitudeRef", "S");
    const auto longitude = degreesOf(exif, "Exif.GPSInfo.GPSLongitude", "Exif.GPSInfo.GPSLongitudeRef", "W");
    if (latitude && longitude && std::abs(*latitude) <= 90 && std::abs(*longitude) <= 180)
      out = std::pair(*latitude, *longitude);
  });
  return out;
}

Result<void> writeExif(const std::filesystem::path& path, const ShotMetadata& metadata) {
  const auto problem = attempt([&] {
    auto image = Exiv2::ImageFactory::open(path.string());
    image->readMetadata();
    toExif(metadata, image->exifData());
    image->writeMetadata();
  });
  if (problem) return unwritable(path, *problem);
  return {};
}

namespace {

struct Carried {
  Exiv2::ExifData exif;
  Exiv2::IptcData iptc;
  Exiv2::XmpData xmp;
};

/// A source without readable metadata gives none: the picture matters more.
Carried carriedFrom(const std::filesystem::path& from, const std::string& software, const MetadataWishes& wishes) {
  Carried c;
  attempt([&] {
    auto source = Exiv2::ImageFactory::open(from.string());
    source->readMetadata();
    c.exif = source->exifData();
    c.iptc = source->iptcData();
    c.xmp = source->xmpData();
  });
  eraseStale(c.exif);
  if (!wishes.keepLocation) {
    for (auto i = c.exif.begin(); i != c.exif.end();)
      i = i->groupName() == "GPSInfo" || i->key() == "Exif.Image.GPSTag" ? c.exif.erase(i) : std::next(i);
    for (auto i = c.xmp.begin(); i != c.xmp.end();)
      i = i->tagName().rfind("GPS", 0) == 0 || i->tagName() == "Location" ? c.xmp.erase(i) : std::next(i);
    for (auto i = c.iptc.begin(); i != c.iptc.end();)
      i = i->tagName() == "City" || i->tagName() == "SubLocation" || i->tagName() == "ProvinceState" ||
                  i->tagName() == "CountryName" || i->tagName() == "CountryCode"
              ? c.iptc.erase(i)
              : std::next(i);
  }
  c.exif["Exif.Image.Software"] = software;
  c.exif["Exif.Image.Orientation"] = std::uint16_t(1);
  if (!wishes.creator.empty()) c.exif["Exif.Image.Artist"] = wishes.creator;
  if (!wishes.rights.empty()) c.exif["Exif.Image.Copyright"] = wishes.rights;
  if (wishes.ppi > 0) {
    c.exif["Exif.Image.XResolution"] = Exiv2::Rational(wishes.ppi, 1);
    c.exif["Exif.Image.YResolution"] = Exiv2::Rational(wishes.ppi, 1);
    c.exif["Exif.Image.ResolutionUnit"] = std::uint16_t(2);
  }
  return c;
}

} // namespace

Result<void> carryMetadata(const std::filesystem::path& from, const std::filesystem::path& to,
                           const std::string& software, const MetadataWishes& wishes) {
  const Carried c = carriedFrom(from, software, wishes);
  const auto problem = attempt([&] {
    auto image = Exiv2::ImageFactory::open(to.string());
    image->readMetadata();
    for (const auto& datum : c.exif) image->exifData()[datum.key()] = datum.value();
    image->setIptcData(c.iptc);
    image->setXmpData(c.xmp);
    image->writeMetadata();
  });
  if (problem) return unwritable(to, *problem);
  return {};
}

Result<void> markSphere(const std::filesystem::path& file, int width, int height) {
  const auto problem = attempt([&] {
    Exiv2::XmpProperties::registerNs("http://ns.google.com/photos/1.0/panorama/", "GPano");
    auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    Exiv2::XmpData& xmp = image->xmpData();
    xmp["Xmp.GPano.ProjectionType"] = "equirectangular";
    xmp["Xmp.GPano.UsePanoramaViewer"] = "True";
    for (const char* key : {"Xmp.GPano.FullPanoWidthPixels", "Xmp.GPano.CroppedAreaImageWidthPixels"})
      xmp[key] = std::to_string(width);
    for (const char* key : {"Xmp.GPano.FullPanoHeightPixels", "Xmp.GPano.CroppedAreaImageHeightPixels"})
      xmp[key] = std::to_string(height);
    for (const char* key : {"Xmp.GPano.CroppedAreaLeftPixels", "Xmp.GPano.CroppedAreaTopPixels"}) xmp[key] = "0";
    image->writeMetadata();
  });
  if (problem) return unwritable(file, *problem);
  return {};
}

Result<void> markGainMap(const std::filesystem::path& file, std::size_t bytes) {
  const auto problem = attempt([&] {
    Exiv2::XmpProperties::registerNs("http://ns.adobe.com/hdr-gain-map/1.0/", "hdrgm");
    Exiv2::XmpProperties::registerNs("http://ns.google.com/photos/1.0/container/", "Container");
    Exiv2::XmpProperties::registerNs("http://ns.google.com/photos/1.0/container/item/", "Item");
    auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    Exiv2::XmpData& xmp = image->xmpData();
    xmp["Xmp.hdrgm.Version"] = "1.0";
    Exiv2::XmpTextValue list;
    list.setXmpArrayType(Exiv2::XmpValue::xaSeq);
    xmp.add(Exiv2::XmpKey("Xmp.Container.Directory"), &list);
    const auto item = [&](int number, const char* what, std::size_t length) {
      const std::string key = "Xmp.Container.Directory[" + std::to_string(number) + "]";
      Exiv2::XmpTextValue entry;
      entry.setXmpStruct();
      xmp.add(Exiv2::XmpKey(key), &entry);
      const std::string fields = key + "/Container:Item/Item:";
      xmp.add(Exiv2::XmpKey(key + "/Container:Item"), &entry);
      xmp[fields + "Semantic"] = what;
      xmp[fields + "Mime"] = "image/jpeg";
      if (length > 0) xmp[fields + "Length"] = std::to_string(length);
    };
    item(1, "Primary", 0);
    item(2, "GainMap", bytes);
    image->writeMetadata();
  });
  if (problem) return unwritable(file, *problem);
  return {};
}

std::vector<unsigned char> exifBlob(const std::filesystem::path& from, const std::string& software,
                                    const MetadataWishes& wishes) {
  Carried c = carriedFrom(from, software, wishes);
  Exiv2::Blob blob;
  if (attempt([&] { Exiv2::ExifParser::encode(blob, Exiv2::littleEndian, c.exif); })) return {};
  return blob;
}

} // namespace ml
