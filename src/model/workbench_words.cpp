#include "exposure/marks.h"
#include "model/workbench.h"

#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
namespace {

QString text(const std::string& s) { return QString::fromStdString(s); }

std::string list(const std::vector<ExposureSettings>& frames) {
  std::string out;
  for (const auto& f : frames) out += (out.empty() ? "" : ", ") + print(f.time);
  return out;
}

} // namespace

QString Workbench::lightVerdict() const {
  const auto& readings = view().readings;
  if (proposals_ && readings.size() < 2) {
    const auto& z = *proposals_;
    return tr("The test frame shows %1EV %2 at the bright end and EV %3 at the dark one; take both, or click spots of your own.")
        .arg(z.brightest.atLeast ? tr("at least ") : QString()).arg(z.brightest.ev100.value, 0, 'f', 1).arg(z.darkest.ev100.value, 0, 'f', 1);
  }
  if (!camera_ && readings.empty()) return tr("These are your own frames; click a spot to read its light, or go on to Combine.");
  if (readings.empty()) return tr("Click the brightest thing that must keep its texture, then the darkest.");
  for (const auto& r : readings)
    if (r.keepTexture && r.atLeast)
      return tr("%1 is clipped in the test frame: it reads at least EV %2. Take a darker test frame and read it again.").arg(text(r.name)).arg(r.ev100.value, 0, 'f', 1);
  if (readings.size() == 1)
    return tr("%1 reads EV %2. Now click the other end of the light.").arg(text(readings[0].name)).arg(readings[0].ev100.value, 0, 'f', 1);
  const auto wanted = mustKeepOf(view());
  if (!wanted) return tr("Two readings must keep their texture before a bracket can be planned.");
  const SensorModel sensor(view().profile());
  const ExposureSettings any;
  const double one = (sensor.clipsAt(any) - sensor.floorAt(any, choices_.snrTarget)).value;
  return tr("The light runs from EV %1 to EV %2, %3 stops; one frame of this camera records %4.")
      .arg(wanted->low.value, 0, 'f', 1).arg(wanted->high.value, 0, 'f', 1).arg((wanted->high - wanted->low).value, 0, 'f', 1).arg(one, 0, 'f', 1);
}

QString Workbench::shootVerdict() const {
  const View& v = view();
  if (watched_ && shootState_.sketches.empty()) return tr("Watching %1: frames are taken as they are complete.").arg(text(watched_->folder().filename().string()));
  if (shot_.empty())
    return v.plan ? tr("Ready for %1: %2.").arg(v.plan->fired == 1 ? tr("one frame") : tr("%1 frames").arg(v.plan->frames.size()), text(list(v.plan->frames)))
                  : tr("There is no plan yet; take two readings at Light.");
  if (!shootState_.ended && busy()) {
    const std::size_t expected = v.activeSet >= 0 ? std::max(v.sets[std::size_t(v.activeSet)].planned.size(), shot_.size()) : shot_.size();
    for (const auto& j : shootState_.judged)
      if (!j.flaws.empty()) return tr("%1 of %2 frames are on disk. Frame %3: %4.").arg(shot_.size()).arg(expected).arg(j.frame + 1).arg(text(j.sentence));
    return tr("%1 of %2 frames are on disk, nothing wrong so far.").arg(shot_.size()).arg(expected);
  }
  if (!shootState_.verdict.sentence.empty()) return text(shootState_.verdict.sentence);
  return tr("%1 frames are on disk: %2.").arg(shot_.size()).arg(text(list(shot_)));
}

QString Workbench::verdictText() const {
  if (!hasView()) return tr("Drop a folder of bracketed frames here, or open the demo.");
  const View& v = view();
  switch (station_) {
  case Station::Light: return lightVerdict();
  case Station::Frames:
    if (!planProblem_.isEmpty()) return planProblem_;
    if (v.plan) return text(verdict(*v.plan));
    return v.world.empty() ? tr("These frames are already shot; go on to Combine.") : tr("A bracket needs two readings; take them at Light.");
  case Station::Shoot: return shootVerdict();
  case Station::Combine:
    if (states().combine == StationState::OutOfDate) return tr("The frames have changed since they were combined; combine again.");
    if (v.combined) return text(v.combined->verdict);
    return v.frames.empty() ? tr("There are no frames yet; shoot them first or drop a folder of your own.")
                            : tr("%1 frames are ready to combine.").arg(v.frames.size());
  case Station::Finish:
  case Station::Deliver: break;
  }
  if (!v.combined || !radiance_) return tr("Nothing is combined yet.");
  if (station_ == Station::Finish) {
    if (const Finding* found = worstFinding()) return text(sentence(*found, judgement()->scene)) + tr(" %1: press M.").arg(text(remedyWords(found->kind)));
    const ToneAnalysis& analysis = *finishAnalysis();
    const ToneCurve curve(placedTies(analysis, v.recipe.tone));
    return tr("%1 stops of light are placed on %2 stops of paper; %3 % of the picture is at white, %4 % at black%5.")
        .arg(analysis.brightest - analysis.darkest, 0, 'f', 1)
        .arg(std::min(0.0, curve(analysis.brightest)) - curve(analysis.darkest), 0, 'f', 1)
        .arg(100 * radiance_->finish.whiteShare, 0, 'f', 1)
        .arg(100 * radiance_->finish.blackShare, 0, 'f', 1)
        .arg(judgement() ? tr(", and nothing looks overdone") : QString());
  }
  return deliverVerdict();
}

std::vector<Workbench::FramePlace> Workbench::framePlaces() const {
  std::vector<FramePlace> places;
  if (!hasView()) return places;
  const View& v = view();
  const nlohmann::json report = v.combined ? v.combined->report : nlohmann::json::object();
  const CombineOptions options = combineOptions();
  for (const auto& file : v.frames) {
    FramePlace place;
    place.file = QString::fromStdString(file.filename().string());
    place.used = std::find(options.unused.begin(), options.unused.end(), file.filename().string()) == options.unused.end();
    place.line = place.details = place.file;
    int n = 0;
    if (report.contains("frames"))
      for (const auto& f : report["frames"]) {
        if (std::filesystem::path(f.value("file", "")).filename() == file.filename()) {
          place.merged = n;
          const double x = f.value("shift_x_px", 0.0), y = f.value("shift_y_px", 0.0), degrees = f.value("rotation_degrees", 0.0);
          const bool still = x == 0 && y == 0 && degrees == 0;
          place.line = tr("%1   %2   ").arg(n + 1).arg(text(f["settings"].value("time", ""))) +
                       (still ? tr("in place") : tr("%1 px  %2\u00b0").arg(std::hypot(x, y), 0, 'f', 1).arg(degrees, 0, 'f', 2).replace('-', QChar(0x2212)));
          place.details = tr("%1\nmoved %2 px across, %3 px down, turned %4\u00b0, size %5; %6 px are left over\n%7 % clipped, %8 % left out where things moved")
                              .arg(place.file).arg(x, 0, 'f', 1).arg(y, 0, 'f', 1).arg(degrees, 0, 'f', 2).arg(f.value("scale", 1.0), 0, 'f', 4)
                              .arg(f.value("residual_px", 0.0), 0, 'f', 2).arg(100 * f.value("clipped_share", 0.0), 0, 'f', 1)
                              .arg(100 * f.value("moved_share", 0.0), 0, 'f', 1).replace('-', QChar(0x2212));
          if (f.value("clipped_share", 0.0) > 0.97) place.note = tr("almost all of it is clipped: it may be left out");
          if (f.value("moved_share", 0.0) > 0.25) place.note = tr("much moved in it: it may be left out");
          if (f.value("exposure_estimated", false)) place.note = tr("its exposure is estimated from the picture");
          if (f.contains("note")) place.note = text(f["note"].get<std::string>());
        }
        ++n;
      }
    places.push_back(std::move(place));
  }
  std::stable_sort(places.begin(), places.end(), [](const FramePlace& a, const FramePlace& b) { return unsigned(a.merged) < unsigned(b.merged); });
  return places;
}

QString Workbench::reasoning() const {
  if (!hasView()) return tr("A folder of bracketed frames becomes a job with one view for each set found in it. Your files are never changed.");
  const View& v = view();
  QStringList lines;
  if ((station_ == Station::Light || station_ == Station::Frames || station_ == Station::Shoot) && v.plan) {
    const auto& c = v.plan->coverage;
    lines << tr("Readings that must keep texture: EV %1 to EV %2, with %3 of margin above the brightest.")
                 .arg(v.plan->request.low.value, 0, 'f', 1).arg(v.plan->request.high.value, 0, 'f', 1).arg(text(printAmount(v.plan->request.highlightMargin)));
    lines << tr("The bracket records EV %1 to EV %2 at SNR %3 or better; the least is SNR %4 near EV %5.")
                 .arg(c.low.value, 0, 'f', 1).arg(c.high.value, 0, 'f', 1).arg(v.plan->request.snrTarget).arg(c.worstSnr, 0, 'f', 0).arg(c.worstAt.value, 0, 'f', 1);
    if (station_ == Station::Shoot && !shootState_.judged.empty()) {
      for (const auto& j : shootState_.judged) lines << tr("Frame %1, %2: %3.").arg(j.frame + 1).arg(text(print(j.settings.time)), text(j.sentence));
    } else if (const auto* compared = comparison(); compared && station_ == Station::Frames) {
      lines << text(compared->reason) << text(compared->oneRaw) << text(compared->extraFrames);
    } else {
      lines << tr("It is the fewest frames, then the least time, over every count, step and third-stop centre of \"%1\".").arg(text(v.plan->camera.name));
    }
  } else if (station_ == Station::Finish && judgement()) {
    for (const Finding& f : judgement()->findings) lines << text(sentence(f, judgement()->scene)) + (f.tooMuch ? tr(" - %1").arg(text(remedyWords(f.kind))) : QString());
    lines << tr("The light was taken for %1.").arg(text(nameOf(finishAnalysis()->kind)));
  } else if (station_ == Station::Deliver) {
    for (const DeliveryOrder& o : deliveries())
      if (!o.problem.empty()) lines << text(o.problem);
    if (const QSize full = fullSize(); !full.isEmpty())
      for (const Target& t : targets()) lines << tr("%1: %2.").arg(text(t.name), text(sizeWords(t, full.width(), full.height())));
    lines << tr("The files lie in %1.").arg(text(v.deliveredFolder().string()));
  } else if (v.combined && v.combined->report.contains("frames")) {
    int n = 1;
    for (const auto& f : v.combined->report["frames"])
      lines << tr("Frame %1, %2: moved %3, %4 px and %5 degrees; left out in %6 % of the picture.")
                   .arg(n++).arg(text(f["settings"].value("time", ""))).arg(f.value("shift_x_px", 0.0), 0, 'f', 1)
                   .arg(f.value("shift_y_px", 0.0), 0, 'f', 1).arg(f.value("rotation_degrees", 0.0), 0, 'f', 2)
                   .arg(100 * f.value("moved_share", 0.0), 0, 'f', 1);
    if (const auto r = v.combined->report.find("response"); r != v.combined->report.end() && r->is_object()) {
      const double before = r->value("disagreement_before_stops", 0.0), after = r->value("disagreement_after_stops", 0.0);
      lines << (r->value("from_earlier_sets", false) ? tr("The camera's response curve is the one kept from its earlier sets; this one says too little of it.")
                : r->value("changed", false)
                    ? tr("The response curve was found from the set and is kept for this camera: with it frames agree to %1 stop, with the usual curve to %2.").arg(after, 0, 'f', 2).arg(before, 0, 'f', 2)
                    : tr("The usual response curve holds: frames agree to %1 stop.").arg(before, 0, 'f', 2));
    }
    lines << tr("Value 1 of the radiance is %1 cd/m2.").arg(v.combined->report.value("cd_per_m2_of_unit", 0.0), 0, 'f', 0);
  }
  if (lines.isEmpty()) lines << tr("There is nothing to explain yet.");
  return lines.join('\n');
}

} // namespace ml
