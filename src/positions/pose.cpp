// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/pose.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

double bent(const LensBend& b, double rho) {
  const double r2 = rho * rho;
  return rho * (1 + r2 * (b.k1 + r2 * b.k2));
}
double bentSlope(const LensBend& b, double rho) {
  const double r2 = rho * rho;
  return 1 + r2 * (3 * b.k1 + r2 * 5 * b.k2);
}

/// Inverse of `bent`, by Newton from the bent radius; the bend is a few hundredths.
double unbent(const LensBend& b, double rho) {
  double r = rho;
  for (int i = 0; i < 8; ++i) {
    const double step = (bent(b, r) - rho) / std::max(0.2, bentSlope(b, r));
    r -= step;
    if (std::abs(step) < 1e-12) break;
  }
  return r;
}

} // namespace

Matrix3 turnOf(const Angles& a) {
  const double cy = std::cos(a.yaw * kDegree), sy = std::sin(a.yaw * kDegree);
  const double cp = std::cos(a.pitch * kDegree), sp = std::sin(a.pitch * kDegree);
  const double cr = std::cos(a.roll * kDegree), sr = std::sin(a.roll * kDegree);
  return multiply(multiply({cy, 0, sy, 0, 1, 0, -sy, 0, cy}, {1, 0, 0, 0, cp, -sp, 0, sp, cp}),
                  {cr, -sr, 0, sr, cr, 0, 0, 0, 1});
}

Angles anglesOf(const Matrix3& m) {
  // Ahead is the third column: (sin yaw cos pitch, -sin pitch, cos yaw cos pitch).
  return {std::atan2(m[2], m[8]) / kDegree, std::asin(std::clamp(-m[5], -1.0, 1.0)) / kDegree,
          std::atan2(m[3], m[4]) / kDegree};
}

Matrix3 transposed(const Matrix3& m) {
  return {m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]};
}

Matrix3 rotationBy(const Vector3& v) {
  const double angle = std::hypot(v[0], v[1], v[2]);
  if (angle < 1e-15) return kIdentity3;
  const double x = v[0] / angle, y = v[1] / angle, z = v[2] / angle, c = std::cos(angle), s = std::sin(angle),
               d = 1 - c;
  return {c + x * x * d,     x * y * d - z * s, x * z * d + y * s, y * x * d + z * s, c + y * y * d,
          y * z * d - x * s, z * x * d - y * s, z * y * d + x * s, c + z * z * d};
}

CameraGeometry::CameraGeometry(const Pose& pose, const LensBend& bend, int width, int height)
    : pose_(pose), bend_(bend), width_(width), height_(height), halfDiagonal_(std::hypot(width, height) / 2), most_(0) {
  constexpr double kFurthest = 2.5, kStep = 0.02;
  while (most_ < kFurthest && bentSlope(bend_, most_ + kStep) > 0.3) most_ += kStep;
}

Vector3 CameraGeometry::ray(double x, double y) const {
  double u = x - (width_ - 1) / 2.0 + pose_.shiftX, v = y - (height_ - 1) / 2.0 + pose_.shiftY;
  const double rho = std::hypot(u, v) / halfDiagonal_;
  if (rho > 0 && (bend_.k1 != 0 || bend_.k2 != 0)) {
    const double scale = unbent(bend_, rho) / rho;
    u *= scale, v *= scale;
  }
  const double n = std::hypot(u, v, pose_.focal);
  return apply(pose_.turn, {u / n, v / n, pose_.focal / n});
}

bool CameraGeometry::pixel(const Vector3& world, double& x, double& y) const {
  const Matrix3& t = pose_.turn; // transposed below: world to camera
  const double z = t[2] * world[0] + t[5] * world[1] + t[8] * world[2];
  if (!(z > 0.05)) return false;
  const double u = pose_.focal * (t[0] * world[0] + t[3] * world[1] + t[6] * world[2]) / z,
               v = pose_.focal * (t[1] * world[0] + t[4] * world[1] + t[7] * world[2]) / z;
  const double r2 = (u * u + v * v) / (halfDiagonal_ * halfDiagonal_);
  if (r2 > most_ * most_) return false;
  const double scale = 1 + r2 * (bend_.k1 + r2 * bend_.k2);
  x = u * scale + (width_ - 1) / 2.0 - pose_.shiftX;
  y = v * scale + (height_ - 1) / 2.0 - pose_.shiftY;
  return true;
}

} // namespace ml
