// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/combined_picture.h"
#include "session/job.h"

namespace ml {

/// What a view was combined to; the pixels lie in its history.
struct CombineOutcome {
  std::optional<CombineRecord> record;
  std::string stamp;
};
/// Puts it where it belongs.
void putOutcome(View& view, const CombineOutcome& outcome);

/// What it was combined with, or would be by default: positions are joined.
[[nodiscard]] CombineOptions optionsOf(const View& view);

struct CombinedView {
  CombineOutcome outcome;
  std::shared_ptr<const CombinedPicture> picture; ///< At screen size.
};
/// The frames of a view to one picture that lies in its history; from any thread. Errors: of combining and of writing.
[[nodiscard]] Result<CombinedView> combineView(const View& view, const CombineOptions& options,
                                               const Progress& progress);

} // namespace ml
