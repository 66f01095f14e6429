// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/raw_file.h"
#include "image/image.h"
#include "mosaic/bayer.h"

#include <array>
#include <filesystem>
#include <string>
#include <vector>

namespace ml::test {

/// A scene as a lens draws it on a sensor (blurred by `blur` pixels, standard deviation), its truth, and how a
/// developer did.
struct MosaicScene {
  std::string name;
  Image<float> truth; ///< Camera colour before white balance, 1 at saturation.
};
/// Views of the radiance pictures with fine texture, a chart of slanted bars, text-like strokes and coloured fabric.
[[nodiscard]] std::vector<MosaicScene> mosaicScenes(int width, int height, double blur);

/// Of "chart" (bars at slants in twelve fields, rings) and "fabric" (woven threads of two colours), 1 at saturation.
[[nodiscard]] std::array<double, 3> colourOf(const std::string& scene, double x, double y, int width, int height);

inline constexpr std::array<float, 3> kCameraBalance{0.55f, 1.f, 0.7f}; ///< Camera value of white.

/// 14-bit codes of one exposure behind RGGB shifted by (dx, dy), with black 512 and white 15800; `fullWell` electrons,
/// 0: no noise.
[[nodiscard]] Image<std::uint16_t> mosaicked(const Image<float>& truth, double fullWell, double readNoise, int dx,
                                             int dy, unsigned seed);
/// A DNG of it, by libtiff alone. `masked`: its first columns, that no light reaches; the picture begins behind them.
void writeMosaicDng(const std::filesystem::path& file, const Image<std::uint16_t>& mosaic, int dx, int dy,
                    int masked = 0);

/// LibRaw's own method (`user_qual`): light of three channels, white balanced, 1 at saturation of green.
[[nodiscard]] Image<float> developedByLibrary(const std::filesystem::path& file, int quality);
[[nodiscard]] Image<float> developedByUs(const std::filesystem::path& file);

/// Peak signal-to-noise ratio over all colours of sRGB codes, dB, and mean CIEDE2000 where the truth has edges. Eight
/// pixels of border left out; clipped light left out.
struct Quality {
  double cpsnr = 0, edges = 0;
  double coloured = 0; ///< Share of pixels with 8 more chroma (CIELAB) than the truth has anywhere within two pixels.
};
[[nodiscard]] Quality qualityOf(const Image<float>& developed, const Image<float>& truth);

/// Three channels of codes, as the product develops photosites.
[[nodiscard]] Image<std::uint16_t> demosaiced(const BayerMosaic& mosaic);
[[nodiscard]] Image<std::uint16_t> demosaiced(const RawImage& raw);

} // namespace ml::test
