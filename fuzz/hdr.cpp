// SPDX-License-Identifier: GPL-3.0-or-later
// Files that claim to be pictures for HDR screens, as they are read back after writing: AVIF, JPEG XL, JPEG with a gain
// map.
#include "codec/avif_file.h"
#include "codec/gain_map.h"
#include "codec/jxl_file.h"

#include <cstdlib>
#include <fstream>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  static const std::filesystem::path folder = [] {
    char name[] = "/tmp/ml-fuzz-XXXXXX";
    return std::filesystem::path(::mkdtemp(name));
  }();
  std::ofstream(folder / "a", std::ios::binary).write(reinterpret_cast<const char*>(data), std::streamsize(size));
  (void)ml::readAvif(folder / "a");
  (void)ml::readJxl(folder / "a");
  (void)ml::readGainMap(folder / "a");
  return 0;
}
