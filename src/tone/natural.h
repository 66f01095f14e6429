// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "tone/local_map.h"
#include "tone/noise.h"
#include "tone/operators.h"
#include "tone/placement.h"
#include "tone/rendering.h"

#include <cmath>
#include <limits>
#include <vector>

namespace ml {

/// What the operator knows of a scene: its layers, how its light is distributed, and where it is placed.
struct ToneAnalysis {
  LocalMap base;                     ///< log2 luminance without what is smaller than about a fiftieth of the picture.
  LocalMap form;                     ///< The same, but only fine texture is gone.
  LocalMap veil;                     ///< log2 of the light that haze or flare adds everywhere around a place.
  double darkest = 0, brightest = 0; ///< 0.2 and 99.8 percentile of log2 luminance.
  LightHistogram histogram;
  SceneKind kind = SceneKind::Landscape;
  std::vector<Tie> rendering; ///< How one well metered exposure shows the scene.
  std::vector<Tie> even;      ///< Where even light is brought so that this exposure holds it; log2 to log2.
  HeldRange held;             ///< What the metered exposure holds; from = to: all, as it is.
  LocalMap placed;      ///< The same of `base`, with what is finer than the base kept and made as crisp as where it is
                        ///< exposed best.
  bool byFrame = false; ///< The rendering is that of a frame of the set, not one metered from the scene.
  double colour = 1;    ///< Gain of colour that goes with the rendering's contrast.
  LightStatistics statistics;
  NoiseByLight noise;
  LocalMap noisier;      ///< How many times more noise than `noise` there is, less 1; empty: nowhere.
  bool plumb = false;    ///< As SceneFacts.
  Image<float> cells;    ///< The reduced picture itself, linear, three channels.
  Image<float> logLight; ///< The same: log2 luminance, one channel.
};

struct ToneSettings {
  ToneOperator op = ToneOperator::Natural;
  double exposure = 0;   ///< Stops added on paper.
  double balance = 1;    ///< 0: one exposure for all, as a single frame; 1: bright and dark brought together; 1.5: what
                         ///< lies beyond the exposure comes half as far again.
  double detail = 1;     ///< Gain of fine texture.
  double form = 1;       ///< Gain of what is larger than texture and smaller than the base.
  double saturation = 1; ///< Of colour ratios.
  double vivid = 0;      ///< The same for pale colours only; vivid ones are left alone.
  double warmth = 0;     ///< Stops of red over blue.
  double tint = 0;       ///< Stops of magenta over green.
  double veil = 0;       ///< Share of the haze taken away.
  double quiet = 0.5;    ///< How much texture is held back where it is noise.
  std::vector<Tie> pulls; ///< Light (log2 of radiance) that the user put on a paper tone.
  friend bool operator==(const ToneSettings&, const ToneSettings&) = default;
};

/// `radiance`: linear Rec. 709, three channels. `margin`: pixels around that repeat what is seen elsewhere (a
/// sphere's): what is local sees them, what is reckoned for the whole picture does not.
[[nodiscard]] ToneAnalysis analyseTone(const PictureRows& radiance, const SceneFacts& facts = {}, int margin = 0);

/// Ties after `settings`: what the Ladder draws and the operator applies.
[[nodiscard]] std::vector<Tie> placedTies(const ToneAnalysis& analysis, const ToneSettings& settings);

/// What areas of the picture add to the settings, one value a pixel of a row; null: nothing.
struct RowMoves {
  const float *exposure = nullptr, *warmth = nullptr, *tint = nullptr, *saturation = nullptr, *contrast = nullptr;
};

inline constexpr int kPlacedAtOnce = 512; ///< Pixels; fits the nearest cache.

/// Places rows of a picture of width x height, by settings and analysis that may come from another size of the same
/// scene. Light is brought where one exposure holds it (`placed`) and shown as that exposure shows it (`rendering`);
/// what pulls, form and texture change is measured on base and form, those of a weighted guided filter (`baseLayerOf`),
/// which follows strong edges. Colour ratios to luminance are kept (Schlick 1994), colours beyond the display move
/// towards their own luminance.
class LightPlacer {
public:
  /// `headroom`: stops above paper white that the display has; what lies near white on paper rises into them.
  LightPlacer(const ToneAnalysis& analysis, const ToneSettings& settings, int width, int height, double headroom = 0);
  struct Scratch {
    alignas(64) float log[kPlacedAtOnce], a[kPlacedAtOnce], b[kPlacedAtOnce], base[kPlacedAtOnce], form[kPlacedAtOnce],
        paper[kPlacedAtOnce], light[kPlacedAtOnce];
    int cell[kPlacedAtOnce];
    std::vector<float> grid;
  };
  /// First: channels of n <= kPlacedAtOnce pixels whose interleaved radiance begins at `rgb`, after the white point,
  /// and their log2 luminance in the scratch.
  void read(const float* rgb, int n, Scratch& scratch, float* r, float* g, float* b) const;
  /// Does the white point leave all as it is?
  [[nodiscard]] bool whiteIsAsCombined() const { return settings_.warmth == 0 && settings_.tint == 0; }
  /// Then: what was read, of row y from x0 on, becomes display-linear Rec. 709 in 0..1.
  void place(int y, int x0, int n, const RowMoves& moves, Scratch& scratch, float* r, float* g, float* b) const;

private:
  void readOrZero(const LocalMap& map, int y, int x0, int n, Scratch& s, float* out) const;
  void readBase(int y, int x0, int n, Scratch& s) const;
  void takeVeil(int y, int x0, int n, Scratch& s, float* r, float* g, float* b) const;
  const ToneAnalysis& analysis_;
  ToneSettings settings_;
  GridColumns columns_;
  int height_;
  float headroom_;
  bool split_ = true;
  LocalMap durand_; ///< Only for that operator.
  float gains_[3];
  bool pulled_ = false;      ///< The base is needed to know by how much.
  std::vector<float> curve_; ///< At 1/16 stop: paper stops of placed light, how much texture is kept at a base, paper
                             ///< stops that pulls add there.
};

/// All rows at once. Output: display-linear Rec. 709 in 0..1, same shape.
Result<Image<float>> toneNatural(ImageView<const float> radiance, const ToneAnalysis& analysis,
                                 const ToneSettings& settings, const Progress& progress);

} // namespace ml
