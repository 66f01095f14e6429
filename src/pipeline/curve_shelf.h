// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "response/response.h"

#include <filesystem>

namespace ml {

/// The response of a camera's rendered files, kept from sets that showed it well.
struct KeptCurve {
  std::string camera; ///< As Exif names it.
  std::array<std::vector<float>, 3>
      light; ///< For 256 codes over the whole range; linear, saturation = 1, not decreasing.
  float clipFrom = 0.98f;
  std::string start;       ///< As Response.
  std::size_t samples = 0; ///< Of the set it comes from.
  double disagreement = 0; ///< Of that set's frames with this curve, stops.
  int sets = 1;            ///< How many sets have shown this camera's curve.
};

/// Curves by camera: one JSON file each in a folder. Nothing is held in memory; what another program run keeps is seen.
class CurveShelf {
public:
  explicit CurveShelf(std::filesystem::path folder) : folder_(std::move(folder)) {}

  /// Empty when there is none, or what is kept cannot be read.
  [[nodiscard]] std::optional<KeptCurve> find(const std::string& camera) const;
  /// Keeps what a set showed: the curve on which frames agree best stays. A response that was found on too little is
  /// not kept (false).
  Result<bool> keep(const std::string& camera, const Response& response) const;

private:
  [[nodiscard]] std::filesystem::path fileOf(const std::string& camera) const;
  std::filesystem::path folder_;
};

/// Errors: FileUnreadable with what is wrong.
[[nodiscard]] Result<KeptCurve> curveFromText(const std::string& text);

/// A table for `size` codes, as Response holds it.
[[nodiscard]] CodeTable tableOf(const KeptCurve& curve, int size);

/// Largest difference of two curves between two codes, stops, one common scale removed.
[[nodiscard]] double differenceOf(const CodeTable& a, const CodeTable& b, int lowestCode, int highestCode);

} // namespace ml
