// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "image/image.h"
#include "practice/exercise.h"
#include "practice/truths.h"

namespace ml {

/// What an exercise shows, and what is so.
struct ExerciseMaterial {
  struct Picture {
    std::string name; ///< "1: 1/60".
    Image<std::uint8_t> rgb;
  };
  std::string task;               ///< What to do, sentences.
  std::vector<std::string> facts; ///< Figures one needs for it.
  std::vector<Picture> pictures;
  ExerciseTruth truth;
};

/// Makes it from the exercise's seed: the same each time. Errors: FileMissing where its world does not ship with this
/// program, Stopped.
[[nodiscard]] Result<ExerciseMaterial> prepare(const Exercise& exercise, const Progress& progress);

/// Its pictures as "01.jpg" and so on, into a folder that is made. Errors: CannotWrite.
Result<std::vector<std::filesystem::path>> writePictures(const ExerciseMaterial& material,
                                                         const std::filesystem::path& folder);

} // namespace ml
