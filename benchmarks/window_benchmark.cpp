// SPDX-License-Identifier: GPL-3.0-or-later
// How long the window lets the hand wait: the longest time between two turns of the event loop while the demo is
// opened, walked from Light to Finish and dragged. Nothing is shown: QT_QPA_PLATFORM=offscreen ml_window_benchmark
#include "support/scenes.h"
#include "support/wait.h"
#include "support/window.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QSlider>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <functional>

using namespace ml;

namespace {

/// Times every event that is delivered from the loop; what an event delivers in turn is part of it.
class Watched : public QApplication {
public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override {
    if (depth_++ > 0) {
      const bool done = QApplication::notify(receiver, event);
      --depth_;
      return done;
    }
    QElapsedTimer timer;
    timer.start();
    const bool done = QApplication::notify(receiver, event);
    --depth_;
    gaps.push_back(double(timer.nsecsElapsed()) / 1e6);
    return done;
  }
  std::vector<double> gaps; ///< ms

private:
  int depth_ = 0;
};

void report(Watched& app, const char* what) {
  std::sort(app.gaps.begin(), app.gaps.end());
  if (!app.gaps.empty())
    std::printf("%-28s longest %6.1f ms, 99.9 %% below %6.1f ms, %zu turns\n", what, app.gaps.back(),
                app.gaps[std::size_t(double(app.gaps.size() - 1) * 0.999)], app.gaps.size());
  app.gaps.clear();
}

void drag(QWidget* widget, QPointF from, QPointF to, int steps) {
  const auto at = [&](double t) { return QPoint((from + (to - from) * t).toPoint()); };
  QTest::mousePress(widget, Qt::LeftButton, {}, at(0));
  for (int i = 1; i <= steps; ++i) {
    const QPoint p = at(double(i) / steps);
    QMouseEvent move(QEvent::MouseMove, p, widget->mapToGlobal(p), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(widget, &move);
    QTest::qWait(8);
  }
  QTest::mouseRelease(widget, Qt::LeftButton, {}, at(1));
}

/// Work that can be stopped.
struct Stoppable {
  std::function<void()> begin, stop;
  std::function<bool()> running;
};

/// How long work goes on after it is told to stop, at moments all over it.
void reportStops(const char* what, const Stoppable& work, MainWindow& window) {
  constexpr int kMoments = 12;
  const auto untilDone = [&work](int atMost) {
    QElapsedTimer timer;
    timer.start();
    while (work.running() && timer.elapsed() < atMost) QTest::qWait(1);
    return double(timer.nsecsElapsed()) / 1e6;
  };
  constexpr int kForGood = 600000;
  work.begin();
  const double whole = untilDone(kForGood);
  (void)test::settled(window);
  std::vector<double> waits;
  for (int i = 0; i < kMoments; ++i) {
    work.begin();
    (void)untilDone(int(whole * (i + 0.5) / kMoments));
    if (!work.running()) continue;
    work.stop();
    waits.push_back(untilDone(kForGood));
    (void)test::settled(window);
  }
  std::sort(waits.begin(), waits.end());
  if (!waits.empty())
    std::printf("%-28s takes %.1f s; stopped %zu times, after %.0f ms at the median and %.0f ms at most\n", what,
                whole / 1000, waits.size(), waits[waits.size() / 2], waits.back());
}

/// Five frames of 24 megapixels, combined and delivered.
void stops(MainWindow& window, const QTemporaryDir& dir) {
  const auto card = test::pathOf(dir) / "card";
  (void)test::shootScene(test::texturedScene(6000, 4000, 12, 5), test::exposedAt({3, 5, 7, 9, 11}), FrameFormat::Jpeg,
                         card);
  window.openPaths({QString::fromStdString(card.string())});
  (void)test::settled(window);
  Workbench& bench = window.workbench();
  reportStops(
      "combining",
      {[&bench] { bench.combine.combine({}); }, [&bench] { bench.stopWork(); }, [&bench] { return bench.busy(); }},
      window);
  bench.combine.combine({});
  (void)test::settled(window);
  bench.goTo(stations::kDeliver);
  (void)test::settled(window);
  double exposure = 0;
  const auto deliverAnew = [&] {
    Recipe recipe = bench.view().recipe;
    recipe.tone.exposure = exposure += 0.01;
    bench.finish.setRecipe(recipe);
    (void)test::settled(window);
    bench.deliver.deliver({{"jpeg", "print", "exr"}, false, {}, kNamePattern, {}});
  };
  reportStops("delivering",
              {deliverAnew, [&bench] { bench.deliver.pause(); }, [&bench] { return bench.deliver.running(); }}, window);
}

} // namespace

int main(int count, char** arguments) {
  Watched app(count, arguments);
  test::prepareWindows();
  QTemporaryDir jobs;
  MainWindow window(jobs.filePath("jobs").toStdString());
  window.resize(1280, 800);
  window.show();
  QTest::qWait(50);
  const bool onlyStops = app.arguments().contains("--stops");
  if (onlyStops) return stops(window, jobs), 0;
  app.gaps.clear();
  test::click(test::visible<QPushButton>(window, "openDemo"));
  (void)test::settled(window);
  report(app, "opening the demo");
  test::clickPicture(window, 0.33, 0.235);
  test::clickPicture(window, 0.165, 0.66);
  (void)test::settled(window);
  test::clickNext(window);
  test::clickNext(window);
  report(app, "readings and plan");
  test::clickNext(window);
  (void)test::settled(window);
  report(app, "shooting a set");
  test::clickNext(window);
  test::clickNext(window);
  (void)test::settled(window);
  report(app, "combining it");
  test::clickNext(window);
  (void)test::settled(window);
  auto* picture = window.findChild<PictureView*>("picture");
  for (int i = 0; i < 4; ++i)
    drag(picture, picture->widgetPlace(0.2 + 0.15 * i, 0.6), picture->widgetPlace(0.2 + 0.15 * i, 0.5), 40);
  for (auto* slider : window.findChildren<QSlider*>())
    if (slider->isVisible() && slider->isEnabled())
      drag(slider, QPointF(slider->width() / 2.0, slider->height() / 2.0),
           QPointF(slider->width() * 0.7, slider->height() / 2.0), 30);
  (void)test::settled(window);
  report(app, "finish, dragged");
  for (const Qt::Key key : {Qt::Key_4, Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_6, Qt::Key_5}) {
    QTest::keyClick(&window, key);
    (void)test::settled(window);
  }
  report(app, "from station to station");
  stops(window, jobs);
  return 0;
}
