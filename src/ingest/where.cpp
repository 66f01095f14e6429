// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/where.h"

#include "codec/exif.h"

namespace ml {

std::optional<std::pair<double, double>> whereTaken(const std::filesystem::path& file) {
  return readLocation(file);
}

} // namespace ml
