// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/level.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace ml {
namespace {

/// How far cameras are usually held off level and off the horizon, degrees (common practice, no source): a head turns
/// about the vertical, so rolls are small, while a whole row may look up.
constexpr double kRollSigma = 1, kPitchSigma = 12;

/// Tilts the whole about X and Z until rolls and pitches are small.
void levelOut(Arrangement& a) {
  for (int round = 0; round < 20; ++round) {
    Eigen::Matrix2d h = Eigen::Matrix2d::Zero();
    Eigen::Vector2d g = Eigen::Vector2d::Zero();
    for (const Pose& pose : a.poses) {
      const Angles now = anglesOf(pose.turn);
      Eigen::Vector2d roll, pitch;
      constexpr double kStep = 1e-4;
      for (int k = 0; k < 2; ++k) {
        const Angles moved = anglesOf(multiply(rotationBy({k == 0 ? kStep : 0, 0, k == 1 ? kStep : 0}), pose.turn));
        roll[k] = (moved.roll - now.roll) / kStep;
        pitch[k] = (moved.pitch - now.pitch) / kStep;
      }
      h +=
          roll * roll.transpose() / (kRollSigma * kRollSigma) + pitch * pitch.transpose() / (kPitchSigma * kPitchSigma);
      g += roll * now.roll / (kRollSigma * kRollSigma) + pitch * now.pitch / (kPitchSigma * kPitchSigma);
    }
    Eigen::Vector2d step = -h.ldlt().solve(g);
    if (!step.allFinite()) return;
    if (step.norm() > 0.3) step *= 0.3 / step.norm();
    turnAll(a, rotationBy({step[0], 0, step[1]}));
    if (step.norm() < 1e-10) return;
  }
}

/// Middle of the yaws on the shorter way round: opposite to the middle of the largest gap.
double middleYaw(const Arrangement& a) {
  std::vector<double> yaws;
  for (const Pose& pose : a.poses) yaws.push_back(anglesOf(pose.turn).yaw);
  std::sort(yaws.begin(), yaws.end());
  double widest = 360 - yaws.back() + yaws.front(), middle = (yaws.front() + yaws.back()) / 2;
  for (std::size_t i = 1; i < yaws.size(); ++i)
    if (const double gap = yaws[i] - yaws[i - 1]; gap > widest) {
      widest = gap;
      middle = (yaws[i] + yaws[i - 1]) / 2 + 180;
    }
  return middle;
}

/// Values in groups that lie further apart than `gap`; the number of each one's group.
std::vector<int> groupsOf(const std::vector<double>& values, double gap) {
  std::vector<std::size_t> order(values.size());
  std::iota(order.begin(), order.end(), std::size_t(0));
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return values[a] < values[b]; });
  std::vector<int> out(values.size());
  int group = 0;
  for (std::size_t i = 0; i < order.size(); ++i) {
    if (i > 0 && values[order[i]] - values[order[i - 1]] > gap) ++group;
    out[order[i]] = group;
  }
  return out;
}

} // namespace

void turnAll(Arrangement& a, const Matrix3& turn) {
  for (Pose& pose : a.poses) pose.turn = multiply(turn, pose.turn);
}

void levelAndCentre(Arrangement& a) {
  if (a.kind == PositionKind::Shifted) {
    const auto [left, right] = std::minmax_element(a.poses.begin(), a.poses.end(),
                                                   [](const Pose& p, const Pose& q) { return p.shiftX < q.shiftX; });
    const auto [top, bottom] = std::minmax_element(a.poses.begin(), a.poses.end(),
                                                   [](const Pose& p, const Pose& q) { return p.shiftY < q.shiftY; });
    const double x = (left->shiftX + right->shiftX) / 2, y = (top->shiftY + bottom->shiftY) / 2;
    for (Pose& pose : a.poses) pose.shiftX -= x, pose.shiftY -= y;
    return;
  }
  // The first camera's up is the first guess.
  turnAll(a, transposed(a.poses[0].turn));
  if (std::all_of(a.view.begin(), a.view.end(), [&](int v) { return v == a.view[0]; })) return;
  levelOut(a);
  turnAll(a, turnOf({-middleYaw(a), 0, 0}));
}

std::vector<GridPlace> gridOf(const Arrangement& a) {
  std::vector<double> across, down;
  const double focal = a.poses[0].focal;
  const bool turned = a.kind == PositionKind::Turned;
  for (const Pose& pose : a.poses) {
    const Angles angles = anglesOf(pose.turn);
    across.push_back(turned ? angles.yaw : pose.shiftX);
    down.push_back(turned ? -angles.pitch : pose.shiftY);
  }
  // Neighbours lie at least half a frame apart; a hand varies by a tenth.
  const double wide = turned ? 2 * std::atan(a.width / 2.0 / focal) / kDegree : a.width,
               high = turned ? 2 * std::atan(a.height / 2.0 / focal) / kDegree : a.height;
  const auto rows = groupsOf(down, 0.2 * high);
  std::vector<GridPlace> out(a.poses.size());
  for (int row = 0; row <= *std::max_element(rows.begin(), rows.end()); ++row) {
    std::vector<double> values;
    std::vector<std::size_t> members;
    for (std::size_t i = 0; i < rows.size(); ++i)
      if (rows[i] == row) values.push_back(across[i]), members.push_back(i);
    const auto columns = groupsOf(values, 0.15 * wide);
    for (std::size_t k = 0; k < members.size(); ++k) out[members[k]] = {row, columns[k]};
  }
  return out;
}

} // namespace ml
