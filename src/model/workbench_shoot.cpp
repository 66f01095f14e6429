#include "exposure/marks.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "model/workbench_change.h"
#include "session/shooting.h"

#include <algorithm>
#include <fmt/format.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Frames of a set that are not used are not judged.
SetJudge judgeOf(const View& view, const std::vector<std::shared_ptr<const Sketch>>& sketches) {
  SetJudge judge(judgeSetupOf(view));
  for (const auto& sketch : sketches) judge.addSketch(sketch);
  if (view.activeSet >= 0) {
    const auto& members = view.sets[std::size_t(view.activeSet)].frames;
    for (std::size_t i = 0; i < members.size(); ++i)
      if (!members[i].used) judge.setAside(int(i));
  }
  return judge;
}

ShootState stateOf(const SetJudge& judge, std::vector<std::shared_ptr<const Sketch>> sketches, bool ended) {
  return {std::move(sketches), judge.frames(), judge.verdict(ended), ended};
}

constexpr int kMostLooks = 240; ///< Of the finder while waiting for a lull: a minute of the camera's time.

/// Lets time pass until two looks through the finder show next to nothing that moved. False when it never came.
bool waitForLull(Camera& camera, const ExposureSettings& settings, const Progress& progress) {
  std::optional<Image<std::uint8_t>> before;
  for (int look = 0; look < kMostLooks && !progress.stopRequested(); ++look) {
    progress.at("Hold still: waiting for a lull", double(look) / kMostLooks);
    auto now = camera.liveView(settings);
    if (!now) return true; // shooting will say what is wrong
    if (before && changedShare(before->view(), now->view()) < kStillShare) return true;
    before = std::move(*now);
    camera.wait({0.25});
  }
  return false;
}

} // namespace

void Workbench::makeCamera() {
  device_.reset();
  camera_.reset();
  if (!world_) return;
  SimulationOptions options;
  options.seed = std::uint64_t(view().sets.size()) + 1;
  options.lulls = true;
  device_ = std::make_shared<SimulatedCamera>(world_, view().profile(), options);
  device_->setHandHeld(choices_.situation.handHeld);
  camera_ = std::make_shared<LockedCamera>(device_);
}

void Workbench::setFormat(FrameFormat format) {
  if (!hasView() || busy() || view().format == format) return;
  pushChange(tr("file format"), view().format, format, [this](FrameFormat f) {
    mutableView().format = f;
    replan();
    check(view().savePlan());
    emit changed();
  });
}

void Workbench::setHandHeld(bool handHeld) {
  PlanChoices choices = choices_;
  choices.situation.handHeld = handHeld;
  choosePlan(choices);
}

void Workbench::armFault(FaultKind fault) {
  if (!device_) return;
  const bool lasting = fault == FaultKind::HandHeld;
  camera_->locked([&] { device_->addFault({fault, lasting ? 0 : 1}); });
  for (const auto& name : faultNames())
    if (name.kind == fault) emit told(tr("Practice: \"%1\" will happen during the next set.").arg(name.name));
}

std::optional<DeviceStatus> Workbench::device() const { return camera_ ? std::optional(camera_->status()) : std::nullopt; }

void Workbench::connectCamera() {
  if (!camera_) return;
  check(camera_->connect());
  emit changed();
}

void Workbench::changeCard() {
  if (!device_) return;
  camera_->locked([&] { device_->changeCard(); });
  emit changed();
}

void Workbench::shoot(bool whenStill) {
  if (!hasView() || busy() || !camera_ || !view().plan) return;
  if (auto there = checkFolder(view()); !there) return emit failed(QString::fromStdString(there.error().message));
  const auto frames = inOrder(view().plan->frames, order_);
  const bool again = std::any_of(view().sets.begin(), view().sets.end(), [](const FrameSet& s) { return !s.frames.empty(); });
  mutableView().startSet(again ? tr("Repeat").toStdString() : tr("Bracket").toStdString(), frames);
  check(view().saveFrames());
  shot_.clear();
  shootState_ = {};
  scene_.reset();
  shootFrames(frames, {}, whenStill);
}

void Workbench::shootFrames(std::vector<ExposureSettings> frames, std::vector<int> replaces, bool whenStill) {
  station_ = Station::Shoot;
  shootState_.ended = false;
  const View& v = view();
  ShootOrder order{std::move(frames), v.format, v.setFolder(v.sets[std::size_t(v.activeSet)]), "frame-", nextFrameNumber(v), choices_.situation.handHeld ? Seconds{0} : choices_.situation.timer};
  work_.start([this, camera = camera_, v, order, replaces, whenStill, finder = finderSettings(), sketches = shootState_.sketches](const Progress& progress) -> std::function<void()> {
    if (whenStill && !waitForLull(*camera, finder, progress))
      return [this] { setDone(Error{ErrorCode::Stopped, tr("The wind never rested within a minute; nothing was shot. Try again, or shoot without waiting.").toStdString()}); };
    auto landed = std::make_shared<View>(v); // what the judge sees: the set as it grows
    auto seen = std::make_shared<std::vector<std::shared_ptr<const Sketch>>>(sketches);
    const auto arrived = [this, landed, seen, replaces](const ShotFrame& shotFrame) {
      auto loaded = loadFrame(shotFrame.file);
      if (!loaded) return;
      auto frame = std::make_shared<const Frame>(std::move(*loaded));
      auto& members = landed->sets[std::size_t(landed->activeSet)].frames;
      members.push_back({shotFrame.file, true});
      if (shotFrame.index < int(replaces.size())) members[std::size_t(replaces[std::size_t(shotFrame.index)])].used = false;
      seen->push_back(sketchOf(*frame, judgeSetupOf(*landed).zones));
      auto state = stateOf(judgeOf(*landed, *seen), *seen, false);
      QMetaObject::invokeMethod(this, [this, file = shotFrame.file, frame, state, replaces] { frameLanded(file, frame, state, replaces); }, Qt::QueuedConnection);
    };
    const auto shot = shootBracket(*camera, order, progress, arrived);
    std::optional<Error> problem;
    if (!shot) problem = shot.error();
    auto last = stateOf(judgeOf(*landed, *seen), *seen, true);
    return [this, last, problem] {
      shootState_ = last;
      setDone(problem);
    };
  });
  emit changed();
}

void Workbench::frameLanded(const fs::path& file, std::shared_ptr<const Frame> frame, ShootState state, const std::vector<int>& replaces) {
  View& v = mutableView();
  auto& members = v.sets[std::size_t(v.activeSet)].frames;
  // A frame that is repeated gives way when its better comes, not before.
  std::size_t next = 0;
  while (next < replaces.size() && !members[std::size_t(replaces[next])].used) ++next;
  if (next < replaces.size()) members[std::size_t(replaces[next])].used = false;
  if (auto kept = recordFrame(v, file); !kept) {
    work_.stop();
    emit failed(QString::fromStdString(kept.error().message));
  }
  shootState_ = std::move(state);
  shot_.push_back(frame->settings);
  scene_ = distributionOf(shootState_.sketches);
  frame_ = std::move(frame);
  shownFrame_ = int(shot_.size()) - 1;
  frameImage_ = displayOf(*frame_);
  markExtremes(frameImage_);
  emit frameArrived(shownFrame_);
  emit pictureChanged();
  emit changed();
}

void Workbench::setDone(std::optional<Error> problem) {
  shootState_.ended = true;
  if (view().activeSet >= 0) {
    mutableView().sets[std::size_t(view().activeSet)].verdict = shootState_.verdict.sentence;
    check(view().saveFrames());
  }
  if (problem && problem->code != ErrorCode::Stopped) emit failed(QString::fromStdString(problem->message));
  else if (problem && shootState_.sketches.empty() && !problem->message.empty()) emit failed(QString::fromStdString(problem->message));
  emit changed();
}

void Workbench::doNext() {
  if (!hasView() || busy()) return;
  const NextAction action = shootState_.verdict.action;
  switch (action.kind) {
  case NextAction::Kind::GoOn: return goTo(Station::Combine);
  case NextAction::Kind::LeaveOut: return changeUse(tr("frames left out"), action.replaces, false);
  case NextAction::Kind::RepeatSet: return shoot();
  default: break;
  }
  if (!camera_) return emit failed(tr("Shoot %1 with the camera; the watched folder takes it.").arg(QString::fromStdString(action.label)));
  if (auto connected = camera_->status().connected ? Result<void>{} : camera_->connect(); !connected) return emit failed(QString::fromStdString(connected.error().message));
  // What was not planned is planned now, so that it is no stranger in the set.
  FrameSet& set = mutableView().sets[std::size_t(view().activeSet)];
  for (const auto& f : action.frames)
    if (std::none_of(set.planned.begin(), set.planned.end(), [&](const auto& p) { return std::abs(std::log2(p.time.value / f.time.value)) < 0.1; }))
      set.planned.push_back(f);
  check(view().saveFrames());
  shootFrames(action.frames, action.replaces, false);
}

/// Undo names a set and its files, and touches nothing else: sets and frames that came since stay.
struct Workbench::FrameUse {
  std::string set;
  std::vector<std::pair<fs::path, bool>> used;
};
struct Workbench::SetWords {
  std::string set, label;
  int row = 0, column = 0, plane = 0;
};

FrameSet* Workbench::setNamed(const std::string& name) {
  auto& sets = mutableView().sets;
  const auto found = std::find_if(sets.begin(), sets.end(), [&](const FrameSet& s) { return s.name == name; });
  return found == sets.end() ? nullptr : &*found;
}

void Workbench::changeUse(const QString& words, const std::vector<int>& frames, bool used) {
  const FrameSet& set = view().sets[std::size_t(view().activeSet)];
  FrameUse before{set.name, {}}, after{set.name, {}};
  for (const int i : frames) {
    if (i < 0 || i >= int(set.frames.size())) continue;
    before.used.emplace_back(set.frames[std::size_t(i)].file, set.frames[std::size_t(i)].used);
    after.used.emplace_back(set.frames[std::size_t(i)].file, used);
  }
  if (before.used != after.used) pushChange(words, before, after, [this](const FrameUse& use) { applyUse(use); });
}

void Workbench::applyUse(const FrameUse& use) {
  if (FrameSet* set = setNamed(use.set))
    for (const auto& [file, used] : use.used)
      for (auto& member : set->frames)
        if (member.file == file) member.used = used;
  setsChanged();
}

void Workbench::applyWords(const SetWords& words) {
  if (FrameSet* set = setNamed(words.set)) set->label = words.label, set->row = words.row, set->column = words.column, set->plane = words.plane;
  setsChanged();
}

void Workbench::setsChanged() {
  mutableView().refreshFrames();
  check(view().saveFrames());
  if (shootState_.sketches.size() == (view().activeSet >= 0 ? view().sets[std::size_t(view().activeSet)].frames.size() : 0)) {
    shootState_ = stateOf(judgeOf(view(), shootState_.sketches), shootState_.sketches, true);
  }
  emit changed();
}

void Workbench::setFrameUsed(int index, bool used) {
  if (!hasView() || busy() || view().activeSet < 0) return;
  changeUse(used ? tr("frame taken in") : tr("frame left out"), {index}, used);
}

void Workbench::selectSet(int index) {
  if (!hasView() || busy() || index == view().activeSet || index < 0 || index >= int(view().sets.size())) return;
  undo_.clear();
  mutableView().selectSet(index);
  check(view().saveFrames());
  shootState_ = {};
  shot_.clear();
  frame_.reset();
  frameImage_ = {};
  scene_.reset();
  judgeActiveSet();
  emit changed();
}

void Workbench::describeSet(const QString& label, int row, int column, int plane) {
  if (!hasView() || busy() || view().activeSet < 0) return;
  const FrameSet& set = view().sets[std::size_t(view().activeSet)];
  const SetWords before{set.name, set.label, set.row, set.column, set.plane};
  SetWords after{set.name, set.label, row, column, plane};
  if (!label.trimmed().isEmpty()) after.label = label.trimmed().toStdString();
  if (after.label == before.label && row == before.row && column == before.column && plane == before.plane) return;
  pushChange(tr("name of the set"), before, after, [this](const SetWords& words) { applyWords(words); });
}

void Workbench::judgeActiveSet() {
  if (!hasView() || busy() || view().activeSet < 0 || view().sets[std::size_t(view().activeSet)].frames.empty()) return;
  work_.start([this, v = view()](const Progress& progress) -> std::function<void()> {
    std::vector<std::shared_ptr<const Sketch>> sketches;
    std::vector<ExposureSettings> settings;
    std::optional<Error> problem;
    const auto zones = judgeSetupOf(v).zones;
    const auto& members = v.sets[std::size_t(v.activeSet)].frames;
    for (std::size_t i = 0; i < members.size(); ++i) {
      if (progress.stopRequested()) return [this] { emit changed(); };
      progress.at("Look at the frames", double(i) / double(members.size()));
      auto frame = loadFrame(members[i].file);
      if (!frame) {
        problem = frame.error();
        break;
      }
      settings.push_back(frame->settings);
      sketches.push_back(sketchOf(*frame, zones));
    }
    ShootState state;
    if (!problem) state = stateOf(judgeOf(v, sketches), sketches, true);
    auto scene = distributionOf(sketches);
    return [this, state, settings, scene, problem] {
      if (problem) emit failed(QString::fromStdString(problem->message));
      else shot_ = settings;
      shootState_ = state;
      if (!state.sketches.empty()) scene_ = scene;
      shownFrame_ = shot_.empty() ? -1 : int(shot_.size()) / 2;
      refreshPicture();
      emit changed();
    };
  });
}

void Workbench::showFrame(int index) {
  if (!hasView() || busy()) return;
  refreshFrame(index);
}

// ---- A watched folder

void Workbench::watch(const QString& folder) {
  if (!hasView() || busy()) return;
  std::error_code error;
  if (!fs::is_directory(folder.toStdString(), error)) return emit failed(tr("`%1` is no folder; choose the one your camera's program writes to.").arg(folder));
  watched_.emplace(folder.toStdString());
  nextWatchedSet();
  watchTimer_.start();
}

void Workbench::nextWatchedSet() {
  std::vector<ExposureSettings> planned;
  if (view().plan) planned = view().plan->frames;
  mutableView().startSet(tr("From %1").arg(QString::fromStdString(watched_->folder().filename().string())).toStdString(), planned);
  check(view().saveFrames());
  shot_.clear();
  shootState_ = {};
  frameImage_ = {};
  emit changed();
}

void Workbench::stopWatching() {
  watchTimer_.stop();
  watched_.reset();
  if (hasView() && !shootState_.sketches.empty()) shootState_ = stateOf(judgeOf(view(), shootState_.sketches), shootState_.sketches, true);
  emit changed();
}

QString Workbench::watched() const { return watched_ ? QString::fromStdString(watched_->folder().string()) : QString(); }

void Workbench::lookIntoWatched() {
  if (!watched_ || busy()) return;
  const auto files = watched_->look();
  if (!files) {
    if (!watchLost_) emit failed(QString::fromStdString(files.error().message));
    watchLost_ = true;
    return;
  }
  watchLost_ = false;
  for (const auto& file : *files) waiting_.push_back(file);
  if (waiting_.empty()) return;
  const fs::path next = waiting_.front();
  waiting_.erase(waiting_.begin());
  takeWatched(next);
}

void Workbench::takeWatched(const fs::path& file) {
  work_.start([this, file, v = view(), sketches = shootState_.sketches, wishes = shootState_.verdict.action.frames, gives = shootState_.verdict.action.replaces](const Progress& progress) -> std::function<void()> {
    progress.at("Take " + file.filename().string(), 0.2);
    auto loaded = loadFrame(file);
    if (!loaded)
      return [this, file, e = loaded.error()] {
        if (watched_) watched_->giveBack(file);
        emit failed(QString::fromStdString(e.message));
      };
    auto frame = std::make_shared<const Frame>(std::move(*loaded));
    const auto sketch = sketchOf(*frame, judgeSetupOf(v).zones);
    if (isSeparator(*sketch, sketches.empty() ? nullptr : sketches.back().get()))
      return [this] {
        nextWatchedSet();
        emit told(tr("A hand before the lens: the next frames are another set."));
        lookIntoWatched();
      };
    // An exposure that comes a second time begins a new set, unless it is what the verdict asked for.
    const bool again = std::any_of(sketches.begin(), sketches.end(), [&](const auto& s) { return std::abs((ev100(s->settings) - ev100(frame->settings)).value) < 0.1; });
    const bool asked = std::any_of(wishes.begin(), wishes.end(), [&](const auto& f) { return std::abs((ev100(f) - ev100(frame->settings)).value) < 0.1; });
    if (again && !asked)
      return [this, file] {
        nextWatchedSet();
        takeWatched(file);
      };
    View grown = v;
    grown.sets[std::size_t(grown.activeSet)].frames.push_back({file, true});
    auto seen = sketches;
    seen.push_back(sketch);
    const std::vector<int> replaced = asked ? gives : std::vector<int>{};
    for (const int i : replaced) grown.sets[std::size_t(grown.activeSet)].frames[std::size_t(i)].used = false;
    const bool all = v.plan && seen.size() >= v.plan->frames.size();
    auto state = stateOf(judgeOf(grown, seen), seen, all);
    return [this, file, frame, state, replaced] {
      frameLanded(file, frame, state, replaced);
      lookIntoWatched();
    };
  });
}

} // namespace ml
