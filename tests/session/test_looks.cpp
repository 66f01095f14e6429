// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest>

#include "session/look_shelf.h"

#include <QTemporaryDir>
#include <filesystem>
#include <fstream>

using namespace ml;
namespace fs = std::filesystem;

class TestLooks : public QObject {
  Q_OBJECT

private slots:
  void looksAreKeptAndFoundAgain() {
    QTemporaryDir dir;
    const fs::path folder = fs::path(dir.path().toStdString()) / "looks";
    Recipe recipe;
    recipe.tone.exposure = 0.4, recipe.tone.warmth = 0.5, recipe.tone.pulls = {{1, -1}};
    recipe.hues = {{45, 30, -0.2, 0}};
    recipe.geometry.roll = 2;
    recipe.areas = {Area{}};
    {
      LookShelf shelf(folder);
      QVERIFY(shelf.looks().empty());
      QVERIFY(shelf.save("Quay rooms / dusk", recipe));
      QCOMPARE(shelf.looks().size(), std::size_t(1));
    }
    const LookShelf again(folder);
    QCOMPARE(again.looks().size(), std::size_t(1));
    const Look& look = again.looks()[0];
    QCOMPARE(QString::fromStdString(look.name), QString("Quay rooms / dusk"));
    QCOMPARE(look.recipe.tone.exposure, 0.4);
    QCOMPARE(look.recipe.hues.size(), std::size_t(1));
    // What belongs to one picture is not in it.
    QCOMPARE(look.recipe.tone.warmth, 0.0);
    QVERIFY(look.recipe.tone.pulls.empty() && look.recipe.areas.empty() && look.recipe.geometry == Geometry{});
    QVERIFY(again.find(look.id) == &look);
    QVERIFY(!again.find("own-nothing"));
  }

  void theSameNameReplacesAndRemovingRemoves() {
    QTemporaryDir dir;
    LookShelf shelf(dir.path().toStdString());
    Recipe recipe;
    QVERIFY(shelf.save("Boats", recipe));
    recipe.tone.exposure = 1;
    QVERIFY(shelf.save("Boats", recipe));
    QCOMPARE(shelf.looks().size(), std::size_t(1));
    QCOMPARE(shelf.looks()[0].recipe.tone.exposure, 1.0);
    QVERIFY(shelf.remove(shelf.looks()[0].id));
    QVERIFY(shelf.looks().empty());
    QVERIFY(!shelf.save("", recipe));
  }

  void whatIsNoLookIsPassedOver() {
    QTemporaryDir dir;
    const fs::path folder = dir.path().toStdString();
    for (const auto& [name, text] : {std::pair{"a.json", "not JSON"},
                                     {"b.json", "[]"},
                                     {"c.json", R"({"name": 3, "recipe": {}})"},
                                     {"d.json", R"({"name": "x", "recipe": {"version": 1, "exposure": 99}})"},
                                     {"e.txt", R"({"name": "x", "recipe": {"version": 1}})"}})
      std::ofstream(folder / name) << text;
    std::ofstream(folder / "good.json")
        << R"({"version": 1, "kind": "look", "name": "Good", "recipe": {"version": 1, "exposure": 0.2}})";
    const LookShelf shelf(folder);
    QCOMPARE(shelf.looks().size(), std::size_t(1));
    QCOMPARE(QString::fromStdString(shelf.looks()[0].name), QString("Good"));
  }

  void aFolderThatCannotBeWrittenIsSaid() {
    LookShelf shelf("/proc/no-such-place");
    const auto saved = shelf.save("Boats", {});
    QVERIFY(!saved && saved.error().code == ErrorCode::CannotWrite);
  }
};

QTEST_GUILESS_MAIN(TestLooks)
#include "test_looks.moc"
