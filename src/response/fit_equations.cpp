// SPDX-License-Identifier: GPL-3.0-or-later
#include "response/fit_equations.h"

namespace ml::fit {
namespace {

constexpr double kThirdDerivative =
    5; ///< Typical size, stops for the code range cubed. Ripples two stops long have hundreds.
constexpr double kOwnSize = 0.05; ///< Typical departure of a channel from the common curve, stops.

void penalise(Eigen::MatrixXd& h, int offset, double typicalThird, double typicalSize) {
  constexpr int n = Spline::kSize;
  const double third = std::pow(double(Spline::kPieces), 3) / typicalThird;
  for (int i = 0; i + 3 < n; ++i) {
    const double d[4] = {-third, 3 * third, -3 * third, third};
    for (int a = 0; a < 4; ++a)
      for (int b = 0; b < 4; ++b) h(offset + i + a, offset + i + b) += d[a] * d[b] / Spline::kPieces;
  }
  for (int i = 0; i < n; ++i) h(offset + i, offset + i) += 1 / (typicalSize * typicalSize);
}

constexpr double kTimeSigma =
    0.06; ///< Stops by which the time of a shutter departs from its mark (common practice, no source: up to 8 %).
constexpr double kColourSigma = 0.15; ///< Stops that a frame's colours may depart from the others'.

void addPiece(const Fit& fit, Piece& piece, double limit, const Layout& layout, Equations& e) {
  piece.kept = 0;
  constexpr int n = Layout::n;
  const int own = n * (1 + int(piece.channel));
  const Residuals residuals(fit, piece);
  for (std::size_t i = 0; i < piece.bins().size(); ++i) {
    const PairBin& bin = piece.bins()[i];
    const Residual r = residuals[i];
    const double size = std::abs(r.value) / r.sigma, t = size / limit;
    if (t >= 1) continue;
    const double belief = (1 - t * t) * (1 - t * t),
                 weight = r.weight * belief / (r.sigma * r.sigma); // Tukey's biweight
    piece.kept += r.weight * belief;
    int index[20], used = 0;
    double value[20];
    const auto add = [&](int at, double v) { index[used] = at, value[used++] = v; };
    if (layout.curve) {
      double wa[4], wb[4];
      const int ia = Spline::place(bin.a, wa), ib = Spline::place(bin.b, wb);
      for (int k = 0; k < 4; ++k)
        add(ib + k, wb[k]), add(ia + k, -wa[k]), add(own + ib + k, wb[k]), add(own + ia + k, -wa[k]);
    }
    add(layout.light(piece.pair->light), -1);
    add(layout.light(piece.pair->dark), 1);
    if (piece.channel != 1)
      add(layout.colour(piece.pair->light, piece.channel), -1), add(layout.colour(piece.pair->dark, piece.channel), 1);
    const double target = piece.pair->stops - piece.known[i].b + piece.known[i].a;
    for (int a = 0; a < used; ++a) {
      e.g[index[a]] += weight * value[a] * target;
      for (int b = 0; b < used; ++b) e.h(index[a], index[b]) += weight * value[a] * value[b];
    }
  }
}

} // namespace

Equations equationsOf(const Fit& fit, std::vector<Piece>& pieces, double limit, const Layout& layout) {
  constexpr int n = Layout::n;
  std::vector<Equations> parts(pieces.size(), Equations(layout));
  forEachPiece(pieces, [&](Piece& piece, std::size_t p) { addPiece(fit, piece, limit, layout, parts[p]); });
  Equations all = std::move(parts.front());
  for (std::size_t p = 1; p < parts.size(); ++p) all.h += parts[p].h, all.g += parts[p].g;
  if (!layout.curve) return all;
  penalise(all.h, 0, kThirdDerivative, 20);
  for (int c = 0; c < 3; ++c) penalise(all.h, n * (1 + c), kThirdDerivative / 10, kOwnSize);
  double w[4];
  const int at = Spline::place(kAnchor, w);
  for (int part = 0; part < 4; ++part)
    for (int a = 0; a < 4; ++a)
      for (int b = 0; b < 4; ++b) all.h(part * n + at + a, part * n + at + b) += 1e12 * w[a] * w[b];
  return all;
}

Eigen::MatrixXd stretchesOf(const std::vector<Piece>& pieces, std::size_t frames) {
  constexpr double kFully = 5000, kConnects = 100; // samples of green
  std::vector<double> at(frames, 0), samples(frames, 0);
  std::vector<int> run(frames);
  for (std::size_t i = 0; i < frames; ++i) run[i] = int(i);
  for (const Piece& piece : pieces) { // pairs come darkest first
    const auto dark = std::size_t(piece.pair->dark), light = std::size_t(piece.pair->light);
    at[light] = at[dark] + piece.pair->stops;
    if (piece.channel != 1) continue; // a frame's light is that of its green; red and blue only depart from it
    for (const std::size_t i : {dark, light}) samples[i] += piece.kept;
    if (piece.kept < kConnects) continue;
    const int from = run[light], to = run[dark];
    for (int& r : run)
      if (r == from) r = to;
  }
  std::vector<Eigen::VectorXd> found;
  for (std::size_t r = 0; r < frames; ++r) {
    double weights = 0, mean = 0;
    Eigen::VectorXd stretch = Eigen::VectorXd::Zero(Eigen::Index(frames));
    const auto weight = [&](std::size_t i) { return run[i] == int(r) ? std::min(1.0, samples[i] / kFully) : 0; };
    for (std::size_t i = 0; i < frames; ++i) weights += weight(i), mean += weight(i) * at[i];
    for (std::size_t i = 0; i < frames; ++i)
      stretch[Eigen::Index(i)] = weight(i) * (at[i] - mean / std::max(1e-9, weights));
    if (stretch.norm() > 1e-6) found.push_back(stretch / stretch.norm());
  }
  Eigen::MatrixXd out(Eigen::Index(frames), Eigen::Index(found.size()));
  for (std::size_t k = 0; k < found.size(); ++k) out.col(Eigen::Index(k)) = found[k];
  return out;
}

void addBeliefs(Equations& e, const Layout& layout, const Eigen::MatrixXd& stretches, double scale, Group but) {
  const auto add = [&](Group group, int first, double sigma) {
    if (group == but) return;
    for (int i = 0; i < int(layout.frames); ++i) e.h(first + i, first + i) += scale / (sigma * sigma);
    if (layout.curve)
      e.h.block(first, first, stretches.rows(), stretches.rows()) += 1e12 * stretches * stretches.transpose();
  };
  add(Group::Light, layout.light(0), kTimeSigma);
  add(Group::Red, layout.colour(0, 0), kColourSigma);
  add(Group::Blue, layout.colour(0, 2), kColourSigma);
}

void improve(Fit& fit, std::vector<Piece>& pieces, double limit, double scale, const Layout& layout) {
  constexpr int n = Layout::n;
  Equations e = equationsOf(fit, pieces, limit, layout);
  addBeliefs(e, layout, stretchesOf(pieces, layout.frames), scale, Group::None);
  const Eigen::VectorXd solution = e.h.ldlt().solve(e.g);
  if (layout.curve)
    for (int i = 0; i < n; ++i) {
      fit.common[std::size_t(i)] = solution[i];
      for (int c = 0; c < 3; ++c) fit.own[std::size_t(c)][std::size_t(i)] = solution[n * (1 + c) + i];
    }
  for (int i = 0; i < int(layout.frames); ++i)
    fit.light[std::size_t(i)] = {solution[layout.light(i)], solution[layout.colour(i, 0)],
                                 solution[layout.colour(i, 2)]};
}

LightKnowledge knowledgeOf(Equations e, const Layout& layout, const Eigen::MatrixXd& stretches, double scale,
                           Group group) {
  addBeliefs(e, layout, stretches, scale, group);
  const int first = group == Group::Light ? layout.light(0) : layout.colour(0, group == Group::Red ? 0 : 2),
            count = int(layout.frames);
  std::vector<int> rest;
  for (int i = 0; i < e.h.rows(); ++i)
    if (i < first || i >= first + count) rest.push_back(i);
  const Eigen::MatrixXd b = e.h(Eigen::seqN(first, count), rest);
  const Eigen::LDLT<Eigen::MatrixXd> solver(Eigen::MatrixXd(e.h(rest, rest)));
  const Eigen::VectorXd other = e.g(rest);
  Eigen::MatrixXd p = (e.h.block(first, first, count, count) - b * solver.solve(b.transpose())) / scale;
  Eigen::VectorXd q = (e.g.segment(first, count) - b * solver.solve(other)) / scale;
  if (layout.curve) {
    const Eigen::MatrixXd across = Eigen::MatrixXd::Identity(count, count) - stretches * stretches.transpose();
    p = across * p * across;
    q = across * q;
  }
  LightKnowledge out;
  out.precision.assign(p.data(), p.data() + p.size());
  out.information.assign(q.data(), q.data() + q.size());
  return out;
}

} // namespace ml::fit
