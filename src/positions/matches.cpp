// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/matches.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <random>

namespace ml {
namespace {

constexpr int kTries = 400;

double squaredDistance(const Vector3& a, const Vector3& b) {
  const double x = a[0] - b[0], y = a[1] - b[1], z = a[2] - b[2];
  return x * x + y * y + z * z;
}

std::vector<int> agreeing(const std::vector<Vector3>& a, const std::vector<Vector3>& b, const Matrix3& turn,
                          double limit) {
  std::vector<int> out;
  for (std::size_t i = 0; i < a.size(); ++i)
    if (squaredDistance(apply(turn, a[i]), b[i]) < limit * limit) out.push_back(int(i));
  return out;
}

template <class T> std::vector<T> chosen(const std::vector<T>& all, const std::vector<int>& indices) {
  std::vector<T> out;
  for (const int i : indices) out.push_back(all[std::size_t(i)]);
  return out;
}

} // namespace

Matrix3 rotationBetween(const std::vector<Vector3>& a, const std::vector<Vector3>& b) {
  Eigen::Matrix3d h = Eigen::Matrix3d::Zero();
  for (std::size_t i = 0; i < a.size(); ++i)
    h += Eigen::Vector3d(b[i][0], b[i][1], b[i][2]) * Eigen::RowVector3d(a[i][0], a[i][1], a[i][2]);
  const Eigen::JacobiSVD<Eigen::Matrix3d> svd(h, Eigen::ComputeFullU | Eigen::ComputeFullV);
  Eigen::Vector3d sign(1, 1, (svd.matrixU() * svd.matrixV().transpose()).determinant() < 0 ? -1 : 1);
  const Eigen::Matrix3d r = svd.matrixU() * sign.asDiagonal() * svd.matrixV().transpose();
  return {r(0, 0), r(0, 1), r(0, 2), r(1, 0), r(1, 1), r(1, 2), r(2, 0), r(2, 1), r(2, 2)};
}

PairFit fitTurn(const PairMatches& pair, const LensGuess& lens, int width, int height, double tolerance) {
  PairFit out;
  const std::size_t n = pair.matches.size();
  if (n < 3) return out;
  const CameraGeometry camera({kIdentity3, lens.focal, 0, 0}, lens.bend, width, height);
  std::vector<Vector3> a, b;
  for (const Match& m : pair.matches) a.push_back(camera.ray(m.ax, m.ay)), b.push_back(camera.ray(m.bx, m.by));
  const double limit = tolerance / lens.focal, apart = 8 * limit;
  std::mt19937 random(1);
  for (int i = 0; i < kTries; ++i) {
    const std::size_t p = random() % n, q = random() % n;
    const double da = std::sqrt(squaredDistance(a[p], a[q])), db = std::sqrt(squaredDistance(b[p], b[q]));
    if (p == q || da < apart || std::abs(da - db) > 2 * limit) continue;
    const Matrix3 turn = rotationBetween({a[p], a[q]}, {b[p], b[q]});
    auto agreed = agreeing(a, b, turn, limit);
    if (agreed.size() > out.inliers.size()) out = {turn, 0, 0, std::move(agreed)};
  }
  for (int i = 0; i < 3 && out.inliers.size() >= 2; ++i) {
    const Matrix3 turn = rotationBetween(chosen(a, out.inliers), chosen(b, out.inliers));
    auto agreed = agreeing(a, b, turn, limit);
    if (agreed.size() < out.inliers.size()) break;
    out = {turn, 0, 0, std::move(agreed)};
  }
  return out;
}

PairFit fitShift(const PairMatches& pair, double tolerance) {
  PairFit out;
  const auto within = [&](double dx, double dy) {
    std::vector<int> agreed;
    for (std::size_t i = 0; i < pair.matches.size(); ++i) {
      const Match& m = pair.matches[i];
      if (std::hypot(m.bx - m.ax - dx, m.by - m.ay - dy) < tolerance) agreed.push_back(int(i));
    }
    return agreed;
  };
  for (const Match& m : pair.matches) {
    auto agreed = within(m.bx - m.ax, m.by - m.ay);
    if (agreed.size() > out.inliers.size()) out = {kIdentity3, m.bx - m.ax, m.by - m.ay, std::move(agreed)};
  }
  if (out.inliers.empty()) return out;
  double dx = 0, dy = 0;
  for (const int i : out.inliers) {
    const Match& m = pair.matches[std::size_t(i)];
    dx += (m.bx - m.ax) / double(out.inliers.size());
    dy += (m.by - m.ay) / double(out.inliers.size());
  }
  out.shiftX = dx, out.shiftY = dy;
  out.inliers = within(dx, dy);
  return out;
}

} // namespace ml
