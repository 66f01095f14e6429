// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "zoo/camera.h"

#include <filesystem>

namespace ml::zoo {

/// What a camera writes beside the pixels.
struct Shot {
  double seconds = 1 / 64.0; ///< As meant; the file says the printed mark ("1/60").
  double fNumber = 8;
  int iso = 100;
  int clock = 0; ///< Seconds since ten in the morning.
  std::string model;
  bool flash = false;  ///< Fired.
  int orientation = 1; ///< Exif's. HEIF says the same in its own words beside it, as phones do.
};

/// The mark that a camera prints for a time on the third-stop ladder (common practice, no source), as a fraction.
struct Printed {
  int over = 1, under = 60;
};
[[nodiscard]] Printed printedTime(double seconds);

/// Written with the format's own library, none of the product's code. Aborts when a file cannot be written.
void writeDng(const std::filesystem::path& file, const Camera& camera, const std::array<double, 3>& neutral,
              const Image<std::uint16_t>& mosaic, const Shot& shot);
void writeJpeg(const std::filesystem::path& file, const Camera& camera, const Image<std::uint8_t>& rgb,
               const Shot& shot);
void writeHeif(const std::filesystem::path& file, const Camera& camera, const Image<std::uint8_t>& rgb,
               const Shot& shot);

} // namespace ml::zoo
