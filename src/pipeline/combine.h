#pragma once
#include "align/register.h"
#include "base/progress.h"
#include "ingest/grouping.h"
#include "merge/merge.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace ml {

enum class CropMode { Reference, Overlap };

struct CombineOptions {
  AlignMode align = AlignMode::Auto;
  MotionMode motion = MotionMode::Auto;
  std::optional<int> reference;        ///< Counts the given files from 0 in the order of their names. Empty: chosen.
  CropMode crop = CropMode::Reference; ///< Reference keeps the full size of the reference frame.
};

/// One frame as it took part.
struct CombinedFrame {
  std::filesystem::path path;
  ExposureSettings settings;
  Registration registration;
  double excludedShare = 0; ///< Share of the picture where it disagreed and was left out.
};

struct Combined {
  Image<float> radiance;             ///< Linear Rec. 709, 0.18 is the reference frame's mid-tone.
  double ev100OfUnit = 0;
  double clippedShare = 0;
  int motionRegions = 0;
  int reference = 0;                 ///< Index into `frames`.
  std::vector<CombinedFrame> frames; ///< Darkest first; those left out are not here.
  std::vector<LeftOut> leftOut;
  Roi crop;                          ///< Of the reference frame.
};

/// Files to one radiance picture: read, register, merge. Frames that cannot be read or placed are left out and named, as
/// long as two remain; a single file is combined with itself. Errors: of reading when nothing is left, SizeMismatch,
/// CannotAlign, InvalidArgument, Stopped.
Result<Combined> combineFiles(std::vector<std::filesystem::path> files, const CombineOptions& options, const Progress& progress);

/// The verdict: one sentence with figures.
[[nodiscard]] std::string verdict(const Combined& combined);

} // namespace ml
