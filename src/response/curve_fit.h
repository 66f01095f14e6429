// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "response/code_cells.h"
#include "response/response.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <vector>

/// A response curve while it is sought: inside the room only.
namespace ml::fit {

inline constexpr double kFloorNoise =
    0.25 / 255;                              ///< Of a cell's mean code: rounding and compression, not averaged away.
inline constexpr double kAnchor = 0.4613561; ///< sRGB code of 0.18: there the curves of all channels meet.

struct KnownCurve {
  const char* name;
  double (*linear)(double);
};
inline constexpr KnownCurve kSquare{"square",
                                    [](double v) { return v * v; }}; ///< Linear light is compared by its root.
inline constexpr KnownCurve kKnown[] = {{"sRGB", srgbDecode},
                                        {"linear", [](double v) { return v; }},
                                        {"gamma 2.2", [](double v) { return std::pow(v, 2.2); }}};

inline double logOf(const KnownCurve& curve, double v) {
  return std::log2(std::max(1e-9, curve.linear(v)));
}

/// Cubic B-spline basis on 0..1 with evenly spaced knots.
class Spline {
public:
  static constexpr int kPieces = 17, kSize = kPieces + 3;
  static int place(double v, double w[4]) {
    const double t = std::clamp(v, 0.0, 1.0) * kPieces;
    const int i = std::min(kPieces - 1, int(t));
    const double f = t - i, g = 1 - f;
    w[0] = g * g * g / 6, w[1] = (3 * f * f * f - 6 * f * f + 4) / 6, w[2] = (3 * g * g * g - 6 * g * g + 4) / 6,
    w[3] = f * f * f / 6;
    return i;
  }
  static double value(const double* coefficients, double v) {
    double w[4];
    const int i = place(v, w);
    return w[0] * coefficients[i] + w[1] * coefficients[i + 1] + w[2] * coefficients[i + 2] +
           w[3] * coefficients[i + 3];
  }
};

/// The logarithm of light for each channel: known curve + common spline + the channel's own.
struct Fit {
  const KnownCurve* start = nullptr;
  std::vector<double> common = std::vector<double>(Spline::kSize, 0.0);
  std::array<std::vector<double>, 3> own{std::vector<double>(Spline::kSize, 0.0),
                                         std::vector<double>(Spline::kSize, 0.0),
                                         std::vector<double>(Spline::kSize, 0.0)};

  std::vector<FrameLight> light;

  explicit Fit(std::size_t frames = 0) : light(frames) {}
  [[nodiscard]] double colour(std::size_t frame, std::size_t channel) const {
    return channel == 0 ? light[frame].red : channel == 2 ? light[frame].blue : 0;
  }
  /// Stops between two frames in a channel beyond those of their settings.
  [[nodiscard]] double beyond(const CodePairs& pair, std::size_t channel) const {
    const auto dark = std::size_t(pair.dark), bright = std::size_t(pair.light);
    return light[bright].stops - light[dark].stops + colour(bright, channel) - colour(dark, channel);
  }
  [[nodiscard]] double log2Of(std::size_t c, double v) const {
    return logOf(*start, v) + Spline::value(common.data(), v) + Spline::value(own[c].data(), v);
  }
};

/// What a known curve says at the codes of a bin, which no round changes.
struct KnownAt {
  double a, b, slopeA, slopeB; ///< Stops; stops for the code range.
};

inline constexpr double kSlopeReach = 0.004;
inline double below(double v) {
  return std::max(0.002, v - kSlopeReach);
}
inline double above(double v) {
  return std::min(1.0, v + kSlopeReach);
}
template <class Curve> double slopeOf(const Curve& curve, double v) {
  return (curve(above(v)) - curve(below(v))) / (above(v) - below(v));
}

/// One channel of a pair of frames: what the rounds work through, several at a time.
struct Piece {
  const CodePairs* pair;
  std::size_t channel;
  std::vector<KnownAt> known; ///< For each bin.
  double kept = 0;            ///< Samples that the last round believed.
  [[nodiscard]] const std::vector<PairBin>& bins() const { return pair->bins[channel]; }
};

void forEachPiece(std::vector<Piece>& pieces, const std::function<void(Piece&, std::size_t)>& work);

std::vector<Piece> piecesOf(const std::vector<CodePairs>& pairs);

void startFrom(const KnownCurve& curve, std::vector<Piece>& pieces);

struct Residual {
  double value = 0, sigma = 1, weight = 0; ///< Stops; of one sample; how many samples.
};

/// Residuals of a channel under a fit.
class Residuals {
public:
  Residuals(const Fit& fit, const Piece& piece)
      : piece_(piece), spline_(fit.common), stops_(piece.pair->stops + fit.beyond(*piece.pair, piece.channel)) {
    for (std::size_t i = 0; i < spline_.size(); ++i) spline_[i] += fit.own[piece.channel][i];
  }
  Residual operator[](std::size_t i) const {
    const PairBin& bin = piece_.bins()[i];
    const KnownAt& known = piece_.known[i];
    const auto added = [&](double v) { return Spline::value(spline_.data(), v); };
    const double sa = known.slopeA + slopeOf(added, bin.a), sb = known.slopeB + slopeOf(added, bin.b);
    return {known.b + added(bin.b) - known.a - added(bin.a) - stops_,
            std::sqrt(sa * sa + sb * sb) * kFloorNoise * 2 + 0.004, bin.count};
  }

private:
  const Piece& piece_;
  std::vector<double> spline_;
  double stops_;
};

struct Weighted {
  double value, weight;
  friend bool operator<(const Weighted& a, const Weighted& b) { return a.value < b.value; }
};

/// The least value that half of all weight does not exceed. Reorders the list.
double weightedMedian(std::vector<Weighted>& list);

/// Robust scale of the residuals in units of their expected noise, and in stops.
struct Spread {
  double sigmas = 0, stops = 0;
};
Spread spreadOf(const Fit& fit, std::vector<Piece>& pieces);

} // namespace ml::fit
