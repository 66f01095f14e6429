// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/lane.h"

#include <QMetaObject>

namespace ml {

Lane::Lane(QObject* parent) : QObject(parent) {}

Lane::~Lane() {
  newest_.request();
  {
    const std::lock_guard lock(mutex_);
    waiting_.reset();
    over_ = true;
  }
  changed_.notify_all();
  if (thread_.joinable()) thread_.join();
}

void Lane::start(Work work) {
  newest_.request();
  newest_ = StopFlag{};
  {
    const std::lock_guard lock(mutex_);
    waiting_ = Piece{++number_, newest_, std::move(work)};
    if (!thread_.joinable()) thread_ = std::thread([this] { turn(); });
  }
  changed_.notify_all();
  if (running_) return;
  running_ = true;
  emit runningChanged(true);
}

void Lane::wait() {
  std::unique_lock lock(mutex_);
  changed_.wait(lock, [this] { return !busy_ && !waiting_; });
}

void Lane::stop() {
  newest_.request();
}

void Lane::abandon() {
  newest_.request();
  {
    std::unique_lock lock(mutex_);
    waiting_.reset();
    changed_.wait(lock, [this] { return !busy_; });
  }
  ++number_;
  if (!running_) return;
  running_ = false;
  emit runningChanged(false);
}

/// On the lane's thread, until the lane ends.
void Lane::turn() {
  for (;;) {
    Piece piece;
    {
      std::unique_lock lock(mutex_);
      changed_.wait(lock, [this] { return waiting_ || over_; });
      if (over_) return;
      piece = std::move(*waiting_);
      waiting_.reset();
      busy_ = true;
    }
    auto apply = done(piece);
    piece.work = {}; // what it held goes before anybody is told that it is over
    QMetaObject::invokeMethod(
        this, [this, number = piece.number, apply = std::move(apply)] { finish(number, apply); }, Qt::QueuedConnection);
    {
      const std::lock_guard lock(mutex_);
      busy_ = false;
    }
    changed_.notify_all();
  }
}

std::function<void()> Lane::done(const Piece& piece) {
  const auto told = [this, number = piece.number](const std::string& stage, double fraction) {
    const auto here = [this, number, stage, fraction] {
      if (number == number_ && running_) emit progressed(QString::fromStdString(stage), fraction);
    };
    QMetaObject::invokeMethod(this, here, Qt::QueuedConnection);
  };
  try {
    return piece.work({piece.stop, told});
  } catch (const std::bad_alloc&) {
    return [this] {
      emit failed(
          tr("There is not enough memory for this. Close other programs, or work on smaller frames, and try again."));
    };
  } catch (const std::exception& error) {
    return [this, why = QString::fromUtf8(error.what())] {
      emit failed(
          tr("This could not be done (%1). Nothing is lost: try again, or go on with something else.").arg(why));
    };
  }
}

void Lane::finish(quint64 number, const std::function<void()>& apply) {
  if (number != number_) return;
  running_ = false;
  if (apply) apply();
  if (!running_) emit runningChanged(false);
}

bool Works::settled() const {
  for (const Lane* lane :
       {&longWork, &preview, &judging, &detail, &beside, &measuring, &wiring, &delivery, &batch, &pictures, &small,
        &saving, &planning, &visitSaving, &logging, &reading, &searching, &practising})
    if (lane->running()) return false;
  return true;
}

void Works::abandon() {
  for (Lane* lane : {&longWork, &preview, &judging, &detail, &beside, &measuring, &wiring, &delivery, &batch, &pictures,
                     &small, &planning, &reading, &searching, &practising})
    lane->abandon();
}

} // namespace ml
