// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"

#include <QObject>
#include <QString>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>

namespace ml {

/// Background work of one kind, on a thread of its own. Only the newest piece counts: starting another asks the one
/// under way to stop, takes its place when it has, and never waits for it. What an overtaken piece brings is dropped,
/// by its number. A piece that throws becomes a sentence (`failed`), never the end of the program. All signals and
/// results arrive on the thread this object lives in.
class Lane : public QObject {
  Q_OBJECT

public:
  /// Runs on the other thread; what it returns runs here when the work was not overtaken.
  using Work = std::function<std::function<void()>(const Progress&)>;

  explicit Lane(QObject* parent = nullptr);
  /// Stops what is under way and waits for it.
  ~Lane() override;

  void start(Work work);
  void stop();
  /// Stops and waits; what it brings is dropped. Before what it uses is taken away.
  void abandon();
  /// Waits until nothing is under way; what it brings still arrives.
  void wait();
  [[nodiscard]] bool running() const { return running_; }

signals:
  void progressed(const QString& stage, double fraction);
  void runningChanged(bool running);
  void failed(const QString& sentence);

private:
  struct Piece {
    quint64 number = 0;
    StopFlag stop;
    Work work;
  };
  void turn();
  [[nodiscard]] std::function<void()> done(const Piece& piece);
  void finish(quint64 number, const std::function<void()>& apply);

  quint64 number_ = 0;
  bool running_ = false;
  StopFlag newest_;
  std::mutex mutex_;
  std::condition_variable changed_;
  std::optional<Piece> waiting_; ///< Guarded, as the next two.
  bool busy_ = false, over_ = false;
  std::thread thread_;
};

/// The lanes of the workbench. `longWork` is what the user waits for and can stop; the others follow the hand.
struct Works {
  Lane longWork;    ///< Shooting, combining, opening: one at a time, with progress and stop.
  Lane preview;     ///< The picture on screen.
  Lane judging;     ///< The finished picture's judgement, when the hand rests.
  Lane detail;      ///< Parts at full size.
  Lane beside;      ///< What the picture is compared with.
  Lane measuring;   ///< A spot through the finder.
  Lane wiring;      ///< A camera that is looked for, connected, or asked how it is.
  Lane delivery;    ///< The queue of files to write.
  Lane batch;       ///< Views that are combined while the hand is at another.
  Lane pictures;    ///< Small pictures of the views, read.
  Lane small;       ///< That of the view in hand, kept.
  Lane saving;      ///< Views to disk.
  Lane planning;    ///< The order of a visit.
  Lane visitSaving; ///< What was written of it to disk.
  Lane logging;     ///< The open job into the logbook.
  Lane reading;     ///< All of the logbook.
  Lane searching;   ///< In it.
  Lane practising;  ///< An exercise, prepared.

  [[nodiscard]] bool settled() const;
  /// Stops all and waits: before those that asked go.
  void abandon();
};

} // namespace ml
