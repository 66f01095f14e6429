// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "image/picture_rows.h"

#include <filesystem>
#include <memory>

namespace ml {

/// Linear light of a picture too large for memory: three channels on disk as half floats, six bytes a pixel, in a file
/// without a name that is gone with the program, however it ends.
class RowSpool : public RowStore {
public:
  /// `folder` is made where it is missing. Errors: CannotWrite, where it cannot be written or has no room for it.
  [[nodiscard]] static Result<std::unique_ptr<RowSpool>> in(const std::filesystem::path& folder, int width, int height);
  ~RowSpool() override;
  RowSpool(const RowSpool&) = delete;
  RowSpool& operator=(const RowSpool&) = delete;

  /// The next rows, from the top; what would be below the last one is left out. Errors: CannotWrite.
  Result<void> append(ImageView<const float> rows);

  [[nodiscard]] int width() const override { return width_; }
  [[nodiscard]] int height() const override { return height_; }
  [[nodiscard]] int channels() const override { return 3; }
  /// Rows that were appended. Throws std::runtime_error when the disk does not give them back.
  void read(int begin, ImageView<float> rows) const override;

private:
  RowSpool(const std::filesystem::path& folder, int file, int width, int height)
      : folder_(folder), file_(file), width_(width), height_(height) {}

  std::filesystem::path folder_;
  int file_, width_, height_, written_ = 0;
};

/// The light of a radiance file: in memory, or on disk where that would take too much of it.
class OpenRadiance {
public:
  explicit OpenRadiance(Image<float> whole) : whole_(std::move(whole)) {}
  explicit OpenRadiance(std::unique_ptr<RowSpool> spool) : spool_(std::move(spool)) {}
  [[nodiscard]] PictureRows rows() const { return spool_ ? PictureRows(*spool_) : PictureRows(whole_.view()); }

private:
  Image<float> whole_;
  std::unique_ptr<RowSpool> spool_;
};

/// Pixels from which the light of a picture is kept on disk: 1.5 GB of floats.
inline constexpr double kSpooledPixels = 128e6;

/// As readRadiance; OpenEXR of `spooledFrom` pixels and more is unpacked beside `file`, or in the system's folder for
/// temporary files. Errors: of reading, CannotWrite, Stopped.
[[nodiscard]] Result<OpenRadiance> openRadiance(const std::filesystem::path& file, const StopFlag& stop = {},
                                                double spooledFrom = kSpooledPixels);

} // namespace ml
