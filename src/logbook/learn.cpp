// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/learn.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kSure = 1.96; ///< Standard deviations of 95 %.

double quantile(const std::vector<double>& sorted, double share) {
  const double at = share * double(sorted.size() - 1);
  const auto cell = std::size_t(at);
  const double next = sorted[std::min(cell + 1, sorted.size() - 1)];
  return sorted[cell] + (at - double(cell)) * (next - sorted[cell]);
}

/// Coefficients of logit = a + b x, with the inverse of their information.
struct Fit {
  double a = 0, b = 0, aa = 0, ab = 0, bb = 0;
};

Fit newton(const std::vector<HandFrame>& frames, double centre) {
  constexpr double kUsualSlope = -1.5, kPull = 2; // e^1.5 a stop, as two frames
  Fit fit{0, kUsualSlope, 0, 0, 0};
  constexpr int kSteps = 50;
  for (int step = 0; step < kSteps; ++step) {
    double ga = 0, gb = -kPull * (fit.b - kUsualSlope), haa = 1e-9, hab = 0, hbb = kPull;
    for (const auto& frame : frames) {
      const double x = frame.stops - centre, p = 1 / (1 + std::exp(-(fit.a + fit.b * x)));
      const double miss = (frame.sharp ? 1 : 0) - p, weight = p * (1 - p);
      ga += miss;
      gb += miss * x;
      haa += weight;
      hab += weight * x;
      hbb += weight * x * x;
    }
    const double determinant = haa * hbb - hab * hab;
    fit.aa = hbb / determinant;
    fit.ab = -hab / determinant;
    fit.bb = haa / determinant;
    const double da = fit.aa * ga + fit.ab * gb, db = fit.ab * ga + fit.bb * gb;
    const double scale = std::min(1.0, 2 / std::max({std::abs(da), std::abs(db), 1e-12})); // no leaps
    fit.a += scale * da;
    fit.b += scale * db;
    if (std::max(std::abs(da), std::abs(db)) < 1e-10) break;
  }
  return fit;
}

} // namespace

std::optional<LogSpread> spreadOf(std::vector<double> figures) {
  if (int(figures.size()) < kFewestCases) return {};
  std::sort(figures.begin(), figures.end());
  return LogSpread{quantile(figures, 0.25), quantile(figures, 0.5), quantile(figures, 0.75), int(figures.size())};
}

double handStops(double seconds, double focal35) {
  return std::log2(seconds * focal35);
}

double HandCurve::chance(double stopsBeyond) const {
  return 1 / (1 + std::exp(slope * (stopsBeyond - middle)));
}

/// The logit is slope (middle - x); its variance in middle and slope.
double HandCurve::logitBand(double stopsBeyond) const {
  const double byMiddle = slope, bySlope = middle - stopsBeyond;
  const double variance =
      byMiddle * byMiddle * varMiddle + bySlope * bySlope * varSlope + 2 * byMiddle * bySlope * covariance;
  return kSure * std::sqrt(std::max(0.0, variance));
}

std::optional<HandCurve> fitHand(const std::vector<HandFrame>& frames) {
  const auto sharp = std::count_if(frames.begin(), frames.end(), [](const HandFrame& f) { return f.sharp; });
  if (int(frames.size()) < kFewestCases || sharp == 0 || sharp == std::ptrdiff_t(frames.size())) return {};
  double centre = 0;
  for (const auto& frame : frames) centre += frame.stops / double(frames.size());
  const Fit fit = newton(frames, centre);
  if (!(fit.b < -1e-3)) return {}; // longer times came out sharper: these frames say nothing
  HandCurve out;
  out.slope = -fit.b;
  out.middle = centre - fit.a / fit.b;
  // middle = centre - a / b, slope = -b: by their derivatives
  const double ma = -1 / fit.b, mb = fit.a / (fit.b * fit.b);
  out.varMiddle = ma * ma * fit.aa + 2 * ma * mb * fit.ab + mb * mb * fit.bb;
  out.varSlope = fit.bb;
  out.covariance = -(ma * fit.ab + mb * fit.bb);
  const double logit = std::log(kHandChance / (1 - kHandChance));
  out.stops = out.middle - logit / out.slope;
  const double bySlope = logit / (out.slope * out.slope);
  const double variance = out.varMiddle + bySlope * bySlope * out.varSlope + 2 * bySlope * out.covariance;
  const double band = kSure * std::sqrt(std::max(0.0, variance));
  out.low = out.stops - band;
  out.high = out.stops + band;
  out.cases = int(frames.size());
  return out;
}

} // namespace ml
