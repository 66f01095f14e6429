#include "base/atomic_file.h"
#include "deliver/deliver.h"
#include "exposure/marks.h"
#include "image/resample.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "model/value_command.h"
#include "model/workbench.h"
#include "pipeline/report.h"

#include <chrono>
#include <fmt/format.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

std::string freshStamp() {
  return std::to_string(std::chrono::system_clock::now().time_since_epoch().count());
}

fs::path historyFile(const View& view, const std::string& stamp) { return view.folder / "history" / ("radiance-" + stamp + ".exr"); }

/// `radiance.exr` becomes another name of the kept file; a copy where the disk knows no links.
Result<void> showAsCurrent(const fs::path& kept, const fs::path& current) {
  return writeAtomically(current, [&](const fs::path& temporary) -> Result<void> {
    std::error_code error;
    fs::remove(temporary, error);
    fs::create_hard_link(kept, temporary, error);
    if (error) fs::copy_file(kept, temporary, fs::copy_options::overwrite_existing, error);
    if (error) return fail(ErrorCode::CannotWrite, "`" + current.string() + "` cannot be written (" + error.message() + "); free some space.");
    return {};
  });
}

constexpr double kSpotRadius = 0.008; // of the picture's width

} // namespace

template <class Apply, class Value>
void Workbench::pushChange(const QString& text, Value before, Value after, Apply apply, int mergeId) {
  undo_.push(new ValueCommand<Value>(text, std::move(before), std::move(after), apply, mergeId));
}

// ---- Light

void Workbench::applyReadings(std::vector<SpotReading> readings) {
  mutableView().readings = std::move(readings);
  replan();
  check(view().savePlan());
  emit changed();
}

void Workbench::readSpot(double x, double y) {
  if (!hasView() || busy()) return;
  SpotReading reading;
  if (camera_ && station_ <= Station::Frames) {
    const std::lock_guard lock(cameraMutex_);
    const auto ev = camera_->spotReading(x, y, kSpotRadius);
    if (!ev) return emit failed(QString::fromStdString(ev.error().message));
    reading.ev100 = *ev;
  } else if (frame_) {
    const FrameSpot spot = ml::readSpot(*frame_, x, y, kSpotRadius);
    if (spot.clipped) return emit failed(tr("That spot is clipped in this frame: it reads at least EV %1. Choose a darker frame to read it.").arg(spot.ev100, 0, 'f', 1));
    reading.ev100 = {spot.ev100};
  } else {
    return;
  }
  reading.x = x;
  reading.y = y;
  auto after = view().readings;
  reading.name = fmt::format("Spot {}", after.size() + 1);
  after.push_back(reading);
  pushChange(tr("reading"), view().readings, after, [this](const auto& r) { applyReadings(r); });
}

bool Workbench::typeReading(const QString& name, const QString& text) {
  if (!hasView()) return false;
  const std::string typed = text.trimmed().toStdString();
  std::optional<Stops> ev;
  const bool asTime = typed.find('/') != std::string::npos && typed.find(' ') == std::string::npos;
  if (asTime || typed.ends_with("s") || typed.ends_with("\"")) {
    if (const auto time = parseTime(typed)) ev = ev100(choices_.aperture, *time, {100});
  } else {
    ev = parseStops(typed);
  }
  if (!ev || ev->value < -15 || ev->value > 30) return false;
  auto after = view().readings;
  const std::string given = name.trimmed().toStdString();
  after.push_back({given.empty() ? fmt::format("Spot {}", after.size() + 1) : given, *ev, true, {}, {}});
  pushChange(tr("reading"), view().readings, after, [this](const auto& r) { applyReadings(r); });
  return true;
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

// ---- Frames

PlanChoices Workbench::planChoices() const { return choices_; }

void Workbench::choosePlan(const PlanChoices& choices) {
  if (!hasView() || busy() || choices == choices_) return;
  pushChange(tr("plan"), choices_, choices, [this](const PlanChoices& c) { applyPlanChoices(c); });
}

void Workbench::applyPlanChoices(const PlanChoices& choices) {
  choices_ = choices;
  View& v = mutableView();
  const auto* profile = findProfile(choices.camera);
  if (profile && world_ && v.camera != choices.camera) camera_ = std::make_shared<SimulatedCamera>(world_, *profile);
  v.camera = choices.camera;
  v.school = choices.school;
  v.snrTarget = choices.snrTarget;
  if (profile && !profile->hasRaw && v.format == FrameFormat::Dng) v.format = FrameFormat::Jpeg;
  replan();
  check(v.savePlan());
  emit changed();
}

void Workbench::replan() {
  View& v = mutableView();
  v.plan.reset();
  planProblem_.clear();
  std::optional<Stops> low, high;
  int kept = 0;
  for (const auto& r : v.readings) {
    if (!r.keepTexture) continue;
    ++kept;
    low = low ? std::min(*low, r.ev100) : r.ev100;
    high = high ? std::max(*high, r.ev100) : r.ev100;
  }
  if (kept < 2) return;
  PlanRequest request;
  request.low = *low;
  request.high = *high;
  request.aperture = choices_.aperture;
  request.snrTarget = choices_.snrTarget;
  request.school = choices_.school;
  const auto* profile = findProfile(choices_.camera);
  CameraProfile camera = profile ? *profile : shippedProfiles().front();
  // Raw and JPEG clip at different places: the plan is made for the files that will be shot.
  if (v.format != FrameFormat::Dng) camera.hasRaw = false;
  auto plan = planBracket(camera, request);
  if (plan) {
    plan->camera.hasRaw = profile ? profile->hasRaw : true;
    if (v.format != FrameFormat::Dng) plan->camera.hasRaw = false;
    v.plan = std::move(*plan);
  } else {
    planProblem_ = QString::fromStdString(plan.error().message);
  }
}

// ---- Shoot

void Workbench::setFormat(FrameFormat format) {
  if (!hasView() || busy() || view().format == format) return;
  pushChange(tr("file format"), view().format, format, [this](FrameFormat f) {
    mutableView().format = f;
    replan();
    check(view().savePlan());
    emit changed();
  });
}

void Workbench::shoot() {
  if (!hasView() || busy() || !camera_ || !view().plan) return;
  int number = 1;
  std::error_code error;
  const auto setFolder = [&] { return view().framesFolder() / fmt::format("set-{:02d}", number); };
  while (fs::exists(setFolder(), error)) ++number;
  SimulationOptions simulation;
  simulation.seed = std::uint64_t(number);
  if (handHeld_) {
    simulation.shakePixels = 3;
    simulation.shakeDegrees = 0.1;
  }
  auto device = std::make_shared<SimulatedCamera>(world_, camera_->profile(), simulation);
  View& v = mutableView();
  v.frames.clear();
  shot_.clear();
  darkestClipped_.reset();
  station_ = Station::Shoot;
  work_.start([this, device, plan = *v.plan, format = v.format, folder = setFolder()](const Progress& progress) -> std::function<void()> {
    const auto arrived = [this](const ShotFrame& shotFrame) {
      auto loaded = loadFrame(shotFrame.file);
      if (!loaded) return;
      auto frame = std::make_shared<const Frame>(std::move(*loaded));
      const double clipped = clippedShare(*frame);
      QMetaObject::invokeMethod(this, [this, shotFrame, frame, clipped] { frameShot(shotFrame.file, shotFrame.settings, frame, clipped); },
                                Qt::QueuedConnection);
    };
    const auto shot = shootBracket(*device, {plan.frames, format, folder, "frame-", 1, {2}}, progress, arrived);
    if (!shot && shot.error().code != ErrorCode::Stopped)
      return [this, e = shot.error()] { emit failed(QString::fromStdString(e.message)); };
    return [this] { emit changed(); };
  });
  emit changed();
}

void Workbench::frameShot(const fs::path& file, const ExposureSettings& settings, std::shared_ptr<const Frame> frame, double clipped) {
  View& v = mutableView();
  v.frames.push_back(file);
  check(v.saveFrames());
  shot_.push_back(settings);
  if (shot_.size() == 1) darkestClipped_ = clipped;
  frame_ = std::move(frame);
  shownFrame_ = int(shot_.size()) - 1;
  frameImage_ = displayOf(*frame_);
  markExtremes(frameImage_);
  emit frameArrived(shownFrame_);
  emit pictureChanged();
  emit changed();
}

void Workbench::showFrame(int index) {
  if (!hasView() || busy()) return;
  refreshFrame(index);
}

// ---- Combine

Workbench::CombinedState Workbench::combinedState() const { return {view().combined, view().radianceStamp, radiance_}; }

void Workbench::combine(const CombineOptions& options) {
  if (!hasView() || busy() || view().frames.empty()) return;
  work_.start([this, options, v = view()](const Progress& progress) -> std::function<void()> {
    auto combined = combineFiles(v.frames, options, progress);
    if (!combined) {
      if (combined.error().code == ErrorCode::Stopped) return [this] { emit changed(); };
      return [this, e = combined.error()] { emit failed(QString::fromStdString(e.message)); };
    }
    CombinedState state;
    state.stamp = freshStamp();
    RadianceOptions radiance;
    radiance.ev100OfUnit = combined->ev100OfUnit;
    progress.at("Keep the radiance", 1);
    if (auto kept = deliverRadiance(combined->radiance.view(), historyFile(v, state.stamp), radiance); !kept)
      return [this, e = kept.error()] { emit failed(QString::fromStdString(e.message)); };
    state.radiance = std::make_shared<RadianceState>();
    state.radiance->analysis = analyseTone(combined->radiance.view());
    const Roi size = fitted(combined->radiance.width(), combined->radiance.height(), kPreviewEdge);
    state.radiance->preview = shrinkTo(combined->radiance.view(), size.width, size.height);
    state.radiance->ev100OfUnit = combined->ev100OfUnit;
    CombineRecord record;
    record.options = options;
    record.frames = v.frameNames();
    record.ev100OfUnit = combined->ev100OfUnit;
    record.metadataFrom = {combined->frames[std::size_t(combined->reference)].path.string()};
    record.verdict = verdict(*combined);
    record.report = toJson(*combined);
    state.record = std::move(record);
    return [this, state] { pushChange(tr("combine"), combinedState(), state, [this](const CombinedState& s) { applyCombined(s); }); };
  });
}

void Workbench::applyCombined(const CombinedState& state) {
  View& v = mutableView();
  v.combined = state.record;
  v.radianceStamp = state.stamp;
  radiance_ = state.radiance;
  finishImage_ = beforeImage_ = {};
  if (state.record) check(showAsCurrent(historyFile(v, state.stamp), v.radianceFile()));
  check(v.saveCombined());
  if (radiance_) refreshFinish();
  emit changed();
  emit pictureChanged();
}

// ---- Finish

void Workbench::setRecipe(const Recipe& recipe, int dragId) {
  if (!hasView() || recipe == view().recipe) return;
  pushChange(tr("finish"), view().recipe, recipe, [this](const Recipe& r) { applyRecipe(r); }, dragId > 0 ? dragId : -1);
}

void Workbench::applyRecipe(const Recipe& recipe) {
  mutableView().recipe = recipe;
  check(view().saveFinish());
  if (radiance_) refreshFinish();
  emit changed();
}

// ---- Deliver

void Workbench::deliver(const DeliverChoices& choices) {
  if (!hasView() || busy() || !view().combined) return;
  work_.start([this, choices, v = view()](const Progress& progress) -> std::function<void()> {
    const auto failure = [this](const Error& error) -> std::function<void()> {
      if (error.code == ErrorCode::Stopped) return [this] { emit changed(); };
      return [this, error] { emit failed(QString::fromStdString(error.message)); };
    };
    progress.at("Read the radiance", 0);
    auto radiance = readRadiance(v.radianceFile());
    if (!radiance) return failure(radiance.error());
    auto finished = finishPicture(radiance->view(), analyseTone(radiance->view()), v.recipe, progress);
    if (!finished) return failure(finished.error());
    const std::string base = v.folder.filename().string().substr(3);
    std::vector<DeliveredFile> made;
    const auto target = [&](const std::string& ending) {
      fs::path file = v.deliveredFolder() / (base + ending);
      const auto dot = ending.rfind('.');
      std::error_code error;
      for (int n = 2; fs::exists(file, error); ++n) file = v.deliveredFolder() / fmt::format("{}{}-{}{}", base, ending.substr(0, dot), n, ending.substr(dot));
      return file;
    };
    DeliverOptions options;
    if (!v.combined->metadataFrom.empty()) options.metadataFrom = v.combined->metadataFrom.front();
    RadianceOptions radianceOptions;
    radianceOptions.ev100OfUnit = v.combined->ev100OfUnit;
    Result<void> done;
    const auto write = [&](const std::string& ending, auto&& encode) {
      if (!done || progress.stopRequested()) return;
      const fs::path file = target(ending);
      progress.at("Write " + file.filename().string(), 0.9);
      done = encode(file);
      if (done) made.push_back({file.filename().string(), toJson(v.recipe), v.radianceStamp});
    };
    if (choices.jpeg) write(".jpg", [&](const fs::path& f) { return deliverPicture(finished->picture.view(), f, options); });
    if (choices.webJpeg) {
      DeliverOptions web = options;
      web.longEdge = 2048;
      write("-web.jpg", [&](const fs::path& f) { return deliverPicture(finished->picture.view(), f, web); });
    }
    if (choices.tiff) write(".tif", [&](const fs::path& f) { return deliverPicture(finished->picture.view(), f, options); });
    if (choices.exr) write(".exr", [&](const fs::path& f) { return deliverRadiance(radiance->view(), f, radianceOptions); });
    return [this, made, done] {
      View& now = mutableView();
      now.delivered.insert(now.delivered.end(), made.begin(), made.end());
      check(now.saveFinish());
      check(done);
      emit changed();
    };
  });
}

} // namespace ml
