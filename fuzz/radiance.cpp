// SPDX-License-Identifier: GPL-3.0-or-later
// Files that claim to be radiance: OpenEXR, Radiance RGBE, float TIFF.
#include "deliver/deliver.h"

#include <cstdlib>
#include <fstream>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  static const std::filesystem::path folder = [] {
    char name[] = "/tmp/ml-fuzz-XXXXXX";
    return std::filesystem::path(::mkdtemp(name));
  }();
  for (const char* name : {"a.exr", "a.hdr", "a.tif"}) {
    std::ofstream(folder / name, std::ios::binary).write(reinterpret_cast<const char*>(data), std::streamsize(size));
    (void)ml::readRadiance(folder / name);
  }
  return 0;
}
