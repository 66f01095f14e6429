// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "exposure/marks.h"
#include "plan/planner.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <random>

using namespace ml;

namespace {

const CameraProfile& fullFrame() {
  return *findProfile("full-frame-24");
}

/// The search again, written apart from the planner: SNR on a dense grid of readings instead of its critical points,
/// every third-stop time as the shortest frame, every full stop of ISO, and a second run where no single one covers.
struct BruteForce {
  int fired = 0; ///< 0: nothing covers.
  double time = std::numeric_limits<double>::infinity();
};
struct Wanted {
  double low, high, snr, margin, isoCap = 100, longest = 1e9;
};

bool coversDensely(const CameraProfile& camera, const Wanted& w, const std::vector<double>& times, double iso) {
  const double gain = iso / 100, well = camera.fullWell / gain, lsb = well / std::exp2(camera.bits);
  const double read = camera.readNoiseAt({iso}), fixed = read * read + lsb * lsb / 12;
  const auto clip = [&](double t) { return std::log2(64 / (t * gain)) + camera.headroom().value; }; // f/8
  if (clip(*std::min_element(times.begin(), times.end())) - w.margin < w.high - 1e-9) return false;
  for (int i = 0;; ++i) {
    const double ev = std::min(w.high, w.low + 0.02 * i);
    double sum = 0;
    for (const double t : times) {
      if (ev > clip(t)) continue;
      const double electrons = well * std::exp2(ev - clip(t));
      sum += electrons * electrons / (electrons + fixed);
    }
    if (std::sqrt(sum) < w.snr * (1 - 1e-9)) return false;
    if (ev >= w.high) return true;
  }
}

BruteForce bruteForce(const CameraProfile& camera, const Wanted& w) {
  std::vector<std::pair<int, double>> choices{{1, 0}};
  for (const int count : camera.counts)
    for (const Stops step : camera.steps)
      if (count > 1) choices.push_back({count, step.value});
  const auto allowed = [&](double t) {
    return t >= camera.shortest.value * 0.999999 && t <= std::min(w.longest, camera.longest.value) * 1.000001;
  };
  for (int runs = 1; runs <= 2; ++runs) {
    BruteForce best;
    for (const auto& [count, step] : choices)
      for (double iso = 100; iso <= w.isoCap * 1.001; iso *= 2)
        for (int k = kShortestMarkThirds; k >= kLongestMarkThirds; --k) {
          const int reach = int(std::lround(3 * step * (count - 1)));
          const int most = runs == 1 ? 0 : std::min(int(6 * camera.compensation.value + 1e-9), reach + 36);
          for (int shift = runs == 1 ? 0 : 1; shift <= most; ++shift) {
            std::vector<double> times;
            double total = 0;
            bool all = true;
            for (int run = 0; run < runs; ++run)
              for (int i = 0; i < count; ++i) {
                const double t = std::exp2(-(k - run * shift) / 3.0 + i * step);
                all = all && allowed(t);
                if (std::none_of(times.begin(), times.end(), [&](double u) { return std::abs(u / t - 1) < 1e-6; })) {
                  times.push_back(t);
                  total += t;
                }
              }
            const int fired = runs * count;
            if (!all || (best.fired && (fired > best.fired || (fired == best.fired && total >= best.time)))) continue;
            if (coversDensely(camera, w, times, iso)) best = {fired, total};
          }
        }
    if (best.fired) return best;
  }
  return {};
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

  void framesOfOnesOwnKeepTheirCameraAndOrder() {
    const auto profiles = shippedProfiles();
    const CameraProfile& camera = profiles.back();
    const Plan plan = planOfFrames(camera, {}, {{{1.0 / 8}, {8}, {100}}, {{1.0 / 128}, {8}, {100}}});
    QCOMPARE(plan.camera.id, camera.id);
    QCOMPARE(plan.count, 2);
    QVERIFY(plan.frames.front().time.value < plan.frames.back().time.value);
    QVERIFY(std::abs(plan.centre.value - 1.0 / 32) < 1e-9);
  }

  // What a profile says in two ways agrees, and brackets go by thirds of a stop (common practice, no source).
  void shippedProfilesAgreeWithThemselves() {
    for (const auto& profile : shippedProfiles()) {
      double last = 0;
      for (const Stops step : profile.steps) {
        const double thirds = 3 * step.value;
        QVERIFY2(std::abs(thirds - std::round(thirds)) < 1e-9 && step.value > last + 0.3, profile.name.c_str());
        last = step.value;
      }
      QVERIFY2(std::is_sorted(profile.counts.begin(), profile.counts.end()), profile.name.c_str());
      QVERIFY2(profile.readNoiseHigh < profile.readNoise, profile.name.c_str());
      if (profile.width == 2 * profile.height) continue; // a sphere is drawn from two pictures
      const double pitch = 1000 * profile.sensorWidthMm / profile.width;
      QVERIFY2(std::abs(pitch / profile.pixelPitchUm - 1) < 0.03, profile.name.c_str());
      // A square micrometre of silicon holds about 1,700 electrons (common practice, no source); half and twice pass.
      const double held = profile.fullWell / (pitch * pitch);
      QVERIFY2(held > 850 && held < 3600, qPrintable(QString("%1: %2").arg(profile.name.c_str()).arg(held)));
    }
  }

  // What a reading does not know is kept beyond it at both ends, so that "nothing to spare" is never called covered.
  void unsureReadingsAskForAMargin() {
    for (const double high : {12.0, 13.3, 14.7, 15.2})
      for (const double unsure : {kReadingStep.value, 0.4}) {
        PlanRequest request;
        request.low = {4};
        request.high = {high};
        request.unsureLow = request.unsureHigh = {unsure};
        const auto plan = planBracket(fullFrame(), request);
        QVERIFY(plan.has_value());
        if (!plan->covers) continue;
        const SensorModel sensor(fullFrame());
        double clips = -100;
        for (const auto& frame : plan->frames) clips = std::max(clips, sensor.clipsAt(frame).value);
        QVERIFY2(clips >= high + unsure + request.highlightMargin.value - 1e-9,
                 qPrintable(QString("%1 for %2 +- %3").arg(clips).arg(high).arg(unsure)));
        QVERIFY(sensor.mergedSnr({4 - unsure}, plan->frames) >= request.snrTarget * (1 - 1e-9));
        QVERIFY2(verdict(*plan).find("0 stop of room") == std::string::npos, verdict(*plan).c_str());
      }
  }

  // More exposures reach the highlights; what lies in the noise wants light. The verdict says the one that helps.
  void whatHelpsDependsOnWhatIsMissing() {
    const auto says = [](const Plan& plan, const char* words) {
      return verdict(plan).find(words) != std::string::npos;
    };
    PlanRequest dark;
    dark.low = {-6};
    dark.high = {6};
    dark.longest = Seconds{1.0 / 30};
    const auto shadows = planBracket(fullFrame(), dark);
    QVERIFY(shadows && !shadows->covers && shadows->coverage.spareHigh.value >= 0);
    QVERIFY2(says(*shadows, "Open the aperture") && !says(*shadows, "darker set") && !says(*shadows, "reading clip"),
             verdict(*shadows).c_str());
    PlanRequest bright;
    bright.low = {17};
    bright.high = {24};
    bright.aperture = {1.4};
    const auto lights = planBracket(fullFrame(), bright);
    QVERIFY(lights && lights->coverage.spareHigh.value < 0);
    QVERIFY2(says(*lights, "darker set") && !says(*lights, "light the room"), verdict(*lights).c_str());
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
      QVERIFY(std::abs(average / deviation / sensor.snr(mean, {100}) - 1) <
              0.02); // 4 sigma of the estimate at n = 40,000
    }
  }

  void optimumEqualsBruteForce_data() {
    QTest::addColumn<QString>("camera");
    QTest::addColumn<double>("low");
    QTest::addColumn<double>("high");
    QTest::addColumn<double>("snr");
    QTest::addColumn<double>("isoCap");
    QTest::addColumn<double>("longest");
    for (const auto& camera : {"full-frame-24", "crop-20", "pocket-jpeg", "medium-50"})
      for (const auto& [low, high] :
           {std::pair{6.0, 9.0}, {2.0, 14.3}, {4.5, 15.1}, {-1.0, 13.0}, {0.0, 17.0}, {7.1, 16.4}})
        for (const double snr : {10.0, 40.0}) {
          QTest::addRow("%s %g..%g SNR %g", camera, low, high, snr)
              << QString(camera) << low << high << snr << 100.0 << 1e9;
          QTest::addRow("%s %g..%g SNR %g, hand-held, ISO 800", camera, low, high, snr)
              << QString(camera) << low << high << snr << 800.0 << 1 / 32.0;
        }
  }
  void optimumEqualsBruteForce() {
    QFETCH(QString, camera);
    QFETCH(double, low);
    QFETCH(double, high);
    QFETCH(double, snr);
    QFETCH(double, isoCap);
    QFETCH(double, longest);
    const CameraProfile& profile = *findProfile(camera.toStdString());
    PlanRequest request;
    request.low = {low};
    request.high = {high};
    request.snrTarget = snr;
    request.isoCap = Iso{isoCap};
    if (longest < 1e6) request.longest = Seconds{longest};
    const auto plan = planBracket(profile, request);
    QVERIFY(plan.has_value());
    const BruteForce expected = bruteForce(profile, {low, high, snr, request.highlightMargin.value, isoCap, longest});
    QCOMPARE(plan->covers, expected.fired > 0);
    if (!plan->covers) return;
    QCOMPARE(plan->fired, expected.fired);
    double total = 0;
    for (const auto& frame : plan->frames) total += frame.time.value;
    QVERIFY2(std::abs(total / expected.time - 1) < 1e-6,
             qPrintable(QString("%1 s against %2 s").arg(total).arg(expected.time)));
    QVERIFY(plan->coverage.spareHigh.value >= -1e-9);
    QVERIFY(plan->coverage.spareLow.value >= -1e-9);
  }

  // What is missing, when nothing covers: the least at the bright end, then the least anywhere; against a dense search.
  void leastIsMissingWhenNothingCovers() {
    const CameraProfile& camera = *findProfile("pocket-jpeg");
    PlanRequest request;
    request.low = {-3};
    request.high = {15};
    request.secondRun = false;
    const auto plan = planBracket(camera, request);
    QVERIFY(plan && !plan->covers);
    const SensorModel sensor(camera);
    double bestHigh = 1e9, bestRest = 1e9;
    for (const int count : {1, 3})
      for (const Stops step : camera.steps)
        for (int k = kShortestMarkThirds; k >= kLongestMarkThirds; --k) {
          std::vector<ExposureSettings> frames;
          for (int i = 0; i < count; ++i) frames.push_back({{std::exp2(-k / 3.0 + i * step.value)}, {8}, {100}});
          if (frames.front().time < Seconds{camera.shortest.value * 0.999} ||
              frames.back().time > Seconds{camera.longest.value * 1.001})
            continue;
          const double high =
              std::max(0.0, request.high.value + request.highlightMargin.value - sensor.clipsAt(frames.front()).value);
          int below = 0;
          for (double ev = request.low.value; ev <= request.high.value; ev += 0.01)
            below += sensor.mergedSnr({ev}, frames) < request.snrTarget;
          const double rest = 0.01 * below;
          if (high < bestHigh - 1e-6 || (high < bestHigh + 1e-6 && rest < bestRest)) {
            bestHigh = high;
            bestRest = rest;
          }
        }
    QVERIFY(std::abs(std::max(0.0, -plan->coverage.spareHigh.value) - bestHigh) < 1e-6);
    QVERIFY(std::abs(plan->coverage.shortfall.value - bestRest) < 0.03); // the grid's step at both ends
  }

  // Merged SNR against draws of the sensor itself: each frame an independent Poisson count plus read noise, merged with
  // weights of inverse variance (Granados et al. 2010); 20,000 draws leave 1 % on the deviation.
  void mergedSnrMatchesMonteCarlo() {
    std::mt19937 random(11);
    const CameraProfile& camera = fullFrame();
    const SensorModel sensor(camera);
    const std::vector<ExposureSettings> frames{
        {{1 / 512.0}, {8}, {100}}, {{1 / 128.0}, {8}, {100}}, {{1 / 32.0}, {8}, {100}}};
    for (const double ev : {5.0, 8.0, 11.5, 14.0}) {
      double sum = 0, squares = 0;
      const int draws = 20000;
      for (int d = 0; d < draws; ++d) {
        double weighted = 0, weights = 0;
        for (const auto& frame : frames) {
          if (Stops{ev} > sensor.clipsAt(frame)) continue;
          const double mean = sensor.electrons({ev}, frame), variance = mean + camera.readNoise * camera.readNoise;
          std::poisson_distribution<int> photons(mean);
          std::normal_distribution<double> read(0, camera.readNoise);
          const double radiance = (photons(random) + read(random)) / frame.time.value,
                       weight = frame.time.value * frame.time.value / variance;
          weighted += weight * radiance;
          weights += weight;
        }
        const double v = weighted / weights;
        sum += v;
        squares += v * v;
      }
      const double mean = sum / draws, snr = mean / std::sqrt(squares / draws - mean * mean);
      QVERIFY2(std::abs(snr / sensor.mergedSnr({ev}, frames) - 1) < 0.03, qPrintable(QString::number(ev)));
    }
  }

  // Coverage claimed is coverage had: just inside the target holds, just outside it does not.
  void coverageEndsWhereItSays() {
    const SensorModel sensor(fullFrame());
    PlanRequest request;
    request.low = {3};
    request.high = {14};
    request.snrTarget = 25;
    const auto plan = planBracket(fullFrame(), request);
    const auto& c = plan->coverage;
    QVERIFY(sensor.mergedSnr({c.low.value + 0.001}, plan->frames) >= 25);
    QVERIFY(sensor.mergedSnr({c.low.value - 0.001}, plan->frames) < 25);
    QVERIFY(sensor.mergedSnr({c.high.value + request.highlightMargin.value - 0.001}, plan->frames) > 25);
    QCOMPARE(sensor.mergedSnr({c.high.value + request.highlightMargin.value + 0.001}, plan->frames), 0.0);
    const auto curve = snrCurve(sensor, plan->frames, request.low, request.high, 0.1);
    QCOMPARE(int(curve.size()), 111);
    for (const auto& point : curve) QVERIFY(point.snr >= 25);
  }

  // EMVA 1288: noise before the amplifier stays, noise behind it shrinks with gain when counted in electrons.
  void isoChangesWellAndReadNoise() {
    const CameraProfile& camera = fullFrame();
    QCOMPARE(camera.fullWellAt({400}), camera.fullWell / 4);
    QCOMPARE(camera.readNoiseAt({100}), camera.readNoise);
    QVERIFY(camera.readNoiseAt({800}) < camera.readNoise);
    QVERIFY(camera.readNoiseAt({51200}) > camera.readNoiseHigh);
    QVERIFY(std::abs(camera.readNoiseAt({51200}) / camera.readNoiseHigh - 1) < 0.001);
  }

  void limitsOfTimeAndCardAreKept() {
    PlanRequest request;
    request.low = {1};
    request.high = {15};
    request.snrTarget = 40;
    const auto free = planBracket(fullFrame(), request);
    QVERIFY(free->covers);
    request.totalTime = Seconds{setDuration(free->camera, free->frames, free->fired).value / 2};
    const auto quick = planBracket(fullFrame(), request);
    QVERIFY(quick);
    QVERIFY(setDuration(quick->camera, quick->frames, quick->fired) <= *request.totalTime);
    request.totalTime.reset();
    request.cardMegabytes = 2.5 * fullFrame().fileMegabytes;
    QVERIFY(planBracket(fullFrame(), request)->fired <= 2);
    request.cardMegabytes = 1;
    QVERIFY(!planBracket(fullFrame(), request));
  }

  void secondRunIsSaid() {
    const CameraProfile& camera = *findProfile("pocket-jpeg");
    PlanRequest request;
    request.low = {4.5};
    request.high = {15.1};
    const auto plan = planBracket(camera, request);
    QVERIFY(plan && plan->covers);
    QCOMPARE(plan->runs, 2);
    QVERIFY(verdict(*plan).find("by compensation") != std::string::npos);
    request.secondRun = false;
    QVERIFY(!planBracket(camera, request)->covers);
    request.secondRun = true;
    request.low = {2};
    request.high = {15.1};
    const auto wide = planBracket(camera, request);
    QVERIFY(wide->covers);
    QCOMPARE(wide->fired, 6);
    QVERIFY(verdict(*wide).find("Two runs of 3 frames") == 0);
  }

  void framesLieOnTheLadder() {
    PlanRequest request;
    request.low = {2};
    request.high = {16};
    const auto plan = planBracket(fullFrame(), request);
    for (const auto& frame : plan->frames)
      QVERIFY(std::abs(frame.time.value / timeAtThirds(nearestThirds(frame.time)).value - 1) < 1e-9);
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
