// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/finish_model.h"

#include "base/phrase.h"
#include "model/combine_words.h"
#include "model/finish_drags.h"
#include "model/pictures.h"
#include "model/view_edit.h"

namespace ml {

FinishModel::FinishModel(Desk& desk, FinishedPicture& picture, CombineModel& combine)
    : StationModel(desk), finished(picture), tools(desk, picture), compare(desk, picture), combine_(combine) {
  connect(&finished, &FinishedPicture::drawn, this, [this] {
    noteSeen();
    emit pictureChanged();
    emit changed();
  });
  connect(&finished, &FinishedPicture::judged, this, &FinishModel::changed);
  connect(&finished, &FinishedPicture::detailDrawn, this, &FinishModel::detailDrawn);
  connect(&tools, &FinishTools::changed, this, &FinishModel::changed);
  connect(&compare, &FinishCompare::changed, this, &FinishModel::changed);
  connect(&compare, &FinishCompare::drawn, this, &FinishModel::pictureChanged);
}

QString FinishModel::verdict() const {
  if (!desk_.view().combined || !finished.exists()) return tr("Nothing is combined yet.");
  const Judgement* judged = finished.judgement();
  if (const Finding* found = finished.worstFinding())
    return text(sentence(*found, judged->scene)) + tr(" %1: press M.").arg(text(remedyWords(found->kind)));
  const ToneAnalysis& analysis = *finished.analysis();
  const ToneCurve curve(placedTies(analysis, recipe().tone));
  const auto onPaper = [&](double light) { // as the Ladder draws it
    return std::clamp(curve(light) + recipe().tone.exposure, -kPaperStops, 0.0);
  };
  return tr("%1 stops of light are placed on %2 stops of paper; %3 % of the picture is at white, %4 % at black%5.")
      .arg(analysis.brightest - analysis.darkest, 0, 'f', 1)
      .arg(onPaper(analysis.brightest) - onPaper(analysis.darkest), 0, 'f', 1)
      .arg(100 * finished.report().whiteShare, 0, 'f', 1)
      .arg(100 * finished.report().blackShare, 0, 'f', 1)
      .arg(judged ? tr(", and nothing looks overdone") : QString());
}

QStringList FinishModel::reasons() const {
  const Judgement* judged = finished.judgement();
  if (!judged) return combine_.reasons();
  QStringList lines;
  for (const Finding& f : judged->findings)
    lines << text(sentence(f, judged->scene)) + (f.tooMuch ? tr(" - %1").arg(text(remedyWords(f.kind))) : QString());
  lines << tr("The light was taken for %1.").arg(text(phrase(nameOf(finished.analysis()->kind))));
  const auto& report = *desk_.view().combined->report;
  if (const QString metered = meteredWords(report, frameNumbers(desk_.view(), report)); !metered.isEmpty())
    lines << metered;
  return lines;
}

QImage FinishModel::picture() const {
  if (finished.image().isNull()) return StationModel::picture();
  QImage image = finished.image();
  if (clipping_) markExtremes(image);
  return image;
}

void FinishModel::showClipping(bool shown) {
  clipping_ = shown;
  emit pictureChanged();
  emit changed();
}

PictureMarks FinishModel::marks() const {
  if (!desk_.view().combined || !finished.exists()) return {};
  PictureMarks marks = tools.marks();
  marks.fullSize = finished.fullSize();
  marks.beside = compare.image();
  marks.divider = compare.how() == Comparing::Divider;
  marks.besideName = compare.comparand().name;
  if (finished.holds()) marks.caption = tr("one exposure, simulated");
  return marks;
}

void FinishModel::addTo(LadderContent& content) const {
  content.ties = true;
  content.sceneFirst = false;
}

/// A finish that was on screen here counts as looked at.
void FinishModel::noteSeen() {
  const View& v = desk_.view();
  if (shown_ && v.combined && finished.exists() && v.finishSeen != v.radianceStamp)
    desk_.job.note(idOf(v), Aspect::About, [](View& view) { view.finishSeen = view.radianceStamp; });
}

void FinishModel::enter() {
  shown_ = true;
  noteSeen();
  if (desk_.busy()) return;
  if (finished.exists())
    finished.draw();
  else
    StationModel::enter();
}

void FinishModel::pullTie(double ev100, double paper, int drag) {
  if (!finished.exists() || !desk_.hasView()) return;
  Recipe changed = recipe();
  setPull(changed.tone, ev100 - finished.ev100OfUnit(), paper - changed.tone.exposure);
  setRecipe(changed, drag);
}

void FinishModel::takeWhiteTrim() {
  if (!desk_.hasView()) return;
  const WhiteTrim* white = finished.whiteTrim();
  if (!white)
    return desk_.notices.tell(
        tr("No white paint is found in this picture: click something white with \"This is white\"."));
  Recipe changed = recipe();
  changed.tone.warmth = white->warmth, changed.tone.tint = white->tint;
  setRecipe(changed);
}

void FinishModel::nextStart() {
  if (!desk_.hasView()) return;
  std::size_t next = 0;
  for (std::size_t i = 0; i < kStarts; ++i)
    if (looks()[i].id == recipe().look) next = (i + 1) % kStarts;
  chooseLook(looks()[next].id, 1);
  desk_.notices.tell(tr("Starting point: %1.").arg(text(looks()[next].name)));
}

void FinishModel::remedy() {
  const Finding* found = finished.worstFinding();
  if (!found || !finished.state()) return;
  if (found->kind != FindingKind::GhostsLeft)
    return setRecipe(remedied(recipe(), *found, finished.state()->analysis()));
  CombineOptions stricter = combine_.options();
  if (stricter.motion == MotionMode::High)
    return desk_.notices.tell(
        tr("Movement is looked for as strictly as can be; at Combine, paint what is doubled from one frame."));
  stricter.motion = MotionMode::High;
  combine_.combine(stricter);
}

std::vector<Look> FinishModel::allLooks() const {
  std::vector<Look> all = looks();
  const auto& own = desk_.looks.looks();
  all.insert(all.end(), own.begin(), own.end());
  return all;
}

void FinishModel::chooseLook(const std::string& id, double strength, int drag) {
  if (!desk_.hasView()) return;
  for (const Look& look : allLooks())
    if (look.id == id) return setRecipe(withLook(recipe(), look, strength), drag);
}

void FinishModel::saveLook(const QString& name) {
  if (desk_.hasView()) desk_.notices.check(desk_.looks.save(name.trimmed().toStdString(), recipe()));
  emit changed();
}

void FinishModel::copyToOtherViews() {
  if (!desk_.free()) return;
  std::vector<std::string> takers;
  for (const View& v : desk_.job.job().views())
    if (&v != &desk_.view() && v.combined) takers.push_back(idOf(v));
  if (takers.empty()) return desk_.notices.tell(tr("No other view is combined yet; combine them first."));
  layFinish(desk_, idOf(desk_.view()), takers);
  desk_.notices.tell(takers.size() == 1
                         ? tr("One other view takes this finish; it keeps its own white point, shape and placement.")
                         : tr("%1 other views take this finish; each keeps its own white point, shape and placement.")
                               .arg(takers.size()));
}

} // namespace ml
