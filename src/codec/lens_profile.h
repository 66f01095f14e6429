// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/lens_map.h"

#include <filesystem>
#include <memory>
#include <optional>
#include <string>

namespace ml {

/// What a frame says of its camera and lens.
struct LensQuery {
  std::string make, model, lens;
  double focalMm = 0, fNumber = 8, metres = 10;
};
[[nodiscard]] LensQuery readLensQuery(const std::filesystem::path& frame);

struct LensProfile {
  LensMap map;
  double focal = 0; ///< In half long edges of the picture.
  std::string name;
};

/// Profiles of lenses by lensfun: distortion, lateral colour, fall-off.
class LensShelf {
public:
  /// The profiles installed on this machine.
  LensShelf();
  /// From XML of lensfun's database format.
  explicit LensShelf(const std::string& xml);
  ~LensShelf();
  /// Empty when the camera or the lens is not known, or the focal length is not said.
  [[nodiscard]] std::optional<LensProfile> find(const LensQuery& query, int width, int height) const;

private:
  struct Database;
  std::unique_ptr<Database> database_;
};

} // namespace ml
