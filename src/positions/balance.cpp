// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/balance.h"

#include "base/parallel.h"
#include "image/fast_math.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kEdge = 320;                           ///< Longest side of the reduced pictures that are compared.
constexpr double kScale = 0.08;                      ///< Stops; what differs much more is no matter of balance.
constexpr double kGainPrior = 0.5, kLensPrior = 0.7; ///< Stops.

/// log2 of block means, three channels, and how much each block varies (edges tell little).
struct Reduced {
  Image<float> stops, spread;
};

Reduced reduce(const Image<std::uint16_t>& picture, const LightCodes& codes, int factor) {
  const int width = picture.width() / factor, height = picture.height() / factor;
  Reduced out{Image<float>(width, height, 3), Image<float>(width, height, 1)};
  const float n = float(factor) * float(factor), least = codes.unit * 4;
  const std::vector<float> light = codes.table();
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        float sum[3] = {}, square = 0, green = 0;
        for (int v = 0; v < factor; ++v) {
          const std::uint16_t* in = picture.at(x * factor, y * factor + v);
          for (int u = 0; u < factor; ++u, in += 3) {
            for (int c = 0; c < 3; ++c) sum[c] += light[in[c]];
            const float g = float(in[1]) / LightCodes::kSteps;
            green += g, square += g * g;
          }
        }
        for (int c = 0; c < 3; ++c) out.stops.at(x, y)[c] = fastLog2(std::max(least, sum[c] / n));
        *out.spread.at(x, y) = std::sqrt(std::max(0.f, square / n - green * green / (n * n)));
      }
  });
  return out;
}

struct Sample {
  int a, b;
  std::array<double, 3> difference;
  double rhoA, rhoB; ///< Squared, in half diagonals.
  double weight;
};

std::vector<Sample> samplesOf(const Arrangement& a, const std::vector<Reduced>& pictures, int factor,
                              const Canvas& canvas) {
  const Canvas small = canvas.scaled(std::min(1.0, 260.0 / std::max(canvas.width, canvas.height)));
  const double half2 = (double(a.width) * a.width + double(a.height) * a.height) / 4;
  std::vector<CameraGeometry> cameras;
  for (std::size_t i = 0; i < a.poses.size(); ++i) cameras.push_back(a.camera(i));
  std::vector<std::vector<Sample>> rows(std::size_t(small.height));
  forEachBand(
      small.height,
      [&](const Band& band) {
        struct Seen {
          int position, x, y;
          double rho;
        };
        for (int y = band.begin; y < band.end; ++y)
          for (int x = 0; x < small.width; ++x) {
            std::vector<Seen> seen;
            const Vector3 d = small.direction(x, y);
            for (std::size_t i = 0; i < cameras.size(); ++i) {
              double u, v;
              if (!cameras[i].pixel(d, u, v)) continue;
              const int px = int((u + 0.5) / factor), py = int((v + 0.5) / factor);
              if (px < 1 || py < 1 || px >= pictures[i].stops.width() - 1 || py >= pictures[i].stops.height() - 1)
                continue;
              const double dx = u - (a.width - 1) / 2.0, dy = v - (a.height - 1) / 2.0;
              seen.push_back({int(i), px, py, (dx * dx + dy * dy) / half2});
            }
            for (std::size_t p = 0; p < seen.size(); ++p)
              for (std::size_t q = p + 1; q < seen.size(); ++q) {
                const auto &one = pictures[std::size_t(seen[p].position)],
                           &other = pictures[std::size_t(seen[q].position)];
                const double spread = *one.spread.at(seen[p].x, seen[p].y) + *other.spread.at(seen[q].x, seen[q].y);
                Sample s{seen[p].position, seen[q].position, {}, seen[p].rho, seen[q].rho, 1 / (0.02 + spread)};
                for (int c = 0; c < 3; ++c)
                  s.difference[std::size_t(c)] =
                      one.stops.at(seen[p].x, seen[p].y)[c] - other.stops.at(seen[q].x, seen[q].y)[c];
                rows[std::size_t(y)].push_back(s);
              }
          }
      },
      4);
  std::vector<Sample> out;
  for (const auto& row : rows) out.insert(out.end(), row.begin(), row.end());
  return out;
}

} // namespace

Balance balanceLight(const Arrangement& a, const std::vector<Image<std::uint16_t>>& pictures, const LightCodes& codes,
                     const Canvas& canvas) {
  const int n = int(pictures.size()), factor = std::max(1, std::max(a.width, a.height) / kEdge);
  std::vector<Reduced> reduced;
  for (const auto& picture : pictures) reduced.push_back(reduce(picture, codes, factor));
  const auto samples = samplesOf(a, reduced, factor, canvas);
  const int lens = 3 * n, count = 3 * n + 2;
  Eigen::VectorXd found = Eigen::VectorXd::Zero(count);
  constexpr int kRounds = 12;
  for (int round = 0; round < kRounds; ++round) {
    Eigen::MatrixXd h = Eigen::MatrixXd::Zero(count, count);
    Eigen::VectorXd g = Eigen::VectorXd::Zero(count);
    const double scale = kScale * (round < 4 ? 4 : round < 8 ? 2 : 1);
    for (const Sample& s : samples)
      for (int c = 0; c < 3; ++c) {
        const int index[4] = {3 * s.a + c, 3 * s.b + c, lens, lens + 1};
        const double slope[4] = {1, -1, s.rhoA - s.rhoB, s.rhoA * s.rhoA - s.rhoB * s.rhoB};
        double off = s.difference[std::size_t(c)];
        for (int k = 0; k < 4; ++k) off -= slope[k] * found[index[k]];
        const double t = 1 + off * off / (scale * scale), w = s.weight / (t * t);
        for (int p = 0; p < 4; ++p) {
          g[index[p]] += w * slope[p] * off;
          for (int q = 0; q < 4; ++q) h(index[p], index[q]) += w * slope[p] * slope[q];
        }
      }
    for (int k = 0; k < count; ++k) {
      const double prior = k < lens ? kGainPrior : kLensPrior;
      h(k, k) += 1 / (prior * prior);
      g[k] -= found[k] / (prior * prior);
    }
    const Eigen::VectorXd step = h.ldlt().solve(g);
    if (!step.allFinite()) break;
    found += step;
  }
  Balance out;
  for (int i = 0; i < n; ++i) out.gain.push_back({found[3 * i], found[3 * i + 1], found[3 * i + 2]});
  out.fallOff2 = found[lens], out.fallOff4 = found[lens + 1];
  return out;
}

} // namespace ml
