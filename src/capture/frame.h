// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/shot_metadata.h"
#include "exposure/units.h"
#include "image/codes.h"
#include "image/colour.h"

#include <array>
#include <cstdint>
#include <memory>
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

/// Code values to linear light, saturation = 1: a table for each channel, size = largest code + 1, not decreasing.
/// Frames share them.
class CodeTable {
public:
  CodeTable() = default;
  explicit CodeTable(std::vector<float> forAllChannels);
  explicit CodeTable(std::array<std::vector<float>, 3> tables);

  [[nodiscard]] bool empty() const { return !tables_[0]; }
  [[nodiscard]] int size() const { return empty() ? 0 : int(tables_[0]->size()); }
  [[nodiscard]] const float* channel(int c) const { return tables_[std::size_t(c)]->data(); }

  float clipFrom = 0.98f; ///< Share of saturation from which a sample counts as clipped.

private:
  std::array<std::shared_ptr<const std::vector<float>>, 3> tables_;
};

/// One exposure: code values as they lie in the file, and what is needed to read them as light.
struct Frame {
  Codes codes; ///< Camera primaries for raw, Rec. 709 otherwise.
  CodeTable table;
  std::array<float, 3> saturation{1, 1, 1}; ///< Linear value at which each channel clips (raw: white balance inside).
  float midTone =
      0.18f; ///< Linear value of a surface that reads at this frame's EV (raw: 10 / 78 of saturation, ISO 12232).
  NoiseModel noise;          ///< Of the sensor and the coding together, affine.
  NoiseModel sensor;         ///< Of the sensor alone.
  double codeError = 0;      ///< Standard deviation of rounding and compression, codes; 0: `noise` says all.
  bool exposureKnown = true; ///< False: the file does not say; `settings` are not to be trusted.
  bool curveAssumed =
      false; ///< The file does not say how its codes follow from light; `table` is the usual guess (sRGB).
  Matrix3 toRec709 = kIdentity3; ///< Linear camera colour to linear Rec. 709, white balance included.
  ExposureSettings settings;     ///< Exact values.
  ShotMetadata metadata;
  std::string path;
  /// Of a mosaic: colours at (0,0), (1,0), (0,1), (1,1), 0 red, 1 green, 2 blue.
  std::array<int, 4> pattern{-1, -1, -1, -1};

  /// `codes` are what each photosite says; pixels of three colours are made where they are needed (`developed`).
  [[nodiscard]] bool isMosaic() const { return codes.isMosaic(); }
  /// Of a mosaic: the colour of a photosite.
  [[nodiscard]] int colourAt(int x, int y) const { return pattern[std::size_t(2 * (y & 1) + (x & 1))]; }
  [[nodiscard]] int width() const { return codes.width(); }
  [[nodiscard]] int height() const { return codes.height(); }
  /// Linear light of pixel (x, y), three values; of a mosaic the photosite's own and the means of those beside it. For
  /// single pixels; loops read the tables themselves.
  void linearAt(int x, int y, float rgb[3]) const {
    if (isMosaic()) return meansAround(x, y, rgb);
    for (int c = 0; c < 3; ++c) rgb[c] = table.channel(c)[codes.at(x, y, c)];
  }

private:
  void meansAround(int x, int y, float rgb[3]) const;
};

/// Relative light gathered: t S / N^2, so that radiance = linear value / exposure, up to one scale for all frames.
[[nodiscard]] double relativeExposure(const ExposureSettings& settings);

/// Frames of one view, darkest exposure first.
struct BracketSet {
  std::vector<Frame> frames;
  void sortByExposure();
};

/// Variance of one sample at linear `level`, saturation = 1: the sensor's, and that of the codes through the slope of
/// the table there.
[[nodiscard]] double sampleVariance(const Frame& frame, double level);

/// Share of pixels in which a channel stands at its clipping point.
[[nodiscard]] double clippedShare(const Frame& frame);

/// Table of an n-bit linear encoding with saturation at `white` (0 < white <= maxCode) and black at `black`.
[[nodiscard]] CodeTable linearTable(int maxCode, double black, double white);
/// Table of an sRGB-encoded file (IEC 61966-2-1), `maxCode` 255 or 65535.
[[nodiscard]] CodeTable srgbTable(int maxCode);

/// Affine noise of rounded codes behind `table`, on top of a sensor of `fullWell` and `readNoise` electrons.
[[nodiscard]] NoiseModel noiseOf(const CodeTable& table, double fullWell, double readNoise);

} // namespace ml
