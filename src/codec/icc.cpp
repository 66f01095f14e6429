// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/icc.h"

#include <algorithm>
#include <cmath>
#include <lcms2.h>

namespace ml {
namespace {

std::vector<unsigned char> saved(cmsHPROFILE profile) {
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  std::vector<unsigned char> bytes(size);
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  // The date of making (ICC.1:2010, 7.2.8) is the same always, so that the same picture gives the same file.
  constexpr unsigned char kDate[12] = {2000 / 256, 2000 % 256, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0};
  if (bytes.size() > 36) std::copy(std::begin(kDate), std::end(kDate), bytes.begin() + 24);
  return bytes;
}

} // namespace

std::vector<unsigned char> srgbProfile() {
  return saved(cmsCreate_sRGBProfile());
}

std::vector<unsigned char> profileOf(ColourSpace space) {
  if (space == ColourSpace::Srgb) return srgbProfile();
  const cmsCIExyY white{0.3127, 0.3290, 1};
  const Primaries p = primariesOf(space);
  const cmsCIExyYTRIPLE primaries{{p.xy[0], p.xy[1], 1}, {p.xy[2], p.xy[3], 1}, {p.xy[4], p.xy[5], 1}};
  const cmsFloat64Number srgb[5] = {2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045};
  cmsToneCurve* curve =
      space == ColourSpace::OpRgb ? cmsBuildGamma(nullptr, 563.0 / 256) : cmsBuildParametricToneCurve(nullptr, 4, srgb);
  cmsToneCurve* curves[3] = {curve, curve, curve};
  cmsHPROFILE profile = cmsCreateRGBProfile(&white, &primaries, curves);
  cmsMLU* name = cmsMLUalloc(nullptr, 1);
  cmsMLUsetASCII(name, "en", "US", space == ColourSpace::OpRgb ? "opRGB (IEC 61966-2-5)" : "Display P3");
  cmsWriteTag(profile, cmsSigProfileDescriptionTag, name);
  cmsMLUfree(name);
  const auto bytes = saved(profile);
  cmsFreeToneCurve(curve);
  return bytes;
}

std::vector<unsigned char> linearRec709Profile() {
  const cmsCIExyY white{0.3127, 0.3290, 1};
  const cmsCIExyYTRIPLE primaries{{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
  cmsToneCurve* linear = cmsBuildGamma(nullptr, 1);
  cmsToneCurve* curves[3] = {linear, linear, linear};
  const auto bytes = saved(cmsCreateRGBProfile(&white, &primaries, curves));
  cmsFreeToneCurve(linear);
  return bytes;
}

namespace {

/// CIE XYZ relative to D50 (the profile connection space) to D65. Bradford, as in IEC 61966-2-1 Amendment 1 and
/// ICC.1:2010 annex E.
constexpr Matrix3 kD50ToD65{0.9555766, -0.0230393, 0.0631636,  -0.0282895, 1.0099416,
                            0.0210077, 0.0122982,  -0.0204830, 1.3299098};

} // namespace

std::optional<ProfileReading> readProfile(const std::vector<unsigned char>& icc) {
  if (icc.size() < 128) return {};
  cmsHPROFILE profile = cmsOpenProfileFromMem(icc.data(), cmsUInt32Number(icc.size()));
  if (!profile) return {};
  const auto colorant = [&](cmsTagSignature tag) { return static_cast<const cmsCIEXYZ*>(cmsReadTag(profile, tag)); };
  const cmsCIEXYZ *r = colorant(cmsSigRedColorantTag), *g = colorant(cmsSigGreenColorantTag),
                  *b = colorant(cmsSigBlueColorantTag);
  const auto* curve = static_cast<const cmsToneCurve*>(cmsReadTag(profile, cmsSigGreenTRCTag));
  std::optional<ProfileReading> out;
  if (cmsGetColorSpace(profile) == cmsSigRgbData && r && g && b && curve) {
    out.emplace();
    const Matrix3 toXyz{r->X, g->X, b->X, r->Y, g->Y, b->Y, r->Z, g->Z, b->Z};
    const Matrix3 matrix = multiply(inverse(kRec709ToXyz), multiply(kD50ToD65, toXyz));
    double worst = 0;
    for (std::size_t i = 0; i < 9; ++i) worst = std::max(worst, std::abs(matrix[i] - kIdentity3[i]));
    if (worst > 0.01) out->toRec709 = matrix; // else Rec. 709 itself, written with a profile's rounding
    out->linear = true;
    for (int i = 0; i < 1024; ++i) {
      out->curve.push_back(cmsEvalToneCurveFloat(curve, float(i) / 1023));
      out->linear = out->linear && std::abs(out->curve.back() - float(i) / 1023) < 1e-3f;
    }
  }
  cmsCloseProfile(profile);
  return out;
}

} // namespace ml
