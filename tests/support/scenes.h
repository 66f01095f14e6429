// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/simulated_camera.h"
#include "capture/frame.h"

#include <QTemporaryDir>
#include <filesystem>
#include <vector>

namespace ml::test {

/// Invented scene radiance with structure at every scale, cd/m^2: a dark textured half and a bright one, `stops` apart
/// at the extremes. Smooth enough (nothing finer than three pixels) that interpolation error stays small.
[[nodiscard]] Image<float> texturedScene(int width, int height, double stops, unsigned seed = 1);

/// Frames of a still scene by the simulated camera, read back from their files in `folder`.
struct ShotSet {
  std::vector<std::filesystem::path> files;
  std::vector<CameraPose> poses;
  std::vector<Frame> frames; ///< In the order of `settings`.
};
[[nodiscard]] ShotSet shootScene(Image<float> scene, const std::vector<ExposureSettings>& settings, FrameFormat format,
                                 const std::filesystem::path& folder, SimulationOptions options = {});

/// Settings at f/8, ISO 100 for exposures of these EV100 values.
[[nodiscard]] std::vector<ExposureSettings> exposedAt(const std::vector<double>& evs);

/// A frame straight from linear values 0..1 with a 16-bit linear table; no noise, no file.
[[nodiscard]] Frame linearFrame(const Image<float>& linear, const ExposureSettings& settings);

[[nodiscard]] inline std::filesystem::path pathOf(const QTemporaryDir& dir) {
  return dir.path().toStdString();
}

} // namespace ml::test
