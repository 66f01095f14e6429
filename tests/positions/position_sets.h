// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "round_room.h"
#include "zoo/files.h"

#include <filesystem>
#include <string>
#include <vector>

namespace ml::test {

enum class SetKind { Turned, Shifted, Focus };

struct SetPlan {
  std::uint64_t seed = 1;
  SetKind kind = SetKind::Turned;
  int columns = 3, rows = 1, planes = 1;
  int width = 720, height = 480;
  double focal = 0.9;   ///< Of the longer side.
  double overlap = 0.4; ///< Of neighbours.
  double bend = 0;      ///< k1.
  double handDegrees = 1;
  double parallax = 0; ///< Standard deviation of where the camera stood, of the room's half size 2.
  int frames = 3;
  double step = 2; ///< Stops between frames.
  int rays = 2;    ///< Of a pixel, in both directions.
  zoo::FileType type = zoo::FileType::Jpeg;
};

/// A set of positions as files, by a camera of the zoo in a RoundRoom, and the truth they were made from.
struct PositionSet {
  PositionSet(const SetPlan& plan, const std::filesystem::path& folder);

  SetPlan plan;
  RoundRoom room;
  zoo::Camera camera;
  double focal = 0;
  std::vector<Shot> shots; ///< Of each position, in the order they were taken; a plane of focus is a position.
  std::vector<std::vector<std::filesystem::path>> files;

  /// Light as files of the camera say it, in a world direction; what is near included, sharp.
  [[nodiscard]] std::array<double, 3> light(const std::array<double, 3>& direction) const;
  [[nodiscard]] static bool isNear(const std::array<double, 3>& direction);
  /// A frame in which plane 0 (near), 1 (far) or -1 (all) is sharp, before the sensor.
  [[nodiscard]] Image<float> frameLight(const Shot& shot, int plane) const;
};

} // namespace ml::test
