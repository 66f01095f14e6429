// SPDX-License-Identifier: GPL-3.0-or-later
// Cards full of files whose metadata are anything at all: grouping, looking, and every mend. Loses no file.
#include "ingest/grouping.h"
#include "codec/exif.h"
#include "codec/jpeg.h"

#include <cmath>
#include <cstdlib>

namespace {

/// Takes values off the input, zeros after its end.
struct Bytes {
  const unsigned char* data;
  std::size_t left;
  unsigned char next() { return left ? (--left, *data++) : 0; }
};

std::size_t filesIn(const ml::Grouping& g) {
  std::size_t n = 0;
  for (const auto& s : g.sets) n += s.files.size();
  for (const auto& s : g.aside) n += s.files.size();
  return n;
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  static const std::filesystem::path folder = [] {
    char name[] = "/tmp/ml-fuzz-XXXXXX";
    const std::filesystem::path made = ::mkdtemp(name);
    ml::Image<std::uint8_t> grey(64, 48, 3);
    for (std::size_t i = 0; i < grey.size(); ++i) grey.data()[i] = std::uint8_t(i * 7 % 251);
    (void)ml::writeJpeg(made / "a.jpg", grey.view(), {80, false, {}, false});
    return made;
  }();
  Bytes in{data, size};
  const int count = in.next() % 12;
  std::vector<std::filesystem::path> files;
  for (int i = 0; i < count; ++i) {
    const auto file = folder / ("f" + std::to_string(i) + ".jpg");
    std::filesystem::copy_file(folder / "a.jpg", file, std::filesystem::copy_options::overwrite_existing);
    ml::ShotMetadata m;
    const unsigned what = in.next();
    if (what & 1) m.time = ml::Seconds{std::exp2(in.next() / 8.0 - 16)};
    if (what & 2) m.aperture = ml::FNumber{1 + in.next() / 8.0};
    if (what & 4) m.iso = ml::Iso{25.0 * (1 + in.next())};
    if (what & 8) m.bias = ml::Stops{in.next() / 16.0 - 8};
    if (what & 16) m.focalLengthMm = 1 + in.next();
    if (what & 32) m.takenAt = std::string("20") + char(in.next()) + "6:05:14 10:00:0" + char('0' + in.next() % 10);
    if (what & 64) m.camera = std::string(in.next() % 3, char(in.next()));
    (void)ml::writeExif(file, m);
    files.push_back(file);
  }
  ml::Grouping g = ml::groupFiles(files);
  ml::lookAtGroups(g, {});
  const std::size_t kept = filesIn(g);
  for (int step = 0; step < 24 && in.left > 0; ++step) {
    const std::size_t a = in.next() % 6, b = in.next() % 6, c = in.next() % 6;
    switch (in.next() % 6) {
    case 0: ml::splitGroup(g, a, b); break;
    case 1: ml::joinWithNext(g, a); break;
    case 2: ml::moveFile(g, a, b, c); break;
    case 3: ml::setAside(g, a); break;
    case 4: ml::setFileAside(g, a, b); break;
    default: ml::takeBack(g, a);
    }
    if (filesIn(g) != kept) std::abort();
  }
  return 0;
}
