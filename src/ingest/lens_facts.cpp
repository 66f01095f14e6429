// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/lens_facts.h"

#include "codec/lens_profile.h"

namespace ml {

std::optional<LensFacts> lensFactsOf(const std::filesystem::path& frame, int width, int height) {
  static const LensShelf shelf; // read once: some thousand lenses
  auto profile = shelf.find(readLensQuery(frame), width, height);
  if (!profile) return {};
  return LensFacts{std::move(profile->map), profile->focal};
}

} // namespace ml
