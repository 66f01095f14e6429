// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/plan_words.h"

#include "exposure/marks.h"

#include <QLocale>
#include <QObject>

namespace ml {

QString timesWords(const std::vector<ExposureSettings>& frames) {
  QStringList times;
  for (const auto& f : frames) times << QString::fromStdString(print(f.time));
  return times.join(", ");
}

QStringList planReasons(const Plan& plan) {
  const auto ev = [](Stops s) { return QLocale().toString(s.value, 'f', 1); };
  const auto& c = plan.coverage;
  return {QObject::tr("Readings that must keep texture: EV %1 to EV %2, with %3 of margin above the brightest.")
              .arg(ev(plan.request.low), ev(plan.request.high),
                   QString::fromStdString(printAmount(plan.request.highlightMargin))),
          QObject::tr("The bracket records EV %1 to EV %2 at SNR %3 or better; the least is SNR %4 near EV %5.")
              .arg(ev(c.low), ev(c.high))
              .arg(plan.request.snrTarget)
              .arg(c.worstSnr, 0, 'f', 0)
              .arg(ev(c.worstAt))};
}

QString smallestWords(const Plan& plan) {
  return QObject::tr(
             "It is the fewest frames, then the least time, over every count, step and third-stop centre of \"%1\".")
      .arg(QString::fromStdString(plan.camera.name));
}

} // namespace ml
