#include "model/workbench.h"
#include "pipeline/noisier.h"

#include "deliver/deliver.h"
#include "exposure/marks.h"
#include "image/resample.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "session/locations.h"

#include <cmath>

namespace ml {
namespace fs = std::filesystem;

namespace {
constexpr int kWatchMilliseconds = 400;
}

Workbench::Workbench(const fs::path& jobs, QObject* parent) : QObject(parent), shelf_(std::make_unique<ProfileShelf>(profilesFolder(jobs))), curves_(curvesFolder(jobs)), lookShelf_(std::make_unique<LookShelf>(looksFolder(jobs))) {
  watchTimer_.setInterval(kWatchMilliseconds);
  connect(&watchTimer_, &QTimer::timeout, this, &Workbench::lookIntoWatched);
  connect(&work_, &Background::runningChanged, this, [this](bool running) {
    if (!running && showsFirstLook()) {
      firstLook_ = {};
      emit pictureChanged();
    }
    emit busyChanged(running);
  });
  connect(&work_, &Background::progressed, this, &Workbench::progressed);
  connect(&delivering_, &Background::progressed, this, [this](const QString&, double fraction) {
    deliveryShare_ = fraction;
    emit deliveryProgressed();
  });
}

Workbench::~Workbench() {
  blockSignals(true); // nobody is there to hear of the last file
  leaveDeliveries();
}

bool Workbench::check(const Result<void>& result) {
  if (!result) emit failed(QString::fromStdString(result.error().message));
  return result.has_value();
}

bool Workbench::openJob(const fs::path& folder) {
  auto job = Job::open(folder);
  if (!job) {
    emit failed(QString::fromStdString(job.error().message));
    return false;
  }
  adopt(std::move(*job));
  std::size_t waiting = 0;
  for (const DeliveryOrder& o : deliveries()) waiting += o.targets.size();
  if (waiting > 0) emit told(waiting == 1 ? tr("One file still waits to be written; at Deliver it goes on.") : tr("%1 files still wait to be written; at Deliver it goes on.").arg(waiting));
  return true;
}

bool Workbench::openDemo(const fs::path& jobs) {
  const fs::path folder = jobs / "marl-quay-ferry-house";
  std::error_code error;
  if (fs::exists(folder / "job.json", error)) return openJob(folder);
  auto job = Job::create(folder, "Marl Quay ferry house");
  if (!job) {
    emit failed(QString::fromStdString(job.error().message));
    return false;
  }
  for (const auto& [name, world] : {std::pair{"Reading room", "reading_room"}, {"Boat hall", "boat_hall"}, {"Jetty at dusk", "jetty_dusk"}})
    if (auto view = job->addView(name, world, "full-frame-24"); !view) {
      emit failed(QString::fromStdString(view.error().message));
      return false;
    }
  adopt(std::move(*job));
  return true;
}

void Workbench::takeFiles(const QStringList& paths, const fs::path& jobs) {
  if (busy()) return;
  std::vector<fs::path> wanted;
  for (const auto& path : paths) wanted.emplace_back(path.toStdString());
  if (wanted.empty()) return;
  work_.start([this, wanted, jobs](const Progress& progress) -> std::function<void()> {
    progress.at("Sort the frames into sets", 0);
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles(wanted, leftOut, Subfolders::Read, progress.stop);
    Grouping grouping = groupFiles(files, progress);
    lookAtGroups(grouping, progress);
    if (progress.stopRequested()) return [this] { emit changed(); };
    leftOut.insert(leftOut.end(), grouping.leftOut.begin(), grouping.leftOut.end());
    grouping.leftOut = withoutCompanions(leftOut);
    if (grouping.sets.empty()) {
      const std::string why = grouping.leftOut.empty() ? "There is no frame in what was dropped; drop a folder of frames." : grouping.leftOut.front().reason.message;
      return [this, why] { emit failed(QString::fromStdString(why)); };
    }
    const std::string name = wanted.front().has_filename() ? wanted.front().stem().string() : wanted.front().parent_path().stem().string();
    return [this, grouping, name, jobs] {
      // A single plain set needs no sorting.
      if (grouping.sets.size() == 1 && grouping.aside.empty()) takeSorted(grouping, name, jobs);
      else emit sorted(grouping, QString::fromStdString(name), QString::fromStdString(jobs.string()));
    };
  });
}

void Workbench::takeSorted(const Grouping& grouping, const std::string& name, const fs::path& jobs) {
  fs::path folder = jobs / name;
  std::error_code error;
  for (int n = 2; fs::exists(folder, error); ++n) folder = jobs / (name + "-" + std::to_string(n));
  auto job = Job::create(folder, name);
  const auto complain = [this](const Error& e) { emit failed(QString::fromStdString(e.message)); };
  if (!job) return complain(job.error());
  for (const auto& set : grouping.sets) {
    auto added = job->addView(set.name, "", "full-frame-24");
    if (!added) return complain(added.error());
    View& view = job->views()[*added];
    std::vector<fs::path> frames;
    for (const auto& file : set.files) frames.push_back(fs::absolute(file.path));
    view.adoptFrames(set.name, frames);
    if (auto saved = view.saveFrames(); !saved) return complain(saved.error());
  }
  adopt(std::move(*job));
  if (!grouping.leftOut.empty()) complain(grouping.leftOut.front().reason);
}

void Workbench::adopt(Job job) {
  leaveDeliveries();
  job_ = std::move(job);
  deliveries_.emplace(job_->folder() / "deliveries.json");
  undo_.clear();
  current_ = -1;
  if (!job_->views().empty()) enterView(0);
  emit changed();
}

void Workbench::selectView(int index) {
  if (busy() || !job_ || index == current_ || index < 0 || index >= int(job_->views().size())) return;
  undo_.clear();
  enterView(index);
}

namespace {

/// Undo begins anew with each view opened, so of the kept combined pictures only the current one is needed.
void pruneHistory(const View& view) {
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(view.folder / "history", error))
    if (entry.path().filename() != "radiance-" + view.radianceStamp + ".exr") fs::remove(entry.path(), error);
}

} // namespace

void Workbench::enterView(int index) {
  current_ = index;
  earlier_.clear();
  comparand_ = comparands().front();
  besideImage_ = {};
  cornerPoints_.clear();
  cropDrag_.reset();
  pruneHistory(view());
  world_.reset();
  device_.reset();
  camera_.reset();
  shot_.clear();
  shootState_ = {};
  testFrame_.reset();
  testImage_ = {};
  proposals_.reset();
  scene_.reset();
  watchTimer_.stop();
  watched_.reset();
  waiting_.clear();
  frame_.reset();
  radiance_.reset();
  shownFrame_ = -1;
  finderImage_ = frameImage_ = finishImage_ = beforeImage_ = {};
  finderStops_ = 0;
  const View& v = view();
  choices_ = {v.camera, v.school, v.plan ? v.plan->request.aperture : FNumber{8}, v.snrTarget, v.isoCap, v.situation, {}};
  if (v.plan && v.plan->school == "own" && v.plan->frames.size() > 1)
    choices_.own = OwnBracket{v.plan->count, int(std::lround(3 * v.plan->step.value)), nearestThirds(v.plan->frames.front().time), v.plan->iso()};
  comparison_.reset();
  if (!v.plan && !v.world.empty()) replan();
  station_ = !v.combined && !v.frames.empty() ? Station::Combine : v.combined ? Station::Finish : Station::Light;
  work_.start([this, v](const Progress& progress) -> std::function<void()> {
    progress.at("Open the view", 0.1);
    std::shared_ptr<const World> world;
    std::string problem;
    if (const auto folder = findWorld(v.world)) {
      if (auto loaded = World::load(*folder)) world = std::make_shared<World>(std::move(*loaded));
      else problem = loaded.error().message;
    }
    std::vector<ExposureSettings> shot;
    for (const auto& file : v.frames) {
      if (auto facts = inspectFile(file)) shot.push_back(facts->settings);
      else problem = facts.error().message;
    }
    std::shared_ptr<RadianceState> radiance;
    if (v.combined) {
      if (auto image = readRadiance(v.radianceFile())) {
        const Roi size = fitted(image->width(), image->height(), kPreviewEdge);
        radiance = std::make_shared<RadianceState>();
        radiance->analysis = analyseTone(image->view(), factsOf(*v.combined));
        radiance->preview = shrinkTo(image->view(), size.width, size.height);
        radiance->facts = factsOf(*v.combined);
        radiance->noisier = noisierFromReport(v.combined->report);
      } else {
        problem = image.error().message;
      }
    }
    return [this, world, shot, radiance, problem] {
      world_ = world;
      shot_ = shot;
      radiance_ = radiance;
      makeCamera();
      if (!shot_.empty()) shownFrame_ = int(shot_.size()) / 2;
      if (!problem.empty()) emit failed(QString::fromStdString(problem));
      refreshPicture();
      emit changed();
    };
  });
  emit changed();
}

void Workbench::goTo(Station station) {
  if (!job_ || station == station_) return;
  station_ = station;
  // The set in hand tells what is out there, and how good it is.
  const bool wanted = station_ == Station::Shoot || (station_ == Station::Light && !camera_);
  if (wanted && shootState_.judged.empty() && !busy()) judgeActiveSet();
  refreshPicture();
  emit changed();
  emit pictureChanged();
}

StationStates Workbench::states() const {
  if (!hasView()) return {};
  return stationStates(view());
}

LadderData Workbench::ladder() const {
  if (!hasView()) return {};
  LadderContent content;
  content.station = station_;
  content.shot = shot_;
  content.judged = shootState_.judged;
  if (scene_) content.scene = &*scene_;
  if (radiance_) {
    content.analysis = finishAnalysis();
    content.ev100OfUnit = radiance_->facts.ev100OfUnit;
  }
  if (view().combined) content.combined = &view().combined->report;
  return ladderOf(view(), content);
}

QImage Workbench::picture() const {
  if (!hasView()) return {};
  if (showsFirstLook() && station_ == Station::Combine) return firstLook_;
  const bool finished = station_ == Station::Finish || station_ == Station::Deliver || (station_ == Station::Combine && radiance_);
  if (comparing_ && finished) return beforeImage_;
  if (finished && !finishImage_.isNull()) return finishImage_;
  if (testFrame_ && station_ <= Station::Frames) return testImage_;
  const bool frames = station_ >= Station::Shoot || !camera_;
  return frames && !frameImage_.isNull() ? frameImage_ : finderImage_;
}

void Workbench::refreshPicture() {
  if (!hasView() || busy()) return;
  if (station_ >= Station::Combine && radiance_) return refreshFinish();
  if (shownFrame_ >= 0 && (station_ >= Station::Shoot || !camera_)) return refreshFrame(shownFrame_);
  if (camera_) refreshFinder();
}

ExposureSettings Workbench::finderSettings() const {
  // The finder starts where a meter would: three stops below the brightest reading, else at a bright interior, or at dusk.
  double ev = world_ && world_->fadeStopsPerMinute() > 0 ? 4.5 : 9.5;
  if (!view().readings.empty()) {
    ev = world_ && world_->fadeStopsPerMinute() > 0 ? 1 : 9;
    for (const auto& r : view().readings) ev = std::max(ev, r.ev100.value - 3);
  }
  const CameraProfile profile = view().profile();
  const Seconds time = timeFor({ev - finderStops_}, choices_.aperture, profile.baseIso);
  return {std::clamp(time, profile.shortest, profile.longest), choices_.aperture, profile.baseIso};
}

void Workbench::refreshFinder() {
  preview_.start([this, camera = camera_, settings = finderSettings()](const Progress&) -> std::function<void()> {
    auto live = camera->liveView(settings);
    if (!live) return [this, e = live.error()] { emit failed(QString::fromStdString(e.message)); };
    QImage image = toQImage(*live);
    return [this, image] {
      finderImage_ = image;
      emit pictureChanged();
    };
  });
}

void Workbench::refreshFrame(int index) {
  if (index < 0 || index >= int(view().frames.size())) return;
  preview_.start([this, index, file = view().frames[std::size_t(index)]](const Progress&) -> std::function<void()> {
    auto loaded = loadFrame(file);
    if (!loaded) return [this, e = loaded.error()] { emit failed(QString::fromStdString(e.message)); };
    auto frame = std::make_shared<const Frame>(std::move(*loaded));
    QImage image = displayOf(*frame);
    markExtremes(image);
    return [this, index, frame, image] {
      shownFrame_ = index;
      frame_ = frame;
      frameImage_ = image;
      emit pictureChanged();
      emit changed();
    };
  });
}

void Workbench::compare(bool before) {
  if (comparing_ == before) return;
  comparing_ = before;
  emit pictureChanged();
}

} // namespace ml
