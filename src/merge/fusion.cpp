// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/fusion.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "base/vector_clones.h"
#include "exposure/ev.h"
#include "image/colour.h"
#include "image/fast_math.h"
#include "image/laplacian.h"
#include "merge/consistency.h"
#include "merge/shown_frame.h"

#include <array>
#include <atomic>
#include <bit>
#include <cmath>

namespace ml {
namespace {

constexpr float kTiny = 1e-12f; // as in the paper's own code: where nobody has a say all have the same

/// exp(x) for x <= 0, relative error below 2e-5: exponent bits and a polynomial for the rest.
[[gnu::always_inline]] inline float expOfNegative(float x) {
  const float t = std::max(x * 1.44269504f, -120.f);
  const float whole = float(int(t)) - 1, f = t - whole; // 0 < f <= 1... of 2^f
  const float p = 1 + f * (0.693147f + f * (0.240227f + f * (0.0555041f + f * (0.00961813f + f * 0.00133336f))));
  return p * std::bit_cast<float>(std::uint32_t(int(whole) + 127) << 23);
}

ML_VECTOR_CLONES void greyRow(const float* r, const float* g, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i)
    out[i] = 0.299f * r[i] + 0.587f * g[i] + 0.114f * b[i]; // ITU-R BT.601, as the paper's code has it
}

/// Contrast, saturation and well-exposedness, section 3.1 of the paper. `here` may be read one sample beyond both ends.
struct Measures {
  float contrast, saturation, exposedness;
};
[[gnu::always_inline]] inline Measures measuresOf(float r, float g, float b, float above, const float* here,
                                                  float below) {
  const float mean = (r + g + b) * (1 / 3.f);
  const float d = (r - 0.5f) * (r - 0.5f) + (g - 0.5f) * (g - 0.5f) + (b - 0.5f) * (b - 0.5f);
  return {std::abs(above + below + here[-1] + here[1] - 4 * here[0]),
          std::sqrt((r - mean) * (r - mean) + (g - mean) * (g - mean) + (b - mean) * (b - mean)),
          expOfNegative(d * (-1 / (2 * 0.2f * 0.2f)))};
}
ML_VECTOR_CLONES void weighRow(const float* r, const float* g, const float* b, const float* above, const float* here,
                               const float* below, int n, float* __restrict use) {
  for (int i = 0; i < n; ++i) {
    const Measures m = measuresOf(r[i], g[i], b[i], above[i], here + i, below[i]);
    use[i] *= m.contrast * m.saturation * m.exposedness + kTiny;
  }
}
float powered(float value, float power) {
  return power == 1 ? value : power == 0 ? 1.f : std::pow(value, power);
}

/// Multiplies `use` by the weights before they are made to sum to 1.
class Weigher {
public:
  explicit Weigher(const FusionOptions& options)
      : o_(options), plain_(o_.contrast == 1 && o_.saturation == 1 && o_.exposedness == 1) {}

  void weigh(ShownTile& tile) {
    const int w = tile.use.width(), h = tile.use.height();
    for (auto& row : grey_) row.resize(std::size_t(w) + 2);
    fill(tile, -1);
    fill(tile, 0);
    for (int y = 0; y < h; ++y) {
      fill(tile, y + 1);
      const float *above = grey(y - 1), *here = grey(y), *below = grey(y + 1), *r = tile.red.row(y),
                  *g = tile.green.row(y), *b = tile.blue.row(y);
      float* use = tile.use.row(y);
      if (plain_) {
        weighRow(r, g, b, above, here, below, w, use);
        continue;
      }
      for (int i = 0; i < w; ++i) {
        const Measures m = measuresOf(r[i], g[i], b[i], above[i], here + i, below[i]);
        use[i] *= powered(m.contrast, o_.contrast) * powered(m.saturation, o_.saturation) *
                      powered(m.exposedness, o_.exposedness) +
                  kTiny;
      }
    }
  }

private:
  [[nodiscard]] float* grey(int y) { return grey_[std::size_t((y + 3) % 3)].data() + 1; }
  /// Mirrored about the outermost pixels.
  void fill(const ShownTile& tile, int y) {
    const int w = tile.use.width(), h = tile.use.height(),
              from = std::clamp(y < 0    ? -y
                                : y >= h ? 2 * h - 2 - y
                                         : y,
                                0, h - 1);
    float* row = grey(y);
    greyRow(tile.red.row(from), tile.green.row(from), tile.blue.row(from), w, row);
    row[-1] = row[std::min(1, w - 1)];
    row[w] = row[std::max(0, w - 2)];
  }

  FusionOptions o_;
  bool plain_;
  std::array<std::vector<float>, 3> grey_;
};

ML_VECTOR_CLONES void divideBy(const float* sum, std::ptrdiff_t n, float* __restrict values) {
  for (std::ptrdiff_t i = 0; i < n; ++i) values[i] = sum[i] > 0 ? values[i] / sum[i] : 0.f;
}
ML_VECTOR_CLONES void addTo(const float* values, std::ptrdiff_t n, float* __restrict sum) {
  for (std::ptrdiff_t i = 0; i < n; ++i) sum[i] += values[i];
}
ML_VECTOR_CLONES void interleave(const float* r, const float* g, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[3 * i] = r[i], out[3 * i + 1] = g[i], out[3 * i + 2] = b[i];
}
ML_VECTOR_CLONES void pack(const float* in, int n, std::uint16_t* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = std::uint16_t(int(std::min(std::max(in[i], 0.f), 1.f) * 65535 + 0.5f));
}
ML_VECTOR_CLONES void unpack(const std::uint16_t* in, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = float(in[i]) * (1 / 65535.f);
}

/// Red, green, blue and the weight of one frame, halved; all within 0..1, kept in 16 bits.
using HalfFrame = std::array<Image<std::uint16_t>, 4>;
using Planes = std::array<Image<float>, 3>;

constexpr int kTileWidth = 256, kTileRows = 32; // even, so that the tiles of the halved picture meet
constexpr int kFusionReach = 6;                 ///< Pixels that what is halved and doubled again, and weighed, reaches.

/// The finest level in one pass: each tile reads all frames, weighs them, blends their detail into the picture and
/// leaves them halved for the levels above, so that no frame is ever held at full size but as codes.
class FinestLevel {
public:
  FinestLevel(const std::vector<ShownFrame>& frames, const FusionOptions& options, Image<float>& picture,
              std::vector<HalfFrame>& halves)
      : frames_(frames), weigher_(options), picture_(picture), halves_(halves), shown_(frames.size()) {
    for (const ShownFrame& frame : frames) readers_.emplace_back(frame.placed(), scratch_, frame.codes());
  }

  void blend(const Roi& inner) {
    const int left = std::max(0, inner.x - kFusionReach), top = std::max(0, inner.y - kFusionReach);
    const Roi outer{left, top, std::min(picture_.width(), inner.x + inner.width + kFusionReach) - left,
                    std::min(picture_.height(), inner.y + inner.height + kFusionReach) - top};
    shape(outer);
    for (std::size_t i = 0; i < frames_.size(); ++i) {
      frames_[i].read(readers_[i], outer, tile_, shown_[i]);
      weigher_.weigh(shown_[i]);
      if (i == 0)
        std::copy_n(shown_[i].use.data(), sum_.size(), sum_.data());
      else
        addTo(shown_[i].use.data(), std::ptrdiff_t(sum_.size()), sum_.data());
    }
    for (Image<float>& plane : blended_) plane.fill(0);
    for (std::size_t i = 0; i < frames_.size(); ++i) {
      ShownTile& shown = shown_[i];
      divideBy(sum_.data(), std::ptrdiff_t(sum_.size()), shown.use.data());
      Image<float>* const planes[3] = {&shown.red, &shown.green, &shown.blue};
      for (std::size_t c = 0; c < 3; ++c) {
        halve(*planes[c], outer, inner, halves_[i][c]);
        addDetailOf(*planes[c], shown.use, outer, inner, blended_[c]);
      }
      halve(shown.use, outer, inner, halves_[i][3]);
    }
    for (int y = 0; y < inner.height; ++y)
      interleave(blended_[0].row(y), blended_[1].row(y), blended_[2].row(y), inner.width,
                 picture_.at(inner.x, inner.y + y));
  }

private:
  void shape(const Roi& outer) {
    if (sum_.width() == outer.width && sum_.height() == outer.height) return;
    const auto plane = [&] { return Image<float>(outer.width, outer.height, 1); };
    for (ShownTile& tile : shown_) tile = {plane(), plane(), plane(), plane()};
    sum_ = plane();
    half_ = Image<float>(halvedSize(outer.width), halvedSize(outer.height), 1);
    for (Image<float>& blended : blended_) blended = plane();
    row_.resize(std::size_t(outer.width) + 1);
  }

  /// Into half_, and what belongs to the inner part into `out`.
  void halve(const Image<float>& plane, const Roi& outer, const Roi& inner, Image<std::uint16_t>& out) {
    for (int y = 0; y < half_.height(); ++y) halveRow(plane.view(), y, line_, half_.row(y));
    const int dx = (inner.x - outer.x) / 2, dy = (inner.y - outer.y) / 2, width = halvedSize(inner.width),
              height = halvedSize(inner.height);
    for (int y = 0; y < height; ++y) pack(half_.at(dx, dy + y), width, out.at(inner.x / 2, inner.y / 2 + y));
  }

  void addDetailOf(const Image<float>& plane, const Image<float>& weight, const Roi& outer, const Roi& inner,
                   Image<float>& into) {
    const int dx = inner.x - outer.x, dy = inner.y - outer.y;
    for (int y = 0; y < inner.height; ++y) {
      doubleRow(half_.view(), dy + y, outer.width, line_, row_.data());
      addDetail(plane.at(dx, dy + y), row_.data() + dx, weight.at(dx, dy + y), inner.width, into.row(y));
    }
  }

  const std::vector<ShownFrame>& frames_;
  Weigher weigher_;
  Image<float>& picture_;
  std::vector<HalfFrame>& halves_;
  TileScratch scratch_;
  std::vector<TileReader> readers_;
  FrameTile tile_;
  std::vector<ShownTile> shown_;
  Image<float> sum_, half_;
  Planes blended_;
  std::vector<float> line_, row_;
};

void unpackInto(const Image<std::uint16_t>& in, Image<float>& out) {
  forEachBand(in.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) unpack(in.row(y), in.width(), out.row(y));
  });
}

std::vector<Planes> emptyLevels(int width, int height) {
  std::vector<Planes> levels;
  const int count = std::max(1, int(std::log2(double(std::min(width, height)))));
  for (int level = 0, w = halvedSize(width), h = halvedSize(height); level < count;
       ++level, w = halvedSize(w), h = halvedSize(h)) {
    levels.push_back({Image<float>(w, h, 1), Image<float>(w, h, 1), Image<float>(w, h, 1)});
    for (Image<float>& plane : levels.back()) plane.fill(0);
  }
  return levels;
}

/// Blends frame after frame into the levels above the finest; its own pictures are used again for each.
class LevelsAbove {
public:
  LevelsAbove(int width, int height) : blended_(emptyLevels(width, height)) {
    for (const Planes& level : blended_) {
      weights_.emplace_back(level[0].width(), level[0].height(), 1);
      frame_.emplace_back(level[0].width(), level[0].height(), 1);
    }
  }

  void blend(const HalfFrame& half) {
    unpackInto(half[3], weights_[0]);
    for (std::size_t k = 1; k < weights_.size(); ++k) halve(weights_[k - 1], weights_[k]);
    for (std::size_t c = 0; c < 3; ++c) {
      unpackInto(half[c], frame_[0]);
      for (std::size_t k = 0; k < frame_.size(); ++k) {
        const bool last = k + 1 == frame_.size();
        if (!last) halve(frame_[k], frame_[k + 1]);
        addDetailOf(frame_[k], last ? nullptr : &frame_[k + 1], weights_[k], blended_[k][c]);
      }
    }
  }

  [[nodiscard]] std::vector<Planes> take() { return std::move(blended_); }

private:
  static void halve(const Image<float>& fine, Image<float>& coarse) {
    forEachBand(coarse.height(), [&](const Band& band) {
      std::vector<float> scratch;
      for (int y = band.begin; y < band.end; ++y) halveRow(fine.view(), y, scratch, coarse.row(y));
    });
  }
  static void addDetailOf(const Image<float>& fine, const Image<float>* coarse, const Image<float>& weight,
                          Image<float>& into) {
    forEachBand(fine.height(), [&](const Band& band) {
      std::vector<float> scratch, smooth;
      smooth.resize(std::size_t(fine.width()) + 1);
      for (int y = band.begin; y < band.end; ++y) {
        if (coarse) doubleRow(coarse->view(), y, fine.width(), scratch, smooth.data());
        addDetail(fine.row(y), coarse ? smooth.data() : nullptr, weight.row(y), fine.width(), into.row(y));
      }
    });
  }

  std::vector<Planes> blended_;
  std::vector<Image<float>> weights_, frame_;
};

void addDoubled(const Image<float>& coarse, Image<float>& fine) {
  forEachBand(fine.height(), [&](const Band& band) {
    std::vector<float> scratch, smooth;
    smooth.resize(std::size_t(fine.width()) + 1);
    for (int y = band.begin; y < band.end; ++y) {
      doubleRow(coarse.view(), y, fine.width(), scratch, smooth.data());
      addTo(smooth.data(), fine.width(), fine.row(y));
    }
  });
}

/// Adds the levels above up into their finest.
Planes collapsed(std::vector<Planes> levels) {
  for (; levels.size() > 1; levels.pop_back())
    for (std::size_t c = 0; c < 3; ++c) addDoubled(levels.back()[c], levels[levels.size() - 2][c]);
  return std::move(levels.front());
}

constexpr float kDark = 0.15f, kDarkPaleness = 0.25f; ///< Towards black no channel falls below a quarter of the light:
                                                      ///< what the undershoot makes is no colour.
constexpr float kDarkFoot = 0.012f; ///< Code, about 3 of 255, below which light goes on falling without reaching zero.

/// The pyramid undershoots beside bright things: a code below zero is no colour. Light keeps its order down to black,
/// and colour moves towards grey until no channel is below zero, and as far again, so that no place is left in a pure
/// colour that no frame has.
ML_VECTOR_CLONES void mendUndershoot(const float* r, const float* g, const float* b, int n, float* __restrict picture) {
  for (int i = 0; i < n; ++i) {
    const float red = picture[3 * i] + r[i], green = picture[3 * i + 1] + g[i], blue = picture[3 * i + 2] + b[i];
    const float light = 0.2126f * red + 0.7152f * green + 0.0722f * blue, least = std::min(red, std::min(green, blue));
    const float foot = kDarkFoot * heldExp2((std::min(light, kDarkFoot) - kDarkFoot) * (1.44269504f / kDarkFoot));
    const float mended = light < kDarkFoot ? foot : light, pale = std::max(0.f, kDarkPaleness * (1 - mended / kDark));
    const float over = std::max(0.f, light - least - (1 - pale) * mended);
    const float keep = (1 - pale) * mended / ((1 - pale) * mended + 2 * over + 1e-9f);
    picture[3 * i] = mended + keep * (red - light);
    picture[3 * i + 1] = mended + keep * (green - light);
    picture[3 * i + 2] = mended + keep * (blue - light);
  }
}

ML_VECTOR_CLONES void decodeRow(const float* table, int n, float* __restrict picture) {
  for (int i = 0; i < n; ++i) {
    const float at = std::min(std::max(picture[i], 0.f), 1.f) * 4096;
    const int k = int(at);
    picture[i] = table[k] + (at - float(k)) * (table[k + 1] - table[k]);
  }
}

/// Adds what lies above the finest level, and turns codes into linear light.
void addAboveAndDecode(const Planes& above, Image<float>& picture) {
  static const std::vector<float> table = [] {
    std::vector<float> t(4098);
    for (int i = 0; i <= 4097; ++i) t[std::size_t(i)] = float(srgbDecode(i / 4096.0));
    return t;
  }();
  const int w = picture.width();
  forEachBand(picture.height(), [&](const Band& band) {
    std::vector<float> scratch, smooth[3];
    for (auto& row : smooth) row.resize(std::size_t(w) + 1, 0.f);
    for (int y = band.begin; y < band.end; ++y) {
      for (std::size_t c = 0; c < 3; ++c) doubleRow(above[c].view(), y, w, scratch, smooth[c].data());
      mendUndershoot(smooth[0].data(), smooth[1].data(), smooth[2].data(), w, picture.row(y));
      decodeRow(table.data(), 3 * w, picture.row(y));
    }
  });
}

} // namespace

Result<MergeResult> fuseExposures(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                  const FusionOptions& fusion, const Progress& progress) {
  if (auto sound = checkFrames(frames, options); !sound) return passOn(sound.error());
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  Consistency consistency = findConsistency(frames, options, progress);
  if (progress.stopRequested()) return stopped();
  const int width = reference.width(), height = reference.height();
  std::vector<ShownFrame> shown;
  std::vector<HalfFrame> halves(frames.size());
  for (std::size_t i = 0; i < frames.size(); ++i) {
    shown.emplace_back(frames[i], consistency.share.empty() ? nullptr : &consistency.share[i], consistency.cell);
    for (auto& plane : halves[i]) plane = Image<std::uint16_t>(halvedSize(width), halvedSize(height), 1);
  }
  MergeResult result;
  result.radiance = Image<float>(width, height, 3);
  std::atomic<int> rowsDone{0};
  const bool finest = forEachBand(
      height, progress.stop,
      [&](const Band& band) {
        FinestLevel level(shown, fusion, result.radiance, halves);
        for (int x = 0; x < width; x += kTileWidth)
          level.blend({x, band.begin, std::min(kTileWidth, width - x), band.end - band.begin});
        progress.at(phrase("Blend frames"), 0.7 * double(rowsDone += band.end - band.begin) / height);
      },
      kTileRows);
  if (!finest) return stopped();
  LevelsAbove levels(width, height);
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (progress.stopRequested()) return stopped();
    levels.blend(halves[i]);
    halves[i] = {};
    progress.at(phrase("Blend frames"), 0.7 + 0.25 * double(i + 1) / double(frames.size()));
  }
  addAboveAndDecode(collapsed(levels.take()), result.radiance);
  result.motion = std::move(consistency.report);
  result.ev100OfUnit = ev100(reference.settings).value - std::log2(0.18);
  return result;
}

} // namespace ml
