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

constexpr int kFirstLookEdge = 1400;

/// Whether frames are so large that they are combined faster at a fraction of their size.
bool worthAFirstLook(const fs::path& frame) {
  const auto facts = inspectFile(frame);
  return facts && std::max(facts->width, facts->height) >= 2 * kFirstLookEdge;
}

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

/// On the thread that combines: frames at a fraction of their size take a moment, and show whether the set is worth waiting for.
void Workbench::takeFirstLook(const View& v, const CombineOptions& options, const Progress& progress) {
  if (!worthAFirstLook(v.frames.front())) return;
  CombineOptions small = options;
  small.edge = kFirstLookEdge;
  progress.at("First look", 0);
  const auto combined = combineFiles(v.frames, small, {progress.stop, {}});
  if (!combined || progress.stopRequested()) return; // what is wrong with the set, the frames themselves will say
  const ToneAnalysis analysis = analyseTone(combined->radiance.view(), sceneFacts(*combined));
  const auto finished = Finisher(analysis, nullptr).finish(combined->radiance.view(), v.recipe, {progress.stop, {}});
  if (!finished) return;
  QMetaObject::invokeMethod(this, [this, image = toQImage(std::as_const(finished->picture).view())] {
    if (!busy()) return;
    firstLook_ = image;
    emit pictureChanged();
  }, Qt::QueuedConnection);
}

void Workbench::combine(const CombineOptions& asked) {
  if (!hasView() || busy() || view().frames.empty()) return;
  CombineOptions options = asked;
  options.curves = curves_;
  work_.start([this, options, v = view()](const Progress& progress) -> std::function<void()> {
    takeFirstLook(v, options, progress);
    auto combined = combineFiles(v.frames, options, progress);
    if (!combined) {
      if (combined.error().code == ErrorCode::Stopped) return [this] { emit changed(); };
      return [this, e = combined.error()] { emit failed(QString::fromStdString(e.message)); };
    }
    CombinedState state;
    state.stamp = freshStamp();
    RadianceOptions radiance;
    radiance.notes = notesOf(*combined);
    progress.at("Keep the radiance", 1);
    if (auto kept = deliverRadiance(combined->radiance.view(), historyFile(v, state.stamp), radiance); !kept)
      return [this, e = kept.error()] { emit failed(QString::fromStdString(e.message)); };
    state.radiance = std::make_shared<RadianceState>();
    state.radiance->analysis = analyseTone(combined->radiance.view(), sceneFacts(*combined));
    const Roi size = fitted(combined->radiance.width(), combined->radiance.height(), kPreviewEdge);
    state.radiance->preview = shrinkTo(combined->radiance.view(), size.width, size.height);
    state.radiance->facts = sceneFacts(*combined);
    state.radiance->noisier = std::move(combined->noisier);
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

/// One frame, three or five under one finish: what the view was combined to until now can be compared with what comes.
void Workbench::keepEarlier() {
  constexpr std::size_t kMost = 5;
  const View& v = view();
  if (!v.combined || !radiance_) return;
  std::erase_if(earlier_, [&](const EarlierCombination& e) { return e.stamp == v.radianceStamp; });
  const std::size_t frames = v.combined->report.contains("frames") ? v.combined->report["frames"].size() : 0;
  const QString method = v.combined->options.method == CombineMethod::Radiance ? QString() : tr(" (%1)").arg(QString::fromUtf8(methodName(v.combined->options.method)));
  const QString name = (frames == 1 ? tr("one frame") : tr("%1 frames, as combined before").arg(frames)) + method;
  earlier_.push_back({++earlierCount_, v.radianceStamp, name, radiance_});
  if (earlier_.size() > kMost) earlier_.erase(earlier_.begin());
}

void Workbench::applyCombined(const CombinedState& state) {
  keepEarlier();
  View& v = mutableView();
  v.combined = state.record;
  v.radianceStamp = state.stamp;
  radiance_ = state.radiance;
  firstLook_ = {};
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
  if (radiance_) radiance_->judgement.reset();
  check(view().saveFinish());
  if (radiance_) refreshFinish();
  emit changed();
}

} // namespace ml
