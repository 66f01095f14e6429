// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/combine_model.h"

#include "base/phrase.h"
#include "exposure/marks.h"
#include "model/combine_words.h"
#include "model/combining.h"
#include "model/join_view.h"
#include "model/pictures.h"
#include "model/view_edit.h"
#include "session/radiance_history.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr int kFirstLookEdge = 1400;
constexpr int kPositionLookEdge = 700; // of each position

/// Whether frames are so large that they are combined faster at a fraction of their size.
bool worthAFirstLook(const fs::path& frame) {
  const auto facts = inspectFile(frame);
  return facts && std::max(facts->width, facts->height) >= 2 * kFirstLookEdge;
}

Result<JoinedLook> firstLookAt(const View& v, const CombineOptions& options, const StopFlag& stop) {
  if (options.method == CombineMethod::Positions) return lookAtJoined(v, options, kPositionLookEdge, {stop, {}});
  CombineOptions small = options;
  small.edge = kFirstLookEdge;
  small.lentFiles = v.lentFiles(options.lent);
  auto combined = combineFiles(v.frames, small, {stop, {}});
  if (!combined) return passOn(combined.error());
  const SceneFacts facts = sceneFacts(*combined);
  return JoinedLook{std::move(combined->radiance), facts};
}

} // namespace

CombineModel::CombineModel(Desk& desk, FinishedPicture& finished) : StationModel(desk), finished_(finished) {
  connect(&finished_, &FinishedPicture::drawn, this, &CombineModel::pictureChanged);
  connect(&finished_, &FinishedPicture::detailDrawn, this, &CombineModel::detailDrawn);
  connect(&desk_.job, &JobModel::viewEntered, this, [this] { paintFrom_ = -1; });
  connect(&desk_.works.longWork, &Lane::runningChanged, this, [this](bool running) {
    if (running || firstLook_.isNull()) return;
    firstLook_ = {};
    emit pictureChanged();
  });
}

QString CombineModel::verdict() const {
  const View& v = desk_.view();
  if (state() == StationState::OutOfDate) return tr("The frames have changed since they were combined; combine again.");
  if (v.combined) return text(v.combined->verdict);
  return v.frames.empty() ? tr("There are no frames yet; shoot them first or drop a folder of your own.")
                          : tr("%1 frames are ready to combine.").arg(v.frames.size());
}

QStringList CombineModel::reasons() const {
  const View& v = desk_.view();
  return v.combined ? combineReasons(*v.combined->report, frameNumbers(v, *v.combined->report)) : QStringList{};
}

QImage CombineModel::picture() const {
  if (showsFirstLook()) return firstLook_;
  return finished_.image().isNull() ? StationModel::picture() : finished_.image();
}

PictureMarks CombineModel::marks() const {
  PictureMarks marks;
  if (!showsFirstLook()) marks.fullSize = finished_.image().isNull() ? frameSize() : finished_.fullSize();
  if (!desk_.view().combined) return marks;
  marks.places = movedPlaces();
  const auto& positions = desk_.view().combined->report->positions;
  const auto joined = joinedPositions();
  const std::string turning = this->turning();
  for (std::size_t i = 0; i < positions.size(); ++i) {
    if (!turning.empty() && (i >= joined.size() || joined[i].set != turning)) continue; // seen alone
    QPolygonF edge;
    for (const auto& p : positions[i].outline) edge << QPointF(p[0], p[1]);
    QPainterPath path;
    path.addPolygon(edge.translated(dragged_));
    path.closeSubpath();
    marks.outlines.push_back(path);
  }
  marks.pointer = canBeLevelled()    ? PictureMarks::Pointer::Drag
                  : paintFrom() >= 0 ? PictureMarks::Pointer::Brush
                                     : PictureMarks::Pointer::Place;
  marks.brush = brushRadius_;
  return marks;
}

void CombineModel::addTo(LadderContent& content) const {
  content.given = true;
  content.sceneFirst = false;
}

bool CombineModel::canBeLevelled() const {
  const View& v = desk_.view();
  return desk_.free() && v.combined && v.combined->options.method == CombineMethod::Positions &&
         v.combined->report->focal > 0 && state() == StationState::Done;
}

void CombineModel::dragBegins(QPointF at) {
  if (canBeLevelled()) dragFrom_ = at;
}

/// The outlines go with the hand; the picture follows when it lets go.
void CombineModel::drag(QPointF at) {
  if (!dragFrom_) return;
  dragged_ = at - *dragFrom_;
  emit pictureChanged();
}

void CombineModel::dragEnds(QPointF at) {
  if (!dragFrom_) return;
  const QPointF by = at - *dragFrom_;
  dragFrom_.reset();
  dragged_ = {};
  const CombineReport& report = *desk_.view().combined->report;
  const double degrees = 180 / std::numbers::pi / report.focal;
  constexpr double kLeastDegrees = 0.02; // a click is no drag
  // The whole goes with the hand when what it faces goes the other way; a position looks where it is put.
  const double way = turning().empty() ? -1 : 1;
  const double yaw = way * by.x() * report.width * degrees, pitch = -way * by.y() * report.height * degrees;
  if (std::hypot(yaw, pitch) < kLeastDegrees) return emit pictureChanged();
  Angles angles = turned();
  angles.yaw = std::remainder(angles.yaw + yaw, 360);
  angles.pitch = std::clamp(angles.pitch + pitch, -90.0, 90.0);
  turn(angles);
}

std::vector<CombineModel::Joined> CombineModel::joinedPositions() const {
  std::vector<Joined> out;
  if (!canBeLevelled()) return out;
  for (const auto& place : framePlaces())
    if (place.used) out.push_back({place.file.toStdString(), place.line});
  return out;
}

std::string CombineModel::turning() const {
  const auto joined = joinedPositions();
  const bool there = std::any_of(joined.begin(), joined.end(), [&](const auto& j) { return j.set == turning_; });
  return there ? turning_ : std::string();
}

void CombineModel::setTurning(const std::string& set) {
  turning_ = set;
  emit changed();
  emit pictureChanged();
}

Angles CombineModel::turned() const {
  const Joining joining = options().joining;
  const std::string set = turning();
  if (set.empty()) return joining.facing;
  const auto found = joining.turned.find(set);
  return found == joining.turned.end() ? Angles{} : found->second;
}

void CombineModel::turn(const Angles& angles) {
  Joining joining = options().joining;
  const std::string set = turning();
  if (set.empty())
    joining.facing = angles;
  else if (angles == Angles{})
    joining.turned.erase(set);
  else
    joining.turned[set] = angles;
  join(joining);
}

void CombineModel::join(const Joining& joining) {
  CombineOptions changed = options();
  if (changed.joining == joining) return;
  changed.joining = joining;
  combine(changed);
}

void CombineModel::showDetail(const QRectF& part) {
  if (finished_.image().isNull())
    StationModel::showDetail(part);
  else
    finished_.showDetail(part);
}

StationModel::Next CombineModel::next() const {
  const bool ready = !desk_.view().frames.empty() && !desk_.busy();
  const bool done = state() == StationState::Done;
  return {done ? tr("On to Finish") : tr("Combine"), ready, done};
}

void CombineModel::enter() {
  if (desk_.busy()) return;
  if (finished_.exists())
    finished_.draw();
  else
    StationModel::enter();
}

void CombineModel::doNext() {
  if (state() == StationState::Done)
    emit goTo(stations::kFinish);
  else
    combine(options());
}

/// On the thread that combines: frames at a fraction of their size take a moment, and show whether the set is worth
/// waiting for.
void CombineModel::takeFirstLook(const View& v, const CombineOptions& options, const Progress& progress) {
  if (!worthAFirstLook(v.frames.front())) return;
  // Positions that were combined already are joined about as soon as they are looked at.
  std::error_code error;
  if (options.method == CombineMethod::Positions && fs::exists(joiningFolder(v), error)) return;
  progress.at(phrase("First look"), 0);
  const auto look = firstLookAt(v, options, progress.stop);
  if (!look || progress.stopRequested()) return; // what is wrong with the set, the frames themselves will say
  const ToneAnalysis analysis = analyseTone(look->radiance.view(), look->facts);
  const auto finished = Finisher(analysis, nullptr).finish(look->radiance.view(), v.recipe, {progress.stop, {}});
  if (!finished) return;
  const auto show = [this, image = toQImage(std::as_const(finished->picture).view())] {
    if (!desk_.busy()) return;
    firstLook_ = image;
    emit pictureChanged();
  };
  QMetaObject::invokeMethod(this, show, Qt::QueuedConnection);
}

void CombineModel::combine(const CombineOptions& asked) {
  if (!desk_.free() || desk_.view().frames.empty()) return;
  CombineOptions options = asked;
  options.curves = desk_.curves;
  desk_.works.batch.stop(); // memory holds one set of frames at a time
  desk_.works.longWork.start([this, options, v = desk_.view()](const Progress& progress) -> std::function<void()> {
    takeFirstLook(v, options, progress);
    auto combined = combineView(v, options, progress);
    if (!combined) {
      if (combined.error().code == ErrorCode::Stopped) return [this] { emit changed(); };
      return [this, e = combined.error()] { desk_.notices.fail(e); };
    }
    return [this, view = idOf(v), made = *combined] {
      const View* now = desk_.job.find(view);
      if (!now) return;
      firstLook_ = {};
      desk_.radiances.keep(view, made.outcome.stamp, made.picture);
      desk_.job.edit(view, Aspect::Combined, tr("combine"), CombineOutcome{now->combined, now->radianceStamp},
                     made.outcome, putOutcome);
    };
  });
}

std::vector<MovedPlace> CombineModel::movedPlaces() const {
  if (!desk_.hasView() || !desk_.view().combined) return {};
  const CombineReport& report = *desk_.view().combined->report;
  return ml::movedPlaces(report, frameNumbers(desk_.view(), report));
}

void CombineModel::click(QPointF at) {
  if (desk_.free() && !cyclePlace(at.x(), at.y()))
    desk_.notices.tell(tr("Nothing moved there that another frame records too; paint it to choose a frame."));
}

bool CombineModel::cyclePlace(double x, double y) {
  if (!desk_.free() || !desk_.view().combined) return false;
  const CombineReport::Place* place = placeAt(*desk_.view().combined->report, x, y);
  if (place) takePlace({x, y}, nextFrame(*place));
  return place != nullptr;
}

void CombineModel::takePlace(QPointF at, int frame) {
  if (!desk_.free() || !desk_.view().combined) return;
  CombineOptions again = options();
  again.choices = withSource(*desk_.view().combined->report, again.choices, at.x(), at.y(), frame);
  combine(again);
}

std::vector<StationModel::Choice> CombineModel::choicesAt(QPointF at) {
  std::vector<Choice> choices;
  if (!desk_.free() || !desk_.view().combined) return choices;
  const CombineReport& report = *desk_.view().combined->report;
  const CombineReport::Place* place = placeAt(report, at.x(), at.y());
  if (!place) return choices;
  const std::vector<int> numbers = frameNumbers(desk_.view(), report);
  for (const int frame : place->recording)
    if (frame != place->source && std::size_t(frame) < numbers.size())
      choices.push_back({tr("Take this place from frame %1, %2")
                             .arg(numbers[std::size_t(frame)])
                             .arg(text(print(report.frames[std::size_t(frame)].settings.time))),
                         [this, at, frame] { takePlace(at, frame); }});
  return choices;
}

void CombineModel::paint(const QPolygonF& stroke, double radius, int frame) {
  if (!desk_.free() || !desk_.view().combined || stroke.isEmpty() || frame < 0) return;
  CombineOptions again = options();
  SourceChoice choice{{}, radius, frame};
  for (const QPointF& p : stroke) choice.stroke.push_back(toReference(*desk_.view().combined->report, p.x(), p.y()));
  (again.method == CombineMethod::Darker ? again.darker : again.choices).push_back(std::move(choice));
  combine(again);
}

bool CombineModel::canPaint() const {
  if (!desk_.free() || state() != StationState::Done) return false;
  const CombineMethod method = options().method;
  return method == CombineMethod::Radiance || method == CombineMethod::Darker || method == CombineMethod::Fusion;
}

void CombineModel::setPaintFrom(int frame) {
  paintFrom_ = frame;
  emit changed();
}

void CombineModel::setBrushRadius(double radius) {
  brushRadius_ = std::clamp(radius, 0.003, 0.2);
  emit changed();
}

namespace {

/// One entry for each position instead: its set, and how it lies.
std::vector<CombineModel::FramePlace> positionPlaces(const View& v, const CombineOptions& with) {
  std::vector<CombineModel::FramePlace> out;
  for (const int index : v.positions()) {
    const FrameSet& set = v.sets[std::size_t(index)];
    CombineModel::FramePlace place;
    place.file = text(set.name);
    place.used = std::find(with.unused.begin(), with.unused.end(), set.name) == with.unused.end();
    place.number = int(out.size()) + 1;
    place.line = QObject::tr("Position %1: %2").arg(place.number).arg(text(set.label.empty() ? set.name : set.label));
    // What was joined lies in the same order, without those left out.
    const auto joined = std::size_t(std::count_if(out.begin(), out.end(), [](const auto& p) { return p.used; }));
    if (place.used && v.combined && joined < v.combined->report->positions.size()) {
      const auto& p = v.combined->report->positions[joined];
      place.details = QObject::tr("Row %1, column %2; overlaps a neighbour by %3 %; lies within %4 pixels")
                          .arg(p.row + 1)
                          .arg(p.column + 1)
                          .arg(qRound(100 * p.overlap))
                          .arg(p.residual, 0, 'f', 2);
    }
    out.push_back(std::move(place));
  }
  return out;
}

} // namespace

namespace {

/// What was taken from a lent frame is taken back; those lent after it count on.
void giveUp(const CombineReport& report, const fs::path& file, CombineOptions& options) {
  const auto said = frameWords(report, file, true, 0);
  if (!said) return;
  for (auto* choices : {&options.choices, &options.darker}) {
    std::erase_if(*choices, [&](const SourceChoice& c) { return c.frame == said->merged; });
    for (SourceChoice& c : *choices) c.frame -= c.frame > said->merged;
  }
}

void takeWords(const std::optional<FrameWords>& said, CombineModel::FramePlace& place) {
  if (!said) return;
  place.line = said->line, place.details = said->details, place.note = said->note, place.merged = said->merged;
}

const FrameSet* setOf(const View& v, const fs::path& file) {
  for (const FrameSet& set : v.sets)
    for (const auto& member : set.frames)
      if (member.file == file) return &set;
  return nullptr;
}

std::string lentName(const View& v, const fs::path& file) {
  const FrameSet* set = setOf(v, file);
  return (set ? set->name : std::string()) + "/" + file.filename().string();
}

QString setWords(const View& v, const fs::path& file) {
  const FrameSet* set = setOf(v, file);
  return !set ? QString() : text(set->label.empty() ? set->name : set->label);
}

} // namespace

std::vector<CombineModel::FramePlace> CombineModel::framePlaces() const {
  std::vector<FramePlace> places;
  const View& v = desk_.view();
  const CombineOptions with = options();
  if (with.method == CombineMethod::Positions) return positionPlaces(v, with);
  for (const auto& file : v.frames) {
    FramePlace place;
    const std::string name = file.filename().string();
    place.file = text(name);
    place.used = std::find(with.unused.begin(), with.unused.end(), name) == with.unused.end();
    place.number = frameNumber(v, file);
    place.line = place.details = place.file;
    if (v.combined) takeWords(frameWords(*v.combined->report, file, false, place.number), place);
    places.push_back(std::move(place));
  }
  for (const auto& file : v.lentFiles(with.lent)) {
    FramePlace place;
    place.lent = true;
    place.file = text(lentName(v, file));
    place.number = frameNumber(v, file);
    place.line = place.details = place.file;
    if (v.combined) takeWords(frameWords(*v.combined->report, file, true, place.number), place);
    place.of = setWords(v, file);
    place.line = tr("%1   of %2").arg(place.line, place.of);
    places.push_back(std::move(place));
  }
  return places;
}

std::vector<CombineModel::Lendable> CombineModel::lendable() const {
  std::vector<Lendable> out;
  const View& v = desk_.view();
  const CombineOptions with = options();
  if (with.method == CombineMethod::Positions || v.frames.empty()) return out;
  for (int i = 0; i < int(v.sets.size()); ++i) {
    const FrameSet& set = v.sets[std::size_t(i)];
    if (i == v.activeSet) continue;
    for (std::size_t k = 0; k < set.frames.size(); ++k) {
      const std::string name = set.name + "/" + set.frames[k].file.filename().string();
      const QString label = text(set.label.empty() ? set.name : set.label);
      const QString words = k < set.planned.size()
                                ? tr("%1: frame %2, %3").arg(label).arg(k + 1).arg(text(print(set.planned[k].time)))
                                : tr("%1: frame %2").arg(label).arg(k + 1);
      out.push_back({text(name), words, std::find(with.lent.begin(), with.lent.end(), name) != with.lent.end()});
    }
  }
  return out;
}

void CombineModel::lend(const QString& name, bool lent) {
  CombineOptions changed = options();
  const auto found = std::find(changed.lent.begin(), changed.lent.end(), name.toStdString());
  if ((found != changed.lent.end()) == lent || !desk_.free()) return;
  if (lent)
    changed.lent.push_back(name.toStdString());
  else
    changed.lent.erase(found);
  if (!lent && desk_.view().combined)
    for (const auto& file : desk_.view().lentFiles({name.toStdString()}))
      giveUp(*desk_.view().combined->report, file, changed);
  combine(changed);
}

} // namespace ml
