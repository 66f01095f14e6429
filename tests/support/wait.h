// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QElapsedTimer>
#include <QTest>
#include <functional>

namespace ml::test {

/// Runs the event loop until `condition` holds; false when it never does. The limit only ends a hopeless wait.
inline bool waitFor(const std::function<bool()>& condition, int hopelessAfterMs = 120000) {
  return QTest::qWaitFor(condition, hopelessAfterMs);
}

} // namespace ml::test
