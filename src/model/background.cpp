#include "model/background.h"

#include <QMetaObject>

namespace ml {

Background::Background(QObject* parent) : QObject(parent) {}

Background::~Background() {
  stop_.request();
  if (thread_.joinable()) thread_.join();
}

void Background::start(Work work) {
  stop_.request();
  if (thread_.joinable()) thread_.join();
  stop_ = StopFlag{};
  const quint64 number = ++number_;
  const Progress progress{stop_, [this, number](const std::string& stage, double fraction) {
                            QMetaObject::invokeMethod(
                                this,
                                [this, number, stage, fraction] {
                                  if (number == number_ && running_) emit progressed(QString::fromStdString(stage), fraction);
                                },
                                Qt::QueuedConnection);
                          }};
  if (!running_) {
    running_ = true;
    emit runningChanged(true);
  }
  thread_ = std::thread([this, number, progress, work = std::move(work)] {
    auto apply = work(progress);
    QMetaObject::invokeMethod(this, [this, number, apply = std::move(apply)] { finish(number, apply); }, Qt::QueuedConnection);
  });
}

void Background::stop() { stop_.request(); }

void Background::abandon() {
  stop_.request();
  if (thread_.joinable()) thread_.join();
  ++number_;
  if (!running_) return;
  running_ = false;
  emit runningChanged(false);
}

void Background::finish(quint64 number, const std::function<void()>& apply) {
  if (number != number_) return;
  running_ = false;
  if (apply) apply();
  if (!running_) emit runningChanged(false);
}

} // namespace ml
