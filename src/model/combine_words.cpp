// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/combine_words.h"

#include "exposure/marks.h"

#include <QLocale>
#include <QObject>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kNearlyAll = 0.97, kMuch = 0.25; ///< Shares of the picture from which leaving a frame out is proposed.

QString figure(double value, int places) {
  return QLocale().toString(value, 'f', places).replace('-', QChar(0x2212));
}
QString timeOf(const CombineReport::Frame& f) {
  return QString::fromStdString(print(f.settings.time));
}

QString placeOf(const CombineReport::Frame& f) {
  if (f.flash) return QObject::tr("with flash");
  if (f.shiftX == 0 && f.shiftY == 0 && f.degrees == 0) return QObject::tr("not moved");
  const QString far = figure(std::hypot(f.shiftX, f.shiftY), 1);
  return std::abs(f.degrees) < 0.005 ? QObject::tr("moved %1 pixels").arg(far)
                                     : QObject::tr("moved %1 pixels, %2\u00b0").arg(far, figure(f.degrees, 2));
}

QString noteOf(const CombineReport::Frame& f) {
  if (!f.note.empty()) return QString::fromStdString(f.note);
  if (f.exposureEstimated) return QObject::tr("its exposure is estimated from the picture");
  if (f.flash) return {};
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

bool isLent(const View& view, const std::filesystem::path& file) {
  if (!view.combined) return false;
  const auto lent = view.lentFiles(view.combined->options.lent);
  return std::find(lent.begin(), lent.end(), file) != lent.end();
}

} // namespace

int frameNumber(const View& view, const std::filesystem::path& file) {
  if (view.activeSet < 0) return 0;
  const auto& members = view.sets[std::size_t(view.activeSet)].frames;
  const auto found =
      std::find_if(members.begin(), members.end(), [&](const auto& m) { return m.file.filename() == file.filename(); });
  if (found != members.end() && (found->file == file || !isLent(view, file))) return int(found - members.begin()) + 1;
  if (!view.combined) return 0;
  const auto lent = view.lentFiles(view.combined->options.lent);
  const auto at = std::find(lent.begin(), lent.end(), file);
  return at == lent.end() ? 0 : int(members.size()) + int(at - lent.begin()) + 1;
}

std::vector<int> frameNumbers(const View& view, const CombineReport& report) {
  std::vector<int> numbers;
  for (const auto& f : report.frames) numbers.push_back(frameNumber(view, f.file));
  return numbers;
}

QStringList combineReasons(const CombineReport& report, const std::vector<int>& numbers) {
  QStringList lines;
  std::vector<std::pair<int, const CombineReport::Frame*>> frames;
  for (std::size_t i = 0; i < report.frames.size(); ++i)
    frames.emplace_back(i < numbers.size() ? numbers[i] : int(i) + 1, &report.frames[i]);
  std::stable_sort(frames.begin(), frames.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  for (const auto& [number, f] : frames)
    lines << (f->flash ? QObject::tr("Frame %1, %2: with flash; it shows what every other frame clips.")
                             .arg(number)
                             .arg(timeOf(*f))
                       : QObject::tr("Frame %1, %2: %3; left out in %4 % of the picture.")
                             .arg(number)
                             .arg(timeOf(*f), placeOf(*f), figure(100 * f->movedShare, 1)));
  if (report.response) lines << curveWords(*report.response);
  lines << QObject::tr("In the radiance file the value 1 stands for %1 cd/m2.").arg(figure(report.candelasOfUnit(), 0));
  return lines;
}

QString meteredWords(const CombineReport& report, const std::vector<int>& numbers) {
  const int at = report.metered.frame;
  if (report.metered.ties.empty() || at < 0 || std::size_t(at) >= std::min(numbers.size(), report.frames.size()))
    return {};
  return QObject::tr("It is as light as frame %1, %2, which was metered for most of the scene.")
      .arg(numbers[std::size_t(at)])
      .arg(timeOf(report.frames[std::size_t(at)]));
}

std::optional<FrameWords> frameWords(const CombineReport& report, const std::filesystem::path& file, bool lent,
                                     int number) {
  // A job may have been moved since: the last folder is the set's.
  const auto found = std::find_if(report.frames.begin(), report.frames.end(), [&](const auto& f) {
    return f.lent == lent && f.file.filename() == file.filename() &&
           (!lent || f.file.parent_path().filename() == file.parent_path().filename());
  });
  if (found == report.frames.end()) return {};
  const CombineReport::Frame& f = *found;
  FrameWords words;
  words.merged = int(found - report.frames.begin());
  words.line = QString("%1   %2   %3").arg(number).arg(timeOf(f), placeOf(f));
  words.details =
      QObject::tr("%1\nmoved %2 pixels across, %3 down, turned %4\u00b0, size %5; %6 pixels are left over\n%7 % "
                  "clipped, %8 % left out where things moved")
          .arg(QString::fromStdString(file.filename().string()), figure(f.shiftX, 1), figure(f.shiftY, 1),
               figure(f.degrees, 2), figure(f.scale, 4), figure(f.residual, 2), figure(100 * f.clippedShare, 1),
               figure(100 * f.movedShare, 1));
  words.note = noteOf(f);
  return words;
}

} // namespace ml
