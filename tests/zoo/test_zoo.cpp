// SPDX-License-Identifier: GPL-3.0-or-later
// A small share of the zoo's campaign: cameras that share no code with ours, judged, placed and merged. The seeds are
// the first of their kind, not chosen; the full campaign (ml_zoo) has thousands. Limits are those of the task, as
// counts.
#include "codec/jpeg.h"
#include "finish/finish.h"
#include "image/colour.h"
#include "image/orientation.h"
#include "ingest/grouping.h"
#include "ingest/load_frame.h"
#include "pipeline/combine.h"
#include "pipeline/inspect.h"
#include "zoo/figures.h"

#include <QTemporaryDir>
#include <QTest>
#include <algorithm>
#include <cmath>
#include <exiv2/exiv2.hpp>
#include <functional>
#include <limits>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

using namespace ml;
using namespace ml::zoo;

namespace {

constexpr std::uint64_t kFirst = 20000;

SetOptions small(std::uint64_t seed, FileType type) {
  SetOptions o;
  o.seed = seed;
  o.type = type;
  o.width = 640, o.height = 432;
  return o;
}

FileType typeOf(std::uint64_t seed) {
  return seed % 5 < 2 ? FileType::Dng : seed % 5 < 4 ? FileType::Jpeg : FileType::Heif;
}

/// Eight sets a scene.
std::shared_ptr<const Scene> sceneFor(std::uint64_t seed) {
  static std::uint64_t known = 0;
  static std::shared_ptr<const Scene> scene;
  if (!scene || seed / 8 != known) scene = sceneOf(known = seed / 8, 640, 432);
  return scene;
}

} // namespace

class TestZoo : public QObject {
  Q_OBJECT

private slots:
  // The zoo's own parts: what it checks others by must be right itself.
  void curvesRiseFromNothingToAll() {
    for (int family = 0; family < kCurveFamilies; ++family)
      for (const double a : {0.5, 1.5, 2.5})
        for (const double b : {0.3, 1.0}) {
          const Curve curve{family, a, b};
          double last = -1;
          for (int i = 0; i <= 200; ++i) {
            const double v = curve(i / 200.0);
            QVERIFY2(v >= last && v >= -1e-9 && v <= 1 + 1e-9, kCurveNames[family]);
            last = v;
          }
          QVERIFY2(std::abs(curve(0)) < 1e-6 && std::abs(curve(1) - 1) < 1e-6, kCurveNames[family]);
          QVERIFY(std::abs(curve(curve.inverse(0.4)) - 0.4) < 1e-6);
        }
  }
  void printedTimesAreNearTheLadder() {
    QCOMPARE(printedTime(1 / 128.).under, 125);
    QCOMPARE(printedTime(1 / 64.).under, 60);
    QCOMPARE(printedTime(std::exp2(-1)).under, 10); // 0.5 s is 5/10
    for (int third = -39; third <= 9; ++third) {
      const Printed p = printedTime(std::exp2(third / 3.0));
      QVERIFY(std::abs(std::log2(double(p.over) / p.under) - third / 3.0) < 0.12);
    }
  }

  void setsAreJudged() {
    int sound = 0, spoiled = 0, alarms = 0, misses = 0, cannot = 0;
    for (std::uint64_t seed = kFirst; seed < kFirst + 14; ++seed) {
      QTemporaryDir dir;
      SetOptions o = small(seed, typeOf(seed));
      if (seed % 2) o.spoil = Spoil(1 + int(seed / 2) % kSpoils);
      o.handHeld = seed % 3 == 0 && o.spoil != Spoil::Nudged;
      const MadeSet set(sceneFor(seed), o, dir.path().toStdString());
      const Judged judged = judgedAsItLands(set, o.handHeld);
      const bool is = o.spoil != Spoil::None;
      (is ? spoiled : sound) += 1;
      cannot += judged.said == Said::CannotTell;
      const bool wrong = is ? judged.said == Said::Holds : judged.said == Said::Not;
      (is ? misses : alarms) += wrong;
      if (wrong)
        qWarning("seed %llu, %s, %s: %s", static_cast<unsigned long long>(seed), set.camera.name.c_str(),
                 nameOf(o.spoil), judged.sentence.c_str());
    }
    qInfo("%d sound sets, %d alarms; %d spoiled sets, %d misses; %d cannot be told", sound, alarms, spoiled, misses,
          cannot);
    QVERIFY2(alarms <= 1, qPrintable(QString::number(alarms)));
    QVERIFY2(misses <= 1, qPrintable(QString::number(
                              misses))); // the aim is 2 %: what is missed, and why, stands in docs/accuracy.md
    QVERIFY2(cannot <= 3, qPrintable(QString::number(cannot)));
  }

  /// Somebody walks through what is held in the hand: the places of most of the picture decide, not the walker's.
  void framesThatSomebodyWalksThroughArePlaced() {
    int held = 0, near = 0, left = 0;
    for (std::uint64_t seed = kFirst + 40; seed < kFirst + 48; ++seed) {
      QTemporaryDir dir;
      SetOptions o = small(seed, seed % 2 ? FileType::Jpeg : FileType::Dng);
      o.handHeld = o.walker = true;
      const MadeSet set(sceneFor(seed), o, dir.path().toStdString());
      for (const PlacedFigure& f : placedFrames(set)) {
        left += f.leftOut || f.assumed;
        if (f.leftOut || f.assumed) continue;
        ++held;
        near += f.error <= 0.3;
        if (f.error > 0.3)
          qWarning("seed %llu, frame %d: off by %.2f px", static_cast<unsigned long long>(seed), f.frame, f.error);
      }
    }
    qInfo("%d of %d within 0.3 px, %d left out", near, held, left);
    QVERIFY2(near >= 0.95 * held, qPrintable(QString("%1 of %2").arg(near).arg(held)));
    QVERIFY2(left <= 0.1 * (held + left), qPrintable(QString::number(left)));
  }

  /// Three frames, and somebody in what two of them share: nothing shows where they lie, and none is guessed. On a
  /// stand their places are told by the blocks that lie still.
  void aFrameThatAgreesNowhereIsNotGuessed() {
    constexpr std::uint64_t kSeed = 800015;
    for (const bool handHeld : {true, false}) {
      QTemporaryDir dir;
      SetOptions o;
      o.seed = kSeed, o.type = FileType::Jpeg;
      o.width = 1080, o.height = 720;
      o.handHeld = handHeld;
      o.walker = true;
      const MadeSet set(sceneOf(kSeed / 8, o.width, o.height), o, dir.path().toStdString());
      for (const PlacedFigure& f : placedFrames(set))
        QVERIFY2(f.leftOut || f.assumed || f.error <= 0.6,
                 qPrintable(QString("frame %1 is off by %2 px and nothing is said").arg(f.frame).arg(f.error)));
    }
  }

  void framesArePlaced() {
    int tripod = 0, exact = 0, held = 0, near = 0, left = 0;
    for (std::uint64_t seed = kFirst; seed < kFirst + 10; ++seed) {
      QTemporaryDir dir;
      SetOptions o = small(seed, typeOf(seed));
      o.handHeld = seed % 2;
      const MadeSet set(sceneFor(seed), o, dir.path().toStdString());
      for (const PlacedFigure& f : placedFrames(set)) {
        if (!o.handHeld)
          ++tripod, exact += f.exact;
        else if (f.leftOut)
          ++left;
        else {
          ++held, near += f.error <= 0.3;
          QVERIFY2(f.error <= 0.6, qPrintable(QString("seed %1, frame %2 is misplaced by %3 px and nothing is said")
                                                  .arg(seed)
                                                  .arg(f.frame)
                                                  .arg(f.error)));
        }
      }
    }
    qInfo("tripod %d of %d exactly in place; hand-held %d of %d within 0.3 px, %d left out", exact, tripod, near, held,
          left);
    QVERIFY(exact >= int(std::ceil(0.99 * tripod)));
    QVERIFY(near >= int(std::ceil(0.95 * held)));
    QVERIFY(left <= held / 10);
  }

  void tripodSetsComeNearTheBound() {
    std::vector<double> ratios;
    for (std::uint64_t seed = kFirst; seed < kFirst + 6; ++seed) {
      QTemporaryDir dir;
      const MadeSet set(sceneFor(seed), small(seed, typeOf(seed)), dir.path().toStdString());
      const auto figure = mergedFigure(set, true);
      QVERIFY(figure);
      QCOMPARE(figure->regions, 0); // nothing moved
      ratios.push_back(figure->error / figure->bound);
    }
    std::sort(ratios.begin(), ratios.end());
    qInfo("error over bound: median %.2f, most %.2f", ratios[ratios.size() / 2], ratios.back());
    QVERIFY2(ratios[ratios.size() / 2] <= 1.5, qPrintable(QString::number(ratios[ratios.size() / 2])));
    QVERIFY2(ratios.back() <= 2.2, qPrintable(QString::number(ratios.back())));
  }

  // Before clipped light too, where the reference alone cannot tell what stands there: then another moment is shown.
  // What the next test goes by: a place a fifth too light steps along its border and nowhere else.
  void aStepAtABorderIsMeasured() {
    Image<float> truth(160, 120, 3), found(160, 120, 3);
    for (int y = 0; y < 120; ++y)
      for (int x = 0; x < 160; ++x)
        for (int c = 0; c < 3; ++c)
          truth.at(x, y)[c] = 0.2f, found.at(x, y)[c] = 0.4f * (x >= 60 && x < 100 && y >= 40 && y < 80 ? 1.2f : 1);
    Image<std::uint8_t> known(160, 120, 1);
    known.fill(0);
    MotionReport motion;
    motion.places.push_back({{15, 10, 10, 10}, std::vector<std::uint8_t>(100, 1), 0, {0}, false});
    const zoo::BorderSteps steps = zoo::borderSteps(found, truth, known, motion);
    const double most = *std::max_element(steps.atBorders.begin(), steps.atBorders.end());
    QVERIFY2(most > 3 && most < 5, qPrintable(QString::number(most))); // L* 53.6 against 58.1
    QCOMPARE(*std::max_element(steps.elsewhere.begin(), steps.elsewhere.end()), 0.0);
  }

  // Nor does light or colour step where a place ends: 2 CIEDE2000 (CIE 142-2001) are not seen side by side.
  void walkersStandOnceAndWhole() {
    std::vector<double> atBorders;
    int ofOurs = 0;
    for (const int at : {0, 1, 2, 16, 23, 26, 28}) {
      const std::uint64_t seed = kFirst + std::uint64_t(at);
      QTemporaryDir dir;
      SetOptions o = small(seed, typeOf(seed));
      o.walker = true;
      const MadeSet set(sceneFor(seed), o, dir.path().toStdString());
      const auto figure = mergedFigure(set, false);
      QVERIFY(figure);
      QVERIFY2(figure->whole <= 0.15, qPrintable(QString("seed %1: %2 EV").arg(seed).arg(figure->whole)));
      QCOMPARE(figure->moment, figure->reference); // and it is said whose
      atBorders.insert(atBorders.end(), figure->steps.atBorders.begin(), figure->steps.atBorders.end());
      ofOurs += figure->steps.ofOurs;
    }
    const auto seen = std::count_if(atBorders.begin(), atBorders.end(), [](double step) { return step > 2; });
    qInfo("steps at borders: %zu, %.2f %% above 2, %.2f %% that no frame alone has", atBorders.size(),
          100.0 * double(seen) / double(atBorders.size()), 100.0 * ofOurs / double(atBorders.size()));
    QVERIFY(atBorders.size() > 10000);
    // What one frame's own sharpening and coding made of an edge is no step of ours, wherever the border runs.
    QVERIFY(ofOurs <= 0.003 * double(atBorders.size()));
  }

  // The only bracket of a real camera found in the registries: sound, and to be called so; combined and finished
  // without a word against it.
  void theRealBracket() {
    const std::filesystem::path folder = std::filesystem::path(ML_SOURCE_DIR) / "tests/data/real_bracket";
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles({folder}, leftOut);
    QCOMPARE(files.size(), std::size_t(3));
    const auto sets = inspectSets(groupFiles(files), {});
    QCOMPARE(sets.size(), std::size_t(1));
    QVERIFY2(sets[0].verdict.answer != Answer::DoesNotHold, sets[0].verdict.sentence.c_str());
    for (const auto& frame : sets[0].frames) QVERIFY2(frame.flaws.empty(), frame.sentence.c_str());
    const auto combined = combineFiles(files, {}, {});
    QVERIFY2(combined.has_value(), combined ? "" : combined.error().message.c_str());
    QCOMPARE(combined->frames.size(), std::size_t(3));
    QVERIFY2(combined->remarks.empty(), combined->remarks.empty() ? "" : combined->remarks[0].c_str());
    QCOMPARE(combined->motion.regions, 0);
    const auto finished =
        finishRadiance(combined->radiance.view(), Recipe{}, std::numeric_limits<double>::quiet_NaN(), nullptr, {});
    QVERIFY(finished.has_value());
  }

  /// On a card nothing was planned: frames whose ISO alone differs were bracketed by it, and are sound. Automatic ISO
  /// beside other times is a fault, and is called by its name.
  void isoBracketsAndAutomaticIso() {
    QTemporaryDir dir, other;
    const MadeSet set(sceneFor(kFirst + 60), small(kFirst + 60, FileType::Jpeg), dir.path().toStdString());
    QVERIFY(inspected(set).said == Said::Holds);
    const double longest = set.frames.back().shot.seconds;
    for (const MadeFrame& f : set.frames) {
      auto file = Exiv2::ImageFactory::open(f.file.string());
      file->readMetadata();
      auto& exif = file->exifData();
      exif["Exif.Photo.ExposureTime"] = Exiv2::URational(1, 30);
      exif["Exif.Photo.ISOSpeedRatings"] = std::uint16_t(std::lround(51200 * f.shot.seconds / longest));
      file->writeMetadata();
    }
    const Judged byIso = inspected(set);
    QVERIFY2(byIso.said == Said::Holds, byIso.sentence.c_str());
    SetOptions o = small(kFirst + 60, FileType::Jpeg);
    o.spoil = Spoil::AutoIso;
    const Judged automatic = inspected(MadeSet(sceneFor(kFirst + 60), o, other.path().toStdString()));
    QVERIFY(automatic.said == Said::Not);
    QVERIFY2(automatic.sentence.find("ISO went to") != std::string::npos, automatic.sentence.c_str());
  }

  /// Files that do not say how they were exposed are judged by what they show; that their steps are right cannot be
  /// told.
  void filesThatSayNoExposureAreJudgedByWhatTheyShow() {
    for (const auto& [spoil, answer] : {std::pair{Spoil::None, Said::CannotTell}, {Spoil::Nudged, Said::Not}}) {
      QTemporaryDir dir;
      SetOptions o = small(kFirst + 60, FileType::Jpeg);
      o.spoil = spoil;
      const MadeSet set(sceneFor(kFirst + 60), o, dir.path().toStdString());
      for (const MadeFrame& f : set.frames) {
        auto file = Exiv2::ImageFactory::open(f.file.string());
        file->clearMetadata();
        file->writeMetadata();
      }
      const Judged judged = inspected(set);
      QVERIFY2(judged.said == answer, judged.sentence.c_str());
      QVERIFY2(judged.sentence.find("estimated from the picture") != std::string::npos, judged.sentence.c_str());
    }
  }

  /// What tells a camera which side is up fails where it looks at a floor: one frame of a set says another orientation.
  /// It is combined and judged as if it had not.
  /// Whose pixels another program turned, and which says so, is not turned again.
  void oneFrameWasTurnedWithItsPixels() {
    QTemporaryDir dir;
    const MadeSet set(sceneFor(kFirst + 60), small(kFirst + 60, FileType::Jpeg), dir.path().toStdString());
    const auto& file = set.frames[1].file;
    auto before = Exiv2::ImageFactory::open(file.string());
    before->readMetadata();
    const Exiv2::ExifData said = before->exifData();
    const auto lying = readJpeg(file);
    QVERIFY(lying.has_value());
    const auto turned = lying->pixels.visit([](auto codes) { return Codes(oriented(codes, 6)); });
    turned.visit([&](auto codes) {
      if constexpr (std::is_same_v<decltype(codes), ImageView<const std::uint8_t>>)
        QVERIFY(writeJpeg(file, codes, {98, false, {}, false, {}}).has_value());
    });
    auto after = Exiv2::ImageFactory::open(file.string());
    after->setExifData(said);
    after->exifData()["Exif.Image.Orientation"] = std::uint16_t(8);
    after->writeMetadata();
    const Judged judged = inspected(set);
    QVERIFY2(judged.said != Said::Not, judged.sentence.c_str());
  }

  void oneFrameSaysItWasHeldOtherwise() {
    QTemporaryDir dir;
    const MadeSet set(sceneFor(kFirst + 60), small(kFirst + 60, FileType::Jpeg), dir.path().toStdString());
    std::vector<std::filesystem::path> files;
    for (const MadeFrame& f : set.frames) files.push_back(f.file);
    QVERIFY(files.size() >= 3);
    const auto before = combineFiles(files, {}, {});
    QVERIFY(before.has_value());
    for (const int orientation : {6, 3}) {
      auto file = Exiv2::ImageFactory::open(files[1].string());
      file->readMetadata();
      file->exifData()["Exif.Image.Orientation"] = std::uint16_t(orientation);
      file->writeMetadata();
      const auto after = combineFiles(files, {}, {});
      QVERIFY(after.has_value());
      QCOMPARE(after->frames.size(), files.size());
      QVERIFY(after->leftOut.empty());
      QCOMPARE(after->remarks.size(), before->remarks.size() + 1);
      QVERIFY(std::equal(before->radiance.data(), before->radiance.data() + before->radiance.size(),
                         after->radiance.data()));
      QVERIFY(inspected(set).said == Said::Holds);
    }
  }

  /// Tiles of lossless JPEG, as cameras write them, hold what plain strips hold.
  void compressionChangesNothing() {
    QTemporaryDir dir;
    Camera camera(kFirst + 1, FileType::Dng);
    Random random(7);
    Image<std::uint16_t> mosaic(500, 490, 1); // neither is a multiple of a tile
    for (int y = 0; y < 490; ++y)
      for (int x = 0; x < 500; ++x)
        mosaic.row(y)[x] = std::uint16_t(random.whole(0, 9) ? 3000 + random.whole(-90, 90) : random.whole(0, 16383));
    std::vector<Frame> frames;
    std::uintmax_t bytes[2];
    Shot shot;
    shot.model = camera.name;
    for (const bool compressed : {false, true}) {
      const std::filesystem::path file = dir.filePath(compressed ? "tiles.dng" : "strips.dng").toStdString();
      camera.compressed = compressed, camera.components = camera.predictor = 1, camera.bigEndian = false;
      zoo::writeDng(file, camera, camera.neutral, mosaic, shot);
      bytes[compressed] = file_size(file);
      auto frame = loadFrame(file);
      QVERIFY2(frame.has_value(), frame ? "" : frame.error().message.c_str());
      QVERIFY(frame->isMosaic());
      frames.push_back(std::move(*frame));
    }
    QVERIFY(bytes[1] < 0.8 * double(bytes[0]));
    const auto plain = frames[0].codes.photosites(), tiles = frames[1].codes.photosites();
    QCOMPARE(tiles.width, plain.width);
    QCOMPARE(tiles.height, plain.height);
    for (int y = 0; y < plain.height; ++y) QVERIFY(std::equal(plain.row(y), plain.row(y) + plain.width, tiles.row(y)));
  }

  /// A phone turns its HEIF picture itself and says so again in Exif, for information (ISO/IEC 23008-12): once is
  /// enough.
  void aPhoneTurnsItsPictureOnce() {
    QTemporaryDir dir;
    const Camera camera(3, FileType::Heif);
    Image<std::uint8_t> picture(96, 64, 3);
    for (int y = 0; y < 64; ++y)
      for (int x = 0; x < 96; ++x) std::fill_n(picture.at(x, y), 3, std::uint8_t(x < 48 && y < 32 ? 220 : 40));
    const std::filesystem::path file = dir.filePath("phone.heic").toStdString();
    Shot shot;
    shot.orientation = 6; // the stored left upper corner is seen at the right
    zoo::writeHeif(file, camera, picture, shot);
    const auto frame = loadFrame(file);
    QVERIFY(frame.has_value());
    QCOMPARE(frame->width(), 64);
    QCOMPARE(frame->height(), 96);
    QVERIFY(frame->codes.at(48, 24, 1) > 150);
    for (const auto& [x, y] : {std::pair{16, 24}, {16, 72}, {48, 72}}) QVERIFY(frame->codes.at(x, y, 1) < 100);
  }

  /// Colours of a phone that are told by numbers, not by a profile, are wider than Rec. 709's.
  void aPhoneSaysItsPrimariesByNumbers() {
    QTemporaryDir dir;
    Camera camera(3, FileType::Heif);
    Image<std::uint8_t> picture(64, 64, 3);
    std::fill_n(picture.data(), picture.size(), std::uint8_t(140));
    for (const bool wide : {false, true}) {
      camera.displayP3 = wide;
      const std::filesystem::path file = dir.filePath("phone.heic").toStdString();
      zoo::writeHeif(file, camera, picture, Shot{});
      const auto frame = loadFrame(file);
      QVERIFY(frame.has_value());
      // Red of SMPTE EG 432-1 in Rec. 709: 1.2249 (from memory).
      QVERIFY2(std::abs(frame->toRec709[0] - (wide ? 1.2249 : 1.0)) < 0.002,
               qPrintable(QString::number(frame->toRec709[0])));
    }
  }

  // Somebody before the lit ceiling of the real hall: a dark patch of each frame's own pixels (so that curve, noise and
  // coding are the camera's) stands elsewhere in each frame. It stands once, and whole: where the frames are combined
  // in which it does not move.
  void somebodyInTheRealHall() {
    const cv::Rect patch(2, 121, 12, 20);
    const std::vector<cv::Point> places{{38, 36}, {64, 38}, {92, 36}};
    const auto with = [&](const std::function<cv::Point(std::size_t)>& placeOf) {
      const QTemporaryDir dir;
      std::vector<std::filesystem::path> files;
      for (std::size_t k = 0; k < places.size(); ++k) {
        const std::string name = "hall_" + std::to_string(k + 1) + ".png",
                          from = std::string(ML_SOURCE_DIR) + "/tests/data/real_bracket/" + name;
        cv::Mat frame = cv::imread(from, cv::IMREAD_COLOR | cv::IMREAD_IGNORE_ORIENTATION);
        cv::Mat mask(patch.size(), CV_8U, cv::Scalar(0));
        cv::ellipse(mask, {patch.width / 2, patch.height / 2}, {patch.width / 2 - 1, patch.height / 2 - 1}, 0, 0, 360,
                    255, -1);
        frame(patch).clone().copyTo(frame(cv::Rect(placeOf(k), patch.size())), mask);
        files.emplace_back(dir.filePath(QString::fromStdString(name)).toStdString());
        cv::imwrite(files.back().string(), frame);
        const auto known = Exiv2::ImageFactory::open(from), made = Exiv2::ImageFactory::open(files.back().string());
        known->readMetadata(), made->readMetadata();
        made->setExifData(known->exifData());
        made->exifData()["Exif.Image.Orientation"] = std::uint16_t(1); // the places are those of the file
        made->writeMetadata();
      }
      return combineFiles(files, {}, {});
    };
    const auto combined = with([&](std::size_t k) { return places[k]; });
    QVERIFY(combined.has_value());
    const auto still = with([&](std::size_t) { return places[std::size_t(combined->reference)]; });
    QVERIFY(still.has_value());
    const auto stops = [&](int x, int y) {
      return std::log2(luminance(combined->radiance.at(x, y)) / luminance(still->radiance.at(x, y)));
    };
    std::vector<double> all; // each has its own unit
    for (int y = 0; y < combined->radiance.height(); ++y)
      for (int x = 0; x < combined->radiance.width(); ++x) all.push_back(stops(x, y));
    std::nth_element(all.begin(), all.begin() + std::ptrdiff_t(all.size() / 2), all.end());
    const double unit = all[all.size() / 2];
    double squares = 0, n = 0;
    for (const cv::Point& place : places)
      for (int y = place.y; y < place.y + patch.height; ++y)
        for (int x = place.x; x < place.x + patch.width; ++x) squares += std::pow(stops(x, y) - unit, 2), ++n;
    QVERIFY2(std::sqrt(squares / n) < 0.15, qPrintable(QString("%1 EV").arg(std::sqrt(squares / n))));
  }

  // Times that contradict the pixels by more than any camera explains: a sentence with the figure, and combined only
  // when asked to.
  void contradictionsAreNotCombinedUnasked() {
    QTemporaryDir dir;
    MadeSet set(sceneFor(kFirst), small(kFirst, FileType::Dng), dir.path().toStdString());
    CombineOptions options;
    std::vector<std::filesystem::path> files;
    for (const auto& frame : set.frames)
      files.push_back(frame.file), options.seconds[frame.file.filename().string()] = frame.shot.seconds;
    options.seconds[files.back().filename().string()] *= 32;
    const auto refused = combineFiles(files, options, {});
    QVERIFY(!refused.has_value());
    QCOMPARE(int(refused.error().code), int(ErrorCode::Contradiction));
    QVERIFY2(refused.error().message.find("stops apart") != std::string::npos, refused.error().message.c_str());
    options.evenSo = true;
    QVERIFY(combineFiles(files, options, {}).has_value());
  }
};

QTEST_GUILESS_MAIN(TestZoo)
#include "test_zoo.moc"
