// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "deliver/deliver.h"

#include <functional>

namespace ml {

/// Takes the next rows, from the top: linear Rec. 709, three channels, `width` pixels. Errors: CannotWrite.
using RowsWriter = std::function<Result<void>(ImageView<const float> rows)>;

/// As deliverRadiance for a picture that never exists as a whole: `fill` hands its rows on. .exr or .tif. Atomic:
/// nothing is left when `fill` fails. Errors: UnsupportedFormat, CannotWrite, those of `fill`.
Result<void> deliverRadianceRows(const std::filesystem::path& file, int width, int height,
                                 const RadianceOptions& options,
                                 const std::function<Result<void>(const RowsWriter& write)>& fill);

} // namespace ml
