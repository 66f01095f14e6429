// SPDX-License-Identifier: GPL-3.0-or-later
// A window held by a frame with flash, its room by frames without (common practice, no source): cameras of the zoo
// shoot a real place whose window clips in both room frames.
#include "ingest/grouping.h"
#include "ingest/load_frame.h"
#include "pipeline/combine.h"
#include "pipeline/inspect.h"
#include "zoo/files.h"
#include "zoo/scene.h"

#include <QTemporaryDir>
#include <QTest>
#include <algorithm>
#include <cmath>

using namespace ml;
using namespace ml::zoo;

namespace {

constexpr int kWidth = 640, kHeight = 432;

struct Shots {
  Image<float> light;                       ///< Of the sensor, without flash.
  double window = 0;                        ///< Green from which it is the window.
  std::vector<std::filesystem::path> files; ///< Room, brighter room, window with flash.
};

/// `raised`: what the flash makes of what is near.
Shots shoot(FileType type, const std::filesystem::path& folder, bool said, double raised = 4) {
  const Camera camera(41, type);
  Shots out{throughLens(camera, Scene("apartment", kWidth, kHeight, 3, camera.blur).seen({})), 0, {}};
  std::vector<float> greens;
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) greens.push_back(out.light.at(x, y)[1]);
  std::sort(greens.begin(), greens.end());
  const double brightest = greens[greens.size() * 998 / 1000];
  out.window = brightest / 5;
  // Frame and blinds come out two stops brighter; the view outside is too far away.
  Image<float> lit = out.light.clone();
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x)
      for (int c = 0; c < 3; ++c)
        if (lit.at(x, y)[1] < out.window) lit.at(x, y)[c] = float(std::min(raised * lit.at(x, y)[c], out.window));
  const double exposures[] = {6 / brightest, 24 / brightest, 0.6 / brightest};
  for (int i = 0; i < 3; ++i) {
    Shot shot;
    shot.seconds = exposures[i] * brightest / 60, shot.clock = 3 * i, shot.model = camera.name;
    shot.flash = said && i == 2;
    const Image<float>& seen = i == 2 ? lit : out.light;
    out.files.push_back(folder / ("ROOM_" + std::to_string(i) + (type == FileType::Dng ? ".dng" : ".jpg")));
    if (type == FileType::Dng)
      zoo::writeDng(out.files.back(), camera, camera.neutral,
                    exposeRaw(camera, seen, exposures[i], shot.seconds, std::uint64_t(i)), shot);
    else
      zoo::writeJpeg(out.files.back(), camera, exposeRendered(camera, seen, exposures[i], {1, 1, 1}, std::uint64_t(i)),
                     shot);
  }
  return out;
}

/// Median and worst twentieth of log2(found / truth) less that of all, where `where` says so.
template <class Where>
std::pair<double, double> offBy(const Image<float>& found, const Image<float>& truth, double unit, const Where& where) {
  std::vector<double> off;
  for (int y = 8; y < kHeight - 8; ++y)
    for (int x = 8; x < kWidth - 8; ++x)
      if (where(x, y)) off.push_back(std::log2(found.at(x, y)[1] / truth.at(x, y)[1]) - unit);
  std::sort(off.begin(), off.end());
  if (off.size() < 500) return {1e9, 1e9};
  return {off[off.size() / 2], std::max(-off[off.size() / 20], off[off.size() * 19 / 20])};
}

} // namespace

class TestWindowFlash : public QObject {
  Q_OBJECT
private slots:
  void theWindowIsTheFlashFramesAndTheRoomIsNot_data() {
    QTest::addColumn<int>("type");
    QTest::newRow("raw") << int(FileType::Dng);
    QTest::newRow("jpeg") << int(FileType::Jpeg);
  }
  void theWindowIsTheFlashFramesAndTheRoomIsNot() {
    QFETCH(int, type);
    QTemporaryDir dir;
    const Shots shots = shoot(FileType(type), dir.path().toStdString(), true);
    const auto combined = combineFiles(shots.files, {}, {});
    QVERIFY2(combined.has_value(), combined ? "" : combined.error().message.c_str());
    QCOMPARE(combined->frames.size(), std::size_t(3));
    QCOMPARE(
        std::count_if(combined->frames.begin(), combined->frames.end(), [](const CombinedFrame& f) { return f.flash; }),
        std::ptrdiff_t(1));
    QVERIFY(
        std::none_of(combined->frames.begin(), combined->frames.end(), [](const CombinedFrame& f) { return f.lent; }));
    QVERIFY(combined->frames[2].flash && combined->frames[2].path == shots.files[2]);
    const auto alone = combineFiles({shots.files[0], shots.files[1]}, {}, {});
    QVERIFY(alone.has_value());
    QVERIFY2(alone->clippedShare > 0.01, qPrintable(QString::number(alone->clippedShare)));
    QVERIFY2(combined->clippedShare < 0.2 * alone->clippedShare, qPrintable(QString::number(combined->clippedShare)));
    // The room is what its own frames say, whatever the flash did to it (two stops). Edges of raw frames may be drawn
    // another way: where something is filled, developed frames are merged.
    const double clip = shots.window / 1.5;
    std::vector<double> off;
    for (int y = 8; y < kHeight - 8; ++y)
      for (int x = 8; x < kWidth - 8; ++x)
        if (shots.light.at(x, y)[1] < clip / 2)
          off.push_back(
              std::abs(std::log2((combined->radiance.at(x, y)[1] + 1e-4) / (alone->radiance.at(x, y)[1] + 1e-4))));
    const auto above = [&](double stops) {
      return std::count_if(off.begin(), off.end(), [&](double v) { return v > stops; });
    };
    QVERIFY(off.size() > 50000);
    QVERIFY2(above(0.1) < 0.002 * double(off.size()) && above(0.5) == 0,
             qPrintable(QString("%1 and %2 of %3").arg(above(0.1)).arg(above(0.5)).arg(off.size())));
    if (FileType(type) != FileType::Dng) return; // a rendered file's own colours are others
    std::vector<double> ratios;
    for (int y = 8; y < kHeight - 8; ++y)
      for (int x = 8; x < kWidth - 8; ++x)
        if (shots.light.at(x, y)[1] < clip / 2)
          ratios.push_back(std::log2(combined->radiance.at(x, y)[1] / shots.light.at(x, y)[1]));
    std::nth_element(ratios.begin(), ratios.begin() + std::ptrdiff_t(ratios.size() / 2), ratios.end());
    const auto inWindow = [&](int x, int y) {
      return shots.light.at(x, y)[1] > 1.2 * shots.window && shots.light.at(x, y)[1] < 5 * shots.window;
    };
    const auto [middle, worst] = offBy(combined->radiance, shots.light, ratios[ratios.size() / 2], inWindow);
    QVERIFY2(std::abs(middle) < 0.1 && worst < 0.2,
             qPrintable(QString("window off by %1, worst %2").arg(middle).arg(worst)));
  }

  void aFlashOnTheWindowIsNoFault() {
    for (const FileType type : {FileType::Dng, FileType::Jpeg}) {
      QTemporaryDir dir;
      const Shots shots = shoot(type, dir.path().toStdString(), true);
      const Grouping grouping = groupFiles(shots.files);
      QCOMPARE(grouping.sets.size(), std::size_t(1));
      const auto sets = inspectSets(grouping, {});
      QVERIFY2(sets[0].verdict.answer != Answer::DoesNotHold, sets[0].verdict.sentence.c_str());
      for (const auto& frame : sets[0].frames) QVERIFY2(frame.flaws.empty(), frame.sentence.c_str());
      QVERIFY2(sets[0].frames[2].sentence.find("flash") != std::string::npos, sets[0].frames[2].sentence.c_str());
    }
  }

  /// A flash that was too weak, or did not reach, is said.
  void aFlashThatLitNothingIsSaid() {
    for (const double raised : {4.0, 1.1}) {
      QTemporaryDir dir;
      const Shots shots = shoot(FileType::Dng, dir.path().toStdString(), true, raised);
      const auto sets = inspectSets(groupFiles(shots.files), {});
      const std::string& said = sets[0].frames[2].sentence;
      QVERIFY2((said.find("stronger") != std::string::npos) == (raised < 2), said.c_str());
      QVERIFY(sets[0].frames[2].flaws.empty());
    }
  }

  /// The same files that say nothing of a flash are a set that does not hold: what follows is the tag's doing.
  void whatSaysNothingIsComparedAsEver() {
    QTemporaryDir dir;
    const Shots shots = shoot(FileType::Dng, dir.path().toStdString(), false);
    const auto sets = inspectSets(groupFiles(shots.files), {});
    QVERIFY(std::any_of(sets.begin(), sets.end(),
                        [](const InspectedSet& s) { return s.verdict.answer == Answer::DoesNotHold; }));
  }

  /// A flash that fired with every frame, or with most, made the light of the set.
  void aSetLitByFlashIsASet() {
    QVERIFY(!litApart(0, 3) && litApart(1, 3) && litApart(1, 2) && !litApart(2, 3) && !litApart(3, 3));
    QTemporaryDir dir;
    const Shots shots = shoot(FileType::Jpeg, dir.path().toStdString(), true);
    const auto lit = loadFrame(shots.files[2]);
    QVERIFY(lit && lit->metadata.flash);
    const auto unlit = loadFrame(shots.files[0]);
    QVERIFY(unlit && !unlit->metadata.flash); // 16: a flash that did not fire
  }
};

QTEST_GUILESS_MAIN(TestWindowFlash)
#include "test_window_flash.moc"
