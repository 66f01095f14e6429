// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/finish.h"

namespace ml {

enum class FindingKind {
  WhiteClipped,
  BlackClipped,
  Halo,
  Flat,
  UnnaturalColour,
  ShadowNoise,
  TiltedVerticals,
  GhostsLeft,
  Greyer,
  MilkyWindow,
  Blotches
};
inline constexpr int kFindingKinds = 11;
/// Is it a lack of something, not too much of it?
[[nodiscard]] bool wantsMore(FindingKind kind);

/// One thing that a finished picture is judged by.
struct Finding {
  FindingKind kind = FindingKind::WhiteClipped;
  double figure = 0;    ///< In `unit`; below 0: not looked at.
  double threshold = 0; ///< Above it (below it where wantsMore) it is too much.
  const char* unit = "";
  bool tooMuch = false;
  std::vector<Spot2> places; ///< On the finished picture, 0..1, the worst first; empty: everywhere or nowhere.
};

/// What sentences call the scene and its exposure.
struct JudgedScene {
  SceneKind kind = SceneKind::Twilight; ///< "The picture".
  bool byFrame = false;                 ///< A frame was metered for it.
};

/// All kinds, in order. Thresholds, and why:
/// white 2 % and black 1 % of the picture clipped: lamps and their reflections are smaller, walls are larger (common
/// practice, no source); halo 0.22 stop: twice the lightness step seen beside a strong edge (about 0.1 stop,
/// Trentacoste et al., Eurographics 2012, from memory); local contrast of lightness, of that which an exposure made for
/// the place would give: 0.7 outside windows, 0.5 in them (chosen on the shipped scenes and the twelve radiance views:
/// what lies below looked flat, or milky, beside such an exposure); half a stop darker than the metered frame in its
/// middle tones: a step one sees side by side (common practice, no source); blotches 0.2 %: dark places of one pure
/// colour whose surroundings are not (chosen on blended sets that had them and that had none); colour: 1.5 % of the
/// picture beyond 1.6 times the scene's own colour ratio and vivid, or beyond the display; noise 2.0 L* in the shadows
/// (about two just noticeable differences); verticals 0.6 degrees (common practice, no source); ghosts 0.02 % of the
/// picture, a head in a street (chosen on the shipped scenes).
struct Judgement {
  std::vector<Finding> findings;
  JudgedScene scene;
  [[nodiscard]] const Finding& of(FindingKind kind) const { return findings[std::size_t(kind)]; }
  /// What passes its threshold by the largest factor; null: nothing.
  [[nodiscard]] const Finding* worst() const;
  [[nodiscard]] bool sound() const { return worst() == nullptr; }
};

/// What the merge says of places where frames that differ are still mixed; on the picture as combined.
struct GhostsLeft {
  double share = 0; ///< Of the picture.
  std::vector<Spot2> places;
};

/// Shares of `light`, display-linear, at the ends of the display's range.
[[nodiscard]] FinishReport reportOf(const Image<float>& light);

/// Shape and lens of what is judged, as the finish has them.
struct JudgedShape {
  const LensFacts* lens = nullptr;
  std::optional<GhostsLeft> ghosts; ///< Empty: movement was not looked for.
};

/// `prepared`: radiance of the finished shape; `light`: what came of it, display-linear (finishLight without headroom);
/// same size, of preview size.
[[nodiscard]] Judgement judgeFinish(ImageView<const float> prepared, const Image<float>& light,
                                    const ToneAnalysis& analysis, const Recipe& recipe, const FinishReport& report,
                                    const JudgedShape& shape = {});

/// A whole sentence: "The room is 1.2 stops darker than the frame you metered."
[[nodiscard]] std::string sentence(const Finding& finding, const JudgedScene& scene = {});
/// The recipe with the one change that mends a finding most directly; the same recipe when nothing would.
[[nodiscard]] Recipe remedied(const Recipe& recipe, const Finding& finding, const ToneAnalysis& analysis);
/// What `remedied` does, as words for a button.
[[nodiscard]] std::string remedyWords(FindingKind kind);

} // namespace ml
