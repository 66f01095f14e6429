// SPDX-License-Identifier: GPL-3.0-or-later
// Joining that was stopped goes on where it was: what was combined is not combined again, unless something it follows
// from has changed.
#include "deliver/deliver.h"
#include "ingest/grouping.h"
#include "pipeline/assemble.h"
#include "position_sets.h"

#include <QTemporaryDir>
#include <QTest>
#include <chrono>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

class TestJoiningResumes : public QObject {
  Q_OBJECT

  QTemporaryDir dir_;
  std::vector<FileGroup> groups_;
  AssembleOptions options_;

  [[nodiscard]] int kept() const {
    std::error_code error;
    if (!fs::exists(options_.keep)) return 0;
    return int(std::distance(fs::directory_iterator(options_.keep, error), fs::directory_iterator{}));
  }
  /// How many steps of combining were heard of.
  Result<Assembly> assembled(int& steps) const {
    steps = 0;
    return assembleGroups(groups_, options_, {{}, [&](const std::string&, double done) { steps += done < 0.6; }});
  }
  static double meanStops(const Assembly& a, std::size_t position) {
    const auto table = a.codes.table();
    const auto& picture = a.pictures[position];
    double sum = 0;
    for (std::size_t i = 0; i < picture.size(); ++i) sum += std::log2(std::max(1e-6f, table[picture.data()[i]]));
    return sum / double(picture.size());
  }

private slots:
  void initTestCase() {
    SetPlan plan;
    plan.width = 360, plan.height = 240, plan.frames = 2;
    const PositionSet set(plan, dir_.path().toStdString());
    for (const auto& files : set.files) {
      FileGroup group{files[0].stem().string(), {}, GroupKind::Set, {}};
      for (const auto& file : files) group.files.push_back(*inspectFile(file));
      groups_.push_back(std::move(group));
    }
    QCOMPARE(groups_.size(), std::size_t(3));
  }

  void stoppedAndGoneOn() {
    int whole = 0, rest = 0, again = 0;
    const auto straight = assembled(whole);
    QVERIFY2(straight.has_value(), straight ? "" : straight.error().message.c_str());
    QCOMPARE(kept(), 0);

    options_.keep = dir_.filePath("joining").toStdString();
    const StopFlag stop;
    const auto halted = assembleGroups(groups_, options_, {stop, [&](const std::string&, double done) {
                                                             if (done > 0.25)
                                                               stop.request(); // the second of three takes from 0.2
                                                           }});
    QVERIFY(!halted.has_value());
    QCOMPARE(int(halted.error().code), int(ErrorCode::Stopped));
    QCOMPARE(kept(), 1);

    const auto gone = assembled(rest);
    QVERIFY2(gone.has_value(), gone ? "" : gone.error().message.c_str());
    QCOMPARE(kept(), 3);
    QVERIFY2(rest < 0.8 * whole && rest > 0.4 * whole, qPrintable(QString("%1 of %2").arg(rest).arg(whole)));
    // Half floats keep 11 bits: 0.0007 stops; a position's place is found anew from that.
    QCOMPARE(gone->pictures.size(), straight->pictures.size());
    for (std::size_t i = 0; i < 3; ++i) {
      QVERIFY(std::abs(meanStops(*gone, i) - meanStops(*straight, i)) < 0.001);
      QVERIFY(std::abs(gone->positions[i].pose.focal / straight->positions[i].pose.focal - 1) < 0.001);
      QCOMPARE(gone->positions[i].verdict, straight->positions[i].verdict);
    }
    QVERIFY(std::abs(gone->facts.ev100OfUnit - straight->facts.ev100OfUnit) < 1e-4); // written with six digits
    QCOMPARE(gone->metadataFrom, straight->metadataFrom);
    QCOMPARE(gone->facts.metered.size(), straight->facts.metered.size());

    QVERIFY(assembled(again).has_value());
    QCOMPARE(again, 0);
  }

  /// A file that was written again, other options, and a kept file that is damaged: combined anew.
  void whatChangedIsCombinedAgain() {
    int steps = 0, all = 0;
    const fs::path file = groups_[1].files[0].path;
    fs::last_write_time(file, fs::last_write_time(file) + std::chrono::seconds(5));
    QVERIFY(assembled(steps).has_value());
    QVERIFY(steps > 0);
    QCOMPARE(kept(), 4); // what an older file said goes with the view's next opening
    options_.combine.motion = MotionMode::Off;
    QVERIFY(assembled(all).has_value());
    QVERIFY(all > 2 * steps);
    QCOMPARE(kept(), 3);
    for (const auto& entry : fs::directory_iterator(options_.keep)) fs::resize_file(entry.path(), 900);
    int damaged = 0;
    QVERIFY(assembled(damaged).has_value());
    QCOMPARE(damaged, all);
  }

  /// A position turned by hand looks that much further, and the others as before.
  void turnedByHand() {
    int steps = 0;
    const auto before = assembled(steps);
    options_.turned = {{}, {3, -1, 0}, {}};
    const auto after = assembled(steps);
    QVERIFY(before.has_value() && after.has_value());
    QCOMPARE(steps, 0);
    for (std::size_t i = 0; i < 3; ++i) {
      const Matrix3 change = multiply(transposed(before->positions[i].pose.turn), after->positions[i].pose.turn);
      const Angles by = anglesOf(change);
      const Angles wanted = i == 1 ? Angles{3, -1, 0} : Angles{};
      QVERIFY(std::abs(by.yaw - wanted.yaw) < 1e-9 && std::abs(by.pitch - wanted.pitch) < 1e-9 &&
              std::abs(by.roll - wanted.roll) < 1e-9);
    }
    options_.turned.clear();
  }

  /// A folder that cannot be written keeps nothing, and nothing else is lost.
  void withoutAPlaceToKeepIt() {
    int steps = 0;
    options_.keep = groups_[0].files[0].path / "below-a-file";
    QVERIFY(assembled(steps).has_value());
    QVERIFY(steps > 0);
  }
};

QTEST_GUILESS_MAIN(TestJoiningResumes)
#include "test_joining_resumes.moc"
