// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/colour.h"

#include <array>
#include <numbers>

namespace ml {

inline constexpr double kDegree = std::numbers::pi / 180; ///< Radians.

/// A direction or a point: X right, Y down, Z ahead.
using Vector3 = std::array<double, 3>;

/// Turn of a camera, degrees: yaw to the right, pitch up, roll with the camera's right side down.
struct Angles {
  double yaw = 0, pitch = 0, roll = 0;
  friend bool operator==(const Angles&, const Angles&) = default;
};
/// Camera to world: Ry(yaw) Rx(pitch) Rz(roll).
[[nodiscard]] Matrix3 turnOf(const Angles& angles);
[[nodiscard]] Angles anglesOf(const Matrix3& turn);
[[nodiscard]] Matrix3 transposed(const Matrix3& m);
/// Rotation by |v| radians about v (Rodrigues).
[[nodiscard]] Matrix3 rotationBy(const Vector3& v);

/// Bend of a lens about its axis: a ray that an unbent lens shows at rho lies at rho (1 + k1 rho^2 + k2 rho^4), rho in
/// half diagonals of the frame (Brown 1971, radial terms).
struct LensBend {
  double k1 = 0, k2 = 0;
};

/// Where one frame's camera stood. All frames are thought to look from one point.
struct Pose {
  Matrix3 turn = kIdentity3;     ///< Camera to world.
  double focal = 1;              ///< Pixels.
  double shiftX = 0, shiftY = 0; ///< Of the frame's middle from the lens's axis, pixels right and down.
};

/// Between pixels of a frame (centres at whole numbers) and directions.
class CameraGeometry {
public:
  CameraGeometry(const Pose& pose, const LensBend& bend, int width, int height);
  /// World direction of a pixel, of length one.
  [[nodiscard]] Vector3 ray(double x, double y) const;
  /// False: the direction lies beside or behind the camera, or where the lens folds.
  [[nodiscard]] bool pixel(const Vector3& world, double& x, double& y) const;
  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }

private:
  Pose pose_;
  LensBend bend_;
  int width_, height_;
  double halfDiagonal_, most_; ///< Largest unbent rho that is still one to one.
};

} // namespace ml
