// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/workbench.h"
#include "support/scenes.h"
#include "support/wait.h"

namespace ml::test {

/// A workbench over a folder of its own, for tests of models without a window.
struct BenchInAFolder {
  QTemporaryDir dir;
  Workbench bench{pathOf(dir) / "jobs"};

  [[nodiscard]] bool settled() {
    return waitFor([this] { return bench.settled(); });
  }
  /// A job of three frames of a still scene; false when it did not come about.
  [[nodiscard]] bool openFrames() {
    const auto card = pathOf(dir) / "card";
    (void)shootScene(texturedScene(420, 300, 12, 5), exposedAt({3, 7, 11}), FrameFormat::Jpeg, card);
    bench.opening.takeFiles({QString::fromStdString(card.string())}, bench.desk.jobsFolder);
    return settled() && bench.hasView() && bench.view().frames.size() == 3;
  }
  [[nodiscard]] bool combineAll() {
    bench.combine.combine({});
    return settled() && bench.view().combined.has_value();
  }
  [[nodiscard]] bool openDemo() {
    return bench.opening.openDemo(bench.desk.jobsFolder) && settled() && bench.hasView();
  }
};

} // namespace ml::test
