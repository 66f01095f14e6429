// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/blend.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "positions/multiband.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace ml {
namespace {

constexpr int kTile = 512;

/// Owners on the reduced canvas, read at full size. Borders are smooth: the owner with most of the four neighbours'
/// weight has a pixel.
class Owners {
public:
  Owners(const Seams& seams, const Canvas& canvas)
      : seams_(seams), fx_(double(seams.canvas.width) / canvas.width), fy_(double(seams.canvas.height) / canvas.height),
        closed_(canvas.closed) {}

  struct Corner {
    int owner;
    float weight;
  };
  [[nodiscard]] std::array<Corner, 4> at(int x, int y) const {
    const double u = (x + 0.5) * fx_ - 0.5, v = (y + 0.5) * fy_ - 0.5;
    const int u0 = int(std::floor(u)), v0 = int(std::floor(v));
    const auto fu = float(u - u0), fv = float(v - v0);
    return {{{owner(u0, v0), (1 - fu) * (1 - fv)},
             {owner(u0 + 1, v0), fu * (1 - fv)},
             {owner(u0, v0 + 1), (1 - fu) * fv},
             {owner(u0 + 1, v0 + 1), fu * fv}}};
  }
  /// Bit by owner, of all that may own a pixel of the tile.
  void gather(const Roi& tile, std::vector<bool>& owners) const {
    const int x0 = int(std::floor((tile.x + 0.5) * fx_ - 0.5)), y0 = int(std::floor((tile.y + 0.5) * fy_ - 0.5));
    const int x1 = int(std::floor((tile.x + tile.width - 0.5) * fx_ - 0.5)) + 1,
              y1 = int(std::floor((tile.y + tile.height - 0.5) * fy_ - 0.5)) + 1;
    for (int y = y0; y <= y1; ++y)
      for (int x = x0; x <= x1; ++x) owners[std::size_t(owner(x, y))] = true;
  }

private:
  [[nodiscard]] int owner(int x, int y) const {
    const int w = seams_.canvas.width;
    x = closed_ ? (x % w + w) % w : std::clamp(x, 0, w - 1);
    return *seams_.owner.at(x, std::clamp(y, 0, seams_.canvas.height - 1));
  }
  const Seams& seams_;
  double fx_, fy_;
  bool closed_;
};

class TileDrawer {
public:
  explicit TileDrawer(const JoinedView& view) : view_(view), owners_(view.seams, view.canvas) {}

  /// Linear light of `inner` into `rows` at its place there.
  void draw(const Roi& inner, ImageView<float> rows) const {
    const Roi outer = grown(inner);
    std::vector<bool> wanted(view_.pictures.size() + 1);
    owners_.gather(outer, wanted);
    std::vector<std::size_t> positions;
    for (std::size_t i = 1; i < wanted.size(); ++i)
      if (wanted[i]) positions.push_back(i - 1);
    if (positions.empty()) return clear(rows);
    if (positions.size() == 1 && !wanted[0]) {
      const Warped one = warped(positions[0], inner);
      if (one.all) return write(one.stops, one.covered, {0, 0, inner.width, inner.height}, rows);
    }
    std::vector<Warped> layers;
    for (const std::size_t p : positions) layers.push_back(warped(p, outer));
    Image<std::uint8_t> held(outer.width, outer.height, 1);
    Image<float> hard = hardComposite(positions, layers, outer, held);
    const Roi inside{inner.x - outer.x, inner.y - outer.y, inner.width, inner.height};
    if (positions.size() == 1) return write(hard, held, inside, rows);
    write(blendLayers(layers, hard, held), held, inside, rows);
  }

private:
  [[nodiscard]] Roi grown(const Roi& r) const {
    const int left = view_.canvas.closed ? r.x - kBlendReach : std::max(0, r.x - kBlendReach),
              top = std::max(0, r.y - kBlendReach);
    const int right = r.x + r.width + kBlendReach, bottom = std::min(view_.canvas.height, r.y + r.height + kBlendReach);
    return {left, top, (view_.canvas.closed ? right : std::min(view_.canvas.width, right)) - left, bottom - top};
  }
  [[nodiscard]] Warped warped(std::size_t position, const Roi& tile) const {
    return warp(
        view_.arrangement.camera(position), view_.pictures[position],
        {view_.balance.gain[position], view_.balance.fallOff2, view_.balance.fallOff4},
        [this](double x, double y) { return view_.canvas.direction(x, y); }, tile);
  }

  /// Every pixel from its owner, or from whoever covers it where the owner does not. `held`: 0 nothing, else the number
  /// of the layer plus 1.
  [[nodiscard]] Image<float> hardComposite(const std::vector<std::size_t>& positions, const std::vector<Warped>& layers,
                                           const Roi& outer, Image<std::uint8_t>& held) const {
    Image<float> out(outer.width, outer.height, 3);
    std::vector<int> layerOf(view_.pictures.size() + 1, -1);
    for (std::size_t i = 0; i < positions.size(); ++i) layerOf[positions[i] + 1] = int(i);
    std::vector<float> weight(layers.size());
    const auto heaviest = [&](int x, int y, const std::array<Owners::Corner, 4>& corners) {
      std::fill(weight.begin(), weight.end(), 1e-6f);
      for (const auto& corner : corners)
        if (const int layer = layerOf[std::size_t(corner.owner)]; layer >= 0)
          weight[std::size_t(layer)] += corner.weight;
      int best = -1;
      for (int i = 0; i < int(layers.size()); ++i)
        if (*layers[std::size_t(i)].covered.at(x, y) &&
            (best < 0 || weight[std::size_t(i)] > weight[std::size_t(best)]))
          best = i;
      return best;
    };
    for (int y = 0; y < outer.height; ++y)
      for (int x = 0; x < outer.width; ++x) {
        const auto corners = owners_.at(outer.x + x, outer.y + y);
        const int first = corners[0].owner, layer = layerOf[std::size_t(first)];
        const bool alone = layer >= 0 && corners[1].owner == first && corners[2].owner == first &&
                           corners[3].owner == first && *layers[std::size_t(layer)].covered.at(x, y);
        const int best = alone ? layer : heaviest(x, y, corners);
        *held.at(x, y) = std::uint8_t(best + 1);
        if (best >= 0)
          std::copy_n(layers[std::size_t(best)].stops.at(x, y), 3, out.at(x, y));
        else
          std::fill_n(out.at(x, y), 3, 2.f); // log2(0 + 4): nothing
      }
    return out;
  }

  void write(const Image<float>& stops, const Image<std::uint8_t>& held, const Roi& inside,
             ImageView<float> rows) const {
    for (int y = 0; y < inside.height; ++y) {
      float* to = rows.row(y);
      view_.codes.toLight(stops.at(inside.x, inside.y + y), 3 * inside.width, to);
      const std::uint8_t* covered = held.at(inside.x, inside.y + y);
      for (int x = 0; x < inside.width; ++x)
        if (!covered[x]) std::fill_n(to + 3 * x, 3, 0.f);
    }
  }
  static void clear(ImageView<float> rows) {
    for (int y = 0; y < rows.height; ++y) std::fill_n(rows.row(y), 3 * rows.width, 0.f);
  }

  const JoinedView& view_;
  Owners owners_;
};

} // namespace

bool drawJoined(const JoinedView& view, const RowsTaken& taken, const Progress& progress) {
  const TileDrawer drawer(view);
  const int columns = (view.canvas.width + kTile - 1) / kTile;
  for (int y = 0; y < view.canvas.height; y += kTile) {
    const int rows = std::min(kTile, view.canvas.height - y);
    Image<float> band(view.canvas.width, rows, 3);
    const bool finished = forEachBand(
        columns, progress.stop,
        [&](const Band& column) {
          const int x = column.begin * kTile, width = std::min(kTile, view.canvas.width - x);
          drawer.draw({x, y, width, rows}, band.view().crop({x, 0, width, rows}));
        },
        1);
    if (!finished || !taken(y, band.view())) return false;
    progress.at(phrase("Draw the joined picture"), double(y + rows) / view.canvas.height);
  }
  return true;
}

} // namespace ml
