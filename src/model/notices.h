// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <QObject>
#include <QString>

namespace ml {

/// What the user is told in passing. Models say it here; the window shows it.
class Notices : public QObject {
  Q_OBJECT

public:
  using QObject::QObject;
  void fail(const QString& sentence) { emit failed(sentence); }
  void fail(const Error& error) { emit failed(QString::fromStdString(error.message)); }
  /// False, and said, when it went wrong.
  bool check(const Result<void>& result) {
    if (!result) fail(result.error());
    return result.has_value();
  }
  /// Something worth knowing that is no failure.
  void tell(const QString& sentence) { emit told(sentence); }

signals:
  void failed(const QString& sentence);
  void told(const QString& sentence);
};

} // namespace ml
