// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "codec/code_image.h"

#include <functional>
#include <map>
#include <optional>
#include <string>

namespace ml {

/// Part of a picture: OpenEXR's data window inside its display window.
struct PlacedImage {
  Image<float> pixels; ///< 3 channels, or 4 with alpha (premultiplied); a single-channel file gives 1.
  int x = 0, y = 0;    ///< Place of the first pixel in the whole picture.
  int fullWidth = 0, fullHeight = 0;
};

struct ExrSize {
  int width = 0, height = 0; ///< Of the data window.
  int channels = 0;          ///< As PlacedImage.
};
/// From the header alone; empty where readExr refuses it.
[[nodiscard]] std::optional<ExrSize> exrSize(const std::filesystem::path& file);

/// Linear samples as they lie in the file (half or float). Also Stopped.
[[nodiscard]] Result<PlacedImage> readExr(const std::filesystem::path& file, const StopFlag& stop = {});

/// The same, some rows at a time and never held as a whole; `y` counts from the top of the data window. Errors as
/// readExr.
Result<void> readExrInBands(const std::filesystem::path& path,
                            const std::function<void(int y, ImageView<const float>)>& work, const StopFlag& stop = {});

/// String attributes of the header; empty when it cannot be read.
[[nodiscard]] std::map<std::string, std::string> exrText(const std::filesystem::path& file);

struct ExrOptions {
  bool half = true;   ///< Half keeps 11 bits of mantissa over 30 stops, about 0.0007 stop of rounding.
  bool lossy = false; ///< DWAA, for shipped demo data only.
  double lossyLevel = 20;
  std::map<std::string, std::string> text; ///< Further string attributes.
  StopFlag stop{};                         ///< Of writeExr.
};
/// Linear Rec. 709; chromaticities are written (ITU-R BT.709). `image` has 1, 3 or 4 channels.
Result<void> writeExr(const std::filesystem::path& file, ImageView<const float> image, const ExrOptions& options);
/// The same for a picture of three channels that never exists as a whole: `fill` hands its rows on from the top.
Result<void>
writeExrRows(const std::filesystem::path& file, int width, int height, const ExrOptions& options,
             const std::function<Result<void>(const std::function<Result<void>(ImageView<const float>)>& write)>& fill);
Result<void> writePlacedExr(const std::filesystem::path& file, const PlacedImage& image, const ExrOptions& options);

} // namespace ml
