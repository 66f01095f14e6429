// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/light_model.h"

#include "base/phrase.h"
#include "exposure/marks.h"
#include "exposure/reading.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "model/plan_words.h"
#include "model/view_edit.h"
#include "session/shooting.h"

#include <QLocale>
#include <algorithm>
#include <fmt/format.h>

namespace ml {
namespace {

/// One reading at its place in the list: added when there was none, removed when there is none afterwards.
using ReadingAt = std::optional<SpotReading>;

/// What puts one reading: to `after`, or back to `before`. The list changes only by edits of one stack, so places stay
/// what they were.
struct PutReading {
  std::size_t index;
  bool removable; ///< The step adds or removes it; else it changes it.
  void operator()(View& view, const ReadingAt& reading) const {
    auto& list = view.readings;
    const auto at = list.begin() + std::ptrdiff_t(std::min(index, list.size()));
    if (!reading) {
      if (at != list.end()) list.erase(at);
    } else if (removable) {
      list.insert(at, *reading);
    } else if (at != list.end()) {
      *at = *reading;
    }
  }
};

} // namespace

LightModel::LightModel(Desk& desk) : StationModel(desk) {
  connect(&desk_.job, &JobModel::viewEntered, this, [this] {
    testFrame_.reset();
    testImage_ = {};
    proposals_.reset();
    spots_.clear();
  });
  connect(&desk_.positions, &PositionWalk::moved, this, &LightModel::changed);
  connect(&desk_.camera, &CameraSession::finderDrawn, this, &LightModel::pictureChanged);
}

QString LightModel::verdict() const {
  const View& view = desk_.view();
  const auto& readings = view.readings;
  const auto ev = [](Stops s) { return QLocale().toString(s.value, 'f', 1); };
  if (proposing())
    return tr("The test frame shows %1EV %2 at the bright end and EV %3 at the dark one; take both, or click spots of "
              "your own.")
        .arg(proposals_->brightest.atLeast ? tr("at least ") : QString(), ev(proposals_->brightest.ev100),
             ev(proposals_->darkest.ev100));
  if (!desk_.camera.present() && readings.empty())
    return tr("These are your own frames; click a spot to read its light, or go on to Combine.");
  if (readings.empty() && !testFrame_ && desk_.camera.wired() && desk_.camera.finder().isNull())
    return tr("This camera shows no finder from here: take a test frame and click in it, or type what a meter says.");
  if (readings.empty()) return tr("Click the brightest thing that must keep its texture, then the darkest.");
  for (const auto& r : readings)
    if (r.keepTexture && r.atLeast)
      return tr("%1 is clipped in the test frame: it reads at least EV %2. Take a darker test frame and read it again.")
          .arg(text(r.name), ev(r.ev100));
  if (readings.size() == 1)
    return tr("%1 reads EV %2. Now click the other end of the light.")
        .arg(text(readings[0].name), ev(readings[0].ev100));
  const auto wanted = mustKeepOf(view);
  if (!wanted) return tr("Two readings must keep their texture before a bracket can be planned.");
  const SensorModel sensor(view.profile());
  const ExposureSettings any;
  const Stops one = sensor.clipsAt(any) - sensor.floorAt(any, view.snrTarget);
  return tr("The light runs from EV %1 to EV %2, %3 stops; one frame of this camera records %4 at SNR %5 or better.")
      .arg(ev(wanted->low), ev(wanted->high), ev(wanted->high - wanted->low), ev(one))
      .arg(view.snrTarget);
}

QStringList LightModel::reasons() const {
  if (!desk_.view().plan) return {};
  return planReasons(*desk_.view().plan) << smallestWords(*desk_.view().plan);
}

QImage LightModel::picture() const {
  if (testFrame_) return testImage_;
  return desk_.camera.present() ? desk_.camera.finder() : StationModel::picture();
}

PictureMarks LightModel::marks() const {
  PictureMarks marks;
  marks.pointer = PictureMarks::Pointer::Spot;
  marks.readings = desk_.view().readings;
  for (SpotReading& reading : marks.readings) // of another position: it lies elsewhere
    if (!isAt(reading, desk_.positions.here())) reading.x.reset(), reading.y.reset();
  marks.proposals = proposals_;
  return marks;
}

void LightModel::addTo(LadderContent& content) const {
  content.legend = true;
  content.columns = LadderContent::Columns::None;
}

StationModel::Next LightModel::next() const {
  if (proposing()) return {tr("Take both readings")};
  const bool camera = desk_.camera.present();
  return {camera ? tr("On to Frames") : tr("On to Combine"), !camera || desk_.view().plan.has_value(), true};
}

void LightModel::doNext() {
  if (proposing()) return takeProposals();
  emit goTo(desk_.camera.present() ? stations::kFrames : stations::kCombine);
}

void LightModel::enter() {
  if (desk_.free() && desk_.camera.present() && !testFrame_)
    desk_.camera.drawFinder(desk_.view());
  else
    StationModel::enter();
}

void LightModel::lookAtPosition(int index) {
  if (!desk_.free()) return;
  putTestFrameAway();
  desk_.positions.goTo(index);
}

// ---- Readings

/// A place in the picture is one of the position that the camera looks at.
void LightModel::addReading(const QString& words, SpotReading reading) {
  const View& view = desk_.view();
  if (reading.x) reading.row = desk_.positions.here().row, reading.column = desk_.positions.here().column;
  desk_.job.edit(idOf(view), Aspect::Readings, words, ReadingAt{}, ReadingAt{reading},
                 PutReading{view.readings.size(), true});
}

void LightModel::readSpot(double x, double y) {
  if (!desk_.free()) return;
  if (testFrame_) return measured(x, y, ml::readSpot(*testFrame_, x, y, spotRadius_));
  if (!desk_.camera.present()) {
    if (desk_.frame.frame()) measured(x, y, ml::readSpot(*desk_.frame.frame(), x, y, spotRadius_));
    return;
  }
  spots_.push_back({x, y});
  measureNext();
}

/// One after the other, in the order of the clicks.
void LightModel::measureNext() {
  if (spots_.empty() || desk_.works.measuring.running() || !desk_.camera.present()) return;
  const QPointF at = spots_.front();
  spots_.pop_front();
  desk_.works.measuring.start([this, camera = desk_.camera.camera(), view = idOf(desk_.view()), at,
                               radius = spotRadius_](const Progress&) -> std::function<void()> {
    const auto spot = camera->spotReading(at.x(), at.y(), radius);
    return [this, view, at, spot] {
      if (!spot)
        desk_.notices.fail(spot.error());
      else if (desk_.free() && idOf(desk_.view()) == view)
        measured(at.x(), at.y(), *spot);
      measureNext();
    };
  });
}

void LightModel::measured(double x, double y, const SpotMeasure& spot) {
  addReading(tr("reading"), {phrase("Spot {}", desk_.view().readings.size() + 1), spot.ev100, true, x, y,
                             spot.uncertainty, spot.atLeast});
}

bool LightModel::typeReading(const QString& name, const QString& typed) {
  if (!desk_.free()) return false;
  const auto ev = parseReading(typed.toStdString(), desk_.view().aperture, {100});
  if (!ev) return false;
  const std::string given = name.trimmed().toStdString();
  addReading(
      tr("reading"),
      {given.empty() ? phrase("Spot {}", desk_.view().readings.size() + 1) : given, *ev, true, {}, {}, 0, false});
  return true;
}

void LightModel::renameReading(int index, const QString& name) {
  if (!desk_.free() || index < 0 || index >= int(desk_.view().readings.size()) || name.trimmed().isEmpty()) return;
  const View& view = desk_.view();
  const SpotReading before = view.readings[std::size_t(index)];
  SpotReading after = before;
  after.name = name.trimmed().toStdString();
  if (after == before) return;
  desk_.job.edit(idOf(view), Aspect::Readings, tr("name of a reading"), ReadingAt{before}, ReadingAt{after},
                 PutReading{std::size_t(index), false});
}

void LightModel::removeReading(int index) {
  if (!desk_.free() || index < 0 || index >= int(desk_.view().readings.size())) return;
  const View& view = desk_.view();
  desk_.job.edit(idOf(view), Aspect::Readings, tr("removal of a reading"), ReadingAt{view.readings[std::size_t(index)]},
                 ReadingAt{}, PutReading{std::size_t(index), true});
}

void LightModel::setKeepTexture(int index, bool keep) {
  if (!desk_.free() || index < 0 || index >= int(desk_.view().readings.size())) return;
  const View& view = desk_.view();
  const SpotReading before = view.readings[std::size_t(index)];
  SpotReading after = before;
  after.keepTexture = keep;
  if (after == before) return;
  desk_.job.edit(idOf(view), Aspect::Readings, tr("what must keep texture"), ReadingAt{before}, ReadingAt{after},
                 PutReading{std::size_t(index), false});
}

std::vector<StationModel::Choice> LightModel::choicesAt(QPointF at) {
  constexpr double kReach = 0.03; // of the picture
  std::vector<Choice> choices{{tr("Read the light here"), [this, at] { readSpot(at.x(), at.y()); }}};
  const auto& readings = desk_.view().readings;
  for (int i = 0; i < int(readings.size()); ++i) {
    const SpotReading& r = readings[std::size_t(i)];
    if (!r.x || std::hypot(*r.x - at.x(), *r.y - at.y()) > kReach) continue;
    choices.push_back(
        {r.keepTexture ? tr("%1 may clip").arg(text(r.name)) : tr("%1 must keep its texture").arg(text(r.name)),
         [this, i, keep = !r.keepTexture] { setKeepTexture(i, keep); }});
    choices.push_back({tr("Remove %1").arg(text(r.name)), [this, i] { removeReading(i); }});
  }
  return choices;
}

void LightModel::brightenFinder(double stops) {
  if (desk_.free() && desk_.camera.present()) desk_.camera.brightenFinder(desk_.view(), stops);
}

void LightModel::setSpotRadius(double radius) {
  spotRadius_ = std::clamp(radius, 0.002, 0.1);
  emit changed();
}

// ---- The test frame

void LightModel::takeTestFrame() {
  if (!desk_.free()) return;
  const View& view = desk_.view();
  const auto camera = desk_.camera.camera();
  const auto inHand = desk_.frame.frame();
  if (!camera && !inHand) return; // the user's own files: the frame in hand is the test frame
  const auto file = view.folder / "test" / ("test" + extensionOf(view.format));
  desk_.works.longWork.start([this, camera, inHand, settings = desk_.camera.finderSettings(view), format = view.format,
                              file](const Progress& progress) -> std::function<void()> {
    progress.at(phrase("Test frame"), 0.1);
    std::shared_ptr<const Frame> frame = inHand;
    if (camera) {
      if (auto exposed = camera->expose(settings, format, file); !exposed)
        return [this, e = exposed.error()] { desk_.notices.fail(e); };
      auto loaded = loadFrame(file);
      if (!loaded) return [this, e = loaded.error()] { desk_.notices.fail(e); };
      frame = std::make_shared<const Frame>(std::move(*loaded));
    }
    const auto sketch = sketchOf(*frame, {});
    return [this, frame, image = ShownFrame::imageOf(*frame), zones = proposeZones(*sketch),
            scene = distributionOf({sketch})] {
      testFrame_ = frame;
      testImage_ = image;
      proposals_ = zones;
      desk_.scene = scene;
      emit pictureChanged();
      emit changed();
    };
  });
}

void LightModel::putTestFrameAway() {
  testFrame_.reset();
  testImage_ = {};
  proposals_.reset();
  enter();
  emit pictureChanged();
  emit changed();
}

void LightModel::takeProposals() {
  if (!desk_.free() || !proposals_) return;
  const ProposedZones zones = *proposals_;
  proposals_.reset();
  QUndoStack& stack = desk_.job.undoStack();
  stack.beginMacro(tr("proposed readings"));
  const auto add = [&](const std::string& name, const ProposedZone& zone) {
    addReading(tr("reading"), {name, zone.ev100, true, zone.x, zone.y, 0, zone.atLeast});
  };
  add(phrase("Brightest area"), zones.brightest);
  add(phrase("Darkest area"), zones.darkest);
  stack.endMacro();
}

} // namespace ml
