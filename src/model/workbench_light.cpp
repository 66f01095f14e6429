#include "exposure/marks.h"
#include "exposure/reading.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "model/workbench_change.h"

#include <algorithm>
#include <fmt/format.h>

namespace ml {

// ---- Light

void Workbench::applyReadings(std::vector<SpotReading> readings) {
  mutableView().readings = std::move(readings);
  replan();
  check(view().savePlan());
  emit changed();
}

void Workbench::readSpot(double x, double y) {
  if (!hasView() || busy()) return;
  SpotMeasure spot;
  if (testFrame_ && station_ <= Station::Frames) {
    spot = ml::readSpot(*testFrame_, x, y, spotRadius_);
  } else if (camera_ && station_ <= Station::Frames) {
    const auto measured = camera_->spotReading(x, y, spotRadius_);
    if (!measured) return emit failed(QString::fromStdString(measured.error().message));
    spot = *measured;
  } else if (frame_) {
    spot = ml::readSpot(*frame_, x, y, spotRadius_);
  } else {
    return;
  }
  auto after = view().readings;
  after.push_back({fmt::format("Spot {}", after.size() + 1), spot.ev100, true, x, y, spot.uncertainty, spot.atLeast});
  pushChange(tr("reading"), view().readings, after, [this](const auto& r) { applyReadings(r); });
}

bool Workbench::typeReading(const QString& name, const QString& text) {
  if (!hasView()) return false;
  const auto ev = parseReading(text.toStdString(), choices_.aperture, {100});
  if (!ev) return false;
  auto after = view().readings;
  const std::string given = name.trimmed().toStdString();
  after.push_back({given.empty() ? fmt::format("Spot {}", after.size() + 1) : given, *ev, true, {}, {}, 0, false});
  pushChange(tr("reading"), view().readings, after, [this](const auto& r) { applyReadings(r); });
  return true;
}

void Workbench::renameReading(int index, const QString& name) {
  auto after = view().readings;
  if (index < 0 || index >= int(after.size()) || name.trimmed().isEmpty() || after[std::size_t(index)].name == name.trimmed().toStdString()) return;
  after[std::size_t(index)].name = name.trimmed().toStdString();
  pushChange(tr("name of a reading"), view().readings, after, [this](const auto& r) { applyReadings(r); });
}

void Workbench::removeReading(int index) {
  auto after = view().readings;
  if (index < 0 || index >= int(after.size())) return;
  after.erase(after.begin() + index);
  pushChange(tr("removal of a reading"), view().readings, after, [this](const auto& r) { applyReadings(r); });
}

void Workbench::setKeepTexture(int index, bool keep) {
  auto after = view().readings;
  if (index < 0 || index >= int(after.size()) || after[std::size_t(index)].keepTexture == keep) return;
  after[std::size_t(index)].keepTexture = keep;
  pushChange(tr("what must keep texture"), view().readings, after, [this](const auto& r) { applyReadings(r); });
}

void Workbench::brightenFinder(double stops) {
  if (!camera_ || busy()) return;
  finderStops_ = std::clamp(finderStops_ + stops, -8.0, 10.0);
  refreshFinder();
}

void Workbench::setSpotRadius(double radius) {
  spotRadius_ = std::clamp(radius, 0.002, 0.1);
  emit changed();
}

void Workbench::takeTestFrame() {
  if (!hasView() || busy()) return;
  if (!camera_) { // the user's own files: the frame in hand is the test frame
    if (!frame_) return;
    testFrame_ = frame_;
    testImage_ = frameImage_;
    const auto sketch = sketchOf(*frame_, {});
    proposals_ = proposeZones(*sketch);
    scene_ = distributionOf({sketch});
    emit pictureChanged();
    return emit changed();
  }
  const ExposureSettings settings = finderSettings();
  const auto file = view().folder / "test" / ("test" + extensionOf(view().format));
  work_.start([this, camera = camera_, settings, format = view().format, file](const Progress& progress) -> std::function<void()> {
    progress.at("Test frame", 0.1);
    if (auto exposed = camera->expose(settings, format, file); !exposed) return [this, e = exposed.error()] { emit failed(QString::fromStdString(e.message)); };
    auto loaded = loadFrame(file);
    if (!loaded) return [this, e = loaded.error()] { emit failed(QString::fromStdString(e.message)); };
    auto frame = std::make_shared<const Frame>(std::move(*loaded));
    const auto sketch = sketchOf(*frame, {});
    QImage image = displayOf(*frame);
    markExtremes(image);
    return [this, frame, sketch, image] {
      testFrame_ = frame;
      testImage_ = image;
      proposals_ = proposeZones(*sketch);
      scene_ = distributionOf({sketch});
      emit pictureChanged();
      emit changed();
    };
  });
}

void Workbench::putTestFrameAway() {
  testFrame_.reset();
  testImage_ = {};
  proposals_.reset();
  refreshPicture();
  emit pictureChanged();
  emit changed();
}

void Workbench::takeProposals() {
  if (!hasView() || busy() || !proposals_) return;
  auto after = view().readings;
  const auto add = [&](const char* name, const ProposedZone& zone) {
    after.push_back({name, zone.ev100, true, zone.x, zone.y, 0, zone.atLeast});
  };
  add("Brightest area", proposals_->brightest);
  add("Darkest area", proposals_->darkest);
  proposals_.reset();
  pushChange(tr("proposed readings"), view().readings, after, [this](const auto& r) { applyReadings(r); });
}

// ---- Frames

PlanChoices Workbench::planChoices() const { return choices_; }

void Workbench::choosePlan(const PlanChoices& choices) {
  if (!hasView() || busy() || choices == choices_) return;
  pushChange(tr("plan"), choices_, choices, [this](const PlanChoices& c) { applyPlanChoices(c); });
}

void Workbench::applyPlanChoices(const PlanChoices& choices) {
  const bool otherCamera = choices.camera != choices_.camera;
  choices_ = choices;
  View& v = mutableView();
  v.camera = choices.camera;
  v.school = choices.school;
  v.snrTarget = choices.snrTarget;
  v.isoCap = choices.isoCap;
  v.situation = choices.situation;
  if (otherCamera) applyProfile();
  if (device_) camera_->locked([&] { device_->setHandHeld(choices_.situation.handHeld); });
  replan();
  check(v.savePlan());
  emit changed();
}

void Workbench::applyProfile() {
  View& v = mutableView();
  const auto profile = shelf_->find(v.camera);
  v.ownCamera.reset();
  if (profile && shelf_->isOwn(v.camera)) v.ownCamera = profile;
  if (!v.profile().hasRaw && v.format == FrameFormat::Dng) v.format = FrameFormat::Jpeg;
  makeCamera();
}

void Workbench::profilesChanged() {
  if (!hasView()) return emit changed();
  applyProfile();
  replan();
  check(view().savePlan());
  emit changed();
}

namespace {

/// Raw and JPEG clip at different places: the plan is made for the files that will be shot.
CameraProfile forFormat(CameraProfile camera, FrameFormat format) {
  if (format != FrameFormat::Dng) camera.hasRaw = false;
  return camera;
}

std::vector<ExposureSettings> framesOf(const OwnBracket& own, FNumber aperture) {
  std::vector<ExposureSettings> frames;
  for (int i = 0; i < own.count; ++i) frames.push_back({timeAtThirds(own.first - i * own.step), aperture, own.iso});
  return frames;
}

} // namespace

std::optional<PlanRequest> Workbench::planRequest() const {
  const auto wanted = mustKeepOf(view());
  if (!wanted) return {};
  PlanRequest request;
  request.low = wanted->low;
  request.high = wanted->high;
  std::tie(request.unsureLow, request.unsureHigh) = unsureOf(view());
  request.aperture = choices_.aperture;
  request.snrTarget = choices_.snrTarget;
  request.school = choices_.school;
  request.isoCap = choices_.isoCap;
  request.longest = longestAllowed(choices_.situation, view().profile());
  if (choices_.situation.mostSeconds > 0) request.totalTime = Seconds{choices_.situation.mostSeconds};
  if (camera_) request.cardMegabytes = camera_->status().freeMegabytes;
  return request;
}

void Workbench::replan() {
  View& v = mutableView();
  v.plan.reset();
  comparison_.reset();
  planProblem_.clear();
  const auto request = planRequest();
  if (!request) return;
  const CameraProfile camera = forFormat(v.profile(), v.format);
  if (choices_.own) {
    v.plan = planOfFrames(camera, *request, framesOf(*choices_.own, choices_.aperture));
    return;
  }
  auto plan = planBracket(camera, *request);
  if (plan) v.plan = std::move(*plan);
  else planProblem_ = QString::fromStdString(plan.error().message);
}

const Comparison* Workbench::comparison() const {
  if (!hasView()) return nullptr;
  if (!comparison_)
    if (const auto request = planRequest())
      if (auto compared = compareSchools(forFormat(view().profile(), view().format), *request, choices_.situation)) comparison_ = std::move(*compared);
  return comparison_ ? &*comparison_ : nullptr;
}

std::vector<CameraSetting> Workbench::settingsToMake() const {
  return hasView() && view().plan ? cameraSettings(*view().plan, choices_.situation) : std::vector<CameraSetting>{};
}

std::vector<std::string> Workbench::warnings() const {
  return hasView() && view().plan ? planWarnings(*view().plan, choices_.situation) : std::vector<std::string>{};
}

std::optional<ShotList> Workbench::shots() const {
  return hasView() && view().plan ? std::optional(shotList(*view().plan, choices_.situation)) : std::nullopt;
}

void Workbench::measureSensor(const QStringList& files) {
  if (!hasView() || busy() || files.isEmpty()) return;
  std::vector<std::filesystem::path> paths;
  for (const auto& file : files) paths.emplace_back(file.toStdString());
  work_.start([this, paths, profile = view().profile()](const Progress& progress) -> std::function<void()> {
    progress.at("Measure the sensor", 0.2);
    auto report = measureSensorFiles(paths);
    if (!report) return [this, e = report.error()] { emit failed(QString::fromStdString(e.message)); };
    CameraProfile own = profile;
    own.name = profile.name + ", measured";
    own.hasRaw = true;
    const double gain = report->iso.value > 0 ? report->iso.value / own.baseIso.value : 1;
    own.fullWell = report->measurement.fullWell * gain;
    own.readNoise = report->measurement.readNoise;
    own.readNoiseHigh = std::min(own.readNoiseHigh, own.readNoise);
    return [this, own, pairs = report->pairs] {
      const auto kept = shelf_->keep(own);
      if (!kept) return emit failed(QString::fromStdString(kept.error().message));
      PlanChoices choices = choices_;
      choices.camera = kept->id;
      pushChange(tr("measured camera"), choices_, choices, [this](const PlanChoices& c) { applyPlanChoices(c); });
      emit told(tr("Measured from %1 pairs: full well %2 electrons, read noise %3.").arg(pairs).arg(own.fullWell, 0, 'f', 0).arg(own.readNoise, 0, 'f', 2));
    };
  });
}

} // namespace ml
