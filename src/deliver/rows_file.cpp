// SPDX-License-Identifier: GPL-3.0-or-later
#include "deliver/rows_file.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/version.h"
#include "codec/exif.h"
#include "codec/exr.h"
#include "codec/icc.h"
#include "codec/tiff_file.h"

#include <algorithm>
#include <cctype>

namespace ml {

Result<void> deliverRadianceRows(const std::filesystem::path& file, int width, int height,
                                 const RadianceOptions& options,
                                 const std::function<Result<void>(const RowsWriter& write)>& fill) {
  std::string format = file.extension().string();
  std::transform(format.begin(), format.end(), format.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  if (format != ".exr" && format != ".tif" && format != ".tiff")
    return fail(ErrorCode::UnsupportedFormat,
                phrase("`{}`: joined radiance is written as .exr or .tif.", file.string()));
  return writeAtomically(file, [&](const std::filesystem::path& temporary) -> Result<void> {
    if (format == ".exr") {
      ExrOptions exr;
      exr.half = options.half;
      exr.text = options.notes;
      exr.text["software"] = software();
      return writeExrRows(temporary, width, height, exr, fill);
    }
    auto written = writeTiffFloatRows(temporary, width, height, linearRec709Profile(), fill);
    if (written && options.metadataFrom) written = carryMetadata(*options.metadataFrom, temporary, software());
    return written;
  });
}

} // namespace ml
