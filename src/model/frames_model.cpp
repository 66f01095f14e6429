// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/frames_model.h"

#include "base/phrase.h"
#include "ingest/measure_sensor.h"
#include "model/plan_words.h"
#include "model/view_edit.h"

#include <algorithm>

namespace ml {
namespace {

/// The profile that the view's camera stands for, and a format that it has.
void takeProfile(View& view, const ProfileShelf& shelf) {
  const auto profile = shelf.find(view.camera);
  view.ownCamera.reset();
  if (profile && shelf.isOwn(view.camera)) view.ownCamera = profile;
  if (!view.profile().hasRaw && view.format == FrameFormat::Dng) view.format = FrameFormat::Jpeg;
}

} // namespace

FramesModel::FramesModel(Desk& desk) : StationModel(desk) {
  connect(&desk_.job, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    if (aspect == Aspect::Readings || aspect == Aspect::Choices) replan(view);
  });
  connect(&desk_.job, &JobModel::viewEntered, this, [this] {
    problem_.clear();
    forgetComparison();
    if (!desk_.view().plan && !desk_.view().world.empty()) replan(idOf(desk_.view()));
  });
}

QString FramesModel::verdict() const {
  const View& view = desk_.view();
  if (!problem_.isEmpty()) return problem_;
  if (view.plan) return text(ml::verdict(*view.plan));
  return view.world.empty() ? tr("These frames are already shot; go on to Combine.")
                            : tr("A bracket needs two readings; take them at Light.");
}

QStringList FramesModel::reasons() const {
  const View& view = desk_.view();
  if (!view.plan) return {};
  QStringList lines = planReasons(*view.plan);
  if (const Comparison* compared = comparison())
    lines << text(compared->reason) << text(compared->oneRaw) << text(compared->extraFrames);
  else
    lines << smallestWords(*view.plan);
  return lines;
}

void FramesModel::enter() {
  if (!desk_.view().framesSeen) desk_.job.note(idOf(desk_.view()), Aspect::About, [](View& v) { v.framesSeen = true; });
  if (desk_.idle() && desk_.camera.present())
    desk_.camera.drawFinder(desk_.view());
  else
    StationModel::enter();
}

std::optional<double> FramesModel::cardMegabytes() const {
  const auto status = desk_.camera.status();
  return status ? std::optional(status->freeMegabytes) : std::nullopt;
}

void FramesModel::replan(const std::string& name) {
  const View* view = desk_.job.find(name);
  if (!view) return;
  auto plan = planOf(*view, cardMegabytes());
  if (desk_.hasView() && view == &desk_.view()) {
    forgetComparison();
    problem_ = plan ? QString() : text(plan.error().message);
  }
  desk_.job.note(name, Aspect::Plan, [&](View& v) { v.plan = plan ? std::move(*plan) : std::optional<Plan>{}; });
}

void FramesModel::edit(const QString& words, const PlanChoices& after) {
  const View& view = desk_.view();
  struct Chosen {
    PlanChoices choices;
    std::optional<CameraProfile> ownCamera;
    FrameFormat format;
  };
  View changed = view;
  putChoices(changed, after);
  if (after.camera != view.camera) takeProfile(changed, desk_.profiles);
  // The sun tells how the light fades whenever it is asked: only a fade that the hand chose is taken back.
  const bool fadeChosen = after.situation.fadeStopsPerMinute != view.situation.fadeStopsPerMinute;
  desk_.job.edit(idOf(view), Aspect::Choices, words, Chosen{choices(), view.ownCamera, view.format},
                 Chosen{after, changed.ownCamera, changed.format}, [this, fadeChosen](View& v, const Chosen& chosen) {
                   const double told = v.situation.fadeStopsPerMinute;
                   putChoices(v, chosen.choices);
                   if (!fadeChosen) v.situation.fadeStopsPerMinute = told;
                   v.ownCamera = chosen.ownCamera;
                   v.format = chosen.format;
                   if (&v == &desk_.view()) desk_.camera.follow(v);
                 });
}

void FramesModel::choose(const PlanChoices& after) {
  if (!desk_.free()) return;
  PlanChoices chosen = after; // who takes it into the hand holds it as their own frames have shown
  if (chosen.situation.handHeld && !choices().situation.handHeld)
    chosen.situation.ownHandStops = desk_.habits.handStops;
  if (!(chosen == choices())) edit(tr("plan"), chosen);
}

void FramesModel::setHandHeld(bool handHeld) {
  if (!desk_.hasView()) return;
  PlanChoices after = choices();
  after.situation.handHeld = handHeld;
  choose(after);
}

void FramesModel::setFormat(FrameFormat format) {
  if (!desk_.free() || desk_.view().format == format) return;
  desk_.job.edit(idOf(desk_.view()), Aspect::Choices, tr("file format"), desk_.view().format, format,
                 [](View& v, FrameFormat f) { v.format = f; });
}

const Comparison* FramesModel::comparison() const {
  if (!comparison_)
    if (const auto request = planRequestOf(desk_.view(), cardMegabytes()))
      if (auto compared = compareSchools(cameraForPlan(desk_.view()), *request, desk_.view().situation))
        comparison_ = std::move(*compared);
  return comparison_ ? &*comparison_ : nullptr;
}

/// Kept until something changes: every tone of every way is looked at.
const std::vector<Way>& FramesModel::ways() const {
  const Comparison* compared = ways_.empty() ? comparison() : nullptr;
  if (!compared) return ways_;
  const View& v = desk_.view();
  ways_ = waysOf(*compared, v.own ? "" : v.school);
  if (v.own && v.plan) {
    own_ = alternativeOf(*v.plan, schools().front(), v.situation);
    ways_.push_back(ownWay(own_));
  }
  return ways_;
}

void FramesModel::forgetComparison() {
  comparison_.reset();
  ways_.clear();
}

void FramesModel::chooseWay(const std::string& id) {
  if (id == "own") return;
  PlanChoices after = choices();
  after.school = id;
  after.own.reset();
  choose(after);
}

std::vector<CameraSetting> FramesModel::settingsToMake() const {
  const View& v = desk_.view();
  return v.plan ? cameraSettings(*v.plan, v.situation, desk_.habits.feet) : std::vector<CameraSetting>{};
}

std::vector<std::string> FramesModel::warnings() const {
  const View& v = desk_.view();
  return v.plan ? planWarnings(*v.plan, v.situation) : std::vector<std::string>{};
}

std::optional<ShotList> FramesModel::shots() const {
  const View& v = desk_.view();
  return v.plan ? std::optional(shotList(*v.plan, v.situation)) : std::nullopt;
}

void FramesModel::profilesChanged() {
  if (!desk_.hasView()) return emit changed();
  desk_.job.note(idOf(desk_.view()), Aspect::Choices, [&](View& v) { takeProfile(v, desk_.profiles); });
  desk_.camera.follow(desk_.view());
}

void FramesModel::measureSensor(const QStringList& files) {
  if (!desk_.free() || files.isEmpty()) return;
  std::vector<std::filesystem::path> paths;
  for (const auto& file : files) paths.emplace_back(file.toStdString());
  desk_.works.longWork.start(
      [this, paths, profile = desk_.view().profile()](const Progress& progress) -> std::function<void()> {
        progress.at(phrase("Measure the sensor"), 0.2);
        auto report = measureSensorFiles(paths);
        if (!report) return [this, e = report.error()] { desk_.notices.fail(e); };
        CameraProfile own = profile;
        own.name = phrase("{}, measured", profile.name);
        own.hasRaw = true;
        const double gain = report->iso.value > 0 ? report->iso.value / own.baseIso.value : 1;
        own.fullWell = report->measurement.fullWell * gain;
        own.readNoise = report->measurement.readNoise;
        own.readNoiseHigh = std::min(own.readNoiseHigh, own.readNoise);
        return [this, own, pairs = report->pairs] {
          const auto kept = desk_.profiles.keep(own);
          if (!kept) return desk_.notices.fail(kept.error());
          PlanChoices after = choices();
          after.camera = kept->id;
          edit(tr("measured camera"), after);
          desk_.notices.tell(tr("Measured from %1 pairs: full well %2 electrons, read noise %3.")
                                 .arg(pairs)
                                 .arg(own.fullWell, 0, 'f', 0)
                                 .arg(own.readNoise, 0, 'f', 2));
        };
      });
}

} // namespace ml
