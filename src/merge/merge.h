// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "capture/placed_frame.h"
#include "image/colour.h"
#include "merge/moved_region.h"

#include <optional>
#include <string>
#include <vector>

namespace ml {

enum class MotionMode { Off, Low, Medium, High, Auto };

struct MergeOptions {
  int reference = 0;                    ///< Frame that owns moving things and geometry.
  MotionMode motion = MotionMode::Auto; ///< Auto is Medium.
  bool emptyScene = false; ///< With three frames or more: what most frames agree on, instead of what the reference saw;
                           ///< passers-by vanish.
  std::vector<int> lent;   ///< Frames of another moment: they say nothing but where a choice takes a place from them.
  std::vector<SourceChoice> choices; ///< The user's word on what comes from where; later ones win.
  bool referenceFree = false; ///< Another owns moving things and geometry, where more of what moved can be told of the
                              ///< moment when that was shot.
  std::vector<int> filling = {}; ///< Of those lent: besides, they show what is full in every frame that is not.
  [[nodiscard]] std::optional<std::string> invalidReason(std::size_t frames) const;
};

/// What was moving: connected places where a frame disagrees with the one that owns the place.
struct MotionReport {
  std::vector<double> excludedShare;       ///< For each frame, share of the picture in which it was not used.
  int regions = 0;                         ///< Connected places in which at least one frame disagreed.
  std::vector<MovedRegion> places;         ///< These, and what was painted.
  int cell = 4;                            ///< Reference pixels a cell of `places` is wide.
  bool looked = false;                     ///< False: movement was not looked for, and the rest says nothing.
  double ghostShare = 0;                   ///< Of the picture, where frames that differ are still mixed.
  std::vector<SourceChoice::Point> ghosts; ///< Where, the largest first; at most a dozen.
};

struct MergeResult {
  Image<float> radiance;   ///< Linear Rec. 709, three channels; value 1 is `ev100OfUnit`.
  double ev100OfUnit = 0;  ///< EV100 reading of a surface of value 1.
  double clippedShare = 0; ///< Share of pixels clipped in every usable frame.
  MotionReport motion;
  int reference = 0; ///< The frame whose grid this is, and who owns moving things.
  /// On cells of kMapCell x kMapCell pixels: the frame that says most there (kNoSource: none is trusted), and the
  /// signal to noise ratio of the merged green by the noise model.
  Image<std::uint8_t> source;
  Image<float> snr;
  Image<float> light; ///< Green of the cell's middle pixel, as merged.
};
inline constexpr int kMapCell = 4;
inline constexpr std::uint8_t kNoSource = 255;

/// The same frames with another as the reference: placed on its grid.
[[nodiscard]] std::vector<PlacedFrame> seenFrom(std::vector<PlacedFrame> frames, int reference, int former);

/// Errors of frames that cannot be merged together: InvalidArgument, SizeMismatch.
[[nodiscard]] Result<void> checkFrames(const std::vector<PlacedFrame>& frames, const MergeOptions& options);

/// Merges placed frames (darkest first) to radiance. Weights are the inverse variance of each sample under its frame's
/// noise model, taken at the current estimate, not at the sample itself (Granados et al., CVPR 2010, eq. 4-6; Hasinoff
/// et al., CVPR 2010), for each channel apart. Clipped samples weigh nothing; the other channels of a clipped sample
/// count where they agree with the frames in which nothing clips. A frame that disagrees with the owner of a place
/// beyond noise is left out there. Value 0.18 is the mid-tone of the reference frame. Errors: InvalidArgument,
/// SizeMismatch, Stopped.
Result<MergeResult> mergeRadiance(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                  const Progress& progress);

} // namespace ml
