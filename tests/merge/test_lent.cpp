// SPDX-License-Identifier: GPL-3.0-or-later
// Frames of another moment that are lent to a set: silent until a place is taken from them, and then alone there.
#include "merge/merge.h"
#include "mosaic/hands.h"
#include "pipeline/combine.h"
#include "support/scenes.h"

#include <QTemporaryDir>
#include <QTest>
#include <cstring>

using namespace ml;

namespace {

constexpr double kFullWell = 40000;

/// Three raw frames of a set, in place or by hand, and one of another moment: a third brighter, and one place of it
/// red.
struct LentSet {
  explicit LentSet(bool byHand) : hand("forest", 240, 160, 0.55) {
    hand.shoot({0.25, 1, 4}, kFullWell);
    own = hand.placed(0.04);
    if (!byHand) { // the same view thrice
      for (auto& light : hand.seen) light = hand.truth.clone();
      hand.shoot({0.25, 1, 4}, kFullWell);
      own = hand.placed(0);
      for (auto& frame : own) frame.toFrame = kIdentity3;
    }
    other.truth = hand.truth.clone();
    for (int y = 0; y < other.truth.height(); ++y)
      for (int x = 0; x < other.truth.width(); ++x)
        for (int c = 0; c < 3; ++c) {
          const bool red = std::hypot(x - 120, y - 80) < 30;
          other.truth.at(x, y)[c] = red ? (c == 0 ? 0.3f : 0.05f) : 1.33f * other.truth.at(x, y)[c];
        }
    other.shoot({1}, kFullWell);
    all = own;
    all.push_back(other.placed(0).front());
  }
  test::HandSet hand, other{"chart", 16, 16, 0.55};
  std::vector<PlacedFrame> own, all;
};

MergeResult merged(const std::vector<PlacedFrame>& frames, std::vector<int> lent,
                   std::vector<SourceChoice> choices = {}) {
  MergeOptions options;
  options.reference = 1;
  options.lent = std::move(lent);
  options.choices = std::move(choices);
  auto result = mergeRadiance(frames, options, {});
  if (!result) qFatal("%s", result.error().message.c_str());
  return std::move(*result);
}

} // namespace

class TestLent : public QObject {
  Q_OBJECT
private slots:
  void aLentFrameIsSilent_data() {
    QTest::addColumn<bool>("byHand");
    QTest::newRow("in place") << false;
    QTest::newRow("by hand") << true;
  }
  /// Bit for bit: neither its light nor its movement counts, and raw frames are still merged by their photosites.
  void aLentFrameIsSilent() {
    QFETCH(const bool, byHand);
    const LentSet set(byHand);
    const MergeResult without = merged(set.own, {}), with = merged(set.all, {3});
    QCOMPARE(with.radiance.size(), without.radiance.size());
    QVERIFY(std::memcmp(with.radiance.data(), without.radiance.data(), with.radiance.size() * sizeof(float)) == 0);
    QVERIFY(std::equal(with.source.data(), with.source.data() + with.source.size(), without.source.data()));
    QCOMPARE(with.motion.regions, without.motion.regions);
    QCOMPARE(with.motion.excludedShare[3], 1.0);
  }

  /// Inside the stroke the picture is the lent frame's light, whatever the others saw; away from it nothing changes.
  void aPlaceIsTakenFromIt_data() { aLentFrameIsSilent_data(); }
  void aPlaceIsTakenFromIt() {
    QFETCH(const bool, byHand);
    const LentSet set(byHand);
    const MergeResult without = merged(set.own, {}), with = merged(set.all, {3}, {{{{0.5, 0.5}}, 0.1, 3}});
    const MergeResult alone = [&] {
      auto result = mergeRadiance({set.all[3]}, {0, MotionMode::Off, false, {}, {}}, {});
      return std::move(*result);
    }();
    int far = 0, farOff = 0;
    for (int y = 0; y < with.radiance.height(); ++y)
      for (int x = 0; x < with.radiance.width(); ++x) {
        const double away = std::hypot(x - 120, y - 80);
        const float *p = with.radiance.at(x, y), *own = without.radiance.at(x, y), *lent = alone.radiance.at(x, y);
        if (away < 18)
          for (int c = 0; c < 3; ++c) QVERIFY(std::abs(p[c] - lent[c]) <= 1e-4f + 2e-3f * std::abs(lent[c]));
        if (away < 60) continue;
        ++far, farOff += std::abs(p[1] - own[1]) > 0.02f * std::abs(own[1]) + 1e-4f;
      }
    // Around a lent place frames in place are merged as developed pictures, which differ where light begins to clip.
    QVERIFY2(farOff <= far / 100, qPrintable(QString("%1 of %2").arg(farOff).arg(far)));
    const auto& places = with.motion.places;
    QVERIFY(std::any_of(places.begin(), places.end(), [](const auto& p) { return p.painted && p.source == 3; }));
    // A later word of the set's own wins again.
    const MergeResult again = merged(set.all, {3}, {{{{0.5, 0.5}}, 0.1, 3}, {{{0.5, 0.5}}, 0.2, 1}});
    const float is = again.radiance.at(120, 80)[0], was = without.radiance.at(120, 80)[0];
    QVERIFY2(std::abs(is - was) < 0.1f * was, qPrintable(QString("%1, not %2").arg(is).arg(was)));
  }

  /// From files: a frame of another light is no contradiction, never the reference, and comes last.
  void filesAreLent() {
    QTemporaryDir dir, other;
    const auto scene = test::texturedScene(320, 240, 5, 3);
    const auto own = test::shootScene(scene.clone(), test::exposedAt({8, 6, 4}), FrameFormat::Dng, test::pathOf(dir));
    Image<float> brighter = scene.clone();
    for (std::size_t i = 0; i < brighter.size(); ++i) brighter.data()[i] *= 16;
    const auto lent =
        test::shootScene(std::move(brighter), test::exposedAt({7}), FrameFormat::Dng, test::pathOf(other));
    CombineOptions options;
    const auto without = combineFiles(own.files, options, {});
    options.lentFiles = lent.files;
    const auto with = combineFiles(own.files, options, {});
    QVERIFY(without && with);
    QCOMPARE(with->frames.size(), std::size_t(4));
    QVERIFY(with->frames[3].lent && with->frames[3].path == lent.files[0]);
    QVERIFY(!with->frames[0].lent && with->reference == without->reference);
    QVERIFY(with->remarks.empty());
    QVERIFY(std::memcmp(with->radiance.data(), without->radiance.data(), with->radiance.size() * sizeof(float)) == 0);
    QCOMPARE(with->metered.frame, without->metered.frame);
    options.method = CombineMethod::ToneRange;
    const auto byTone = combineFiles(own.files, options, {});
    options.lentFiles.clear();
    const auto byToneAlone = combineFiles(own.files, options, {});
    QVERIFY(byTone && byToneAlone);
    QVERIFY(std::memcmp(byTone->radiance.data(), byToneAlone->radiance.data(),
                        byTone->radiance.size() * sizeof(float)) == 0);
  }
};

QTEST_GUILESS_MAIN(TestLent)
#include "test_lent.moc"
