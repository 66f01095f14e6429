// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "response/curve_fit.h"

#include <Eigen/Dense>

namespace ml::fit {

inline constexpr double kNeighboursAlike =
    60; ///< So many samples know what one alone would: neighbours share texture, lens and coding.

/// Unknowns: the common spline, the three channels', the light of each frame, then its red and its blue.
struct Layout {
  static constexpr int n = Spline::kSize;
  std::size_t frames;
  bool curve; ///< False: there are no splines.
  [[nodiscard]] int splines() const { return curve ? 4 * n : 0; }
  [[nodiscard]] int light(int frame) const { return splines() + frame; }
  [[nodiscard]] int colour(int frame, std::size_t channel) const {
    return splines() + int(frames) * (channel == 0 ? 1 : 2) + frame;
  }
  [[nodiscard]] int size() const { return splines() + 3 * int(frames); }
};

struct Equations {
  explicit Equations(const Layout& layout)
      : h(Eigen::MatrixXd::Zero(layout.size(), layout.size())), g(Eigen::VectorXd::Zero(layout.size())) {}
  Eigen::MatrixXd h;
  Eigen::VectorXd g;
};

/// What the pairs say, and what is thought of the curve beforehand; nothing yet of the light.
Equations equationsOf(const Fit& fit, std::vector<Piece>& pieces, double limit, const Layout& layout);

/// Where the frames lie on the scale of stops by their settings, mean 0 and length 1, one column for each run of frames
/// that pairs connect: the directions in which a stretched curve and stretched exposures look alike. Frames that few
/// samples speak of have little part in them, so that they cannot make up for the others.
Eigen::MatrixXd stretchesOf(const std::vector<Piece>& pieces, std::size_t frames);

enum class Group { None, Light, Red, Blue };

/// What is thought of the light beforehand, of all groups of unknowns but one. With a curve, nothing may lie along the
/// stretch.
void addBeliefs(Equations& e, const Layout& layout, const Eigen::MatrixXd& stretches, double scale, Group but);

/// `scale`: so many samples know what one alone would, so that what is thought of the light beforehand keeps its
/// weight.
void improve(Fit& fit, std::vector<Piece>& pieces, double limit, double scale, const Layout& layout);

/// What the pairs say of one group of unknowns by themselves: the others are taken out (Schur's complement). Along the
/// stretch nothing is said, where the curve could make up for it.
LightKnowledge knowledgeOf(Equations e, const Layout& layout, const Eigen::MatrixXd& stretches, double scale,
                           Group group);

} // namespace ml::fit
