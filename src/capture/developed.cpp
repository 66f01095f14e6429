// SPDX-License-Identifier: GPL-3.0-or-later
#include "capture/developed.h"

#include "mosaic/bayer.h"

#include <algorithm>

namespace ml {
namespace {

/// All but the pixels.
Frame emptied(const Frame& frame) {
  Frame out;
  out.table = frame.table;
  out.saturation = frame.saturation;
  out.midTone = frame.midTone;
  out.noise = frame.noise, out.sensor = frame.sensor;
  out.codeError = frame.codeError;
  out.exposureKnown = frame.exposureKnown, out.curveAssumed = frame.curveAssumed;
  out.toRec709 = frame.toRec709;
  out.settings = frame.settings;
  out.metadata = frame.metadata;
  out.path = frame.path;
  return out;
}

} // namespace

PhotositeCodes photositesOf(const Frame& frame) {
  PhotositeCodes mosaic{frame.codes.photosites(), frame.pattern, {}};
  for (std::size_t c = 0; c < 3; ++c) mosaic.full[c] = kFullPhotosite * frame.saturation[c];
  return mosaic;
}

Frame developed(const Frame& frame) {
  Frame out = emptied(frame);
  out.codes = frame.isMosaic() ? Codes(developed(photositesOf(frame))) : frame.codes.clone();
  return out;
}

Frame developed(const Frame& frame, const Roi& part) {
  Frame out = emptied(frame);
  Image<std::uint16_t> codes(part.width, part.height, 3);
  const TakeRow take = [&](int x, int y, int n, const float* r, const float* g, const float* b) {
    std::uint16_t* to = codes.at(x - part.x, y - part.y);
    const auto code = [](float light) {
      return std::uint16_t(std::clamp(light * float(kLightRange) + (kPedestal + 0.5f), 0.f, 65535.f));
    };
    for (int i = 0; i < n; ++i, to += 3) to[0] = code(r[i]), to[1] = code(g[i]), to[2] = code(b[i]);
  };
  MosaicDeveloper().develop(photositesOf(frame), part, take);
  out.codes = std::move(codes);
  return out;
}

} // namespace ml
