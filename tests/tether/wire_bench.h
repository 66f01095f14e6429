// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "support/wait.h"
#include "tether/wired_camera.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <csignal>

namespace ml::test {

/// A camera that is a process of its own.
class StandInProcess {
public:
  explicit StandInProcess(const QStringList& more, int port = 0, const QString& card = {})
      : card_(card.isEmpty() ? own_.path() : card) {
    process_.setProcessChannelMode(QProcess::MergedChannels);
    QStringList options{"--world", "reading_room", "--port", QString::number(port), "--card", card_};
    if (!more.contains("--shrink"))
      options << "--shrink"
              << "8";
    if (!more.contains("--write"))
      options << "--write"
              << "0";
    process_.start(ML_STANDIN, options + more);
    if (!process_.waitForStarted()) return;
    while (!process_.canReadLine() && process_.waitForReadyRead(20000)) {
    }
    port_ = QString::fromUtf8(process_.readLine()).section(':', 1).toInt();
  }
  ~StandInProcess() { end(); }
  void end() {
    process_.terminate();
    process_.waitForFinished();
  }
  void kill() {
    process_.kill();
    process_.waitForFinished();
  }
  void mend() const { ::kill(pid_t(process_.processId()), SIGUSR1); }
  [[nodiscard]] int port() const { return port_; }
  [[nodiscard]] std::string address() const { return "127.0.0.1:" + std::to_string(port_); }
  [[nodiscard]] QString card() const { return card_; }

private:
  QTemporaryDir own_;
  QString card_;
  QProcess process_;
  int port_ = 0;
};

inline QByteArray bytesOf(const QString& file) {
  QFile f(file);
  return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
}

/// `count` frames `stops` apart from 2^-`first` s.
inline std::vector<ExposureSettings> ladder(int count, double stops, double first = 8) {
  std::vector<ExposureSettings> frames;
  for (int i = 0; i < count; ++i) frames.push_back({{std::exp2(-first + i * stops)}, {8}, {100}});
  return frames;
}

inline ShootOrder orderOf(const QString& folder, std::vector<ExposureSettings> frames) {
  ShootOrder order;
  order.folder = folder.toStdString();
  order.frames = std::move(frames);
  return order;
}

/// Empty when every frame lies in `folder` once, whole, as it lies on the card; else what is wrong.
inline QString wrongWith(const QString& folder, const QString& card, int frames, const QString& ending = "dng") {
  QList<QByteArray> onCard;
  for (const auto& name : QDir(card).entryList({"*." + ending.toUpper()}, QDir::Files))
    onCard << bytesOf(QDir(card).filePath(name));
  QList<QByteArray> seen;
  for (int i = 1; i <= frames; ++i) {
    const QByteArray bytes = bytesOf(QDir(folder).filePath(QString("frame-%1.%2").arg(i).arg(ending)));
    if (bytes.isEmpty()) return QString("frame %1 is missing").arg(i);
    if (seen.contains(bytes)) return QString("frame %1 is there twice").arg(i);
    if (!onCard.contains(bytes)) return QString("frame %1 is not what the card has").arg(i);
    seen << bytes;
  }
  if (QDir(folder).exists(".arriving")) return "something is left over";
  return {};
}

} // namespace ml::test
