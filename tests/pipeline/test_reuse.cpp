// SPDX-License-Identifier: GPL-3.0-or-later
// Memory that is used again holds what was in it before: no result may depend on that.
#include <QTest>

#include "base/large_memory.h"
#include "finish/finish.h"
#include "pipeline/combine.h"
#include "support/scenes.h"

#include <QTemporaryDir>
#include <cstring>

using namespace ml;

namespace {

/// Blocks of every size that comes up, full of what is no number, lie ready to be used again.
void spoilTheMemory() {
  std::vector<std::pair<void*, std::size_t>> blocks;
  for (double size = 4.2e6; size < 3.2e7; size *= 1.2)
    for (int k = 0; k < 4; ++k) {
      blocks.emplace_back(allocateLarge(std::size_t(size)), std::size_t(size));
      std::memset(blocks.back().first, 0xff, blocks.back().second);
    }
  for (const auto& [memory, size] : blocks) FreeLarge{size}(memory);
}

bool same(const Image<float>& a, const Image<float>& b) {
  return a.width() == b.width() && a.height() == b.height() &&
         std::memcmp(a.data(), b.data(), a.size() * sizeof(float)) == 0;
}

} // namespace

class TestReuse : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() {
    SimulationOptions hand;
    hand.shakePixels = 4;
    hand.shakeDegrees = 0.1;
    const auto shoot = [&](FrameFormat format, const char* folder) {
      return test::shootScene(test::texturedScene(1500, 1100, 11, 3), test::exposedAt({4, 7, 10}), format,
                              test::pathOf(dir_) / folder, hand)
          .files;
    };
    jpeg_ = shoot(FrameFormat::Jpeg, "jpeg");
    raw_ = shoot(FrameFormat::Dng, "raw");
  }

  void nothingDependsOnWhatTheMemoryHeld_data() {
    QTest::addColumn<int>("method");
    QTest::addColumn<int>("format");
    QTest::newRow("radiance of JPEG files") << int(CombineMethod::Radiance) << int(FrameFormat::Jpeg);
    QTest::newRow("radiance of raw files") << int(CombineMethod::Radiance) << int(FrameFormat::Dng);
    QTest::newRow("fusion") << int(CombineMethod::Fusion) << int(FrameFormat::Jpeg);
    QTest::newRow("two joined by tone") << int(CombineMethod::ToneRange) << int(FrameFormat::Jpeg);
  }
  void nothingDependsOnWhatTheMemoryHeld() {
    QFETCH(int, method);
    QFETCH(int, format);
    const std::vector<std::filesystem::path>& files = FrameFormat(format) == FrameFormat::Jpeg ? jpeg_ : raw_;
    CombineOptions options;
    options.method = CombineMethod(method);
    const auto fresh = combineFiles(files, options, {});
    QVERIFY(fresh.has_value());
    Recipe recipe;
    recipe.tone.veil = 0.3;
    recipe.denoise = 0.4;
    recipe.geometry.pitch = 4;
    const auto finished = finishRadiance(fresh->radiance.view(), recipe, fresh->ev100OfUnit, nullptr, {});
    QVERIFY(finished.has_value());

    const MemoryReuse reuse;
    spoilTheMemory();
    QVERIFY(MemoryReuse::keptBytes() > 100000000);
    const auto again = combineFiles(files, options, {});
    QVERIFY(again.has_value());
    QVERIFY(same(fresh->radiance, again->radiance));
    spoilTheMemory();
    const auto finishedAgain = finishRadiance(again->radiance.view(), recipe, again->ev100OfUnit, nullptr, {});
    QVERIFY(finishedAgain.has_value());
    QVERIFY(std::memcmp(finished->picture.data(), finishedAgain->picture.data(), finished->picture.size() * 2) == 0);
    QCOMPARE(finished->report.whiteShare, finishedAgain->report.whiteShare);
  }

private:
  QTemporaryDir dir_;
  std::vector<std::filesystem::path> jpeg_, raw_;
};

QTEST_GUILESS_MAIN(TestReuse)
#include "test_reuse.moc"
