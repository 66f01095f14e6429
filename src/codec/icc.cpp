#include "codec/icc.h"

#include <lcms2.h>

namespace ml {
namespace {

std::vector<unsigned char> saved(cmsHPROFILE profile) {
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  std::vector<unsigned char> bytes(size);
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  return bytes;
}

} // namespace

std::vector<unsigned char> srgbProfile() { return saved(cmsCreate_sRGBProfile()); }

std::vector<unsigned char> linearRec709Profile() {
  const cmsCIExyY white{0.3127, 0.3290, 1};
  const cmsCIExyYTRIPLE primaries{{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
  cmsToneCurve* linear = cmsBuildGamma(nullptr, 1);
  cmsToneCurve* curves[3] = {linear, linear, linear};
  const auto bytes = saved(cmsCreateRGBProfile(&white, &primaries, curves));
  cmsFreeToneCurve(linear);
  return bytes;
}

} // namespace ml
