// SPDX-License-Identifier: GPL-3.0-or-later
// Files that claim to be frames: raw, JPEG, PNG, TIFF, and their Exif.
#include "codec/raw_file.h"
#include "ingest/load_frame.h"
#include "ingest/watched_folder.h"

#include <cstdlib>
#include <fstream>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  static const std::filesystem::path file = [] {
    char name[] = "/tmp/ml-fuzz-XXXXXX";
    return std::filesystem::path(::mkdtemp(name)) / "frame";
  }();
  std::ofstream(file, std::ios::binary).write(reinterpret_cast<const char*>(data), std::streamsize(size));
  (void)ml::inspectFile(file);
  (void)ml::loadFrame(file);
  (void)ml::readMosaic(file);
  (void)ml::hasItsEnd(file);
  return 0;
}
