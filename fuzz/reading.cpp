// SPDX-License-Identifier: GPL-3.0-or-later
// Everything a photographer may type: readings, times, apertures, ISO, stops.
#include "exposure/reading.h"
#include "exposure/marks.h"

#include <cmath>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  const std::string_view text(reinterpret_cast<const char*>(data), size);
  if (const auto ev = ml::parseReading(text, {8}, {100});
      ev && !(ev->value >= ml::kDarkestReading && ev->value <= ml::kBrightestReading))
    std::abort();
  if (const auto t = ml::parseTime(text)) (void)ml::print(*t);
  if (const auto n = ml::parseFNumber(text)) (void)ml::print(*n);
  if (const auto s = ml::parseIso(text)) (void)ml::print(*s);
  if (const auto s = ml::parseStops(text); s && std::abs(s->value) < 1e6) (void)ml::print(*s);
  return 0;
}
