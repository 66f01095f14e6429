// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "ingest/copies.h"
#include "ingest/grouping.h"
#include "support/scenes.h"

#include <QTest>
#include <fstream>

using namespace ml;
namespace fs = std::filesystem;

namespace {

void writeBytes(const fs::path& file, const std::string& bytes) {
  std::ofstream(file, std::ios::binary) << bytes;
}

/// Frames of one set on a card, a stop apart.
void writeSet(const fs::path& folder, int frames) {
  for (int i = 0; i < frames; ++i) {
    Image<std::uint8_t> image(48, 32, 3);
    image.fill(std::uint8_t(40 + 40 * i));
    const auto file = folder / ("IMG_000" + std::to_string(i + 1) + ".jpg");
    QVERIFY(writeJpeg(file, image.view(), {}).has_value());
    ShotMetadata m;
    m.time = Seconds{0.01 * (1 << i)};
    m.takenAt = "2026:05:04 10:00:0" + std::to_string(i);
    m.camera = "A";
    QVERIFY(writeExif(file, m).has_value());
  }
}

} // namespace

class TestCopies : public QObject {
  Q_OBJECT

private slots:
  /// Frames of one camera are often of one size and alike for a long way; and whoever gave equal files names of their
  /// own meant them.
  void onlyWhatIsNamedAfterAnEqualFileIsACopy() {
    QTemporaryDir dir;
    const fs::path folder = test::pathOf(dir);
    std::string bytes(3 << 20, 'x');
    fs::create_directory(folder / "other");
    const auto at = [&](const char* name) { return folder / name; };
    for (const char* name :
         {"a.raw", "a (1).raw", "a-copy.raw", "a1.raw", "b.raw", "other/a.raw", "other/a - 2.raw", "a-b-copy.raw"})
      writeBytes(at(name), bytes);
    bytes.back() = 'y';
    writeBytes(at("a-edited.raw"), bytes);
    writeBytes(at("a-cut.raw"), bytes.substr(1));
    std::vector<fs::path> files;
    for (const auto& entry : fs::recursive_directory_iterator(folder))
      if (entry.is_regular_file()) files.push_back(entry.path());
    files.push_back(at("a-gone.raw"));
    const auto copies = copiesAmong(files);
    QCOMPARE(copies.size(), std::size_t(4));
    for (const char* name : {"a (1).raw", "a-copy.raw", "a-b-copy.raw"}) QCOMPARE(copies.at(at(name)), at("a.raw"));
    QCOMPARE(copies.at(at("other/a - 2.raw")), at("other/a.raw"));
  }

  /// A frame that was copied does not tear its set in two, and nothing is said to be missing.
  void aCopiedFrameIsPassedOver() {
    QTemporaryDir dir;
    const fs::path folder = test::pathOf(dir);
    writeSet(folder, 4);
    fs::copy_file(folder / "IMG_0002.jpg", folder / "IMG_0002 copy.jpg");
    std::vector<LeftOut> leftOut;
    const auto grouping = groupFiles(collectFiles({folder}, leftOut));
    QCOMPARE(grouping.sets.size(), std::size_t(1));
    QCOMPARE(grouping.sets[0].files.size(), std::size_t(4));
    QCOMPARE(grouping.leftOut.size(), std::size_t(1));
    QVERIFY(withoutCompanions(grouping.leftOut).empty());
    const std::string& said = grouping.leftOut.front().reason.message;
    QVERIFY2(said.find("IMG_0002 copy.jpg") != std::string::npos && said.find("IMG_0002.jpg") != std::string::npos,
             said.c_str());
  }
};

QTEST_GUILESS_MAIN(TestCopies)
#include "test_copies.moc"
