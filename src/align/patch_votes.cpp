// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/patch_votes.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr int kHalf = 5, kSide = 2 * kHalf + 1, kPixels = kSide * kSide; ///< Of a patch.
constexpr int kCellsAcross = 12, kCellsDown = 8; ///< One patch of each, where it shows a corner.
constexpr float kAlike = 0.8f;                   ///< Correlation from which on a place may be the patch's.
constexpr int kApart = 3;                        ///< Pixels between the two places of a patch.
constexpr double kNear = 1.2;                    ///< Pixels within which a patch agrees with a proposal.
constexpr double kMostTurn = 0.1;                ///< Radians.
constexpr double kMostGrowth = 0.04;
constexpr int kFewest = 7; ///< Patches that must agree.

using Patch = std::array<float, kPixels>;

/// A patch about its mean, its squares summing to one.
Patch normalised(const Image<float>& from, int x, int y) {
  Patch out;
  float sum = 0, squares = 0;
  for (int j = 0, k = 0; j < kSide; ++j) {
    const float* row = from.at(x - kHalf, y - kHalf + j);
    for (int i = 0; i < kSide; ++i, ++k) sum += out[std::size_t(k)] = row[i];
  }
  for (float& v : out) v -= sum / float(kPixels), squares += v * v;
  for (float& v : out) v /= std::sqrt(squares);
  return out;
}

/// One over the length of what stands about each pixel, less its mean; 0 where it is all but the same, and at borders.
Image<float> lengthsOf(const Image<float>& image, float least) {
  Image<float> out(image.width(), image.height(), 1);
  out.fill(0);
  forEachBand(image.height(), [&](const Band& band) {
    for (int y = std::max(kHalf, band.begin); y < std::min(image.height() - kHalf, band.end); ++y)
      for (int x = kHalf; x < image.width() - kHalf; ++x) {
        double sum = 0, squares = 0;
        for (int j = -kHalf; j <= kHalf; ++j) {
          const float* row = image.at(x - kHalf, y + j);
          for (int i = 0; i < kSide; ++i) sum += row[i], squares += double(row[i]) * row[i];
        }
        squares -= sum * sum / kPixels;
        if (squares >= kPixels * double(least) * least) *out.at(x, y) = float(1 / std::sqrt(squares));
      }
  });
  return out;
}

/// Sums of products of a patch with what stands at `count` places of a row after each other, `stride` floats a row.
ML_VECTOR_CLONES void productsAlong(const float* patch, const float* from, std::ptrdiff_t stride, int count,
                                    float* __restrict out) {
  for (int x = 0; x < count; ++x) out[x] = 0;
  for (int j = 0; j < kSide; ++j)
    for (int i = 0; i < kSide; ++i) {
      const float p = patch[j * kSide + i];
      const float* row = from + j * stride + i;
      for (int x = 0; x < count; ++x) out[x] += p * row[x];
    }
}

struct Corner {
  int x, y;
};

/// The place of each cell that is held in both directions best: the largest smaller eigenvalue of the structure tensor.
std::vector<Corner> cornersOf(const Image<float>& image, float least) {
  const int w = image.width(), h = image.height();
  std::vector<Corner> corners;
  const auto heldAt = [&](int x, int y) {
    double xx = 0, xy = 0, yy = 0;
    for (int j = y - kHalf + 1; j < y + kHalf; ++j)
      for (int i = x - kHalf + 1; i < x + kHalf; ++i) {
        const double gx = *image.at(i + 1, j) - *image.at(i - 1, j), gy = *image.at(i, j + 1) - *image.at(i, j - 1);
        xx += gx * gx, xy += gx * gy, yy += gy * gy;
      }
    return (xx + yy - std::hypot(xx - yy, 2 * xy)) / 2;
  };
  for (int cy = 0; cy < kCellsDown; ++cy)
    for (int cx = 0; cx < kCellsAcross; ++cx) {
      double most = kPixels * double(least) * least;
      Corner best{-1, -1};
      for (int y = std::max(kHalf, cy * h / kCellsDown); y < std::min(h - kHalf, (cy + 1) * h / kCellsDown); y += 2)
        for (int x = std::max(kHalf, cx * w / kCellsAcross); x < std::min(w - kHalf, (cx + 1) * w / kCellsAcross);
             x += 2)
          if (const double held = heldAt(x, y); held > most) most = held, best = {x, y};
      if (best.x >= 0) corners.push_back(best);
    }
  return corners;
}

struct Match {
  int patch;
  double x, y, u, v; ///< In the fixed picture and in the moving one.
};

/// The places of the moving picture that look like a patch most: at most two, apart from each other.
void findIn(const Image<float>& moving, const Image<float>& lengths, const Patch& patch, int index,
            const Corner& corner, std::vector<Match>& out) {
  const int w = moving.width(), h = moving.height(), reachX = w / 5, reachY = h / 5;
  struct Place {
    float alike = kAlike;
    int x = -1, y = -1;
  };
  Place best, second;
  const int left = std::max(kHalf, corner.x - reachX), count = std::min(w - kHalf, corner.x + reachX + 1) - left;
  std::vector<float> products(static_cast<std::size_t>(count));
  for (int y = std::max(kHalf, corner.y - reachY); y < std::min(h - kHalf, corner.y + reachY + 1); ++y) {
    productsAlong(patch.data(), moving.at(left - kHalf, y - kHalf), w, count, products.data());
    for (int k = 0; k < count; ++k) {
      const int x = left + k;
      const float alike = products[std::size_t(k)] * *lengths.at(x, y);
      const bool beside = best.x >= 0 && std::abs(best.x - x) <= kApart && std::abs(best.y - y) <= kApart;
      if (alike > best.alike) {
        if (!beside) second = best;
        best = {alike, x, y};
      } else if (!beside && alike > second.alike) {
        second = {alike, x, y};
      }
    }
  }
  for (const Place& p : {best, second})
    if (p.x >= 0) out.push_back({index, double(corner.x), double(corner.y), double(p.x), double(p.y)});
}

/// A turn about nothing but a shift: u = c x - s y + a, v = s x + c y + b.
struct Motion {
  double c = 1, s = 0, a = 0, b = 0;
  [[nodiscard]] double off(const Match& m) const {
    return std::hypot(c * m.x - s * m.y + a - m.u, s * m.x + c * m.y + b - m.v);
  }
};

std::optional<Motion> proposedBy(const Match& p, const Match& q, double apart) {
  const double dx = q.x - p.x, dy = q.y - p.y, du = q.u - p.u, dv = q.v - p.v, length = std::hypot(dx, dy),
               there = std::hypot(du, dv);
  if (length < apart || std::abs(there / length - 1) > kMostGrowth) return {};
  const double turn = std::atan2(dx * dv - dy * du, dx * du + dy * dv);
  if (std::abs(turn) > kMostTurn) return {};
  Motion m{std::cos(turn), std::sin(turn), 0, 0};
  m.a = (p.u + q.u) / 2 - (m.c * (p.x + q.x) - m.s * (p.y + q.y)) / 2;
  m.b = (p.v + q.v) / 2 - (m.s * (p.x + q.x) + m.c * (p.y + q.y)) / 2;
  return m;
}

/// How many patches agree with a proposal; matches of a patch follow each other.
int votesFor(const Motion& motion, const std::vector<Match>& matches) {
  int votes = 0, last = -1;
  for (const Match& m : matches)
    if (m.patch != last && motion.off(m) <= kNear) ++votes, last = m.patch;
  return votes;
}

/// The shift and turn that bring the matches that agree closest (Umeyama, PAMI 13, 1991, without size).
Motion fitted(const Motion& motion, const std::vector<Match>& matches) {
  double n = 0, x = 0, y = 0, u = 0, v = 0, along = 0, across = 0;
  for (const Match& m : matches)
    if (motion.off(m) <= kNear) ++n, x += m.x, y += m.y, u += m.u, v += m.v;
  x /= n, y /= n, u /= n, v /= n;
  for (const Match& m : matches)
    if (motion.off(m) <= kNear)
      along += (m.x - x) * (m.u - u) + (m.y - y) * (m.v - v), across += (m.x - x) * (m.v - v) - (m.y - y) * (m.u - u);
  const double turn = std::atan2(across, along), c = std::cos(turn), s = std::sin(turn);
  return {c, s, u - c * x + s * y, v - s * x - c * y};
}

} // namespace

std::optional<Transform> agreedByPatches(const CommonTones& tones) {
  const int w = tones.fixed.width(), h = tones.fixed.height();
  if (w < 6 * kSide || h < 6 * kSide) return {};
  const float least = 0.01f * (tones.high - tones.low);
  const std::vector<Corner> corners = cornersOf(tones.fixed, least);
  const Image<float> lengths = lengthsOf(tones.moving, least);
  std::vector<std::vector<Match>> found(corners.size());
  forEachBand(
      int(corners.size()),
      [&](const Band& band) {
        const auto i = std::size_t(band.begin);
        findIn(tones.moving, lengths, normalised(tones.fixed, corners[i].x, corners[i].y), int(i), corners[i],
               found[i]);
      },
      1);
  std::vector<Match> matches;
  for (const auto& of : found) matches.insert(matches.end(), of.begin(), of.end());
  Motion best;
  int most = kFewest - 1;
  for (std::size_t i = 0; i < matches.size(); ++i)
    for (std::size_t j = i + 1; j < matches.size(); ++j)
      if (const auto motion = proposedBy(matches[i], matches[j], w / 5.0))
        if (const int votes = votesFor(*motion, matches); votes > most) most = votes, best = *motion;
  if (most < kFewest) return {};
  best = fitted(best, matches);
  return Transform{{best.c, -best.s, best.a, best.s, best.c, best.b, 0, 0, 1}};
}

} // namespace ml
