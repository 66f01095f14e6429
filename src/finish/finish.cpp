// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/finish.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "base/vector_clones.h"
#include "finish/hues.h"
#include "image/colour.h"
#include "image/fast_math.h"

#include <array>
#include <atomic>
#include <cmath>
#include <vector>

namespace ml {
namespace {

ML_VECTOR_CLONES void roots(const float* r, const float* g, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = __builtin_sqrtf(0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i]);
}

/// Gain that sharpens: what a pixel stands above the 3x3 binomial mean around it, of roots of light so that dark edges
/// count too. The limit on each side keeps rims from appearing at strong edges. Rows have one more value on each side.
ML_VECTOR_CLONES void sharpenGains(const float* above, const float* row, const float* below, float amount, int n,
                                   float* __restrict gain) {
  for (int i = 0; i < n; ++i) {
    const float mean = (4 * row[i + 1] + 2 * (row[i] + row[i + 2] + above[i + 1] + below[i + 1]) + above[i] +
                        above[i + 2] + below[i] + below[i + 2]) *
                       0.0625f;
    float detail = row[i + 1] - mean;
    detail = detail < -0.04f ? -0.04f : detail > 0.04f ? 0.04f : detail;
    const float root = row[i + 1] > 1e-3f ? row[i + 1] : 1e-3f;
    float sharper = root + amount * detail;
    sharper = sharper > 0 ? sharper : 0;
    gain[i] = sharper * sharper / (root * root);
  }
}

/// To sRGB codes 0..65535.
ML_VECTOR_CLONES void encodeRow(const float* light, const float* gain, int n, float* __restrict codes) {
  for (int i = 0; i < n; ++i) {
    const float v = light[i] * gain[i];
    codes[i] = fastSrgbCode(v < 1 ? v : 1);
  }
}

ML_VECTOR_CLONES void countExtremes(const float* r, const float* g, const float* b, int n, int& white, int& black) {
  int w = 0, d = 0;
  for (int i = 0; i < n; ++i) {
    w += (r[i] >= 65400) | (g[i] >= 65400) | (b[i] >= 65400);
    d += (r[i] < 200) & (g[i] < 200) & (b[i] < 200);
  }
  white += w;
  black += d;
}

ML_VECTOR_CLONES void logRow(const float* rgb, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float light = 0.2126f * rgb[3 * i] + 0.7152f * rgb[3 * i + 1] + 0.0722f * rgb[3 * i + 2];
    out[i] = fastLog2(light > 1e-9f ? light : 1e-9f);
  }
}

void applyGain(const float* gain, int n, float* row) {
  for (int i = 0; i < n; ++i) row[i] *= gain[i];
}

/// One row of a picture being finished.
struct PlacedRow {
  std::vector<float> r, g, b, root; ///< `root` has one more value on each side.
};

/// Places rows of a band and keeps three of them, for what needs neighbours: one row above and one below it, too.
class RowSource {
public:
  RowSource(const LightPlacer& placer, const AreaMaps& maps, const std::vector<HueMove>& hues,
            const PictureRows& picture, int x0, int n, const Band& band, int gridWidth)
      : placer_(placer), maps_(maps), hues_(hues), height_(picture.height), top_(std::max(0, band.begin - 1)),
        rows_(picture.rows(top_, std::min(height_, band.end + 1), room_)), x0_(x0), n_(n),
        columns_(gridWidth, picture.width), scratch_(std::make_unique<LightPlacer::Scratch>()) {
    for (auto& row : placed_)
      row.r.resize(std::size_t(n)), row.g.resize(std::size_t(n)), row.b.resize(std::size_t(n)),
          row.root.resize(std::size_t(n) + 2);
    if (!maps.empty())
      for (auto& field : fields_) field.resize(kPlacedAtOnce);
  }
  PlacedRow& row(int y) { return placed_[std::size_t(y + 3) % 3]; }
  /// y beyond the picture repeats its border.
  void fill(int y) {
    PlacedRow& to = row(y);
    const int from = std::clamp(y, 0, height_ - 1);
    for (int x = 0; x < n_; x += kPlacedAtOnce) {
      const int n = std::min(kPlacedAtOnce, n_ - x);
      float *r = to.r.data() + x, *g = to.g.data() + x, *b = to.b.data() + x;
      placer_.read(rows_.at(x0_ + x, from - top_), n, *scratch_, r, g, b);
      placer_.place(from, x0_ + x, n, movesAt(from, x0_ + x, n), *scratch_, r, g, b);
      moveHues(hues_, n, r, g, b);
    }
    roots(to.r.data(), to.g.data(), to.b.data(), n_, to.root.data() + 1);
    to.root[0] = to.root[1];
    to.root[std::size_t(n_) + 1] = to.root[std::size_t(n_)];
  }

private:
  RowMoves movesAt(int y, int x, int n) {
    RowMoves moves;
    if (maps_.empty()) return moves;
    const float* log = scratch_->log;
    if (!placer_.whiteIsAsCombined()) { // areas keep their places whatever the white point
      logRow(rows_.at(x, y - top_), n, log_);
      log = log_;
    }
    const auto read = [&](const LocalMap& map, std::vector<float>& field) -> const float* {
      return map.readRow(columns_, y, height_, x, n, log, field.data(), scratch_->grid) ? field.data() : nullptr;
    };
    moves.exposure = read(maps_.exposure, fields_[0]);
    moves.warmth = read(maps_.warmth, fields_[1]);
    moves.tint = read(maps_.tint, fields_[2]);
    moves.saturation = read(maps_.saturation, fields_[3]);
    moves.contrast = read(maps_.contrast, fields_[4]);
    return moves;
  }

  const LightPlacer& placer_;
  const AreaMaps& maps_;
  const std::vector<HueMove>& hues_;
  int height_, top_;
  Image<float> room_;
  ImageView<const float> rows_; ///< Of the picture, from `top_` on.
  int x0_, n_;
  GridColumns columns_;
  std::unique_ptr<LightPlacer::Scratch> scratch_;
  std::array<PlacedRow, 3> placed_;
  std::array<std::vector<float>, 5> fields_;
  float log_[kPlacedAtOnce];
};

} // namespace

const AreaMaps& Finisher::areaMaps(const Recipe& recipe, int width, int height) {
  if (!(recipe.geometry == knownGeometry_)) areas_.forget();
  knownGeometry_ = recipe.geometry;
  if (recipe.areas.empty())
    areas_.forget();
  else
    areas_.update(recipe.areas, analysis_, shapeOf(recipe, width, height, lens_));
  return areas_.maps();
}

template <class Write>
Result<FinishReport> Finisher::run(const PictureRows& picture, const Recipe& recipe, Roi part, double headroom,
                                   const Progress& progress, const Write& write) {
  if (const auto reason = recipe.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The picture cannot be finished: {}.", *reason));
  if (part.width == 0) part = {0, 0, picture.width, picture.height};
  const AreaMaps& maps = areaMaps(recipe, picture.width, picture.height);
  const LightPlacer placer(analysis_, recipe.tone, picture.width, picture.height, headroom);
  std::vector<std::pair<int, int>> counts(std::size_t(bandCount(part.height)));
  std::atomic<int> rowsDone{0};
  const bool finished = forEachBand(part.height, progress.stop, [&](const Band& band) {
    // One column more on each side, for the neighbours.
    const int left = std::max(0, part.x - 1), right = std::min(picture.width, part.x + part.width + 1),
              n = right - left, skip = part.x - left;
    const Band inPicture{part.y + band.begin, part.y + band.end, band.index};
    RowSource rows(placer, maps, recipe.hues, picture, left, n, inPicture, analysis_.logLight.width());
    std::vector<float> gain(std::size_t(n), 1.f), codes(std::size_t(3 * n));
    auto& [white, black] = counts[std::size_t(band.index)];
    const bool sharpen = recipe.sharpening > 0;
    if (sharpen) rows.fill(part.y + band.begin - 1);
    rows.fill(part.y + band.begin);
    for (int y = part.y + band.begin; y < part.y + band.end; ++y) {
      if (sharpen) {
        rows.fill(y + 1);
        sharpenGains(rows.row(y - 1).root.data(), rows.row(y).root.data(), rows.row(y + 1).root.data(),
                     2 * float(recipe.sharpening), n, gain.data());
      } else if (y > part.y + band.begin) {
        rows.fill(y);
      }
      write(rows.row(y), gain.data(), n, skip, y - part.y, codes.data(), white, black);
    }
    progress.at(phrase("Finish"), double(rowsDone += band.end - band.begin) / part.height);
  });
  if (!finished) return stopped();
  FinishReport report;
  for (const auto& [white, black] : counts) report.whiteShare += white, report.blackShare += black;
  report.whiteShare /= double(part.width) * part.height;
  report.blackShare /= double(part.width) * part.height;
  return report;
}

namespace {

/// Codes of the three channels, planar, and their extremes counted.
void encode(const PlacedRow& row, const float* gain, int n, int skip, int width, float* codes, int& white, int& black) {
  encodeRow(row.r.data(), gain, n, codes);
  encodeRow(row.g.data(), gain, n, codes + n);
  encodeRow(row.b.data(), gain, n, codes + 2 * n);
  countExtremes(codes + skip, codes + n + skip, codes + 2 * n + skip, width, white, black);
}

ML_VECTOR_CLONES void interleave16(const float* r, const float* g, const float* b, int n,
                                   std::uint16_t* __restrict out) {
  for (int i = 0; i < n; ++i) {
    out[3 * i] = std::uint16_t(r[i] + 0.5f);
    out[3 * i + 1] = std::uint16_t(g[i] + 0.5f);
    out[3 * i + 2] = std::uint16_t(b[i] + 0.5f);
  }
}

ML_VECTOR_CLONES void interleave8(const float* r, const float* g, const float* b, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i) {
    out[3 * i] = std::uint8_t(r[i] * (1 / 257.f) + 0.5f);
    out[3 * i + 1] = std::uint8_t(g[i] * (1 / 257.f) + 0.5f);
    out[3 * i + 2] = std::uint8_t(b[i] * (1 / 257.f) + 0.5f);
  }
}

} // namespace

Result<Finished> Finisher::finish(const PictureRows& picture, const Recipe& recipe, const Progress& progress,
                                  Roi part) {
  if (part.width == 0) part = {0, 0, picture.width, picture.height};
  Finished out{Image<std::uint16_t>(part.width, part.height, 3), {}};
  auto done =
      run(picture, recipe, part, 0, progress,
          [&](const PlacedRow& row, const float* gain, int n, int skip, int y, float* codes, int& white, int& black) {
            encode(row, gain, n, skip, part.width, codes, white, black);
            interleave16(codes + skip, codes + n + skip, codes + 2 * n + skip, part.width, out.picture.row(y));
          });
  if (!done) return passOn(done.error());
  out.report = *done;
  return out;
}

Result<FinishReport> Finisher::finishBytes(const PictureRows& picture, const Recipe& recipe, Roi part,
                                           std::uint8_t* rgb, std::ptrdiff_t stride, const Progress& progress) {
  if (part.width == 0) part = {0, 0, picture.width, picture.height};
  return run(
      picture, recipe, part, 0, progress,
      [&](const PlacedRow& row, const float* gain, int n, int skip, int y, float* codes, int& white, int& black) {
        encode(row, gain, n, skip, part.width, codes, white, black);
        interleave8(codes + skip, codes + n + skip, codes + 2 * n + skip, part.width, rgb + y * stride);
      });
}

Result<Image<float>> Finisher::finishLight(const PictureRows& picture, const Recipe& recipe, double headroom,
                                           const Progress& progress) {
  Image<float> out(picture.width, picture.height, 3);
  auto done = run(picture, recipe, {}, headroom, progress,
                  [&](const PlacedRow& row, const float* gain, int n, int, int y, float* light, int&, int&) {
                    for (int c = 0; c < 3; ++c) {
                      const std::vector<float>& from = c == 0 ? row.r : c == 1 ? row.g : row.b;
                      std::copy_n(from.data(), n, light);
                      applyGain(gain, n, light);
                      for (int i = 0; i < n; ++i) out.at(i, y)[c] = light[i];
                    }
                  });
  if (!done) return passOn(done.error());
  return out;
}

} // namespace ml
