// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/shoot_model.h"

#include "base/phrase.h"
#include "exposure/marks.h"
#include "ingest/load_frame.h"
#include "model/plan_words.h"
#include "model/view_edit.h"
#include "plan/shot_list.h"
#include "session/shooting.h"

#include <algorithm>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr int kMostLooks = 240; ///< Of the finder while waiting for a lull: a minute of the camera's time.

/// Lets time pass until two looks through the finder show next to nothing that moved. False when it never came.
bool lullCame(Camera& camera, const ExposureSettings& settings, const Progress& progress) {
  std::optional<Image<std::uint8_t>> before;
  for (int look = 0; look < kMostLooks && !progress.stopRequested(); ++look) {
    progress.at(phrase("Hold still: waiting for a lull"), double(look) / kMostLooks);
    auto now = camera.liveView(settings);
    if (!now) return true; // shooting will say what is wrong
    if (before && changedShare(before->view(), now->view()) < kStillShare) return true;
    before = std::move(*now);
    camera.wait({0.25});
  }
  return false;
}

std::vector<bool> usesOf(const FrameSet& set) {
  std::vector<bool> uses;
  for (const auto& member : set.frames) uses.push_back(member.used);
  return uses;
}

FrameSet* setNamed(View& view, const std::string& name) {
  const auto found =
      std::find_if(view.sets.begin(), view.sets.end(), [&](const FrameSet& s) { return s.name == name; });
  return found == view.sets.end() ? nullptr : &*found;
}

} // namespace

std::vector<ExposureSettings> firedOf(const Plan& plan, BracketOrder order) {
  std::vector<ExposureSettings> frames;
  for (const auto& run : runsOf(plan))
    for (const auto& frame : inOrder(run, order)) frames.push_back(frame);
  return frames;
}

ShootModel::ShootModel(Desk& desk) : StationModel(desk), watch_(desk.notices) {
  connect(&desk_.job, &JobModel::viewEntered, this, [this] {
    watch_.stop();
    shelf_->clear();
    forgetSet();
  });
  connect(&desk_.job, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    if (aspect == Aspect::Sets && desk_.hasView() && idOf(desk_.view()) == view) judgeAgain();
  });
  connect(&desk_.frame, &ShownFrame::drawn, this, [this] {
    emit pictureChanged();
    emit changed();
  });
  connect(&desk_.camera, &CameraSession::changed, this, &ShootModel::changed);
  connect(&desk_.positions, &PositionWalk::moved, this, &ShootModel::changed);
  connect(&watch_, &FolderWatch::look, this, &ShootModel::takeNext);
}

QString ShootModel::verdict() const {
  const PositionWalk& walk = desk_.positions;
  if (!walk.several()) return verdictOfSet();
  const QString where =
      tr("Position %1 of %2 (%3)").arg(walk.at() + 1).arg(walk.positions().size()).arg(walk.nameOf(walk.at()));
  if (shot_.empty() || !check_.ended || check_.verdict.action.kind != NextAction::Kind::GoOn)
    return tr("%1: %2").arg(where, verdictOfSet());
  const QString beside = text(check_.position.sentence);
  if (check_.position.again) return tr("%1: %2").arg(where, beside);
  const auto missing = walk.missing();
  QStringList said{check_.verdict.good() ? tr("%1 holds.").arg(where) : tr("%1: %2").arg(where, verdictOfSet())};
  if (check_.verdict.good() && !check_.verdict.offer.empty()) said << text(check_.verdict.offer);
  if (!beside.isEmpty()) said << beside;
  said << (missing ? tr("Next: %1.").arg(walk.wayTo(*missing)) : tr("All positions are on disk."));
  return said.join(' ');
}

QString ShootModel::verdictOfSet() const {
  const View& v = desk_.view();
  if (watch_.watching() && check_.sketches.empty())
    return tr("Watching %1: frames are taken as they are complete.").arg(watch_.folderName());
  if (shot_.empty()) {
    if (!v.plan) return tr("There is no plan yet; take two readings at Light.");
    const FittedPlan plan = *fitted();
    const QString frames = plan.plan.fired == 1 ? tr("one frame") : tr("%1 frames").arg(plan.plan.frames.size());
    if (!plan.changed) return tr("Ready for %1: %2.").arg(frames, timesWords(plan.plan.frames));
    return (plan.again ? tr("Planned again with the times that %1 has. Ready for %2: %3.")
                       : tr("With the times that %1 has. Ready for %2: %3."))
        .arg(desk_.camera.wiredName(), frames, timesWords(plan.plan.frames));
  }
  if (!check_.ended && desk_.busy()) {
    const FrameSet* set = activeSetOf(v);
    const std::size_t expected = set ? std::max(set->planned.size(), shot_.size()) : shot_.size();
    for (const auto& j : check_.judged)
      if (!j.flaws.empty())
        return tr("%1 of %2 frames are on disk. Frame %3: %4.")
            .arg(shot_.size())
            .arg(expected)
            .arg(j.frame + 1)
            .arg(text(j.sentence));
    return tr("%1 of %2 frames are on disk, nothing wrong so far.").arg(shot_.size()).arg(expected);
  }
  if (!check_.verdict.sentence.empty() && check_.ended && check_.verdict.action.kind == NextAction::Kind::GoOn &&
      flashMissing())
    return tr("%1 Next, the window with flash: straight at it, and so strong that its frame and blinds come out one or "
              "two stops brighter. Flash can harm photosensitive people and animals; ask first.")
        .arg(text(check_.verdict.sentence));
  if (!check_.verdict.sentence.empty()) return text(check_.verdict.sentence);
  return tr("%1 frames are on disk: %2.").arg(shot_.size()).arg(timesWords(shot_));
}

QStringList ShootModel::reasons() const {
  const View& v = desk_.view();
  if (!v.plan) return {};
  QStringList lines = planReasons(*v.plan);
  for (const auto& j : check_.judged)
    lines << tr("Frame %1, %2: %3.").arg(j.frame + 1).arg(text(print(j.settings.time)), text(j.sentence));
  if (check_.judged.empty()) lines << smallestWords(*v.plan);
  return lines;
}

PictureMarks ShootModel::marks() const {
  PictureMarks marks;
  if (!desk_.frame.image().isNull()) marks.fullSize = frameSize();
  const int shown = shownFrame();
  if (shown < 0 || shown >= int(check_.judged.size()) || !check_.judged[std::size_t(shown)].has(Flaw::ThingMoved))
    return marks;
  const Sketch& sketch = *check_.sketches[std::size_t(shown)];
  const Roi r = check_.judged[std::size_t(shown)].movedPlace;
  marks.moved = QRectF(double(r.x) / sketch.width, double(r.y) / sketch.height, double(r.width) / sketch.width,
                       double(r.height) / sketch.height);
  marks.movedWhat = tr("stands elsewhere in other frames");
  return marks;
}

StationModel::Next ShootModel::next() const {
  const View& v = desk_.view();
  if (shot_.empty()) return {tr("Shoot"), desk_.camera.present() && !desk_.busy() && v.plan.has_value()};
  const NextAction& action = check_.verdict.action;
  const PositionWalk& walk = desk_.positions;
  const auto missing = walk.several() ? walk.missing() : std::nullopt;
  if (action.kind == NextAction::Kind::GoOn && check_.position.again && desk_.camera.present())
    return {tr("Shoot position %1 again").arg(walk.at() + 1), !desk_.busy() && v.plan.has_value()};
  if (action.kind == NextAction::Kind::GoOn && flashMissing() && desk_.camera.present())
    return {tr("Shoot the window with flash"), !desk_.busy()};
  if (action.kind == NextAction::Kind::GoOn && missing && desk_.camera.present())
    return {tr("Shoot position %1").arg(*missing + 1), !desk_.busy() && v.plan.has_value()};
  if (action.kind == NextAction::Kind::GoOn) return {tr("On to Combine"), !desk_.busy() && !v.frames.empty(), true};
  return {text(action.label), !desk_.busy()};
}

void ShootModel::enter() {
  const auto first = nextMissing(desk_.positions.positions(), -1);
  if (desk_.free() && shot_.empty() && first && !activeSetOf(desk_.view())) desk_.positions.goTo(*first);
  judgeActiveSet();
  StationModel::enter();
}

void ShootModel::forgetSet() {
  shot_.clear();
  check_ = {};
  desk_.frame.clear();
  desk_.scene.reset();
}

void ShootModel::opened(std::vector<ExposureSettings> shot) {
  shot_ = std::move(shot);
  if (!shot_.empty()) desk_.frame.choose(int(shot_.size()) / 2);
}

// ---- Shooting

std::optional<FittedPlan> ShootModel::fitted() const {
  const auto& plan = desk_.view().plan;
  if (!plan) return {};
  return fitToTimes(*plan, desk_.camera.timesFor(plan->frames));
}

std::vector<ExposureSettings> ShootModel::toFire() const {
  const auto plan = fitted();
  return plan ? firedOf(plan->plan, order_) : std::vector<ExposureSettings>{};
}

void ShootModel::shoot() {
  if (!desk_.free() || !desk_.camera.present() || !desk_.view().plan) return;
  const View& view = desk_.view();
  if (!desk_.notices.check(checkFolder(view))) return;
  const auto frames = toFire();
  desk_.camera.pointAnew();
  forgetSet();
  startSet(frames);
  shootFrames({frames, {}, waitForLull_});
}

/// At the position in hand; a second one there is its repeat.
void ShootModel::startSet(const std::vector<ExposureSettings>& frames) {
  const PlannedPosition here = desk_.positions.here();
  const auto& sets = desk_.view().sets;
  const bool again =
      std::any_of(sets.begin(), sets.end(), [&](const FrameSet& s) { return !s.frames.empty() && isAt(s, here); });
  desk_.job.note(idOf(desk_.view()), Aspect::Sets, [&](View& v) {
    FrameSet& set = v.startSet((again ? tr("Repeat") : tr("Bracket")).toStdString(), frames);
    set.row = here.row, set.column = here.column, set.plane = here.plane;
  });
}

bool ShootModel::flashMissing() const {
  const auto& plan = desk_.view().plan;
  return plan && plan->flashFrames() > 0 && !check_.sketches.empty() &&
         std::none_of(check_.sketches.begin(), check_.sketches.end(), [](const auto& s) { return s->lit; });
}

void ShootModel::shootFrames(const Firing& firing) {
  check_.ended = false;
  const View& v = desk_.view();
  ShootOrder order;
  order.frames = firing.frames;
  order.flash = firing.flash;
  order.format = v.format;
  order.folder = v.setFolder(*activeSetOf(v));
  order.firstNumber = nextFrameNumber(v);
  order.timer = v.situation.handHeld ? Seconds{0} : v.situation.timer;
  const auto finder = desk_.camera.finderSettings(v);
  desk_.works.longWork.start([this, camera = desk_.camera.camera(), v, order, replaces = firing.replaces,
                              whenStill = firing.whenStill, finder, sketches = check_.sketches,
                              shelf = shelf_](const Progress& progress) -> std::function<void()> {
    if (whenStill && !lullCame(*camera, finder, progress))
      return [this] {
        setDone(
            Error{ErrorCode::Stopped,
                  tr("The wind never rested within a minute; nothing was shot. Try again, or shoot without waiting.")
                      .toStdString()});
      };
    View landed = v; // what the judge sees: the set as it grows
    Sketches seen = sketches;
    const auto arrived = [&](const ShotFrame& shotFrame) {
      auto loaded = loadFrame(shotFrame.file);
      if (!loaded) return;
      turnLike(seen, *loaded);
      auto frame = std::make_shared<const Frame>(std::move(*loaded));
      auto& members = landed.sets[std::size_t(landed.activeSet)].frames;
      members.push_back({shotFrame.file, true});
      if (shotFrame.index < int(replaces.size()))
        members[std::size_t(replaces[std::size_t(shotFrame.index)])].used = false;
      seen.push_back(sketchOf(*frame, judgeSetupOf(landed).zones));
      const Landed now{shotFrame.file, frame, ShownFrame::imageOf(*frame), judged(landed, seen, false),
                       distributionOf(seen)};
      const auto land = [this, now, replaces] { frameLanded(now, replaces); };
      QMetaObject::invokeMethod(this, land, Qt::QueuedConnection);
    };
    std::optional<Error> problem;
    // What is missing of a set is asked for after the camera was gone: it is taken up again first.
    if (!sketches.empty() && !camera->status().connected)
      if (auto connected = camera->connect(); !connected) problem = connected.error();
    if (!problem)
      if (const auto shot = shootBracket(*camera, order, progress, arrived); !shot) problem = shot.error();
    ShootState last = judged(landed, seen, true);
    last.position = checkPosition(landed, seen, *shelf, progress);
    return [this, last, problem] {
      check_ = last;
      setDone(problem);
    };
  });
  emit goTo(id());
  emit changed();
}

void ShootModel::frameLanded(const Landed& landed, const std::vector<int>& replaces) {
  check_ = landed.state;
  shot_.push_back(landed.frame->settings);
  desk_.scene = landed.scene;
  Result<void> kept;
  desk_.job.note(idOf(desk_.view()), Aspect::Sets, [&](View& v) {
    // A frame that is repeated gives way when its better comes, not before.
    auto& members = v.sets[std::size_t(v.activeSet)].frames;
    const auto next =
        std::find_if(replaces.begin(), replaces.end(), [&](int i) { return members[std::size_t(i)].used; });
    if (next != replaces.end()) members[std::size_t(*next)].used = false;
    kept = recordFrame(v, landed.file);
  });
  if (!desk_.notices.check(kept)) desk_.works.longWork.stop();
  desk_.frame.show(int(shot_.size()) - 1, landed.frame, landed.image);
  emit frameArrived(shownFrame());
}

void ShootModel::setDone(const std::optional<Error>& problem) {
  if (desk_.view().activeSet >= 0) {
    judgedUses_ = usesOf(*activeSetOf(desk_.view()));
    desk_.job.note(idOf(desk_.view()), Aspect::Sets,
                   [&](View& v) { keepCheck(v, v.sets[std::size_t(v.activeSet)], check_.verdict, check_.judged); });
  }
  check_.ended = true;
  const bool stopped = problem && problem->code == ErrorCode::Stopped;
  if (problem && (!stopped || (check_.sketches.empty() && !problem->message.empty()))) desk_.notices.fail(*problem);
  emit changed();
  emit setEnded(!problem);
}

void ShootModel::doNext() {
  if (!desk_.free()) return;
  if (shot_.empty()) return shoot();
  const NextAction action = check_.verdict.action;
  switch (action.kind) {
  case NextAction::Kind::GoOn: return goOn();
  case NextAction::Kind::LeaveOut: return changeUse(tr("frames left out"), action.replaces, false);
  case NextAction::Kind::RepeatSet: return shoot();
  default: break;
  }
  const auto camera = desk_.camera.camera();
  if (!camera)
    return desk_.notices.fail(tr("Shoot %1 with the camera; the watched folder takes it.").arg(text(action.label)));
  planned(action.frames);
  shootFrames({action.frames, action.replaces});
}

/// To the next position, else to the next station.
void ShootModel::goOn() {
  const auto missing = desk_.positions.several() ? desk_.positions.missing() : std::nullopt;
  const bool again = check_.position.again;
  if (desk_.camera.present() && !again && flashMissing())
    return shootFrames({{desk_.view().plan->frames.front()}, {}, false, true});
  if (!desk_.camera.present() || (!again && !missing)) return emit goTo(stations::kCombine);
  if (!again) desk_.positions.goTo(*missing);
  shoot();
}

/// What was not planned is planned now, so that it is no stranger in the set.
void ShootModel::planned(const std::vector<ExposureSettings>& frames) {
  desk_.job.note(idOf(desk_.view()), Aspect::Sets, [&](View& v) {
    auto& known = v.sets[std::size_t(v.activeSet)].planned;
    for (const auto& f : frames)
      if (std::none_of(known.begin(), known.end(),
                       [&](const auto& p) { return std::abs(std::log2(p.time.value / f.time.value)) < 0.1; }))
        known.push_back(f);
  });
}

// ---- The set in hand

void ShootModel::showFrame(int index) {
  const FrameSet* set = desk_.idle() ? activeSetOf(desk_.view()) : nullptr;
  if (set && index >= 0 && index < int(set->frames.size()))
    desk_.frame.load(index, set->frames[std::size_t(index)].file);
}

bool ShootModel::isUsed(int index) const {
  const FrameSet* set = activeSetOf(desk_.view());
  return !set || index < 0 || index >= int(set->frames.size()) || set->frames[std::size_t(index)].used;
}

void ShootModel::setFrameUsed(int index, bool used) {
  if (desk_.free()) changeUse(used ? tr("frame taken in") : tr("frame left out"), {index}, used);
}

/// Undo names the set and its files, and touches nothing else: sets and frames that came since stay.
void ShootModel::changeUse(const QString& words, const std::vector<int>& frames, bool used) {
  const FrameSet* set = activeSetOf(desk_.view());
  if (!set) return;
  using Uses = std::vector<std::pair<fs::path, bool>>;
  Uses before, after;
  for (const int i : frames) {
    if (i < 0 || i >= int(set->frames.size())) continue;
    before.emplace_back(set->frames[std::size_t(i)].file, set->frames[std::size_t(i)].used);
    after.emplace_back(set->frames[std::size_t(i)].file, used);
  }
  if (before == after) return;
  desk_.job.edit(idOf(desk_.view()), Aspect::Sets, words, before, after, [name = set->name](View& v, const Uses& uses) {
    FrameSet* there = setNamed(v, name);
    if (!there) return;
    for (const auto& [file, use] : uses)
      for (auto& member : there->frames)
        if (member.file == file) member.used = use;
    v.refreshFrames();
  });
}

void ShootModel::describeSet(const QString& label, int row, int column, int plane) {
  const FrameSet* set = desk_.free() ? activeSetOf(desk_.view()) : nullptr;
  if (!set) return;
  struct Words {
    std::string label;
    int row, column, plane;
    bool operator==(const Words&) const = default;
  };
  const Words before{set->label, set->row, set->column, set->plane};
  const Words after{label.trimmed().isEmpty() ? set->label : label.trimmed().toStdString(), row, column, plane};
  if (before == after) return;
  desk_.job.edit(idOf(desk_.view()), Aspect::Sets, tr("name of the set"), before, after,
                 [name = set->name](View& v, const Words& words) {
                   if (FrameSet* there = setNamed(v, name))
                     there->label = words.label, there->row = words.row, there->column = words.column,
                     there->plane = words.plane;
                 });
}

void ShootModel::selectSet(int index) {
  if (!desk_.free() || index == desk_.view().activeSet || index < 0 || index >= int(desk_.view().sets.size())) return;
  forgetSet();
  desk_.job.note(idOf(desk_.view()), Aspect::Sets, [&](View& v) { v.selectSet(index); });
  const auto& positions = desk_.positions.positions();
  for (int i = 0; i < int(positions.size()); ++i)
    if (isAt(desk_.view().sets[std::size_t(index)], positions[std::size_t(i)].planned)) desk_.positions.goTo(i);
  judgeActiveSet();
}

void ShootModel::goToPosition(int index) {
  if (!desk_.free() || index < 0 || index >= int(desk_.positions.positions().size())) return;
  desk_.positions.goTo(index);
  const int set = desk_.positions.positions()[std::size_t(index)].set;
  if (set >= 0) return selectSet(set);
  forgetSet();
  startSet(toFire());
  StationModel::enter();
  emit changed();
}

/// After a change of how frames are used; the frames themselves are known.
void ShootModel::judgeAgain() {
  const FrameSet* set = activeSetOf(desk_.view());
  if (!set || !check_.ended || check_.sketches.empty() || check_.sketches.size() != set->frames.size() ||
      usesOf(*set) == judgedUses_)
    return;
  judgedUses_ = usesOf(*set);
  desk_.works.judging.start(
      [this, view = desk_.view(), sketches = check_.sketches](const Progress&) -> std::function<void()> {
        return [this, id = idOf(view), active = view.activeSet, state = judged(view, sketches, true)] {
          if (!desk_.hasView() || idOf(desk_.view()) != id || desk_.view().activeSet != active ||
              check_.sketches.size() != state.sketches.size())
            return;
          const PositionFinding position = check_.position;
          check_ = state;
          check_.position = position;
          desk_.job.note(id, Aspect::About,
                         [&](View& v) { keepCheck(v, v.sets[std::size_t(v.activeSet)], state.verdict, state.judged); });
          emit changed();
        };
      });
}

void ShootModel::judgeActiveSet() {
  if (!desk_.free() || !check_.judged.empty() || !activeSetOf(desk_.view()) ||
      activeSetOf(desk_.view())->frames.empty())
    return;
  desk_.works.longWork.start(
      [this, v = desk_.view(), shelf = shelf_](const Progress& progress) -> std::function<void()> {
        Sketches sketches;
        std::vector<ExposureSettings> settings;
        const auto zones = judgeSetupOf(v).zones;
        const auto& members = v.sets[std::size_t(v.activeSet)].frames;
        for (std::size_t i = 0; i < members.size(); ++i) {
          if (progress.stopRequested()) return [this] { emit changed(); };
          progress.at(phrase("Look at the frames"), double(i) / double(members.size()));
          auto frame = loadFrame(members[i].file);
          if (!frame) return [this, e = frame.error()] { desk_.notices.fail(e); };
          settings.push_back(frame->settings);
          turnLike(sketches, *frame);
          sketches.push_back(sketchOf(*frame, zones));
        }
        ShootState state = judged(v, sketches, true);
        state.position = checkPosition(v, sketches, *shelf, progress);
        return [this, state, settings, scene = distributionOf(sketches)] {
          check_ = state;
          if (const FrameSet* set = activeSetOf(desk_.view())) judgedUses_ = usesOf(*set);
          shot_ = settings;
          if (!state.sketches.empty()) desk_.scene = scene;
          desk_.frame.choose(shot_.empty() ? -1 : int(shot_.size()) / 2);
          StationModel::enter();
          emit changed();
        };
      });
}

} // namespace ml
