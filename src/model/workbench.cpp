// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/workbench.h"

#include <algorithm>

namespace ml {

Workbench::Workbench(const std::filesystem::path& jobs) : desk(jobs) {
  logbook.setPracticeFolder(practiceFolder(jobs));
  connect(&logbook, &LogbookModel::learnt, this, &Workbench::takeWhatWasLearnt);
  for (StationModel* station :
       std::initializer_list<StationModel*>{&light, &frames, &shoot, &combine, &finish, &deliver})
    know(*station);
  connect(&desk.job, &JobModel::closing, &deliver, &DeliverModel::letGo);
  connect(&desk.job, &JobModel::viewEntered, this, &Workbench::viewEntered);
  connect(&desk.job, &JobModel::viewChanged, this, [this](const std::string&, Aspect aspect) {
    if (aspect != Aspect::Journal) tell(); // nothing that is shown; a hand may be typing
  });
  connect(&desk.job, &JobModel::undoChanged, this, &Workbench::tell);
  connect(&desk.works.longWork, &Lane::runningChanged, this, &Workbench::tell);
  connect(&desk.job, &JobModel::jobOpened, this, [this] {
    entered_.clear(); // its views may be named like the one that was in hand
    scales_.clear();
  });
  connect(&opening, &JobOpening::viewRead, this, &Workbench::viewRead);
  connect(&views, &AllViews::changed, this, [this] {
    if (entered()) emit viewsChanged();
  });
}

Workbench::~Workbench() {
  // Nobody is there to hear of the last file, nor of what goes down with the parts.
  blockSignals(true);
  for (QObject* part : std::initializer_list<QObject*>{&visit, &logbook, &practice}) part->blockSignals(true);
  desk.job.disconnect(this);
  desk.works.longWork.disconnect(this);
  views.disconnect(this);
  for (StationModel* station : path_) station->disconnect(this);
  deliver.letGo();
  desk.camera.giveUp();
  desk.works.abandon();
}

void Workbench::know(StationModel& station) {
  path_.push_back(&station);
  connect(&station, &StationModel::changed, this, &Workbench::tell);
  connect(&station, &StationModel::goTo, this, qOverload<const QString&>(&Workbench::goTo));
  connect(&station, &StationModel::pictureChanged, this, [this] {
    if (entered()) emit pictureChanged();
  });
}

/// Pace goes into plans of visits, the hand into plans of brackets, faults into what is practised next.
void Workbench::takeWhatWasLearnt() {
  const LogCases& cases = logbook.cases();
  visit.setPace(ownPace(cases), [this](int count) { return forecast(logbook.cases(), count); });
  const auto curve = handCurve(cases);
  desk.habits.handStops = curve ? std::optional(curve->stops) : std::nullopt;
  FaultCounts wentWrong;
  for (const auto& fault : cases.faults) ++wentWrong[fault.kind];
  practice.refresh(wentWrong);
}

void Workbench::tell() {
  if (entered()) emit changed();
}

StationModel& Workbench::add(std::unique_ptr<StationModel> station) {
  know(*station);
  added_.push_back(std::move(station));
  return *added_.back();
}

void Workbench::goTo(const QString& id) {
  const auto found = std::find_if(path_.begin(), path_.end(), [&](const StationModel* s) { return s->id() == id; });
  if (found != path_.end()) goTo(int(found - path_.begin()));
}

void Workbench::goTo(int index) {
  if (!hasView() || index < 0 || index >= int(path_.size()) || index == current_) return;
  if (&station() == &finish) chronicle.judged(finish.verdict());
  station().leave();
  current_ = index;
  station().enter();
  emit changed();
  emit pictureChanged();
}

void Workbench::selectView(int index) {
  if (!busy()) desk.job.select(index);
}

bool Workbench::canUndo() {
  return desk.free() && (desk.job.canBringBack() || desk.job.undoStack().canUndo());
}

void Workbench::undo() {
  if (!canUndo()) return;
  if (desk.job.canBringBack())
    desk.notices.check(desk.job.bringBack());
  else
    desk.job.undoStack().undo();
}

void Workbench::redo() {
  if (canRedo()) desk.job.undoStack().redo();
}

bool Workbench::settled() const {
  return desk.works.settled() && !desk.saver.waiting() && !finished.waiting() && !views.waiting();
}

/// Where the work on this view goes on.
void Workbench::viewEntered() {
  const View& v = view();
  entered_ = idOf(v);
  station().leave();
  const QString& where = v.combined ? stations::kFinish : v.frames.empty() ? stations::kLight : stations::kCombine;
  current_ = int(std::find_if(path_.begin(), path_.end(), [&](const StationModel* s) { return s->id() == where; }) -
                 path_.begin());
  opening.readView();
  deliver.sayWhatWaits();
  emit changed();
  emit pictureChanged();
}

void Workbench::viewRead(const std::vector<ExposureSettings>& shot,
                         const std::shared_ptr<const CombinedPicture>& picture) {
  shoot.opened(shot);
  finished.opened(picture);
  station().enter();
  emit changed();
}

QString Workbench::verdict() const {
  return hasView() ? station().verdict() : tr("Drop a folder of bracketed frames here, or open the demo.");
}

QString Workbench::reasoning() const {
  if (!hasView())
    return tr("A folder of bracketed frames becomes a job with one view for each set found in it. Your files are never "
              "changed.");
  const QStringList lines = station().reasons();
  return lines.isEmpty() ? tr("There is nothing to explain yet.") : lines.join('\n');
}

LadderData Workbench::ladder() const {
  if (!hasView()) return {};
  LadderContent content;
  const auto [scale, first] =
      scales_.try_emplace(idOf(view()), LadderData::Stretch{LadderContent::kUsualBottom, LadderContent::kUsualTop});
  content.scale = &scale->second;
  content.fired = shoot.toFire();
  content.shot = shoot.shot();
  content.judged = shoot.check().judged;
  content.scene = desk.scene ? &*desk.scene : nullptr;
  content.analysis = finished.analysis();
  content.paper = finished.paper();
  content.ev100OfUnit = finished.ev100OfUnit();
  content.combined = view().combined ? view().combined->report.get() : nullptr;
  station().addTo(content);
  return ladderOf(view(), content);
}

} // namespace ml
