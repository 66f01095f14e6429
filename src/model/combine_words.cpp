// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/combine_words.h"

#include "exposure/marks.h"

#include <QObject>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kNearlyAll = 0.97, kMuch = 0.25; ///< Shares of the picture from which leaving a frame out is proposed.

QString figure(double value, int places) {
  return QString::number(value, 'f', places).replace('-', QChar(0x2212));
}
QString timeOf(const CombineReport::Frame& f) {
  return QString::fromStdString(print(f.settings.time));
}

QString placeOf(const CombineReport::Frame& f) {
  if (f.shiftX == 0 && f.shiftY == 0 && f.degrees == 0) return QObject::tr("in place");
  return QObject::tr("%1 px  %2\u00b0").arg(figure(std::hypot(f.shiftX, f.shiftY), 1), figure(f.degrees, 2));
}

QString noteOf(const CombineReport::Frame& f) {
  if (!f.note.empty()) return QString::fromStdString(f.note);
  if (f.exposureEstimated) return QObject::tr("its exposure is estimated from the picture");
  if (f.movedShare > kMuch) return QObject::tr("much moved in it: it may be left out");
  if (f.clippedShare > kNearlyAll) return QObject::tr("almost all of it is clipped: it may be left out");
  return {};
}

QString curveWords(const CombineReport::Curve& curve) {
  if (curve.fromEarlierSets)
    return QObject::tr(
        "The camera's response curve is the one kept from its earlier sets; this one says too little of it.");
  if (!curve.changed)
    return QObject::tr("The usual response curve holds: frames agree to %1 stop.")
        .arg(figure(curve.disagreementBefore, 2));
  return QObject::tr("The response curve was found from the set and is kept for this camera: with it frames agree to "
                     "%1 stop, with the usual curve to %2.")
      .arg(figure(curve.disagreementAfter, 2), figure(curve.disagreementBefore, 2));
}

} // namespace

QStringList combineReasons(const CombineReport& report) {
  QStringList lines;
  int n = 1;
  for (const auto& f : report.frames)
    lines << QObject::tr("Frame %1, %2: moved %3, %4 px and %5 degrees; left out in %6 % of the picture.")
                 .arg(n++)
                 .arg(timeOf(f), figure(f.shiftX, 1), figure(f.shiftY, 1), figure(f.degrees, 2),
                      figure(100 * f.movedShare, 1));
  if (report.response) lines << curveWords(*report.response);
  lines << QObject::tr("Value 1 of the radiance is %1 cd/m2.").arg(figure(report.candelasOfUnit(), 0));
  return lines;
}

std::optional<FrameWords> frameWords(const CombineReport& report, const std::string& file) {
  const auto found = std::find_if(report.frames.begin(), report.frames.end(),
                                  [&](const auto& f) { return f.file.filename() == file; });
  if (found == report.frames.end()) return {};
  const CombineReport::Frame& f = *found;
  FrameWords words;
  words.merged = int(found - report.frames.begin());
  words.line = QString("%1   %2   %3").arg(words.merged + 1).arg(timeOf(f), placeOf(f));
  words.details = QObject::tr("%1\nmoved %2 px across, %3 px down, turned %4\u00b0, size %5; %6 px are left over\n%7 % "
                              "clipped, %8 % left out where things moved")
                      .arg(QString::fromStdString(file), figure(f.shiftX, 1), figure(f.shiftY, 1), figure(f.degrees, 2),
                           figure(f.scale, 4), figure(f.residual, 2), figure(100 * f.clippedShare, 1),
                           figure(100 * f.movedShare, 1));
  words.note = noteOf(f);
  return words;
}

} // namespace ml
