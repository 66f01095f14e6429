// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "deliver/row_spool.h"
#include "session/job.h"
#include "tone/natural.h"

#include <memory>

namespace ml {

/// A combined picture at screen size and what the tone operator found in the full one. Never changes once made.
struct CombinedPicture {
  Image<float> preview;
  ToneAnalysis analysis; ///< Of the full picture.
  SceneFacts facts;
  std::shared_ptr<const Image<float>> noisier; ///< As noisierPlaces; null: nowhere.
};

/// The one place that makes one.
[[nodiscard]] std::shared_ptr<const CombinedPicture> pictureOf(const PictureRows& radiance, const SceneFacts& facts,
                                                               std::shared_ptr<const Image<float>> noisier);
/// Of what the view was combined to. Errors: of reading, Stopped.
[[nodiscard]] Result<std::shared_ptr<const CombinedPicture>> loadPicture(const View& view, const Progress& progress);

} // namespace ml
