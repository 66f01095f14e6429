// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/deliver_model.h"

#include "base/phrase.h"
#include "session/locations.h"
#include "session/radiance_history.h"

#include <QCoreApplication>
#include <QDate>
#include <algorithm>
#include <utility>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Names, rights and size as one line, to see whether they changed.
std::string askedFor(const DeliveryOrder& order) {
  return order.pattern + '\n' + order.wishes.creator + '\n' + order.wishes.rights + '\n' +
         (order.wishes.keepLocation ? "location" : "") + '\n' + std::to_string(order.webEdge);
}

/// Is this target there, made from the view as it is now and named and signed as it is asked for?
bool isCurrent(const View& v, const std::string& target, const std::string& asked) {
  const std::string recipe = toJson(v.recipe);
  std::error_code error;
  return std::any_of(v.delivered.begin(), v.delivered.end(), [&](const DeliveredFile& d) {
    return d.target == target && d.recipe == recipe && d.radiance == v.radianceStamp &&
           (d.asked.empty() || d.asked == asked) && fs::exists(v.deliveredFolder() / d.file, error);
  });
}

DeliverRequest requestFor(const View& v, const std::string& job, int number, const DeliveryOrder& order,
                          const Recipe& recipe) {
  DeliverRequest r;
  r.recipe = recipe;
  for (const std::string& id : order.targets)
    if (const Target* t = findTarget(id)) {
      r.targets.push_back(*t);
      if (order.webEdge > 0 && t->longEdge > 0) r.targets.back().longEdge = order.webEdge;
    }
  r.pattern = order.pattern;
  r.name.job = job;
  r.name.view = idOf(v).substr(3);
  r.name.number = number;
  r.name.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
  r.folder = v.deliveredFolder();
  r.wishes = order.wishes;
  r.facts = factsOf(*v.combined);
  r.noisier = v.combined->report->noisier;
  r.ghosts = v.combined->report->ghosts;
  if (!v.combined->metadataFrom.empty()) r.metadataFrom = v.combined->metadataFrom.front();
  return r;
}

/// At most, of all files together: six bytes a pixel, as a TIFF of 16 bits has.
double bytesOf(const View& v, const DeliverRequest& request) {
  return 6.0 * v.combined->report->width * v.combined->report->height * double(request.targets.size());
}

} // namespace

DeliverModel::DeliverModel(Desk& desk, FinishedPicture& finished) : StationModel(desk), finished_(finished) {
  connect(&desk_.job, &JobModel::jobOpened, this, [this] {
    queue_.emplace(desk_.job.job().folder() / "deliveries.json");
    justOpened_ = true;
  });
  connect(&finished_, &FinishedPicture::drawn, this, &DeliverModel::pictureChanged);
  connect(&finished_, &FinishedPicture::detailDrawn, this, &DeliverModel::detailDrawn);
  connect(&desk_.works.delivery, &Lane::progressed, this, [this](const QString&, double fraction) {
    share_ = fraction;
    emit progressed();
  });
}

QString DeliverModel::verdict() const {
  const View& v = desk_.view();
  if (!v.combined || !finished_.exists()) return tr("Nothing is combined yet.");
  if (!orders().empty()) {
    std::size_t files = 0, refused = 0;
    for (const DeliveryOrder& o : orders()) (o.problem.empty() ? files : refused) += o.targets.size();
    if (running())
      return files == 1 ? tr("One file is still to be written; you can work on another view meanwhile.")
                        : tr("%1 files are still to be written; you can work on another view meanwhile.").arg(files);
    if (refused > 0)
      return refused == 1 ? tr("One file could not be written; Why says what to do, then go on.")
                          : tr("%1 files could not be written; Why says what to do, then go on.").arg(refused);
    return files == 1 ? tr("One file waits to be written; go on when you like.")
                      : tr("%1 files wait to be written; go on when you like.").arg(files);
  }
  if (v.delivered.empty()) return tr("Choose what to write; nothing that is there already is overwritten.");
  if (state() == StationState::OutOfDate) return tr("The picture has changed since it was delivered; deliver again.");
  return v.delivered.size() == 1
             ? tr("One file lies in the job's folder for this view; the picture has not changed since.")
             : tr("%1 files lie in the job's folder for this view; the picture has not changed since.")
                   .arg(v.delivered.size());
}

QStringList DeliverModel::reasons() const {
  QStringList lines;
  for (const DeliveryOrder& o : orders())
    if (!o.problem.empty()) lines << text(o.problem);
  if (const QSize full = finished_.fullSize(); !full.isEmpty())
    for (const Target& t : targets())
      lines << tr("%1: %2.").arg(text(t.name), text(sizeWords(t, full.width(), full.height())));
  return lines << tr("The files lie in %1.").arg(text(desk_.view().deliveredFolder().string()));
}

QImage DeliverModel::picture() const {
  return finished_.image().isNull() ? StationModel::picture() : finished_.image();
}

PictureMarks DeliverModel::marks() const {
  PictureMarks marks;
  marks.fullSize = finished_.fullSize();
  return marks;
}

void DeliverModel::addTo(LadderContent& content) const {
  content.ties = true;
  content.sceneFirst = false;
}

DeliveryOrder DeliverModel::orderFor(const View& view, const DeliverChoices& choices) const {
  return {0, idOf(view), {}, toJson(view.recipe), choices.pattern, choices.wishes, {}, desk_.habits.webEdge};
}

/// What is chosen and not there yet, or made from what is no longer so.
std::vector<std::string> DeliverModel::toWrite(const View& view, const DeliverChoices& choices) const {
  std::vector<std::string> targets;
  if (!view.combined) return targets;
  const std::string asked = askedFor(orderFor(view, choices));
  for (const std::string& id : choices.targets)
    if (findTarget(id) && !isCurrent(view, id, asked)) targets.push_back(id);
  return targets;
}

std::vector<const View*> DeliverModel::chosenViews(const DeliverChoices& choices) const {
  std::vector<const View*> views;
  for (const View& v : desk_.job.job().views()) {
    const bool named = std::find(choices.views.begin(), choices.views.end(), idOf(v)) != choices.views.end();
    if (choices.views.empty() ? choices.allViews ? !v.leftOut : &v == &desk_.view() : named) views.push_back(&v);
  }
  return views;
}

/// The next view of the list that has something to do; null: none.
const View* DeliverModel::nextView() const {
  const auto& views = desk_.job.job().views();
  for (std::size_t i = 1; i < views.size(); ++i) {
    const View& v = views[(std::size_t(desk_.job.viewIndex()) + i) % views.size()];
    if (!v.leftOut && !v.frames.empty() && stationStates(v).deliver != StationState::Done) return &v;
  }
  return nullptr;
}

StationModel::Next DeliverModel::next() const {
  const auto views = chosenViews(choices_);
  const bool left =
      std::any_of(views.begin(), views.end(), [&](const View* v) { return !toWrite(*v, choices_).empty(); });
  const bool asked = std::any_of(orders().begin(), orders().end(),
                                 [&](const DeliveryOrder& o) { return o.view == idOf(desk_.view()); });
  if (left && !asked)
    return {choices_.allViews ? tr("Deliver all views") : tr("Deliver"), !choices_.targets.empty() && !desk_.busy()};
  if (!desk_.view().combined || choices_.targets.empty()) return {tr("Deliver"), false};
  if (nextView()) return {tr("Next view"), !desk_.busy()};
  return {asked ? tr("Being written") : tr("All is delivered"), false};
}

void DeliverModel::doNext() {
  const View* onwards = nextView();
  if (next().words == tr("Next view") && onwards)
    desk_.job.select(int(onwards - desk_.job.job().views().data()));
  else
    deliver(choices_);
}

void DeliverModel::enter() {
  shown_ = true;
  if (desk_.busy()) return;
  if (finished_.exists())
    finished_.draw();
  else
    StationModel::enter();
}

void DeliverModel::choose(const DeliverChoices& choices) {
  choices_ = choices;
  emit changed();
}

const std::vector<DeliveryOrder>& DeliverModel::orders() const {
  static const std::vector<DeliveryOrder> none;
  return queue_ ? queue_->orders() : none;
}

void DeliverModel::sayWhatWaits() {
  if (!std::exchange(justOpened_, false)) return;
  std::size_t files = 0;
  for (const DeliveryOrder& o : orders()) files += o.targets.size();
  if (files > 0)
    desk_.notices.tell(files == 1 ? tr("One file still waits to be written; at Deliver it goes on.")
                                  : tr("%1 files still wait to be written; at Deliver it goes on.").arg(files));
}

// ---- The queue

void DeliverModel::deliver(const DeliverChoices& choices) {
  if (!desk_.free()) return;
  std::size_t asked = 0;
  for (const View* v : chosenViews(choices)) {
    DeliveryOrder order = orderFor(*v, choices);
    order.targets = toWrite(*v, choices);
    asked += order.targets.size();
    if (!order.targets.empty() && !desk_.notices.check(queue_->add(std::move(order)))) return;
  }
  if (asked == 0) return desk_.notices.tell(tr("Everything that was asked for is there and current."));
  paused_ = false;
  if (!running()) writeNext();
  emit changed();
}

void DeliverModel::goOn() {
  if (!queue_ || running() || desk_.reading()) return;
  paused_ = false;
  desk_.notices.check(queue_->retry());
  writeNext();
  emit changed();
}

void DeliverModel::pause() {
  paused_ = true;
  desk_.works.delivery.stop();
}

void DeliverModel::move(int from, int to) {
  if (queue_ && desk_.notices.check(queue_->move(from, to))) emit changed();
}

void DeliverModel::remove(int id) {
  if (!queue_) return;
  if (id == written()) desk_.works.delivery.stop();
  desk_.notices.check(queue_->remove(id));
  emit changed();
}

/// The first order that waits; nothing is started while one is written.
void DeliverModel::writeNext() {
  const DeliveryOrder* order = queue_->next();
  if (!order) return;
  const View* view = desk_.job.find(order->view);
  const auto recipe = recipeFromJson(order->recipe);
  if (!view || !view->combined || !recipe) {
    desk_.notices.check(queue_->refuse(
        order->id,
        phrase("`{}` has nothing combined to deliver; combine it, or take it out of the queue.", order->view)));
    return writeNext();
  }
  DeliverRequest request =
      requestFor(*view, desk_.job.job().name(), int(view - desk_.job.job().views().data()) + 1, *order, *recipe);
  const int id = writing_ = order->id;
  share_ = 0;
  request.written = [this, id, name = order->view, recipeText = toJson(*recipe), stamp = view->radianceStamp,
                     asked = askedFor(*order)](const Target& target, const fs::path& file) {
    const DeliveredFile made{file.filename().string(), recipeText, stamp, target.id, asked};
    QMetaObject::invokeMethod(
        this, [this, id, name, made] { fileWritten(id, name, made); }, Qt::QueuedConnection);
  };
  desk_.works.delivery.start([this, id, request, file = radianceNow(*view),
                              bytes = bytesOf(*view, request)](const Progress& progress) -> std::function<void()> {
    progress.at(phrase("Read the radiance"), 0);
    std::optional<Error> problem;
    if (const auto room = checkSpace(request.folder, bytes); !room)
      problem = room.error();
    else if (const auto radiance = openRadiance(file, progress.stop); !radiance)
      problem = radiance.error();
    else if (const auto delivered = deliverView(radiance->rows(), request, progress); !delivered)
      problem = delivered.error();
    return [this, id, problem] { orderEnded(id, problem); };
  });
}

void DeliverModel::fileWritten(int order, const std::string& view, const DeliveredFile& file) {
  desk_.job.note(view, Aspect::Delivered, [&](View& v) { v.delivered.push_back(file); });
  ++filesWritten_;
  desk_.notices.check(queue_->written(order, file.target));
  emit changed();
}

void DeliverModel::orderEnded(int order, const std::optional<Error>& problem) {
  if (problem && problem->code != ErrorCode::Stopped && queue_->find(order)) {
    desk_.notices.check(queue_->refuse(order, problem->message));
    desk_.notices.fail(*problem);
  } else if (!problem && queue_->find(order)) { // from a file that another version wrote
    desk_.notices.check(
        queue_->refuse(order, phrase("This kind of file is not known here; take it out of the queue.")));
  }
  if (!paused_) writeNext();
  if (!running()) {                   // else the next one has begun
    if (filesWritten_ > 0 && !shown_) // there the verdict says it
      desk_.notices.tell(filesWritten_ == 1 ? tr("One file is written and read back.")
                                            : tr("%1 files are written and read back.").arg(filesWritten_));
    filesWritten_ = 0;
  }
  emit changed();
}

void DeliverModel::letGo() {
  desk_.works.delivery.abandon();
  if (queue_) QCoreApplication::sendPostedEvents(this, QEvent::MetaCall);
}

QString DeliverModel::line(const DeliveryOrder& order) const {
  const View* view = desk_.job.find(order.view);
  const QString name = text(view ? view->name : order.view);
  QStringList kinds;
  for (const std::string& id : order.targets) kinds << text(findTarget(id) ? findTarget(id)->shortName : id);
  if (written() == order.id) return tr("%1: %2 %, %3").arg(name).arg(int(100 * share_)).arg(kinds.join(", "));
  return (order.problem.empty() ? tr("%1: %2") : tr("%1: not written, %2")).arg(name, kinds.join(", "));
}

// ---- The sheet

void DeliverModel::makeSheet() {
  if (!desk_.free()) return;
  struct Piece {
    View view;
    std::shared_ptr<const CombinedPicture> picture; ///< Null: to be loaded.
  };
  std::vector<Piece> pieces;
  for (const View& v : desk_.job.job().views())
    if (v.combined) pieces.push_back({v, desk_.radiances.find(idOf(v), v.radianceStamp)});
  desk_.works.longWork.start([this, pieces](const Progress& progress) -> std::function<void()> {
    std::vector<SheetPicture> pictures;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
      const View& view = pieces[k].view;
      progress.at(phrase("Sheet: {}", view.name), double(k) / double(pieces.size()));
      const auto light = pieces[k].picture ? Result<std::shared_ptr<const CombinedPicture>>(pieces[k].picture)
                                           : loadPicture(view, progress);
      if (!light && light.error().code == ErrorCode::Stopped) return {};
      if (!light) return [this, e = light.error()] { desk_.notices.fail(e); };
      const fs::path frame =
          view.combined->metadataFrom.empty() ? fs::path() : fs::path(view.combined->metadataFrom.front());
      const auto state = FinishState::make(*light, view.recipe, frame, progress);
      if (!state) return {};
      SheetPicture picture{text(view.name), state->draw(asOneExposure(view.recipe), progress).image,
                           state->draw(view.recipe, progress).image};
      if (picture.after.isNull()) return {};
      pictures.push_back(std::move(picture));
    }
    return [this, pictures] { emit sheetDrawn(pictures); };
  });
}

} // namespace ml
