// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/interval_shooting.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

/// "4 min 10 s".
std::string spoken(double seconds) {
  const int whole = int(std::ceil(seconds));
  return whole >= 60 ? phrase("{} min {} s", whole / 60, whole % 60) : fmt::format("{} s", whole);
}

} // namespace

IntervalShooting::IntervalShooting(ShootModel& shoot) : shoot_(shoot) {
  connect(&shoot_, &ShootModel::setEnded, this, &IntervalShooting::setEnded);
  connect(&shoot_.desk().job, &JobModel::viewEntered, this, [this] { toCome_ = 0; });
}

void IntervalShooting::begin(double minutes, int sets) {
  Desk& desk = shoot_.desk();
  if (!desk.free() || !desk.camera.present() || !desk.view().plan || !(minutes > 0) || sets < 1) return;
  minutes_ = minutes;
  toCome_ = sets - 1;
  began_ = desk.camera.status()->clock;
  shoot_.shoot();
}

void IntervalShooting::setEnded(bool complete) {
  if (toCome_ == 0) return;
  if (complete) return waitForNext();
  shoot_.desk().notices.tell(tr("The interval ends here: the set is not complete."));
  toCome_ = 0;
}

void IntervalShooting::waitForNext() {
  shoot_.desk().works.longWork.start(
      [this, camera = shoot_.desk().camera.camera(),
       until = began_.value + 60 * minutes_](const Progress& progress) -> std::function<void()> {
        constexpr double kStep = 1;
        const double from = camera->status().clock.value;
        for (double now = from; now < until; now = camera->status().clock.value) {
          if (progress.stopRequested())
            return [this] {
              toCome_ = 0;
              emit shoot_.changed();
            };
          progress.at(phrase("Next set in {}", spoken(until - now)), (now - from) / (until - from));
          camera->wait({std::min(kStep, until - now)});
        }
        return [this, until] {
          began_ = {until};
          --toCome_;
          shoot_.shoot();
        };
      });
}

} // namespace ml
