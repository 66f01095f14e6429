// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/lens_profile.h"

#include <cmath>
#include <exiv2/exiv2.hpp>
#include <lensfun/lensfun.h>

namespace ml {

struct LensShelf::Database {
  lfDatabase* db = lf_db_new();
  Database() = default;
  Database(const Database&) = delete;
  Database& operator=(const Database&) = delete;
  ~Database() { lf_db_destroy(db); }
};

namespace {

/// lensfun's lists end with null and are freed by the caller.
template <class T> const T* first(const T** list) {
  const T* found = list ? list[0] : nullptr;
  lf_free(list);
  return found;
}

} // namespace

LensQuery readLensQuery(const std::filesystem::path& frame) {
  LensQuery q;
  try {
    auto image = Exiv2::ImageFactory::open(frame.string());
    image->readMetadata();
    const Exiv2::ExifData& exif = image->exifData();
    const auto text = [&](const char* key) {
      const auto found = exif.findKey(Exiv2::ExifKey(key));
      return found == exif.end() ? std::string() : found->toString();
    };
    const auto number = [&](const char* key, double otherwise) {
      const auto found = exif.findKey(Exiv2::ExifKey(key));
      const double value = found == exif.end() ? 0 : double(found->toFloat());
      return std::isfinite(value) && value > 0 ? value : otherwise;
    };
    q.make = text("Exif.Image.Make");
    q.model = text("Exif.Image.Model");
    q.lens = text("Exif.Photo.LensModel");
    q.focalMm = number("Exif.Photo.FocalLength", 0);
    q.fNumber = number("Exif.Photo.FNumber", 8);
    q.metres = number("Exif.Photo.SubjectDistance", 10);
  } catch (const std::exception&) { // without metadata there is no profile
  }
  return q;
}

LensShelf::LensShelf() : database_(std::make_unique<Database>()) {
  lf_db_load(database_->db);
}
LensShelf::LensShelf(const std::string& xml) : database_(std::make_unique<Database>()) {
  lf_db_load_data(database_->db, "profiles", xml.data(), xml.size());
}
LensShelf::~LensShelf() = default;

std::optional<LensProfile> LensShelf::find(const LensQuery& q, int width, int height) const {
  if (q.focalMm <= 0 || (q.model.empty() && q.lens.empty())) return {};
  const lfCamera* camera =
      first(lf_db_find_cameras(database_->db, q.make.empty() ? nullptr : q.make.c_str(), q.model.c_str()));
  const lfLens* lens =
      first(lf_db_find_lenses_hd(database_->db, camera, nullptr, q.lens.empty() ? nullptr : q.lens.c_str(), 0));
  if (!camera || !lens) return {};
  lfModifier* modifier = lf_modifier_new(lens, camera->CropFactor, width, height);
  const int wanted = LF_MODIFY_DISTORTION | LF_MODIFY_TCA | LF_MODIFY_VIGNETTING;
  const int given = lf_modifier_initialize(modifier, lens, LF_PF_F32, float(q.focalMm), float(q.fNumber),
                                           float(q.metres), 1, lens->Type, wanted, 0);
  LensProfile out;
  constexpr int n = LensMap::kGrid;
  if (given & (LF_MODIFY_DISTORTION | LF_MODIFY_TCA)) {
    out.map.places = Image<float>(n, n, 6);
    for (int j = 0; j < n; ++j)
      for (int i = 0; i < n; ++i) {
        const float x = float(i) / (n - 1) * float(width - 1), y = float(j) / (n - 1) * float(height - 1);
        float* p = out.map.places.at(i, j);
        if (!lf_modifier_apply_subpixel_geometry_distortion(modifier, x, y, 1, 1, p))
          p[0] = p[2] = p[4] = x, p[1] = p[3] = p[5] = y;
        for (int c = 0; c < 3; ++c) p[2 * c] /= float(width - 1), p[2 * c + 1] /= float(height - 1);
      }
  }
  if (given & LF_MODIFY_VIGNETTING) {
    out.map.gain = Image<float>(n, n, 1);
    for (int j = 0; j < n; ++j)
      for (int i = 0; i < n; ++i) {
        float value = 1;
        lf_modifier_apply_color_modification(modifier, &value, float(i) / (n - 1) * float(width - 1),
                                             float(j) / (n - 1) * float(height - 1), 1, 1, LF_CR_1(INTENSITY), 4);
        out.map.gain.row(j)[i] = value;
      }
  }
  lf_modifier_destroy(modifier);
  out.focal = q.focalMm * camera->CropFactor / 18;
  out.name = lf_mlstr_get(lens->Model);
  return out;
}

} // namespace ml
