// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "zoo/random.h"

#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace ml::zoo {

using Matrix = std::array<double, 9>; ///< Row by row.

enum class FileType { Dng, Jpeg, Heif };

/// The ranges that cameras are drawn from; `docs/accuracy.md` shows the same table.
struct Ranges {
  struct Range {
    double low, high;
  };
  // Sensor
  static constexpr Range fullWell{12000, 90000}, readNoise{1.5, 8}; ///< Electrons at ISO 100.
  static constexpr Range black{180, 2100},
      blackSpread{0, 12};                    ///< Codes of 14 bits; each of the four places of the pattern its own.
  static constexpr Range white{0.82, 0.999}; ///< Of the largest code.
  static constexpr Range hot{10, 300}, dead{0, 60}, stuck{0, 20}; ///< Pixels in a million.
  static constexpr Range rowNoise{0, 4},
      columnNoise{0, 3};                       ///< Electrons; rows change from frame to frame, columns stay.
  static constexpr Range uneven{0.002, 0.012}; ///< Standard deviation of a pixel's gain (PRNU).
  static constexpr Range fallOff{0, 1.6};      ///< Stops in the corners.
  static constexpr Range glare{0.001, 0.01};   ///< Of the mean light, laid over all.
  static constexpr Range blur{0.45, 0.85};     ///< Pixels, standard deviation of the lens.
  // Rendering
  static constexpr Range saturation{0.85, 1.35}, sharpening{0, 0.9}, sharpenRadius{0.6, 1.2}, smear{0, 1};
  static constexpr Range quality{80, 98};
  // Time
  static constexpr Range timeError{-0.08, 0.08}; ///< Of the time that is meant; each setting its own.
  static constexpr Range flicker{0.05, 0.3};     ///< Modulation of lamps at 100 or 120 Hz, in one set of six.
};

/// A curve from linear 0..1 to display 0..1 of one of kCurveFamilies families.
struct Curve {
  int family = 0;
  double a = 1, b = 1;
  [[nodiscard]] double operator()(double x) const;
  [[nodiscard]] double inverse(double v) const;
};
inline constexpr int kCurveFamilies = 10;
extern const char* const kCurveNames[kCurveFamilies];

/// One camera, drawn from a seed. It knows nothing of the product's own simulated camera, its frames or its noise
/// model.
struct Camera {
  Camera(std::uint64_t seed, FileType type);

  std::uint64_t seed;
  FileType type;
  std::string name;
  double blur = 0.6;
  double fullWell = 30000, readNoise = 4, rowNoise = 0, columnNoise = 0, uneven = 0.005, fallOff = 0, glare = 0.003;
  int iso = 100;
  Matrix fromRec709{};             ///< Linear Rec. 709 to the camera's primaries, white stays white.
  std::array<double, 3> neutral{}; ///< What the sensor says of white, green 1.
  // Raw
  int bits = 14, pattern = 0;        ///< 0 RGGB, 1 GRBG, 2 GBRG, 3 BGGR.
  bool compressed = false;           ///< Raw files: tiles of lossless JPEG, every second camera; else plain strips.
  int components = 1, predictor = 1; ///< Of the JPEG.
  bool bigEndian = false;
  bool displayP3 = false; ///< HEIF: said by numbers alone (ITU-T H.273).
  std::array<int, 4> black{};
  int white = 16000;
  double hot = 30, dead = 5, stuck = 2;
  // Rendered
  Curve curve;
  double saturation = 1, sharpening = 0, sharpenRadius = 0.8, smear = 0;
  int quality = 92;
  bool halfColour = true;                  ///< 4:2:0
  [[nodiscard]] Matrix toRendered() const; ///< Camera primaries, white balanced, to the file's.
};

/// Fall-off and glare: what reaches the sensor, still Rec. 709 and linear.
[[nodiscard]] Image<float> throughLens(const Camera& camera, const Image<float>& scene);

/// One exposure of sensor light (as throughLens makes it): `exposure` brings white of value 1 / exposure to saturation.
/// `balance` turns the white balance of a rendered file away from the camera's own. `frame` makes the noise of each
/// frame its own.
[[nodiscard]] Image<std::uint16_t> exposeRaw(const Camera& camera, const Image<float>& light, double exposure,
                                             double seconds, std::uint64_t frame);
[[nodiscard]] Image<std::uint8_t> exposeRendered(const Camera& camera, const Image<float>& light, double exposure,
                                                 std::array<double, 3> balance, std::uint64_t frame);

/// What a merge of rendered files should find: the light in the file's primaries before any curve.
[[nodiscard]] Image<float> renderedTruth(const Camera& camera, const Image<float>& light);

} // namespace ml::zoo
