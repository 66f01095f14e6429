#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "exposure/marks.h"
#include "plan/planner.h"

#include <cmath>
#include <limits>
#include <random>

using namespace ml;

namespace {

const CameraProfile& fullFrame() { return *findProfile("full-frame-24"); }

/// The search again, written apart from the planner: SNR on a dense grid of readings instead of its critical points, every
/// third-stop time as the shortest frame.
struct BruteForce {
  int count = 0;
  double time = std::numeric_limits<double>::infinity();
};
BruteForce bruteForce(const CameraProfile& camera, double low, double high, double snrTarget, double margin) {
  BruteForce best;
  std::vector<std::pair<int, double>> choices{{1, 0}};
  for (const int count : camera.counts)
    for (const Stops step : camera.steps) choices.push_back({count, step.value});
  for (const auto& [count, step] : choices)
    for (int k = kShortestMarkThirds; k >= kLongestMarkThirds; --k) {
      double total = 0;
      bool allowed = true;
      std::vector<double> times;
      for (int i = 0; i < count; ++i) {
        times.push_back(std::exp2(-k / 3.0 + i * step));
        total += times.back();
        allowed = allowed && times.back() >= camera.shortest.value * 0.999999 && times.back() <= camera.longest.value * 1.000001;
      }
      if (!allowed) continue;
      const auto clip = [&](double t) { return std::log2(64 / t) + camera.headroom().value; }; // f/8, ISO 100
      if (clip(times.front()) - margin < high - 1e-9) continue;
      bool good = true;
      for (double ev = low; ev <= high + 1e-9 && good; ev += 0.01) {
        double sum = 0;
        for (const double t : times) {
          if (ev > clip(t)) continue;
          const double electrons = camera.fullWell * std::exp2(ev - clip(t)), lsb = camera.fullWell / std::exp2(camera.bits);
          sum += electrons * electrons / (electrons + camera.readNoise * camera.readNoise + lsb * lsb / 12);
        }
        good = std::sqrt(sum) >= snrTarget * (1 - 1e-9);
      }
      if (good && (best.count == 0 || count < best.count || (count == best.count && total < best.time))) best = {count, total};
    }
  return best;
}

} // namespace

class TestPlan : public QObject {
  Q_OBJECT

private slots:
  void shippedProfilesAreSound() {
    for (const auto& profile : shippedProfiles()) QVERIFY2(!profile.invalidReason(), profile.name.c_str());
    CameraProfile broken = fullFrame();
    broken.longest = broken.shortest;
    QVERIFY(broken.invalidReason().has_value());
  }

  // ISO 12232:2019: a reading equal to the frame's EV lies log2(78/10) stops below saturation.
  void midToneHeadroom() {
    const SensorModel sensor(fullFrame());
    const ExposureSettings s{{1.0 / 128}, {8}, {100}};
    QVERIFY(std::abs(sensor.electrons(ev100(s), s) / fullFrame().fullWell - 10.0 / 78) < 1e-12);
    QVERIFY(std::abs((sensor.clipsAt(s) - ev100(s)).value - std::log2(7.8)) < 1e-12);
  }

  // S / sqrt(S + r^2): closed form against the definition, at ISO 12232's 10 (acceptable) and 40 (excellent).
  void floorHasExactlyTheTargetSnr_data() {
    QTest::addColumn<double>("target");
    QTest::addColumn<double>("iso");
    for (const double target : {1.0, 10.0, 40.0})
      for (const double iso : {100.0, 400.0, 3200.0}) QTest::addRow("SNR %g ISO %g", target, iso) << target << iso;
  }
  void floorHasExactlyTheTargetSnr() {
    QFETCH(double, target);
    QFETCH(double, iso);
    const SensorModel sensor(fullFrame());
    const ExposureSettings s{{1.0 / 64}, {5.6}, {iso}};
    const Stops floor = sensor.floorAt(s, target);
    QVERIFY(std::abs(sensor.snr(sensor.electrons(floor, s), s.iso) / target - 1) < 1e-9);
  }

  // Photon noise alone: SNR is the square root of the electrons (Poisson).
  void shotNoiseLimit() {
    CameraProfile ideal = fullFrame();
    ideal.readNoise = 0;
    ideal.bits = 16;
    const SensorModel sensor(ideal);
    QVERIFY(std::abs(sensor.snr(10000, {100}) - 100) < 0.05);
  }

  // A Monte Carlo of the same sensor: mean over standard deviation of 40,000 draws.
  void snrMatchesSimulation() {
    std::mt19937 random(7);
    const SensorModel sensor(fullFrame());
    for (const double mean : {20.0, 200.0, 5000.0}) {
      std::poisson_distribution<int> photons(mean);
      std::normal_distribution<double> read(0, fullFrame().readNoise);
      double sum = 0, squares = 0;
      const int n = 40000;
      for (int i = 0; i < n; ++i) {
        const double lsb = fullFrame().fullWell / std::exp2(fullFrame().bits);
        const double v = std::round((photons(random) + read(random)) / lsb) * lsb;
        sum += v;
        squares += v * v;
      }
      const double average = sum / n, deviation = std::sqrt(squares / n - average * average);
      QVERIFY(std::abs(average / deviation / sensor.snr(mean, {100}) - 1) < 0.02); // 4 sigma of the estimate at n = 40,000
    }
  }

  void optimumEqualsBruteForce_data() {
    QTest::addColumn<QString>("camera");
    QTest::addColumn<double>("low");
    QTest::addColumn<double>("high");
    QTest::addColumn<double>("snr");
    for (const auto& camera : {"full-frame-24", "crop-20", "pocket-jpeg"})
      for (const auto& [low, high] : {std::pair{6.0, 9.0}, {2.0, 14.3}, {4.5, 15.1}, {-1.0, 13.0}, {0.0, 17.0}})
        for (const double snr : {10.0, 40.0}) QTest::addRow("%s %g..%g SNR %g", camera, low, high, snr) << QString(camera) << low << high << snr;
  }
  void optimumEqualsBruteForce() {
    QFETCH(QString, camera);
    QFETCH(double, low);
    QFETCH(double, high);
    QFETCH(double, snr);
    const CameraProfile& profile = *findProfile(camera.toStdString());
    PlanRequest request;
    request.low = {low};
    request.high = {high};
    request.snrTarget = snr;
    const auto plan = planBracket(profile, request);
    QVERIFY(plan.has_value());
    const BruteForce expected = bruteForce(profile, low, high, snr, request.highlightMargin.value);
    QCOMPARE(plan->covers, expected.count > 0);
    if (!plan->covers) return;
    QCOMPARE(plan->count, expected.count);
    double total = 0;
    for (const auto& frame : plan->frames) total += frame.time.value;
    QVERIFY(std::abs(total / expected.time - 1) < 1e-6);
    QVERIFY(plan->coverage.spareHigh.value >= -1e-9);
    QVERIFY(plan->coverage.spareLow.value >= -1e-9);
  }

  void framesLieOnTheLadder() {
    PlanRequest request;
    request.low = {2};
    request.high = {16};
    const auto plan = planBracket(fullFrame(), request);
    for (const auto& frame : plan->frames) QVERIFY(std::abs(frame.time.value / timeAtThirds(nearestThirds(frame.time)).value - 1) < 1e-9);
    for (std::size_t i = 1; i < plan->frames.size(); ++i) QVERIFY(plan->frames[i - 1].time < plan->frames[i].time);
  }

  void honestWhenItCannot() {
    PlanRequest request;
    request.low = {-6};
    request.high = {19};
    const auto plan = planBracket(*findProfile("pocket-jpeg"), request);
    QVERIFY(plan.has_value());
    QVERIFY(!plan->covers);
    QVERIFY(plan->coverage.spareLow.value < 0 || plan->coverage.spareHigh.value < 0);
    QVERIFY(verdict(*plan).find("not enough") != std::string::npos);
  }

  void highlightsComeFirstWhenNotAllFits() {
    PlanRequest request;
    request.low = {-3};
    request.high = {14};
    request.school = "three-by-two";
    request.snrTarget = 40;
    const auto plan = planBracket(fullFrame(), request);
    QVERIFY(!plan->covers);
    QVERIFY(plan->coverage.spareHigh.value >= -1e-9);
    QVERIFY(plan->coverage.spareLow.value < 0);
  }

  void widerSceneNeverNeedsFewerFrames() {
    int before = 0;
    for (double high = 6; high <= 18; high += 1) {
      PlanRequest request;
      request.low = {2};
      request.high = {high};
      const auto plan = planBracket(fullFrame(), request);
      QVERIFY(plan->count >= before);
      before = plan->count;
    }
    QVERIFY(before > 1);
  }

  void schoolsKeepTheirShape() {
    PlanRequest request;
    request.low = {4};
    request.high = {12};
    request.school = "five-by-one";
    const auto plan = planBracket(fullFrame(), request);
    QCOMPARE(plan->count, 5);
    QCOMPARE(plan->step.value, 1.0);
    request.school = "one-frame";
    QCOMPARE(planBracket(fullFrame(), request)->count, 1);
  }

  void handheldLimitIsKept() {
    PlanRequest request;
    request.low = {2};
    request.high = {12};
    request.longest = Seconds{1.0 / 32};
    const auto plan = planBracket(fullFrame(), request);
    for (const auto& frame : plan->frames) QVERIFY(frame.time.value <= 1.0 / 32 * 1.000001);
  }

  void badRequestsAreRefused_data() {
    QTest::addColumn<double>("low");
    QTest::addColumn<double>("high");
    QTest::addColumn<QString>("school");
    QTest::newRow("upside down") << 9.0 << 3.0 << "auto";
    QTest::newRow("not a number") << std::nan("") << 3.0 << "auto";
    QTest::newRow("no such light") << 3.0 << 99.0 << "auto";
    QTest::newRow("no such school") << 3.0 << 9.0 << "eleven";
  }
  void badRequestsAreRefused() {
    QFETCH(double, low);
    QFETCH(double, high);
    QFETCH(QString, school);
    PlanRequest request;
    request.low = {low};
    request.high = {high};
    request.school = school.toStdString();
    const auto plan = planBracket(fullFrame(), request);
    QVERIFY(!plan);
    QCOMPARE(int(plan.error().code), int(ErrorCode::InvalidArgument));
  }

  void verdictHoldsTheFigures() {
    PlanRequest request;
    request.low = {2};
    request.high = {14.3};
    const auto plan = planBracket(fullFrame(), request);
    const std::string sentence = verdict(*plan);
    QVERIFY(sentence.find(print(plan->frames.front().time)) != std::string::npos);
    QVERIFY(sentence.find(print(plan->frames.back().time)) != std::string::npos);
    QVERIFY(sentence.find(printAmount(plan->coverage.spareHigh)) != std::string::npos);
  }
};

QTEST_GUILESS_MAIN(TestPlan)
#include "test_plan.moc"
