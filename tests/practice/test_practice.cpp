// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "base/atomic_file.h"
#include "plan/coverage.h"
#include "practice/answers.h"
#include "practice/material.h"
#include "practice/progress.h"

#include <QTemporaryDir>
#include <cmath>
#include <set>

using namespace ml;

namespace {

double points(const ExerciseTruth& truth, const ExerciseAnswer& answer) {
  return scoreOf(truth, answer).points;
}

SpotTruth spots(std::vector<double> ev) {
  SpotTruth out;
  for (const double e : ev) out.spots.push_back({0.5, 0.5, {e}});
  return out;
}

BracketTruth bracket() {
  BracketTruth out;
  out.camera = *findProfile("full-frame-24");
  out.request.low = {3};
  out.request.high = {16};
  out.request.secondRun = false;
  out.best = *planBracket(out.camera, out.request);
  return out;
}

} // namespace

class TestPractice : public QObject {
  Q_OBJECT
  QTemporaryDir dir_;

private slots:
  // Every shipped exercise: there is material, the same twice, its right answer scores 100 and survives its file.
  void everyShippedExercise_data() {
    QTest::addColumn<int>("index");
    for (int i = 0; i < int(shippedExercises().size()); ++i)
      QTest::newRow(shippedExercises()[std::size_t(i)].id.c_str()) << i;
  }
  void everyShippedExercise() {
    QFETCH(int, index);
    const Exercise& exercise = shippedExercises()[std::size_t(index)];
    const auto material = prepare(exercise, {}), again = prepare(exercise, {});
    QVERIFY2(material.has_value(), material ? "" : material.error().message.c_str());
    QVERIFY(!material->task.empty() && !(material->facts.empty() && material->pictures.empty()));
    QVERIFY(material->facts == again->facts);
    QCOMPARE(material->pictures.size(), again->pictures.size());
    for (std::size_t i = 0; i < material->pictures.size(); ++i)
      QVERIFY(std::equal(material->pictures[i].rgb.data(),
                         material->pictures[i].rgb.data() + material->pictures[i].rgb.size(),
                         again->pictures[i].rgb.data()));
    const auto right = rightAnswer(material->truth);
    const auto score = scoreOf(material->truth, right);
    QVERIFY2(score.points > 99.9, qPrintable(QString::number(score.points)));
    QVERIFY(!score.explanation.empty());
    for (const auto& sentence : score.explanation) QVERIFY2(sentence.ends_with('.'), sentence.c_str());
    const auto read = answerFromJson(exercise.kind, toJson(right), "answer.json");
    QVERIFY(read.has_value());
    QVERIFY(points(material->truth, *read) > 99.9);
    // Another seed is another exercise.
    auto other = exercise;
    other.seed += 1000;
    const auto different = prepare(other, {});
    QVERIFY(different.has_value() && (different->facts != material->facts || !material->pictures.empty()));
  }

  void spotsWithinAThird() {
    const auto truth = spots({10, 5});
    QCOMPARE(points(truth, SpotAnswer{{{10.3}, {4.7}}}), 100.0);
    QCOMPARE(points(truth, SpotAnswer{{{12}, {3}}}), 0.0);
    QCOMPARE(points(truth, SpotAnswer{{{10}}}), 50.0); // one not read
    const double between = points(truth, SpotAnswer{{{11.0}, {5}}});
    QVERIFY(between > 70 && between < 90);
    QVERIFY(scoreOf(truth, SpotAnswer{{{11.5}, {5}}}).explanation[0].find("1.5 stops too bright") != std::string::npos);
  }

  void bracketsAgainstTheExactPlan() {
    const auto truth = bracket();
    const int best = int(truth.best.frames.size());
    auto answer = std::get<BracketAnswer>(rightAnswer(truth));
    QVERIFY(points(truth, answer) > 99.9);
    auto more = answer; // the same ends, two frames more
    more.count += 2;
    more.step = {answer.step.value * (answer.count - 1) / (more.count - 1)};
    QVERIFY(std::abs(points(truth, more) - (100 - 24)) < 0.1);
    auto bright = answer; // three stops too bright: the window clips
    bright.centre.value *= 8;
    const double spare = truth.best.coverage.spareHigh.value;
    QVERIFY(spare < 3);
    QVERIFY(std::abs(points(truth, bright) - std::max(0.0, 100 - 30 * (3 - spare))) < 1);
    QVERIFY(scoreOf(truth, bright).explanation[0].find("clip") != std::string::npos);
    QVERIFY(points(truth, BracketAnswer{1, {0}, {30}}) == 0);
    QVERIFY(best > 1);
  }

  void faults() {
    const FaultTruth truth{5, {{FaultKind::Gust, 2}, {FaultKind::Cloud, 3}}};
    QCOMPARE(points(truth, FaultAnswer{{{FaultKind::Gust, 2}, {FaultKind::Cloud, 3}}}), 100.0);
    QCOMPARE(points(truth, FaultAnswer{{{FaultKind::Gust, 2}, {FaultKind::Cloud, 1}}}), 75.0); // one frame wrong
    QVERIFY(std::abs(points(truth, FaultAnswer{{{FaultKind::Gust, 2}}}) - 200.0 / 3) < 0.1);   // one missed
    QVERIFY(points(truth, FaultAnswer{{{FaultKind::Gust, 2}, {FaultKind::Cloud, 3}, {FaultKind::PasserBy, 1}}}) < 81);
    QCOMPARE(points(truth, FaultAnswer{}), 0.0);
    QCOMPARE(points(FaultTruth{5, {}}, FaultAnswer{}), 100.0);
    QCOMPARE(points(FaultTruth{5, {}}, FaultAnswer{{{FaultKind::Gust, 2}}}), 0.0); // a sound set called unsound
  }

  void leavingOut() {
    LeaveOutTruth truth;
    truth.camera = *findProfile("full-frame-24");
    truth.request.low = {3};
    truth.request.high = {12};
    for (const double stops : {-9., -8., -7., -6., -5., -4., -3.})
      truth.frames.push_back({{std::exp2(stops)}, {8}, {100}});
    const auto best = std::get<LeaveOutAnswer>(rightAnswer(truth));
    truth.most = int(best.frames.size());
    QVERIFY(truth.most > 2);
    QCOMPARE(points(truth, best), 100.0);
    QCOMPARE(points(truth, LeaveOutAnswer{}), 0.0);          // nothing is lost, nothing won
    QVERIFY(points(truth, LeaveOutAnswer{{6, 5, 4}}) <= 40); // the shadows are gone
    QCOMPARE(points(truth, LeaveOutAnswer{{0, 1, 2, 3, 4, 5, 6}}), 0.0);
    // The truth by hand: what is left covers, one more does not, by coverageOf alone.
    std::set<int> gone(best.frames.begin(), best.frames.end());
    std::vector<ExposureSettings> rest;
    for (int i = 0; i < 7; ++i)
      if (!gone.contains(i)) rest.push_back(truth.frames[std::size_t(i)]);
    QVERIFY(coverageOf(SensorModel(truth.camera), truth.request.mustKeep(), rest).complete(10));
    for (std::size_t i = 0; i < rest.size(); ++i) {
      auto fewer = rest;
      fewer.erase(fewer.begin() + std::ptrdiff_t(i));
      QVERIFY(fewer.empty() || !coverageOf(SensorModel(truth.camera), truth.request.mustKeep(), fewer).complete(10));
    }
  }

  void settings() {
    const SettingsTruth truth{{{"iso", "ISO", "Why.", {"100", "1600"}, "1600", "100"},
                               {"focus", "Focus", "Why.", {"automatic", "manual"}, "automatic", "manual"},
                               {"files", "Files", "Why.", {"raw", "JPEG"}, "raw", "raw"}}};
    QCOMPARE(points(truth, SettingsAnswer{{{"iso", "100"}, {"focus", "manual"}}}), 100.0);
    QCOMPARE(points(truth, SettingsAnswer{{{"iso", "100"}}}), 50.0);
    QCOMPARE(points(truth, SettingsAnswer{{{"iso", "100"}, {"files", "JPEG"}}}), 0.0); // one mended, one spoilt
    QCOMPARE(points(truth, SettingsAnswer{}), 0.0);
  }

  void dusk() {
    DuskTruth truth;
    truth.skyAtStart = 8;
    truth.fadePerMinute = 0.5;
    truth.lamps = 5;
    truth.from = 4;
    truth.to = 8;
    truth.sets = 2;
    truth.apart = 1.5;
    // At minute 5: sky 5.5, lamps 5, middle EV 5.25: t = 64 / 2^5.25 at f/8 and ISO 100.
    const Seconds five{64 / std::exp2(5.25)}, seven{64 / std::exp2(4.75)};
    QCOMPARE(points(truth, DuskAnswer{{{5, five}, {7, seven}}}), 100.0);
    QCOMPARE(points(truth, DuskAnswer{{{5, five}}}), 50.0);
    QCOMPARE(points(truth, DuskAnswer{{{1, five}, {12, five}}}), 0.0);
    QCOMPARE(points(truth, DuskAnswer{{{5, five}, {5.5, five}}}), 50.0);            // the first is not done yet
    QCOMPARE(points(truth, DuskAnswer{{{5, {five.value * 4}}, {7, seven}}}), 50.0); // two stops too bright
  }

  void finishes() {
    using enum FinishFlaw;
    const FinishPlace left{0.2, 0.5}, right{0.9, 0.5};
    const FinishTruth truth{{{Natural, {}, 0.3}, {TooColourful, left, 0.3}, {TooFlat, right, 0.3}, {Natural, {}, 0.3}},
                            1.5};
    const auto of = [&](FinishFlaw second, std::optional<FinishPlace> where) {
      return points(truth, FinishAnswer{{{Natural, {}}, {second, where}, {TooFlat, right}, {Natural, {}}}});
    };
    QCOMPARE(of(TooColourful, left), 100.0);
    QCOMPARE(of(TooFlat, left), 93.75);                       // half of the half for what it is
    QCOMPARE(of(TooColourful, {}), 87.5);                     // where was not said
    QCOMPARE(of(TooColourful, right), 87.5);                  // nor here
    QCOMPARE(of(TooColourful, FinishPlace{0.2, 0.9}), 100.0); // 0.4 of the height is 0.27 of the width
    QCOMPARE(of(Natural, left), 75.0);
    QCOMPARE(points(truth, FinishAnswer{{{TooFlat, {}}, {Natural, {}}, {Natural, {}}, {Grey, left}}}), 0.0);
    const auto said = scoreOf(truth, FinishAnswer{{{Natural, {}}, {TooColourful, right}}}).explanation;
    QVERIFY(said[1].find("on the left; you looked for it on the right") != std::string::npos);
  }

  // A flaw lies where the truth says and nowhere else; the judge's picture differs from the natural one there.
  void aFlawHasItsPlace() {
    Exercise exercise;
    exercise.kind = ExerciseKind::JudgeFinish;
    exercise.level = 3;
    int flaws = 0;
    for (exercise.seed = 1; exercise.seed <= 2; ++exercise.seed) {
      const auto material = prepare(exercise, {});
      QVERIFY(material.has_value());
      const auto& truth = std::get<FinishTruth>(material->truth);
      std::size_t natural = 0;
      while (truth.pictures[natural].flaw != FinishFlaw::Natural) ++natural;
      const auto& sound = material->pictures[natural].rgb;
      for (std::size_t i = 0; i < truth.pictures.size(); ++i) {
        const auto& rgb = material->pictures[i].rgb;
        double inside = 0, outside = 0;
        for (int y = 0; y < rgb.height(); ++y)
          for (int x = 0; x < rgb.width(); ++x) {
            const double off =
                std::hypot(x - truth.pictures[i].place.x * rgb.width(), y - truth.pictures[i].place.y * rgb.height()) /
                std::max(rgb.width(), rgb.height());
            for (int c = 0; c < 3; ++c)
              (off < truth.pictures[i].reach ? inside : outside) += std::abs(rgb.at(x, y)[c] - sound.at(x, y)[c]);
          }
        QCOMPARE(outside, 0.0);
        QCOMPARE(inside > 0, truth.pictures[i].flaw != FinishFlaw::Natural);
        flaws += inside > 0;
      }
    }
    QVERIFY(flaws >= 2);
  }

  // Faults grow subtler: the same fault of a higher level changes less of the picture.
  void faultsGrowSubtler() {
    const auto sizes = [](int level) {
      std::set<double> out;
      Exercise exercise;
      exercise.kind = ExerciseKind::FindFaults;
      exercise.level = level;
      for (exercise.seed = 1; exercise.seed <= 3; ++exercise.seed) {
        const auto material = prepare(exercise, {});
        for (const auto& fault : std::get<FaultTruth>(material->truth).faults) out.insert(fault.size);
      }
      return out;
    };
    const auto plain = sizes(1), subtle = sizes(3);
    QVERIFY(!plain.empty() && !subtle.empty());
    QVERIFY(*plain.begin() > *subtle.rbegin());
    // A fault of another size is the same fault to him who finds it.
    QCOMPARE(points(FaultTruth{5, {{FaultKind::Gust, 2, 0.6}}}, FaultAnswer{{{FaultKind::Gust, 2}}}), 100.0);
  }

  // Frames of one set show the same, those of another set another thing: told by their light alone.
  void aCardShowsWhatBelongsTogether() {
    Exercise exercise;
    exercise.kind = ExerciseKind::Sort;
    exercise.level = 2;
    const auto material = prepare(exercise, {});
    QVERIFY(material.has_value());
    const auto& truth = std::get<SortTruth>(material->truth);
    QCOMPARE(material->pictures.size(), truth.frames.size());
    for (const auto& fact : material->facts) QVERIFY(fact.find("shows") == std::string::npos);
    bool longer = false;
    for (std::size_t i = 1; i < truth.frames.size(); ++i) {
      const auto &a = truth.frames[i - 1], &b = truth.frames[i];
      if (a.set < 0 || a.set != b.set) continue;
      const auto &first = material->pictures[i - 1].rgb, &second = material->pictures[i].rgb;
      QCOMPARE(first.width(), second.width());
      double sum = 0;
      for (std::size_t k = 0; k < first.size(); ++k) sum += double(second.data()[k]) - first.data()[k];
      QCOMPARE(sum > 0, b.settings.time > a.settings.time); // more light is a brighter picture
      longer |= sum > 0;
    }
    QVERIFY(longer);
  }

  void sorting() {
    SortTruth truth;
    for (const int set : {0, 0, 0, -1, 1, 1, 1}) truth.frames.push_back({"F", "09:00:00", {}, {}, set});
    QCOMPARE(points(truth, SortAnswer{{{0, 1, 2}, {4, 5, 6}}}), 100.0);
    QVERIFY(std::abs(points(truth, SortAnswer{{{0, 1, 2, 3, 4, 5, 6}}}) - 100 * 2 * 6. / (6 + 21)) < 1e-9);
    QCOMPARE(points(truth, SortAnswer{}), 0.0);
    QCOMPARE(points(truth, SortAnswer{{{0, 4}, {1, 5}, {2, 6}}}), 0.0);
  }

  void anAnswerToAnotherExercise() { QCOMPARE(points(spots({3}), FaultAnswer{}), 0.0); }

  void answersThatMakeNoSense_data() {
    QTest::addColumn<int>("kind");
    QTest::addColumn<QString>("text");
    QTest::newRow("no json") << 0 << "{";
    QTest::newRow("list") << 0 << "[1]";
    QTest::newRow("spots") << 0 << "{\"ev100\": 3}";
    QTest::newRow("word") << 0 << "{\"ev100\": [\"bright\"]}";
    QTest::newRow("bracket") << 1 << "{\"count\": 3}";
    QTest::newRow("time") << 1 << "{\"count\": 3, \"step\": 2, \"centre\": -1}";
    QTest::newRow("many") << 1 << "{\"count\": 1e9, \"step\": 2, \"centre\": 1}";
    QTest::newRow("fault") << 2 << "{\"faults\": [{\"fault\": \"rain\", \"frame\": 1}]}";
    QTest::newRow("frame 0") << 2 << "{\"faults\": [{\"fault\": \"gust\", \"frame\": 0}]}";
    QTest::newRow("left out") << 3 << "{\"leave_out\": [1.5]}";
    QTest::newRow("settings") << 4 << "{\"settings\": {\"iso\": 100}}";
    QTest::newRow("dusk") << 5 << "{\"shots\": [{\"minute\": 1}]}";
    QTest::newRow("finish") << 6 << "{\"pictures\": [\"nice\"]}";
    QTest::newRow("finish nowhere") << 6 << R"({"pictures": [{"is": "flat", "x": 2, "y": 0.5}]})";
    QTest::newRow("finish half a place") << 6 << R"({"pictures": [{"is": "flat", "x": 0.5}]})";
    QTest::newRow("sets") << 7 << "{\"sets\": [3]}";
  }
  void answersThatMakeNoSense() {
    QFETCH(int, kind);
    QFETCH(QString, text);
    const auto read = answerFromJson(exerciseKinds()[std::size_t(kind)], text.toStdString(), "mine.json");
    QVERIFY(!read);
    QVERIFY(read.error().message.find("mine.json") != std::string::npos && read.error().message.ends_with('.'));
  }

  void aTeachersExercise() {
    const std::string text = R"({"version": 1, "kind": "find-faults", "title": "Our gust", "level": 2, "seed": 5,
      "limit_seconds": 60, "world": "reading_room", "faults": ["gust@2"], "note": "Look at the beams."})";
    const auto folder = std::filesystem::path(dir_.path().toStdString()) / "exercises";
    std::filesystem::create_directories(folder);
    QVERIFY(writeTextAtomically(folder / "gust.json", text).has_value());
    QVERIFY(writeTextAtomically(folder / "broken.json", "{").has_value());
    std::vector<std::string> problems;
    const auto all = allExercises(folder, problems);
    QCOMPARE(all.size(), shippedExercises().size() + 1);
    QCOMPARE(problems.size(), std::size_t(1));
    QCOMPARE(all.back().id, std::string("our-gust"));
    const auto found = findExercise("our-gust", folder);
    QVERIFY(found.has_value());
    QVERIFY(exerciseFromJson(toJson(*found), "x").value() == *found);
    const auto material = prepare(*found, {});
    QCOMPARE(material->facts.front(), std::string("Look at the beams."));
    QCOMPARE(std::get<FaultTruth>(material->truth).faults, (std::vector<Fault>{{FaultKind::Gust, 1}}));
    QVERIFY(findExercise("nothing of the kind", folder).error().code == ErrorCode::InvalidArgument);
  }

  void exercisesThatMakeNoSense_data() {
    QTest::addColumn<QString>("fields");
    QTest::newRow("kind") << R"("kind": "sing")";
    QTest::newRow("level") << R"("kind": "sort", "level": 9)";
    QTest::newRow("world is no path") << R"("kind": "read-spot", "world": "../../etc")";
    QTest::newRow("camera") << R"("kind": "sort", "camera": "mine")";
    QTest::newRow("readings") << R"("kind": "dusk", "low": 9, "high": 3)";
    QTest::newRow("fault") << R"("kind": "find-faults", "faults": ["rain"])";
    QTest::newRow("seed") << R"("kind": "sort", "seed": "x")";
    QTest::newRow("newer") << R"("kind": "sort", "version": 2)";
  }
  void exercisesThatMakeNoSense() {
    QFETCH(QString, fields);
    const auto read = exerciseFromJson("{" + fields.toStdString() + "}", "of a teacher.json");
    QVERIFY(!read && read.error().message.find("of a teacher.json") != std::string::npos);
  }

  void whatComesNext() {
    constexpr std::int64_t kDay = 86400, kNow = 1000 * kDay;
    const auto& all = shippedExercises();
    QCOMPARE(nextExercise(all, {}, {}, kNow), &all.front());
    // What went wrong on location comes first among those of its level that were never done.
    const FaultCounts moved{{"camera-moved", 12}, {"light-drifted", 3}};
    QCOMPARE(nextExercise(all, {}, moved, kNow)->kind, ExerciseKind::FindFaults);
    // Failed ones at once, passed ones after 1, 3, 7 days.
    std::vector<PracticeResult> results{{all[2].id, kNow, 20, 60}};
    QCOMPARE(nextExercise(all, results, moved, kNow), &all[2]);
    results.push_back({all[2].id, kNow, 90, 60});
    QCOMPARE(*dueAt(results, all[2].id), kNow + kDay);
    results.push_back({all[2].id, kNow + kDay, 90, 60});
    QCOMPARE(*dueAt(results, all[2].id), kNow + 4 * kDay);
    QVERIFY(nextExercise(all, results, {}, kNow + 2 * kDay) != &all[2]);
    QCOMPARE(nextExercise(all, results, {}, kNow + 5 * kDay), &all[2]);
    QVERIFY(!dueAt(results, all[3].id));
    QVERIFY(nextExercise({}, {}, {}, kNow) == nullptr);
  }

  void resultsAreKept() {
    const std::filesystem::path file = dir_.filePath("practice.json").toStdString();
    {
      PracticeRecord record(file);
      QVERIFY(record.results().empty());
      QVERIFY(record.keep({"sort-1", 5, 80, 30}).has_value());
      QVERIFY(record.keep({"sort-2", 6, 10, 30}).has_value());
    }
    QCOMPARE(PracticeRecord(file).results().size(), std::size_t(2));
    QVERIFY(readText(file)->find("\"practice\": true") != std::string::npos);
    QVERIFY(writeTextAtomically(file, "[]").has_value());
    QVERIFY(PracticeRecord(file).results().empty());
  }
};

QTEST_APPLESS_MAIN(TestPractice)
#include "test_practice.moc"
