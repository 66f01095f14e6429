// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/job_opening.h"

#include "base/phrase.h"
#include "ingest/load_frame.h"
#include "pipeline/position_views.h"
#include "session/locations.h"
#include "session/radiance_history.h"

namespace ml {
namespace fs = std::filesystem;

constexpr int kAskAgainMs = 1000; ///< Whether the other window let go.

JobOpening::JobOpening(Desk& desk) : desk_(desk) {
  connect(&desk_.job, &JobModel::jobOpened, this, [this] { desk_.radiances.clear(); });
  untilFree_.setInterval(kAskAgainMs);
  connect(&untilFree_, &QTimer::timeout, this, &JobOpening::takeOver);
}

/// Its lock is taken, or kept where the same job is opened again.
void JobOpening::open(Job job, const std::string& view) {
  std::error_code error;
  std::shared_ptr<const JobLock> lock = desk_.job.lock();
  if (!lock || lock->state() != JobLock::State::Held || !fs::equivalent(lock->folder(), job.folder(), error))
    lock = std::make_shared<const JobLock>(job.folder());
  desk_.job.open(std::move(job), view, lock);
  lock->state() == JobLock::State::Elsewhere ? untilFree_.start() : untilFree_.stop();
}

/// The other window is closed: its work is read, and this one goes on.
void JobOpening::takeOver() {
  if (desk_.busy() || !desk_.reading()) return;
  const fs::path folder = desk_.job.job().folder();
  if (JobLock(folder).state() == JobLock::State::Elsewhere) return;
  if (openJob(folder, desk_.hasView() ? idOf(desk_.view()) : std::string()))
    desk_.notices.tell(tr("The other window is closed; this job can be worked on here now."));
  else
    untilFree_.stop(); // its file went, and that was said
}

bool JobOpening::openJob(const fs::path& folder, const std::string& view) {
  if (desk_.busy()) return false;
  desk_.saver.flush(); // it may be the job that is open
  auto job = Job::open(folder);
  if (!job) {
    desk_.notices.fail(job.error());
    return false;
  }
  open(std::move(*job), view);
  return true;
}

/// The demo takes in the net loft from wall to wall: three positions.
void takeInLoft(View& view) {
  constexpr double kDegrees = 150;
  view.situation.positions.panDegrees = kDegrees;
}

bool JobOpening::openDemo(const fs::path& jobs) {
  if (desk_.busy()) return false;
  const fs::path folder = jobs / "marl-quay-ferry-house";
  std::error_code error;
  if (fs::exists(folder / "job.json", error)) return openJob(folder);
  auto job = Job::create(folder, "Marl Quay ferry house");
  if (!job) {
    desk_.notices.fail(job.error());
    return false;
  }
  for (const auto& [name, world] : {std::pair{"Reading room", "reading_room"},
                                    {"Boat hall", "boat_hall"},
                                    {"Jetty at dusk", "jetty_dusk"},
                                    {"Net loft", "net_loft"}}) {
    const auto added = job->addView(name, world, "full-frame-24");
    if (!added) {
      desk_.notices.fail(added.error());
      return false;
    }
    View& view = job->views()[*added];
    view.snrTarget = desk_.habits.shadows;
    if (view.world == "net_loft") takeInLoft(view);
    if (!desk_.notices.check(view.savePlan())) return false;
  }
  open(std::move(*job));
  return true;
}

void JobOpening::takeFiles(const QStringList& paths, const fs::path& jobs) {
  if (desk_.busy()) return;
  std::vector<fs::path> wanted;
  for (const auto& path : paths) wanted.emplace_back(path.toStdString());
  if (wanted.empty()) return;
  desk_.works.longWork.start([this, wanted, jobs](const Progress& progress) -> std::function<void()> {
    progress.at(phrase("Sort the frames into sets"), 0);
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles(wanted, leftOut, Subfolders::Read, progress.stop);
    Grouping grouping = groupFiles(files, progress);
    lookAtGroups(grouping, progress);
    markPositions(grouping, progress);
    if (progress.stopRequested()) return {};
    leftOut.insert(leftOut.end(), grouping.leftOut.begin(), grouping.leftOut.end());
    grouping.leftOut = withoutCompanions(leftOut);
    if (grouping.sets.empty()) {
      const std::string why = grouping.leftOut.empty()
                                  ? phrase("There is no frame in what was dropped; drop a folder of frames.")
                                  : grouping.leftOut.front().reason.message;
      return [this, why] { desk_.notices.fail(QString::fromStdString(why)); };
    }
    const std::string name =
        wanted.front().has_filename() ? wanted.front().stem().string() : wanted.front().parent_path().stem().string();
    return [this, grouping, name, jobs] {
      // A single plain set needs no sorting.
      if (grouping.sets.size() == 1 && grouping.aside.empty())
        takeSorted(grouping, name, jobs);
      else
        emit sorted(grouping, QString::fromStdString(name), QString::fromStdString(jobs.string()));
    };
  });
}

namespace {

/// A further position of a view; the first one becomes one too. The order of shooting stands in for the place until
/// they are joined.
void addPosition(View& view, const std::string& name, const std::vector<fs::path>& frames) {
  for (std::size_t i = 0; i < view.sets.size(); ++i)
    if (view.sets[i].column == 0) view.sets[i].row = 1, view.sets[i].column = int(i) + 1;
  view.adoptFrames(name, frames);
  view.sets.back().row = 1, view.sets.back().column = int(view.sets.size());
  view.selectSet(0);
}

} // namespace

void JobOpening::takeSorted(const Grouping& grouping, const std::string& name, const fs::path& jobs) {
  fs::path folder = jobs / name;
  std::error_code error;
  for (int n = 2; fs::exists(folder, error); ++n) folder = jobs / (name + "-" + std::to_string(n));
  auto job = Job::create(folder, name);
  if (!job) return desk_.notices.fail(job.error());
  for (const auto& set : grouping.sets) {
    std::vector<fs::path> frames;
    for (const auto& file : set.files) frames.push_back(fs::absolute(file.path));
    if (set.kind == GroupKind::Panorama && !job->views().empty()) {
      addPosition(job->views().back(), set.name, frames);
      if (!desk_.notices.check(job->views().back().saveFrames())) return;
      continue;
    }
    auto added = job->addView(set.name, "", "full-frame-24");
    if (!added) return desk_.notices.fail(added.error());
    View& view = job->views()[*added];
    view.snrTarget = desk_.habits.shadows;
    view.adoptFrames(set.name, frames);
    if (set.kind == GroupKind::OtherLight && *added > 0) {
      view.otherLightOf = job->views()[*added - 1].folder.filename().string();
      if (!desk_.notices.check(view.savePlan())) return;
    }
    if (!desk_.notices.check(view.saveFrames())) return;
  }
  open(std::move(*job));
  if (!grouping.leftOut.empty()) desk_.notices.fail(grouping.leftOut.front().reason);
}

/// The world behind the view, the settings of its frames and what they were combined to.
void JobOpening::readView() {
  desk_.camera.leave();
  const View& view = desk_.view();
  const bool mayForget = desk_.radiances.firstVisit(idOf(view)) && !desk_.reading();
  const auto shelved = worlds_.find(view.world);
  desk_.works.longWork.start([this, v = view, mayForget, world = shelved == worlds_.end() ? nullptr : shelved->second,
                              known = desk_.radiances.find(idOf(view), view.radianceStamp)](
                                 const Progress& progress) mutable -> std::function<void()> {
    progress.at(phrase("Open the view"), 0.1);
    if (mayForget) forgetHistory(v);
    std::string problem;
    if (const auto folder = world ? std::nullopt : findWorld(v.world)) {
      if (auto loaded = World::load(*folder))
        world = std::make_shared<const World>(std::move(*loaded));
      else
        problem = loaded.error().message;
    }
    std::vector<ExposureSettings> shot;
    if (v.activeSet >= 0)
      for (const auto& member : v.sets[std::size_t(v.activeSet)].frames) {
        if (auto facts = inspectFile(member.file))
          shot.push_back(facts->settings);
        else
          problem = facts.error().message;
      }
    std::shared_ptr<const CombinedPicture> picture = known;
    if (v.combined && !picture) {
      if (auto loaded = loadPicture(v, progress))
        picture = *loaded;
      else
        problem = loaded.error().message;
    }
    return [this, v, world, shot, picture, problem] {
      if (!desk_.hasView() || idOf(desk_.view()) != idOf(v)) return;
      if (world) worlds_[v.world] = world;
      desk_.camera.enter(world, desk_.view());
      if (picture) desk_.radiances.keep(idOf(v), v.radianceStamp, picture);
      if (!problem.empty()) desk_.notices.fail(QString::fromStdString(problem));
      emit viewRead(shot, v.combined ? picture : nullptr);
    };
  });
}

} // namespace ml
