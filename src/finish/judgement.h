#pragma once
#include "finish/finish.h"

namespace ml {

enum class FindingKind { WhiteClipped, BlackClipped, Halo, MuddyMiddle, UnnaturalColour, ShadowNoise, TiltedVerticals };
inline constexpr int kFindingKinds = 7;

/// One thing that a finished picture is judged by.
struct Finding {
  FindingKind kind = FindingKind::WhiteClipped;
  double figure = 0;       ///< In `unit`.
  double threshold = 0;    ///< Above it (below it for MuddyMiddle) the eye minds.
  const char* unit = "";
  bool tooMuch = false;
  std::vector<Spot2> places; ///< On the finished picture, 0..1, the worst first; empty: everywhere or nowhere.
};

/// All kinds, in order. Thresholds, and why:
/// white 2 % and black 1 % of the picture clipped: lamps and their reflections are smaller, walls are larger (common practice, no source);
/// halo 0.22 stop: twice the lightness step seen beside a strong edge (about 0.1 stop, Trentacoste et al., Eurographics 2012, from memory);
/// middle tones keep at least 0.5 of the scene's local contrast (below, pictures look flat; chosen on the shipped scenes);
/// colour: 1.5 % of the picture beyond 1.6 times the scene's own colour ratio and vivid, or beyond the display;
/// noise 2.0 L* in the shadows (about two just noticeable differences); verticals 0.6 degrees (common practice, no source).
struct Judgement {
  std::vector<Finding> findings;
  [[nodiscard]] const Finding& of(FindingKind kind) const { return findings[std::size_t(kind)]; }
  [[nodiscard]] bool sound() const;
};

/// `prepared`: radiance of the finished shape; `light`: what came of it, display-linear (finishLight without headroom); same size, of preview size.
[[nodiscard]] Judgement judgeFinish(ImageView<const float> prepared, const Image<float>& light, const ToneAnalysis& analysis, const Recipe& recipe, const FinishReport& report,
                                    double focal = kAssumedFocal);

/// "Light rims beside edges, 0.31 stop" and so on; with the figure, and the threshold when it is passed.
[[nodiscard]] std::string sentence(const Finding& finding);
/// The recipe with the one change that mends a finding most directly; the same recipe when nothing would.
[[nodiscard]] Recipe remedied(const Recipe& recipe, const Finding& finding, const ToneAnalysis& analysis);
/// What `remedied` does, as words for a button.
[[nodiscard]] std::string remedyWords(FindingKind kind);

} // namespace ml
