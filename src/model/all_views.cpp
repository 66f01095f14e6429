// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/all_views.h"

#include "ingest/load_frame.h"
#include "model/combining.h"
#include "model/judging.h"
#include "model/view_edit.h"
#include "pipeline/report.h"
#include "session/view_positions.h"

#include <algorithm>
#include <utility>

namespace ml {
namespace {

/// What the field check says of the active set. Empty: a frame cannot be read, and combining will say so.
std::optional<ShootState> checkOf(const View& view, const Progress& progress) {
  if (view.activeSet < 0) return {};
  std::vector<std::shared_ptr<const Sketch>> sketches;
  const auto zones = judgeSetupOf(view).zones;
  for (const auto& member : view.sets[std::size_t(view.activeSet)].frames) {
    if (progress.stopRequested()) return {};
    auto frame = loadFrame(member.file);
    if (!frame) return {};
    turnLike(sketches, *frame);
    sketches.push_back(sketchOf(*frame, zones));
  }
  return judged(view, std::move(sketches), true);
}

/// Small, under the view's recipe.
QImage drawn(const CombinedView& made, const View& view, const Progress& progress) {
  const auto state = FinishState::make(made.picture, view.recipe, {}, progress);
  return state ? state->draw(view.recipe, progress).image : QImage();
}

} // namespace

AllViews::AllViews(Desk& desk, FinishedPicture& finished) : pictures(desk), desk_(desk) {
  connect(&desk_.job, &JobModel::closing, this, &AllViews::stop);
  connect(&desk_.job, &JobModel::jobOpened, this, [this] { problems_.clear(); });
  connect(&desk_.job, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    if (aspect == Aspect::Sets) problems_.erase(view);
    emit changed();
  });
  connect(&desk_.job, &JobModel::viewsChanged, this, &AllViews::changed);
  connect(&desk_.works.longWork, &Lane::runningChanged, this, [this](bool busy) {
    if (!busy) next();
  });
  connect(&desk_.works.batch, &Lane::progressed, this, [this](const QString&, double share) {
    share_ = share;
    emit changed();
  });
  connect(&finished, &FinishedPicture::judged, this, [this, &finished] {
    if (desk_.hasView()) pictures.finished(idOf(desk_.view()), finished.image());
  });
  connect(&pictures, &ViewPictures::changed, this, &AllViews::changed);
}

void AllViews::combineMissing() {
  if (!desk_.job.isOpen() || desk_.reading()) return;
  for (const View& v : desk_.job.job().views()) {
    const auto waits = [&](const Piece& p) { return p.view == idOf(v); };
    if (!v.combined && v.frames.size() > 1 && !problems_.contains(idOf(v)) && current_ != idOf(v) &&
        std::none_of(queue_.begin(), queue_.end(), waits))
      queue_.push_back({idOf(v), optionsOf(v), true});
  }
  next();
}

void AllViews::combine(const std::vector<std::string>& views, const CombineOptions& options) {
  if (desk_.reading()) return emit desk_.job.refused();
  for (const auto& view : views) {
    problems_.erase(view);
    std::erase_if(queue_, [&](const Piece& p) { return p.view == view; });
    if (const View* v = desk_.job.find(view); v && !v->frames.empty()) queue_.push_back({view, options, false});
  }
  next();
}

void AllViews::stop() {
  queue_.clear();
  current_.clear();
  desk_.works.batch.abandon();
  emit changed();
}

/// Only while nobody waits for anything else: memory holds one set of frames at a time.
void AllViews::next() {
  if (running() || queue_.empty() || desk_.busy()) return emit changed();
  const Piece piece = queue_.front();
  queue_.pop_front();
  const View* view = desk_.job.find(piece.view);
  if (!view || view->frames.empty() || (piece.onlyMissing && view->combined)) return next();
  current_ = piece.view;
  share_ = 0;
  CombineOptions options = piece.options;
  options.curves = desk_.curves;
  desk_.works.batch.start([this, piece, options, v = *view](const Progress& progress) -> std::function<void()> {
    const auto check = checkOf(v, progress);
    auto made = combineView(v, options, progress);
    if (!made) return [this, piece, e = made.error()] { ended(piece, e); };
    const QImage picture = keepSmall(v, drawn(*made, v, progress));
    return [this, piece, check, made = *made, picture, frames = v.frames] {
      const View* now = desk_.job.find(piece.view);
      if (now && now->frames == frames) { // else they changed meanwhile
        desk_.radiances.keep(piece.view, made.outcome.stamp, made.picture);
        if (check && now->activeSet >= 0)
          desk_.job.note(piece.view, Aspect::About, [&](View& changed) {
            keepCheck(changed, changed.sets[std::size_t(changed.activeSet)], check->verdict, check->judged);
          });
        desk_.job.note(piece.view, Aspect::Combined, [&](View& changed) { putOutcome(changed, made.outcome); });
        pictures.put(piece.view, picture);
        emit combined(piece.view);
      }
      ended(piece, {});
    };
  });
  emit changed();
}

void AllViews::ended(const Piece& piece, const std::optional<Error>& problem) {
  current_.clear();
  if (problem && problem->code == ErrorCode::Stopped)
    queue_.push_front(piece); // it gave way to what the user waits for
  if (problem && problem->code != ErrorCode::Stopped) problems_[piece.view] = problem->message;
  QMetaObject::invokeMethod(this, &AllViews::next, Qt::QueuedConnection); // when the lane is free
  emit changed();
}

void AllViews::leaveOut(const std::vector<std::string>& views, bool out) {
  QUndoStack& stack = desk_.job.undoStack();
  stack.beginMacro(out ? tr("views left out") : tr("views taken back"));
  for (const auto& view : views)
    if (const View* v = desk_.job.find(view); v && v->leftOut != out)
      desk_.job.edit(view, Aspect::About, tr("left out"), v->leftOut, out,
                     [](View& changed, bool value) { changed.leftOut = value; });
  stack.endMacro();
}

QString AllViews::state(const View& view) const {
  const std::string id = idOf(view);
  if (id == current_) return tr("combining, %1 %").arg(int(100 * share_));
  if (std::any_of(queue_.begin(), queue_.end(), [&](const Piece& p) { return p.view == id; }))
    return tr("waits to be combined");
  if (view.leftOut) return tr("left out");
  if (problems_.contains(id)) return tr("could not be combined");
  const StationStates s = stationStates(view);
  if (s.deliver == StationState::Done) return tr("delivered");
  if (s.deliver == StationState::OutOfDate) return tr("changed since delivered");
  if (s.combine == StationState::OutOfDate) return tr("frames changed");
  if (s.finish == StationState::Done) return tr("finished");
  if (view.combined) return tr("combined");
  const auto positions = viewPositions(view);
  const auto shot = std::count_if(positions.begin(), positions.end(), [](const ViewPosition& p) { return p.set >= 0; });
  if (positions.size() > 1 && shot > 0) return tr("%1 of %2 positions").arg(shot).arg(positions.size());
  if (view.frames.size() == 1) return tr("one frame");
  if (!view.frames.empty()) return tr("%1 frames").arg(view.frames.size());
  return view.plan ? tr("planned") : tr("not begun");
}

bool AllViews::wantsALook(const View& view) const {
  if (problems_.contains(idOf(view))) return true;
  const FrameSet* set = activeSetOf(view);
  return set && set->answer == answerName(Answer::DoesNotHold);
}

QString AllViews::says(const View& view) const {
  if (const auto problem = problems_.find(idOf(view)); problem != problems_.end())
    return QString::fromStdString(problem->second);
  const FrameSet* set = activeSetOf(view);
  if (set && !set->verdict.empty()) return QString::fromStdString(set->verdict);
  return view.combined ? QString::fromStdString(view.combined->verdict) : QString();
}

QString AllViews::verdict() const {
  const auto& views = desk_.job.job().views();
  const auto count = [&](auto&& is) { return int(std::count_if(views.begin(), views.end(), is)); };
  const int all = int(views.size()), combined = count([](const View&v) { return v.combined.has_value(); }),
            delivered = count([](const View&v) { return stationStates(v).deliver == StationState::Done; }),
            look = count([this](const View&v) { return wantsALook(v); });
  QString text = tr("%1 of %2 views are combined, %3 delivered").arg(combined).arg(all).arg(delivered);
  if (look > 0) text += look == 1 ? tr("; one wants a look") : tr("; %1 want a look").arg(look);
  return text + ".";
}

} // namespace ml
