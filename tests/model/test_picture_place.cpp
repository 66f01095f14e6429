// SPDX-License-Identifier: GPL-3.0-or-later
// Where a picture lies in the widget: whole, pixel by pixel, enlarged at the pointer.
#include "model/picture_place.h"

#include <QTest>

using namespace ml;

class TestPicturePlace : public QObject {
  Q_OBJECT

private:
  static PicturePlace made(double density = 1) {
    PicturePlace place;
    place.setRoom({800, 600}, density);
    place.setPicture({6000, 4000});
    return place;
  }

private slots:
  void wholeFitsInTheMiddle() {
    const PicturePlace place = made();
    const QRectF r = place.rect();
    QVERIFY(place.whole());
    QCOMPARE(r.center(), QPointF(400, 300));
    QVERIFY(std::abs(r.width() - (800 - 36)) < 1e-6 && std::abs(r.width() / r.height() - 1.5) < 1e-9);
    QCOMPARE(place.seen(), QRectF(0, 0, 1, 1));
  }

  void pixelByPixelHasThePlaceInTheMiddle() {
    for (const double density : {1.0, 2.0}) {
      PicturePlace place = made(density);
      place.showPixels({0.25, 0.75});
      QCOMPARE(place.zoom(), 1.0);
      QVERIFY(std::abs(place.rect().width() - 6000 / density) < 1e-9); // one pixel of the screen each
      const QPointF at = place.toWidget({0.25, 0.75});
      QVERIFY(QLineF(at, QPointF(400, 300)).length() < 1e-6);
      QVERIFY(std::abs(place.seen().width() - 800 * density / 6000) < 1e-9);
    }
  }

  void whatLiesUnderThePointerStays() {
    PicturePlace place = made();
    const QPointF pointer(520, 210);
    for (const double factor : {1.25, 1.25, 2.0, 1.5, 0.8, 1.25}) {
      const QPointF before = place.toPicture(pointer);
      place.zoomAt(pointer, factor);
      const QPointF after = place.toPicture(pointer);
      QVERIFY2(QLineF(before, after).length() < 1e-9, qPrintable(QString::number(place.zoom())));
    }
  }

  void aHundredPercentIsAPlaceToStop() {
    PicturePlace place = made();
    bool stopped = false;
    for (int i = 0; i < 30; ++i) {
      place.zoomAt({400, 300}, 1.3);
      stopped = stopped || place.zoom() == 1;
    }
    QVERIFY(stopped);
    QCOMPARE(place.zoom(), PicturePlace::kMostZoom);
    for (int i = 0; i < 60; ++i) place.zoomAt({400, 300}, 1 / 1.3);
    QVERIFY(place.whole()); // and never smaller than whole
  }

  void movingStopsAtTheEdge() {
    PicturePlace place = made();
    place.pan({50, 50}); // whole: nothing moves
    QCOMPARE(place.rect().center(), QPointF(400, 300));
    place.showPixels({0.5, 0.5});
    const QPointF before = place.toWidget({0.5, 0.5});
    place.pan({37, -21});
    QVERIFY(QLineF(place.toWidget({0.5, 0.5}), before + QPointF(37, -21)).length() < 1e-6);
    place.pan({1e6, 1e6});
    QVERIFY(!place.seen().isEmpty());
    QVERIFY(QLineF(place.rect().topLeft(), QPointF(400, 300)).length() < 1e-6);
  }
};

QTEST_GUILESS_MAIN(TestPicturePlace)
#include "test_picture_place.moc"
