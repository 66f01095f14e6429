// SPDX-License-Identifier: GPL-3.0-or-later
#include "response/curve_fit.h"

#include "base/parallel.h"

namespace ml::fit {

void forEachPiece(std::vector<Piece>& pieces, const std::function<void(Piece&, std::size_t)>& work) {
  forEachBand(
      int(pieces.size()), [&](const Band& band) { work(pieces[std::size_t(band.begin)], std::size_t(band.begin)); }, 1);
}

std::vector<Piece> piecesOf(const std::vector<CodePairs>& pairs) {
  std::vector<Piece> pieces;
  for (const auto& pair : pairs)
    for (std::size_t c = 0; c < 3; ++c) pieces.push_back({&pair, c, {}, double(pair.samples) / 3});
  return pieces;
}

void startFrom(const KnownCurve& curve, std::vector<Piece>& pieces) {
  forEachPiece(pieces, [&](Piece& piece, std::size_t) {
    const auto log = [&](double v) { return logOf(curve, v); };
    piece.known.clear();
    for (const auto& bin : piece.bins())
      piece.known.push_back({log(bin.a), log(bin.b), slopeOf(log, bin.a), slopeOf(log, bin.b)});
  });
}

double weightedMedian(std::vector<Weighted>& list) {
  double total = 0, before = 0;
  for (const auto& w : list) total += w.weight;
  auto from = list.begin(), to = list.end();
  while (to - from > 1) {
    const auto middle = from + (to - from) / 2;
    std::nth_element(from, middle, to);
    double lower = 0;
    for (auto it = from; it != middle; ++it) lower += it->weight;
    if (before + lower >= total / 2)
      to = middle;
    else
      before += lower, from = middle;
  }
  return from != list.end() ? from->value : 0;
}

Spread spreadOf(const Fit& fit, std::vector<Piece>& pieces) {
  std::vector<std::size_t> begins{0};
  for (const auto& piece : pieces) begins.push_back(begins.back() + piece.bins().size());
  std::vector<Weighted> scaled(begins.back()), plain(begins.back());
  forEachPiece(pieces, [&](Piece& piece, std::size_t p) {
    const Residuals residuals(fit, piece);
    for (std::size_t i = 0; i < piece.bins().size(); ++i) {
      const Residual r = residuals[i];
      scaled[begins[p] + i] = {std::abs(r.value) / r.sigma, r.weight};
      plain[begins[p] + i] = {std::abs(r.value), r.weight};
    }
  });
  Spread out;
  constexpr double kNormal = 1.4826; // standard deviations of a median of absolute deviations
  inParallel([&] { out.sigmas = kNormal * weightedMedian(scaled); },
             [&] { out.stops = kNormal * weightedMedian(plain); });
  return out;
}

} // namespace ml::fit
