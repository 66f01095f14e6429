// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/simulated_camera.h"
#include "capture/frame.h"
#include "image/picture_rows.h"

#include <QTemporaryDir>
#include <algorithm>
#include <atomic>
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
/// The rows of a picture as if they lay elsewhere; counts how many were held at once.
class StoredRows : public RowStore {
public:
  explicit StoredRows(ImageView<const float> picture) : picture_(picture) {}
  [[nodiscard]] int width() const override { return picture_.width; }
  [[nodiscard]] int height() const override { return picture_.height; }
  [[nodiscard]] int channels() const override { return picture_.channels; }
  void read(int begin, ImageView<float> rows) const override {
    for (int most = most_; rows.height > most && !most_.compare_exchange_weak(most, rows.height);) {
    }
    for (int y = 0; y < rows.height; ++y)
      std::copy_n(picture_.row(begin + y), picture_.width * picture_.channels, rows.row(y));
  }
  [[nodiscard]] int most() const { return most_; }

private:
  ImageView<const float> picture_;
  mutable std::atomic<int> most_{0};
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
