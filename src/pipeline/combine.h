// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/register.h"
#include "base/progress.h"
#include "finish/judgement.h"
#include "ingest/grouping.h"
#include "merge/fusion.h"
#include "merge/join.h"
#include "merge/merge.h"
#include "pipeline/curve_shelf.h"
#include "pipeline/metered.h"
#include "positions/canvas.h"
#include "response/response.h"

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace ml {

enum class CropMode { Reference, Overlap };
enum class CombineMethod {
  Radiance,  ///< Everything the frames recorded, as light.
  Fusion,    ///< The best exposed of each place, blended as pictures.
  ToneRange, ///< The lightest frame; where it passes a threshold the darkest.
  Darker,    ///< Radiance, and inside painted areas the darker of it and one frame.
  Single,    ///< One frame as it is.
  Positions, ///< Of a view: all its positions joined (see assemble.h). combineFiles refuses it.
};

/// How positions that are joined are laid on one picture.
struct Joining {
  Projection projection = Projection::Auto;
  Angles facing; ///< The hand looks that much further right, up and rolled than what was found to be level and centred.
  /// The same of single positions, by their sets' names: each looks that much further than it was found to look.
  std::map<std::string, Angles> turned;
  friend bool operator==(const Joining&, const Joining&) = default;
};

struct CombineOptions {
  AlignMode align = AlignMode::Auto;
  MotionMode motion = MotionMode::Auto;
  std::optional<int>
      reference; ///< Counts the given files from 0 in the order of their names. Empty: chosen. Single: the frame taken.
  CropMode crop = CropMode::Reference; ///< Reference keeps the full size of the reference frame.
  CombineMethod method = CombineMethod::Radiance;
  bool emptyScene = false;     ///< Passers-by vanish: what most frames agree on is kept.
  bool recoverResponse = true; ///< Of files that do not say how their codes follow from light.
  ToneRange toneRange;
  std::vector<SourceChoice> choices; ///< Frames count from the darkest.
  std::vector<SourceChoice> darker;  ///< Painted areas of CombineMethod::Darker.
  std::vector<std::string> unused;   ///< File names that the user leaves out.
  std::vector<std::string> lent; ///< Frames of other sets of a view, "set/file": they say nothing but where the user
                                 ///< takes a place from them.
  std::map<std::string, double> seconds; ///< Exposure times typed by the user, by file name.
  Joining joining;                       ///< Of CombineMethod::Positions.
  std::optional<bool> sphere; ///< Equirectangular frames of all directions, left meets right; empty: as they show.
  bool evenSo =
      false; ///< Frames whose light contradicts their settings more than any camera explains are combined all the same.
  // Where and how, not what: none is part of a record.
  std::vector<std::filesystem::path> lentFiles; ///< The files of `lent`.
  std::filesystem::path curves;                 ///< Folder of a CurveShelf; empty: none is read or kept.
  int edge = 0;                                 ///< Over 0: a first look on frames reduced to about this longest side.
};

/// One frame as it took part.
struct CombinedFrame {
  std::filesystem::path path;
  ExposureSettings settings;
  Registration registration;
  double excludedShare = 0; ///< Share of the picture where it disagreed and was left out.
  double clippedShare = 0;  ///< Share of its pixels in which a channel clips.
  bool exposureEstimated = false;
  bool lent = false;     ///< Of another set: used only where a place was taken from it.
  bool flash = false;    ///< Lit by a flash, unlike the others: used only where they are all full.
  double lightStops = 0; ///< How much more light it gathered than its settings say, by the pixels; 0 for the reference.
};

/// What the merge has at one stop of light.
struct StopRecord {
  double ev100 = 0;           ///< Middle of the half stop.
  double share = 0;           ///< Of the picture's pixels.
  double snr = 0;             ///< Median signal to noise ratio of the merged green, by the noise model.
  std::vector<double> frames; ///< Share of these pixels for which each frame says most, darkest first.
};

struct Combined {
  Image<float> radiance; ///< Linear Rec. 709, 0.18 is the reference frame's mid-tone.
  double ev100OfUnit = 0;
  double clippedShare = 0;
  MotionReport motion;
  int reference = 0; ///< Index into `frames`.
  CombineMethod method = CombineMethod::Radiance;
  bool sphere = false;               ///< Of all directions: left meets right.
  bool aligned = true;               ///< False: the frames were taken to lie as they are.
  std::vector<CombinedFrame> frames; ///< Darkest first, then those that are lent; those left out are not here.
  std::vector<LeftOut> leftOut;
  std::optional<Response> response;   ///< When it was looked for and found, in the set or on the shelf.
  std::optional<KeptCurve> keptCurve; ///< What the shelf knows of the camera.
  bool curveFromShelf = false;        ///< The set says too little of its curve; the kept one is used.
  std::vector<StopRecord> stops;      ///< Radiance only; where there is light, from dark to bright.
  Image<std::uint8_t> source;         ///< As MergeResult, of the whole reference frame.
  Image<float> snr;
  Image<float> noisier;              ///< As noisierPlaces; radiance only.
  Metered metered;                   ///< Of `frames`; none where they are blended.
  std::vector<std::string> remarks;  ///< Sentences on what is not as it should be, though nothing is lost.
  int fullWidth = 0, fullHeight = 0; ///< Of the reference frame.
  Roi crop;                          ///< Of the reference frame.
};

/// What the finish is told of a combined picture.
[[nodiscard]] SceneFacts sceneFacts(const Combined& c);
/// The same as text that lies in its radiance file.
[[nodiscard]] std::map<std::string, std::string> notesOf(const Combined& c);
[[nodiscard]] SceneFacts sceneFacts(double ev100OfUnit, CombineMethod method, std::vector<Tie> metered);

/// Files to one picture: read, register, find the response, merge. Frames that cannot be read or placed are left out
/// and named, as long as two remain; a single file is combined with itself. Errors: of reading when nothing is left,
/// SizeMismatch, CannotAlign, Contradiction, InvalidArgument, TooFewFrames, Stopped.
Result<Combined> combineFiles(std::vector<std::filesystem::path> files, const CombineOptions& options,
                              const Progress& progress);

/// For the judgement of the finished picture. Empty: movement was not looked for.
[[nodiscard]] std::optional<GhostsLeft> ghostsLeft(const Combined& combined);

/// The verdict: one sentence with figures.
[[nodiscard]] std::string verdict(const Combined& combined);

} // namespace ml
