// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QProcess>
#include <QString>
#include <QStringList>

namespace ml::test {

/// What the command line answered.
struct Outcome {
  int code = -1;
  QString out, error;
};

inline Outcome run(const QStringList& arguments) {
  constexpr int kHopelessMs = 300000;
  QProcess process;
  process.start(ML_CLI, arguments);
  if (!process.waitForFinished(kHopelessMs)) return {};
  return {process.exitCode(), QString::fromUtf8(process.readAllStandardOutput()),
          QString::fromUtf8(process.readAllStandardError())};
}

} // namespace ml::test
