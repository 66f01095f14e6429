#pragma once
#include "exposure/shot_metadata.h"
#include "exposure/units.h"
#include "image/colour.h"
#include "image/image.h"

#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace ml {

/// Variance of one sample in units of saturation = 1: photon * x + floor (Poisson plus signal-independent noise).
/// Granados et al., CVPR 2010, eq. 1. Rounding of gamma-encoded codes is close to proportional to x and is inside.
struct NoiseModel {
  double photon = 1.0 / 40000;
  double floor = 1e-8;
  [[nodiscard]] double variance(double x) const { return photon * (x > 0 ? x : 0) + floor; }
};

/// Code values to linear light, saturation = 1. One table for all channels; size = largest code + 1; increasing.
struct CodeTable {
  std::vector<float> linear;
  float clipFrom = 0.98f; ///< Share of saturation from which a sample counts as clipped.
};

/// One exposure: code values as they lie in the file, and what is needed to read them as light.
struct Frame {
  Image<std::uint16_t> codes; ///< Three channels. Camera primaries for raw, Rec. 709 otherwise.
  CodeTable table;
  std::array<float, 3> saturation{1, 1, 1}; ///< Linear value at which each channel clips (raw: white balance inside).
  float midTone = 0.18f; ///< Linear value of a surface that reads at this frame's EV (raw: 10 / 78 of saturation, ISO 12232).
  NoiseModel noise;
  Matrix3 toRec709 = kIdentity3; ///< Linear camera colour to linear Rec. 709, white balance included.
  ExposureSettings settings;     ///< Exact values.
  ShotMetadata metadata;
  std::string path;

  [[nodiscard]] int width() const { return codes.width(); }
  [[nodiscard]] int height() const { return codes.height(); }
};

/// Relative light gathered: t S / N^2, so that radiance = linear value / exposure, up to one scale for all frames.
[[nodiscard]] double relativeExposure(const ExposureSettings& settings);

/// Frames of one view, darkest exposure first.
struct BracketSet {
  std::vector<Frame> frames;
  void sortByExposure();
};

/// Share of pixels in which a channel stands at its clipping point.
[[nodiscard]] double clippedShare(const Frame& frame);

/// Table of an n-bit linear encoding with saturation at `white` (0 < white <= maxCode) and black at `black`.
[[nodiscard]] CodeTable linearTable(int maxCode, double black, double white);
/// Table of an sRGB-encoded file (IEC 61966-2-1), `maxCode` 255 or 65535.
[[nodiscard]] CodeTable srgbTable(int maxCode);

/// Affine noise of rounded codes behind `table`, on top of a sensor of `fullWell` and `readNoise` electrons.
[[nodiscard]] NoiseModel noiseOf(const CodeTable& table, double fullWell, double readNoise);

} // namespace ml
