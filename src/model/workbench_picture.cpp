#include "base/atomic_file.h"
#include "deliver/deliver.h"
#include "image/resample.h"
#include "model/pictures.h"
#include "model/workbench_change.h"
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

} // namespace

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

CombineOptions Workbench::combineOptions() const { return hasView() && view().combined ? view().combined->options : CombineOptions{}; }

std::vector<MovedPlace> Workbench::movedPlaces() const {
  return hasView() && view().combined ? ml::movedPlaces(view().combined->report) : std::vector<MovedPlace>{};
}

bool Workbench::cyclePlace(double x, double y) {
  if (!hasView() || busy() || !view().combined) return false;
  CombineOptions options = combineOptions();
  const auto choices = nextSource(view().combined->report, options.choices, x, y);
  if (!choices) return false;
  options.choices = *choices;
  combine(options);
  return true;
}

void Workbench::paintPlace(const QPolygonF& stroke, double radius, int frame) {
  if (!hasView() || busy() || !view().combined || stroke.isEmpty()) return;
  CombineOptions options = combineOptions();
  SourceChoice choice{{}, radius, frame};
  for (const QPointF& p : stroke) choice.stroke.push_back(toReference(view().combined->report, p.x(), p.y()));
  (options.method == CombineMethod::Darker ? options.darker : options.choices).push_back(std::move(choice));
  combine(options);
}

void Workbench::setPainting(int frame) {
  paintFrom_ = frame;
  emit changed();
}

void Workbench::setBrushRadius(double radius) {
  brushRadius_ = std::clamp(radius, 0.003, 0.2);
  emit changed();
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
