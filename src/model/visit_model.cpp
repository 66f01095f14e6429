// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/visit_model.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "ingest/where.h"
#include "model/text.h"
#include "plan/situation.h"
#include "visit/calendar.h"
#include "visit/visit_file.h"

#include <QDateTime>
#include <QUndoCommand>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kPlanWithinMs = 150; ///< After the last change of a hand that types.
constexpr int kTickMs = 20000;
constexpr double kFadeFelt = 0.05; ///< Stops a minute that a bracket is planned for.

year_month_day today(const std::string& zone) {
  return dateAt(zone, std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now()));
}

} // namespace

/// One change of the visit.
class VisitEdit final : public QUndoCommand {
public:
  VisitEdit(VisitModel& model, const QString& words, Visit before, Visit after)
      : QUndoCommand(words), model_(model), before_(std::move(before)), after_(std::move(after)) {
    setObsolete(before_ == after_);
  }
  void undo() override { model_.put(before_); }
  void redo() override { model_.put(after_); }

private:
  VisitModel& model_;
  Visit before_, after_;
};

VisitModel::VisitModel(Desk& desk, Clock clock) : desk_(desk), clock_(std::move(clock)) {
  if (!clock_) clock_ = [] { return std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now()); };
  timer_.setSingleShot(true);
  timer_.setInterval(kPlanWithinMs);
  connect(&timer_, &QTimer::timeout, this, &VisitModel::startPlanning);
  ticking_.setInterval(kTickMs);
  connect(&ticking_, &QTimer::timeout, this, &VisitModel::tick);
  ticking_.start();
  connect(&undo_, &QUndoStack::indexChanged, this, &VisitModel::changed);
  connect(&desk_.works.longWork, &Lane::runningChanged, this, [this](bool running) {
    if (!running && open_ && !planning()) tellFades(); // views were not to be changed when the plan came
  });
  connect(&desk_.job, &JobModel::closing, this, &VisitModel::flush);
  connect(&desk_.job, &JobModel::jobOpened, this, &VisitModel::opened);
  connect(&desk_.job, &JobModel::viewsChanged, this, [this] {
    if (open_) takeViewsOfJob();
  });
  connect(&desk_.job, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    if (!open_) return;
    if (aspect == Aspect::Plan || aspect == Aspect::About) takeViewsOfJob();
    if (aspect == Aspect::Sets) takeWhatWasShot(view);
  });
}

VisitModel::~VisitModel() {
  undo_.disconnect(this); // nobody is there to hear of it
  blockSignals(true);
  flush();
}

void VisitModel::opened() {
  open_ = true;
  dirty_ = fromNow_ = unreadable_ = false;
  fades_.clear();
  undo_.clear();
  plan_.reset();
  track_.reset();
  problem_.clear();
  auto kept = readVisit(desk_.job.job().folder());
  if (!kept) {
    desk_.notices.fail(kept.error());
    unreadable_ = true; // it is not written over
  }
  planned_ = kept && *kept;
  visit_ = planned_ ? **kept : Visit();
  if (!kept || !*kept) {
    visit_.name = desk_.job.job().name();
    visit_.place.timeZone = localZone();
    visit_.date = today(visit_.place.timeZone);
  }
  takeViewsOfJob();
  plan(false);
  emit changed();
}

/// Views that came or changed their names; those that were only planned stay.
void VisitModel::takeViewsOfJob() {
  Visit after = visit_;
  const auto& views = desk_.job.job().views();
  std::erase_if(after.views, [&](const VisitView& planned) {
    return !planned.folder.empty() &&
           std::none_of(views.begin(), views.end(), [&](const View& v) { return idOf(v) == planned.folder; });
  });
  for (const View& view : views) {
    auto it = std::find_if(after.views.begin(), after.views.end(),
                           [&](const VisitView& planned) { return planned.folder == idOf(view); });
    if (it == after.views.end()) // planned before it was in the job
      it = std::find_if(after.views.begin(), after.views.end(),
                        [&](const VisitView& planned) { return planned.folder.empty() && planned.name == view.name; });
    if (it != after.views.end()) {
      it->folder = idOf(view);
    } else {
      VisitView planned;
      planned.folder = idOf(view);
      after.views.push_back(planned);
      it = after.views.end() - 1;
    }
    it->name = view.name;
    if (!view.kind.empty()) it->kind = view.kind;
    if (view.plan) it->setSeconds = view.situation.timer.value + stabilityOf(*view.plan, view.situation).duration.value;
  }
  if (after == visit_) return;
  visit_ = std::move(after);
  plan(fromNow_);
  emit changed();
}

/// During the visit a view whose frames hold what they were shot for is done: what is left is planned from now.
void VisitModel::takeWhatWasShot(const std::string& name) {
  const View* view = desk_.job.find(name);
  const FrameSet* set = view ? activeSetOf(*view) : nullptr;
  if (!set || set->answer != "holds" || !underWay()) return;
  for (auto& planned : visit_.views) {
    if (planned.folder != name || planned.done) continue;
    if (int(view->sets.size()) < setsOf(planned)) return; // more positions are to come
    planned.done = true;
    dirty_ = true;
    plan(true);
    save();
    emit changed();
  }
}

void VisitModel::put(const Visit& visit) {
  visit_ = visit;
  dirty_ = planned_ = true;
  plan(fromNow_);
  save();
  emit changed();
}

void VisitModel::change(const QString& words, const std::function<void(Visit&)>& how) {
  if (!open_) return;
  Visit after = visit_;
  how(after);
  if (!(after == visit_)) undo_.push(new VisitEdit(*this, words, visit_, after));
}

void VisitModel::changeView(int view, const QString& words, const std::function<void(VisitView&)>& how) {
  if (view >= 0 && view < int(visit_.views.size())) change(words, [&](Visit& v) { how(v.views[std::size_t(view)]); });
}

void VisitModel::addView(const QString& name) {
  if (name.trimmed().isEmpty() || int(visit_.views.size()) >= kMostVisitViews) return;
  change(tr("view of the visit"), [&](Visit& v) {
    v.views.emplace_back();
    v.views.back().name = name.trimmed().toStdString();
  });
}

void VisitModel::removeView(int view) {
  if (view < 0 || view >= int(visit_.views.size()) || !visit_.views[std::size_t(view)].folder.empty()) return;
  change(tr("view out of the visit"), [&](Visit& v) { v.views.erase(v.views.begin() + view); });
}

void VisitModel::markDone(int view, bool done) {
  fromNow_ = underWay();
  changeView(view, done ? tr("view done") : tr("view not done"), [&](VisitView& v) { v.done = done; });
}

void VisitModel::planAgain() {
  plan(true);
  emit changed();
}

void VisitModel::tick() {
  if (!underWay()) return;
  const auto at = momentIn(visit_, *plan_, clock_());
  const auto late = [&](const PlannedView& entry) {
    return at.untilBegin + entry.length() < std::chrono::seconds{-60};
  };
  if (at.next >= 0 && late(plan_->order[std::size_t(at.next)])) plan(true);
  emit changed();
}

/// The light fades for a view's bracket as the sun says, unless the photographer says otherwise.
void VisitModel::tellFades() {
  if (!planned_ || !plan_ || desk_.busy()) return;
  for (const auto& entry : plan_->order) {
    const std::string& folder = visit_.views[std::size_t(entry.view)].folder;
    const View* view = folder.empty() ? nullptr : desk_.job.find(folder);
    if (!view) continue;
    const double told = fades_.contains(folder) ? fades_[folder] : 0, now = view->situation.fadeStopsPerMinute;
    const double fade = std::abs(entry.fade) < kFadeFelt ? 0 : std::round(std::abs(entry.fade) * 100) / 100;
    if (now != told || now == fade) continue;
    fades_[folder] = fade;
    desk_.job.note(folder, Aspect::Choices, [fade](View& v) { v.situation.fadeStopsPerMinute = fade; });
  }
}

bool VisitModel::underWay() const {
  const Moment now = clock_();
  return planned_ && plan_ && now >= plan_->span.from && now <= plan_->span.to;
}

bool VisitModel::takePlaceFromFrames() {
  for (const View& view : desk_.job.job().views())
    for (const auto& frame : view.frames)
      if (const auto where = whereTaken(frame)) {
        change(tr("place from the frames"), [&](Visit& v) {
          v.place.latitude = where->first;
          v.place.longitude = where->second;
        });
        return true;
      }
  desk_.notices.tell(tr("None of the frames says where it was taken; type latitude and longitude."));
  return false;
}

QString VisitModel::forecast() const {
  return forecast_ ? text(forecast_(int(visit_.views.size()))) : QString();
}

void VisitModel::setPace(std::vector<Pace> pace, std::function<std::string(int)> forecast) {
  pace_ = std::move(pace);
  forecast_ = std::move(forecast);
  if (open_) plan(fromNow_);
  emit changed();
}

QStringList VisitModel::zones() const {
  QStringList out;
  for (const auto& zone : timeZones()) out << text(zone);
  return out;
}

/// A plan that names views which are gone is none.
void VisitModel::plan(bool fromNow) {
  const auto gone = [&](int view) { return view >= int(visit_.views.size()); };
  if (plan_ && (std::any_of(plan_->order.begin(), plan_->order.end(), [&](const auto& e) { return gone(e.view); }) ||
                std::any_of(plan_->leftOut.begin(), plan_->leftOut.end(), [&](const auto& l) { return gone(l.view); })))
    plan_.reset();
  fromNow_ = fromNow;
  timer_.start();
}

void VisitModel::startPlanning() {
  find(false);
}

/// The order at once; what would let in the views that are left out afterwards.
void VisitModel::find(bool advise) {
  std::optional<VisitNow> now;
  if (fromNow_) {
    now = VisitNow{clock_(), -1};
    for (int i = 0; i < int(visit_.views.size()); ++i)
      if (visit_.views[std::size_t(i)].done) now->at = i;
  }
  desk_.works.planning.start(
      [this, visit = visit_, pace = pace_, now, advise](const Progress&) -> std::function<void()> {
        auto plan = planVisit(visit, pace, now, advise);
        std::shared_ptr<const SunTrack> track;
        if (plan) track = std::make_shared<const SunTrack>(visit.place, visit.span());
        return [this, plan = std::move(plan), track, visit, advise] {
          if (!(visit == visit_)) return; // it changed meanwhile: another plan is on its way
          plan_ = plan ? std::optional(*plan) : std::nullopt;
          problem_ = plan ? QString() : text(plan.error().message);
          track_ = track;
          tellFades();
          if (plan_ && !plan_->leftOut.empty() && !advise && !timer_.isActive()) find(true);
          emit changed();
        };
      });
}

QString VisitModel::verdict() const {
  if (!problem_.isEmpty()) return problem_;
  return plan_ ? text(ml::verdict(visit_, *plan_)) : tr("The order of the views is being found.");
}

QString VisitModel::nowWords() const {
  return plan_ && underWay() ? text(ml::nowWords(visit_, *plan_, clock_())) : QString();
}

Result<void> VisitModel::writeCalendar(const std::filesystem::path& file) const {
  if (!plan_)
    return fail(ErrorCode::InvalidArgument, phrase("There is no order yet; give the place and its time zone first."));
  return writeTextAtomically(file, toCalendar(visit_, *plan_, clock_()));
}

void VisitModel::save() {
  if (unreadable_ || desk_.reading()) return;
  const auto folder = desk_.job.job().folder();
  desk_.works.visitSaving.start([this, folder, visit = visit_](const Progress&) -> std::function<void()> {
    const auto written = writeVisit(folder, visit);
    return [this, written, visit] {
      if (!desk_.notices.check(written)) return;
      if (visit == visit_) dirty_ = false;
    };
  });
}

void VisitModel::flush() {
  if (!open_ || !dirty_ || unreadable_ || desk_.reading()) return;
  desk_.works.visitSaving.wait();
  if (dirty_ && desk_.notices.check(writeVisit(desk_.job.job().folder(), visit_))) dirty_ = false;
}

} // namespace ml
