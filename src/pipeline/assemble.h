// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ingest/grouping.h"
#include "pipeline/combine.h"
#include "positions/arrange.h"
#include "positions/blend.h"
#include "positions/level.h"

#include <filesystem>
#include <map>
#include <string>
#include <vector>

namespace ml {

struct AssembleOptions {
  CombineOptions combine; ///< Of each position.
  PositionWish kind = PositionWish::Auto;
  /// Of each group: turned by hand that much further right, up and rolled than it was found to look. Empty: none.
  std::vector<Angles> turned;
  std::map<std::string, Angles> turnedNamed; ///< The same, by the name of any file of a position.
  /// Folder of a KeptLight: positions are looked for there before they are combined, and kept there afterwards. Empty:
  /// none.
  std::filesystem::path keep;
};

/// One position: its files, and what became of them.
struct AssembledPosition {
  std::vector<std::filesystem::path> files; ///< In the order they were taken.
  std::string name;
  GridPlace place;
  int plane = 0; ///< Of focus, in the order they were taken; 0: the first or only one.
  Pose pose;
  PositionFit fit;
  std::string verdict; ///< Of combining; empty where the file was a radiance picture already.
};

/// Positions joined, all but the pixels of the whole, which are drawn from it.
struct Assembly {
  std::vector<AssembledPosition> positions;   ///< In the order of their first file.
  Arrangement arrangement;                    ///< Of the views that are drawn: planes of focus are one view.
  std::vector<Image<std::uint16_t>> pictures; ///< Of these.
  LightCodes codes;
  Balance balance;
  Seams seams;
  Canvas canvas;
  bool sphere = false; ///< One position that saw all directions at once.
  SceneFacts facts;
  std::filesystem::path metadataFrom;
  std::vector<std::string> remarks;
  std::vector<LeftOut> leftOut;

  [[nodiscard]] PlacedLight placed() const { return {arrangement, pictures, codes, balance, canvas}; }
  [[nodiscard]] JoinedView view() const { return {placed(), seams}; }
};

/// Files of several positions to one view: grouped by position, each combined, placed together. A radiance picture
/// (.exr, .hdr, float .tif) is a position of its own. Errors: of grouping and combining, of arrangePositions (named by
/// the position's first file), TooFewFrames, InvalidArgument, Stopped.
[[nodiscard]] Result<Assembly> assembleFiles(const std::vector<std::filesystem::path>& paths,
                                             const AssembleOptions& options, const Progress& progress);

/// The same for groups that are known already.
[[nodiscard]] Result<Assembly> assembleGroups(const std::vector<FileGroup>& groups, const AssembleOptions& options,
                                              const Progress& progress);

/// Draws the whole, some rows at a time. False when stopped.
bool drawAssembly(const Assembly& assembly, const RowsTaken& taken, const Progress& progress);

/// Draws the whole and writes it as .exr (half floats) or .tif (32-bit float), some rows at a time. Atomic.
/// `seen`, where given, is shown the rows before they are written; false: stop.
Result<void> writeAssembly(const Assembly& assembly, const std::filesystem::path& file, const Progress& progress,
                           const RowsTaken& seen = {});

/// One sentence with figures.
[[nodiscard]] std::string verdict(const Assembly& assembly);

} // namespace ml
