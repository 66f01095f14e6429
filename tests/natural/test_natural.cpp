// SPDX-License-Identifier: GPL-3.0-or-later
// The automatic finish beside the photographer's own frames: sixteen cameras and views of the zoo, a real bracket, the
// shipped worlds.
#include "finish/finish.h"
#include "image/colour.h"
#include "natural/natural_sets.h"
#include "pipeline/combine.h"
#include "pipeline/deliver_view.h"
#include "tone/facts_text.h"
#include "tone/rendering.h"

#include <QTemporaryDir>
#include <QTest>
#include <cmath>

using namespace ml;
using namespace ml::test;

class TestNatural : public QObject {
  Q_OBJECT
private slots:
  void looksLikeTheMeteredFrame() {
    const QTemporaryDir folder;
    NaturalFigures ours, theirs;
    int count = 0, order = 0;
    forEachNaturalSet(8, true, folder.path().toStdString(), [&](const NaturalSet& set) {
      const NaturalFigures f = figuresOf(set.ours, set.frames, set.light),
                           g = figuresOf(set.theirs, set.frames, set.light);
      const auto what = [&](const char* of, double value) {
        return QString("%1: %2 %3").arg(QString::fromStdString(set.name)).arg(of).arg(value).toStdString();
      };
      QVERIFY2(std::abs(f.signedL) <= 4, what("signed L*", f.signedL).c_str());
      QVERIFY2(f.absoluteL <= 7, what("absolute L*", f.absoluteL).c_str());
      QVERIFY2(f.atWhite <= 0.01, what("at white", f.atWhite).c_str());
      QVERIFY2(f.disorder <= 0.02, what("order", f.disorder).c_str());
      ours.absoluteL += f.absoluteL, ours.contrast += f.contrast, ours.within += f.within, ours.white += f.white;
      theirs.absoluteL += g.absoluteL, theirs.contrast += g.contrast, theirs.within += g.within,
          theirs.white += g.white;
      order += f.disorder > 0.001;
      ++count;
    });
    const double n = count;
    qInfo(
        "%d sets: absolute L* %.1f (OpenCV's fusion %.1f), contrast %.2f (%.2f), within %.2f (%.2f), white %.0f (%.0f)",
        count, ours.absoluteL / n, theirs.absoluteL / n, ours.contrast / n, theirs.contrast / n, ours.within / n,
        theirs.within / n, ours.white / n, theirs.white / n);
    QVERIFY(ours.absoluteL < 0.5 * theirs.absoluteL);
    QVERIFY(ours.contrast / n >= 0.9 && ours.contrast / n <= 1.1);
    QVERIFY(ours.white / n >= 88);
  }

  /// Radiance alone is finished as with its frames: the file carries how the metered frame shows its light.
  void radianceAloneAgreesWithItsFrames() {
    const QTemporaryDir folder;
    std::vector<std::filesystem::path> files;
    for (const auto& entry :
         std::filesystem::directory_iterator(std::filesystem::path(ML_SOURCE_DIR) / "tests/data/real_bracket"))
      if (entry.path().extension() == ".png") files.push_back(entry.path());
    std::sort(files.begin(), files.end());
    const auto combined = combineFiles(files, {}, {});
    QVERIFY(combined.has_value());
    const std::filesystem::path file = folder.filePath("alone.exr").toStdString();
    RadianceOptions options;
    options.notes = notesOf(*combined);
    QVERIFY(deliverRadiance(combined->radiance.view(), file, options).has_value());
    const auto alone = readRadiance(file);
    QVERIFY(alone.has_value());
    const auto with = finishRadiance(combined->radiance.view(), {}, sceneFacts(*combined), nullptr, {}),
               without = finishRadiance(alone->view(), {}, factsOfRadiance(file), nullptr, {});
    QVERIFY(with.has_value() && without.has_value());
    double worst = 0;
    for (std::size_t i = 0; i < with->picture.size(); i += 3) {
      const auto lightness = [&](const Image<std::uint16_t>& picture) {
        const float rgb[3] = {float(srgbDecode(picture.data()[i] / 65535.0)),
                              float(srgbDecode(picture.data()[i + 1] / 65535.0)),
                              float(srgbDecode(picture.data()[i + 2] / 65535.0))};
        return lightnessOf(std::log2(std::max(1e-6f, luminance(rgb))));
      };
      worst = std::max(worst, std::abs(lightness(with->picture) - lightness(without->picture)));
    }
    QVERIFY2(worst < 1, qPrintable(QString::number(worst))); // the aim is 3
    QVERIFY(factsOfRadiance(file.string() + "-missing").metered.empty());
  }

  void damagedNotesAreAsUnknown() {
    SceneFacts facts(7.25, standardRendering());
    facts.asItIs = true;
    const auto text = textOf(facts);
    const SceneFacts back = factsFromText(text);
    QVERIFY(back.asItIs && std::abs(back.ev100OfUnit - 7.25) < 1e-4);
    QCOMPARE(back.metered.size(), facts.metered.size());
    for (const char* ties : {"", "1:2", "1:1 2:2 3:3 x", "1:1 2:2 3:3 4:", "4:1 3:2 2:3 1:4", "1:1 2:2 3:nan 4:4",
                             "1:1 2:2 3:3 1e99:1e99"}) {
      auto damaged = text;
      damaged["shownAs"] = ties;
      const SceneFacts read = factsFromText(damaged);
      QVERIFY2(read.metered.empty() && !read.asItIs, ties);
    }
    QVERIFY(std::isnan(factsFromText({{"ev100OfUnit", "high"}}).ev100OfUnit));
  }

  /// Blended pictures are on paper already: their codes come out as they went in.
  void blendedPicturesStayAsTheyAre() {
    Image<float> picture(64, 48, 3);
    for (int y = 0; y < 48; ++y)
      for (int x = 0; x < 64; ++x)
        for (int c = 0; c < 3; ++c)
          picture.at(x, y)[c] = float(std::exp2(-9 + 8.9 * x / 63)) * (c == 0 ? 1.f : c == 1 ? 0.8f : 0.6f);
    Recipe plain;
    plain.sharpening = 0;
    plain.tone.quiet = 0;
    const auto finished = finishRadiance(picture.view(), plain, sceneFacts(5, CombineMethod::Fusion, {}), nullptr, {});
    QVERIFY(finished.has_value());
    for (int x = 0; x < 64; ++x)
      for (int c = 0; c < 3; ++c) {
        const double found = finished->picture.at(x, 24)[c] / 65535.0, v = picture.at(x, 24)[c],
                     expected = v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
        QVERIFY2(std::abs(found - expected) < 1.5 / 255,
                 qPrintable(QString("%1 %2: %3, not %4").arg(x).arg(c).arg(found).arg(expected)));
      }
  }

  /// Mid-grey of a raw frame lands on mid-grey; the shoulder has an inverse; lightness is that of CIE 15.
  void theStandardRenderingIsAsDocumented() {
    const Rendering standard(standardRendering());
    QVERIFY(std::abs(standard.paper(0) - std::log2(0.18)) < 0.001);
    QVERIFY(standard.paper(2.9) > std::log2(0.95) && standard.paper(2.9) < 0);
    for (double y = 0.01; y < 0.995; y += 0.01) QVERIFY(std::abs(shouldered(beforeShoulder(y)) - y) < 1e-9);
    QVERIFY(std::abs(lightnessOf(std::log2(0.1842)) - 50) <
            0.02); // L* 50 is a luminance of 18.42 % (CIE 15:2018, by its formula)
    for (double l = 2; l < 100; l += 3) QVERIFY(std::abs(lightnessOf(paperOf(l)) - l) < 1e-6);
  }
};

QTEST_GUILESS_MAIN(TestNatural)
#include "test_natural.moc"
