#pragma once
#include "base/progress.h"

#include <QObject>
#include <QString>
#include <functional>
#include <thread>

namespace ml {

/// One piece of work at a time on a thread of its own. Starting another stops the old one; what an overtaken piece brings is
/// dropped. All signals and results arrive on the thread this object lives in.
class Background : public QObject {
  Q_OBJECT

public:
  /// Runs on the other thread; what it returns runs here when the work was not overtaken.
  using Work = std::function<std::function<void()>(const Progress&)>;

  explicit Background(QObject* parent = nullptr);
  ~Background() override;

  void start(Work work);
  void stop();
  /// Stops and waits; what it brings is dropped.
  void abandon();
  [[nodiscard]] bool running() const { return running_; }

signals:
  void progressed(const QString& stage, double fraction);
  void runningChanged(bool running);

private:
  void finish(quint64 number, const std::function<void()>& apply);

  std::thread thread_;
  StopFlag stop_;
  quint64 number_ = 0;
  bool running_ = false;
};

} // namespace ml
