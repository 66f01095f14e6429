// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/planned_positions.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kFarMetres = 1000;

/// Degrees of position `i` of `n` that cover `whole` with fields of `fov`.
double turned(int i, int n, double whole, double fov) {
  if (n <= 1) return 0;
  const double step = whole >= 360 ? 360.0 / n : (whole - fov) / (n - 1);
  return (i - (n - 1) / 2.0) * step;
}

double focusedAt(int plane, int planes, double nearest) {
  if (planes <= 1) return nearest;
  const double dioptres = (1 / nearest) * (planes - 1 - plane) / (planes - 1);
  return dioptres > 1 / kFarMetres ? 1 / dioptres : kFarMetres;
}

} // namespace

PositionGrid positionGrid(const Situation& situation, const CameraProfile& camera) {
  PositionGrid grid;
  const ManyPositions& p = situation.positions;
  const Optics optics = situation.opticsOn(camera);
  const double wide = p.portrait ? optics.sensorHeightMm : optics.sensorWidthMm,
               high = p.portrait ? optics.sensorWidthMm : optics.sensorHeightMm;
  grid.columnFov = fieldOfView(wide, situation.focalMm);
  grid.rowFov = fieldOfView(high, situation.focalMm);
  grid.columns = p.panDegrees > 0 ? positionsFor(p.panDegrees, grid.columnFov, p.overlap) : 1;
  grid.rows = p.tiltDegrees > 0 ? positionsFor(p.tiltDegrees, grid.rowFov, p.overlap) : 1;
  grid.shifts = std::max(1, p.lensShifts);
  grid.planes = std::max(1, p.focusPlanes);
  return grid;
}

std::vector<PlannedPosition> plannedPositions(const Situation& situation, const CameraProfile& camera) {
  const PositionGrid grid = positionGrid(situation, camera);
  const ManyPositions& p = situation.positions;
  const bool lattice = grid.rows * grid.shifts * grid.columns > 1;
  std::vector<PlannedPosition> all;
  for (int row = 0; row < grid.rows; ++row)
    for (int walk = 0; walk < grid.columns; ++walk) {
      const int column = row % 2 == 0 ? walk : grid.columns - 1 - walk;
      for (int shift = 0; shift < grid.shifts; ++shift)
        for (int plane = 0; plane < grid.planes; ++plane) {
          PlannedPosition position;
          if (lattice) position.row = row * grid.shifts + shift + 1, position.column = column + 1;
          if (grid.planes > 1) position.plane = plane + 1;
          position.lensShift = grid.shifts == 1 ? 0 : (grid.shifts - 1) / 2 - shift;
          position.aim.yaw = turned(column, grid.columns, p.panDegrees, grid.columnFov);
          position.aim.pitch = -turned(row, grid.rows, p.tiltDegrees, grid.rowFov);
          position.aim.shiftY = 0.5 * position.lensShift;
          position.aim.focusMetres = focusedAt(plane, grid.planes, situation.focusDistance);
          position.aim.portrait = p.portrait;
          all.push_back(position);
        }
    }
  return all;
}

} // namespace ml
