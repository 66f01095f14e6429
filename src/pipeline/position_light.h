// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ingest/grouping.h"
#include "pipeline/combine.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// One position's light, and what is known of it.
struct PositionLight {
  Image<float> radiance;
  SceneFacts facts;
  std::string verdict; ///< Of combining; empty where the file was a radiance picture already.
  std::filesystem::path metadataFrom;
  double focalKnown = 0; ///< Pixels; 0: the file does not say.
};

/// Is the file a radiance picture? A float TIFF that says how it was exposed is a frame.
[[nodiscard]] bool isRadiance(const std::filesystem::path& file);

/// Combines a position's frames, or reads its radiance. Errors: of reading and combining, Stopped.
[[nodiscard]] Result<PositionLight> positionLight(const FileGroup& group, const CombineOptions& options,
                                                  const Progress& progress);

/// Positions that were combined already, as half-float OpenEXR in a folder, so that joining that was stopped goes on
/// where it was. A position is found again only while its files (names, sizes, times), the options and the program's
/// version are the same. An empty folder name keeps and finds nothing; what cannot be written is not kept.
class KeptLight {
public:
  explicit KeptLight(std::filesystem::path folder) : folder_(std::move(folder)) {}

  [[nodiscard]] std::optional<PositionLight> find(const FileGroup& group, const CombineOptions& options,
                                                  const Progress& progress) const;
  void keep(const FileGroup& group, const CombineOptions& options, const PositionLight& light) const;
  /// Removes what was combined with other options.
  void forgetOtherWays(const CombineOptions& options) const;

private:
  [[nodiscard]] std::filesystem::path fileOf(const FileGroup& group, const CombineOptions& options) const;
  std::filesystem::path folder_;
};

} // namespace ml
