// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures on a screen whose colours are not sRGB: against Little CMS, and under a real X server whose root window
// carries a profile.
#include "app/monitor_colour.h"
#include "app/picture_view.h"
#include "support/window.h"

#include <QColorSpace>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <array>
#include <lcms2.h>
#include <xcb/xcb.h>

using namespace ml;
using namespace ml::test;

namespace {

using Primaries = cmsCIExyYTRIPLE;
constexpr Primaries kWide{{0.69, 0.31, 1}, {0.2, 0.72, 1}, {0.15, 0.05, 1}};

/// A screen of wide primaries and a plain power, by Little CMS.
QByteArray screenProfile(double power) {
  const cmsCIExyY white{0.3127, 0.3290, 1};
  cmsToneCurve* curve = cmsBuildGamma(nullptr, power);
  cmsToneCurve* curves[3] = {curve, curve, curve};
  cmsHPROFILE profile = cmsCreateRGBProfile(&white, &kWide, curves);
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  QByteArray bytes(int(size), 0);
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  cmsFreeToneCurve(curve);
  return bytes;
}

/// What Little CMS sends to the screen for an sRGB colour.
std::array<int, 3> byLittleCms(const QByteArray& icc, const QColor& srgb) {
  cmsHPROFILE from = cmsCreate_sRGBProfile(), to = cmsOpenProfileFromMem(icc.constData(), cmsUInt32Number(icc.size()));
  cmsHTRANSFORM transform =
      cmsCreateTransform(from, TYPE_RGB_8, to, TYPE_RGB_8, INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
  const std::uint8_t in[3] = {std::uint8_t(srgb.red()), std::uint8_t(srgb.green()), std::uint8_t(srgb.blue())};
  std::uint8_t out[3];
  cmsDoTransform(transform, in, out, 1);
  cmsDeleteTransform(transform);
  cmsCloseProfile(from);
  cmsCloseProfile(to);
  return {out[0], out[1], out[2]};
}

const std::array kColours{QColor(255, 0, 0),     QColor(0, 200, 30),    QColor(40, 60, 230), QColor(128, 128, 128),
                          QColor(210, 170, 120), QColor(255, 255, 255), QColor(12, 10, 8)};

bool near(QRgb a, const std::array<int, 3>& b, int within) {
  return std::abs(qRed(a) - b[0]) <= within && std::abs(qGreen(a) - b[1]) <= within &&
         std::abs(qBlue(a) - b[2]) <= within;
}

/// The rest of the test under X: the window finds what the root window carries. 0: it does.
int underX() {
  MonitorColour expected = MonitorColour::ofProfile(screenProfile(2.4));
  QTemporaryDir dir;
  MainWindow window(dir.path().toStdString());
  window.show();
  if (!QTest::qWaitForWindowExposed(&window)) return 2;
  if (monitorColour().isSrgb()) return 3;
  QImage picture(8, 8, QImage::Format_RGB32);
  picture.fill(QColor(210, 170, 120));
  return monitorColour().shown(picture).pixel(4, 4) == expected.shown(picture).pixel(4, 4) ? 0 : 4;
}

/// Hangs a profile on the root window, as colour management daemons do (ICC Profiles in X, 0.4).
bool hang(const QByteArray& display, const QByteArray& icc) {
  xcb_connection_t* connection = xcb_connect(display.constData(), nullptr);
  if (xcb_connection_has_error(connection)) return false;
  const char name[] = "_ICC_PROFILE";
  auto* atom = xcb_intern_atom_reply(connection, xcb_intern_atom(connection, false, sizeof name - 1, name), nullptr);
  const xcb_window_t root = xcb_setup_roots_iterator(xcb_get_setup(connection)).data->root;
  auto* refused = xcb_request_check(
      connection, xcb_change_property_checked(connection, XCB_PROP_MODE_REPLACE, root, atom->atom, XCB_ATOM_CARDINAL, 8,
                                              std::uint32_t(icc.size()), icc.constData()));
  const bool done = !refused;
  std::free(refused);
  std::free(atom);
  xcb_disconnect(connection);
  return done;
}

} // namespace

class TestMonitor : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }
  void cleanup() { setMonitorProfile({}); }

  void coloursAreThoseOfLittleCms() {
    const QByteArray icc = screenProfile(2.4);
    const MonitorColour screen = MonitorColour::ofProfile(icc);
    QVERIFY(!screen.isSrgb());
    for (const QColor& colour : kColours) {
      QImage picture(4, 4, QImage::Format_RGB32);
      picture.fill(colour);
      const auto expected = byLittleCms(icc, colour);
      const QRgb is = screen.shown(picture).pixel(1, 1);
      QVERIFY2(near(is, expected, 2), qPrintable(QString("%1: %2 %3 %4, not %5 %6 %7")
                                                     .arg(colour.name())
                                                     .arg(qRed(is))
                                                     .arg(qGreen(is))
                                                     .arg(qBlue(is))
                                                     .arg(expected[0])
                                                     .arg(expected[1])
                                                     .arg(expected[2])));
    }
  }

  void whatIsNoProfileLeavesThePictureAndIsSaid() {
    for (const QByteArray& bytes : {QByteArray("no profile"), QByteArray(200, '\0'), screenProfile(2.2).left(300)}) {
      const MonitorColour screen = MonitorColour::ofProfile(bytes);
      QVERIFY(screen.isSrgb());
      QVERIFY(screen.words().contains("cannot be used"));
    }
    QVERIFY(MonitorColour().words().startsWith("sRGB"));
    QVERIFY(!MonitorColour::ofProfile(screenProfile(2.2)).words().startsWith("sRGB"));
  }

  /// The picture is drawn in the screen's colours; what is copied, dragged out and delivered stays as it is.
  void thePictureIsDrawnInTheScreensColours() {
    PictureView view;
    view.resize(400, 300);
    QImage picture(64, 48, QImage::Format_RGB32);
    picture.fill(QColor(0, 200, 30));
    view.setPicture(picture);
    view.show();
    const auto middle = [&view] { return view.grab().toImage().pixel(200, 150); };
    QCOMPARE(middle(), picture.pixel(0, 0));
    const QByteArray icc = screenProfile(2.4);
    QVERIFY(setMonitorProfile(icc));
    QVERIFY(!setMonitorProfile(icc));
    QVERIFY(near(middle(), byLittleCms(icc, QColor(0, 200, 30)), 2));
    QCOMPARE(view.picture().pixel(0, 0), picture.pixel(0, 0));
    picture.fill(QColor(210, 170, 120));
    view.setPicture(picture);
    QVERIFY(near(middle(), byLittleCms(icc, QColor(210, 170, 120)), 2));
  }

  void withoutAServerThereIsNone() {
    QVERIFY(profileOfScreen(QGuiApplication::primaryScreen()).isEmpty());
    QVERIFY(profileOfScreen(nullptr).isEmpty());
  }

  void theProfileOfTheScreenIsFoundUnderX() {
    QProcess server;
    server.setProgram("Xvfb");
    server.setArguments({"-displayfd", "1", "-screen", "0", "1400x900x24", "-nolisten", "tcp", "-noreset"});
    server.start();
    if (!server.waitForStarted()) QSKIP("There is no Xvfb here.");
    QVERIFY(waitFor([&server] { return server.waitForReadyRead(10) || server.bytesAvailable() > 0; }));
    const QByteArray display = ":" + server.readAllStandardOutput().trimmed();
    QVERIFY(hang(display, screenProfile(2.4)));
    QProcess window;
    QProcessEnvironment there = QProcessEnvironment::systemEnvironment();
    there.insert("QT_QPA_PLATFORM", "xcb");
    there.insert("DISPLAY", display);
    window.setProcessEnvironment(there);
    window.setProcessChannelMode(QProcess::ForwardedErrorChannel);
    window.start(QCoreApplication::applicationFilePath(), {"--under-x"});
    QVERIFY(window.waitForFinished(60000));
    server.terminate();
    server.waitForFinished();
    QCOMPARE(window.exitStatus(), QProcess::NormalExit);
    QCOMPARE(window.exitCode(), 0);
  }
};

int main(int count, char** arguments) {
  QApplication application(count, arguments);
  if (QCoreApplication::arguments().contains("--under-x")) {
    prepareWindows();
    return underX();
  }
  TestMonitor test;
  return QTest::qExec(&test, count, arguments);
}

#include "test_monitor.moc"
