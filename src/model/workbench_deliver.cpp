#include "deliver/deliver.h"
#include "image/resample.h"
#include "model/workbench.h"
#include "pipeline/noisier.h"

#include <QCoreApplication>
#include <QDate>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Is this target there, made from the view as it is now?
bool isCurrent(const View& v, const Target& target) {
  const std::string recipe = toJson(v.recipe);
  std::error_code error;
  return std::any_of(v.delivered.begin(), v.delivered.end(), [&](const DeliveredFile& d) {
    return d.target == target.id && d.recipe == recipe && d.radiance == v.radianceStamp && fs::exists(v.deliveredFolder() / d.file, error);
  });
}

DeliverRequest requestFor(const View& v, const std::string& job, int number, const DeliveryOrder& order, const Recipe& recipe) {
  DeliverRequest r;
  r.recipe = recipe;
  for (const std::string& id : order.targets)
    if (const Target* t = findTarget(id)) r.targets.push_back(*t);
  r.pattern = order.pattern;
  r.name.job = job;
  r.name.view = v.folder.filename().string().substr(3);
  r.name.number = number;
  r.name.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
  r.folder = v.deliveredFolder();
  r.wishes = order.wishes;
  r.facts = factsOf(*v.combined);
  r.noisier = std::make_shared<const Image<float>>(noisierFromReport(v.combined->report));
  r.ghosts = ghostsLeft(v.combined->report);
  if (!v.combined->metadataFrom.empty()) r.metadataFrom = v.combined->metadataFrom.front();
  return r;
}

} // namespace

const std::vector<DeliveryOrder>& Workbench::deliveries() const {
  static const std::vector<DeliveryOrder> none;
  return deliveries_ ? deliveries_->orders() : none;
}

void Workbench::deliver(const DeliverChoices& choices) {
  if (!hasView() || busy()) return;
  std::size_t asked = 0;
  for (std::size_t i = 0; i < job_->views().size(); ++i) {
    const View& v = job_->views()[i];
    if (!v.combined || (!choices.allViews && int(i) != current_)) continue;
    DeliveryOrder order{0, v.folder.filename().string(), {}, toJson(v.recipe), choices.pattern, choices.wishes, {}};
    for (const std::string& id : choices.targets)
      if (const Target* t = findTarget(id); t && !(choices.allViews && isCurrent(v, *t))) order.targets.push_back(id);
    asked += order.targets.size();
    if (!order.targets.empty() && !check(deliveries_->add(std::move(order)))) return;
  }
  if (asked == 0) {
    emit told(tr("Everything that was asked for is there and current."));
    return;
  }
  deliveryPaused_ = false;
  if (!delivering()) deliverNext();
  emit changed();
}

void Workbench::goOnDelivering() {
  if (!deliveries_ || delivering()) return;
  deliveryPaused_ = false;
  check(deliveries_->retry());
  deliverNext();
  emit changed();
}

void Workbench::pauseDelivering() {
  deliveryPaused_ = true;
  delivering_.stop();
}

void Workbench::moveDelivery(int from, int to) {
  if (deliveries_ && check(deliveries_->move(from, to))) emit changed();
}

void Workbench::removeDelivery(int id) {
  if (!deliveries_) return;
  if (delivering() && id == writing_) delivering_.stop();
  check(deliveries_->remove(id));
  emit changed();
}

/// The first order that waits; nothing is started while one is written.
void Workbench::deliverNext() {
  const DeliveryOrder* order = deliveries_->next();
  if (!order) return;
  const auto& views = job_->views();
  const auto found = std::find_if(views.begin(), views.end(), [&](const View& v) { return v.folder.filename().string() == order->view; });
  const auto recipe = recipeFromJson(order->recipe);
  if (found == views.end() || !found->combined || !recipe) {
    check(deliveries_->refuse(order->id, "`" + order->view + "` has nothing combined to deliver; combine it, or take it out of the queue."));
    deliverNext();
    return;
  }
  DeliverRequest request = requestFor(*found, job_->name(), int(found - views.begin()) + 1, *order, *recipe);
  const int id = writing_ = order->id;
  deliveryShare_ = 0;
  request.written = [this, id, view = order->view, recipeText = toJson(*recipe), stamp = found->radianceStamp](const Target& target, const fs::path& file) {
    const DeliveredFile made{file.filename().string(), recipeText, stamp, target.id};
    QMetaObject::invokeMethod(this, [this, id, view, made] { fileWritten(id, view, made); }, Qt::QueuedConnection);
  };
  delivering_.start([this, id, request, file = found->radianceFile()](const Progress& progress) -> std::function<void()> {
    progress.at("Read the radiance", 0);
    std::optional<Error> problem;
    if (const auto radiance = readRadiance(file); !radiance) problem = radiance.error();
    else if (const auto delivered = deliverView(radiance->view(), request, progress); !delivered) problem = delivered.error();
    return [this, id, problem] { orderEnded(id, problem); };
  });
}

void Workbench::fileWritten(int order, const std::string& view, const DeliveredFile& file) {
  for (View& v : job_->views())
    if (v.folder.filename().string() == view) {
      v.delivered.push_back(file);
      check(v.saveFinish());
    }
  ++filesWritten_;
  check(deliveries_->written(order, file.target));
  emit changed();
}

void Workbench::orderEnded(int order, const std::optional<Error>& problem) {
  if (problem && problem->code != ErrorCode::Stopped && deliveries_->find(order)) {
    check(deliveries_->refuse(order, problem->message));
    emit failed(QString::fromStdString(problem->message));
  } else if (!problem && deliveries_->find(order)) { // from a file that another version wrote
    check(deliveries_->refuse(order, "This kind of file is not known here; take it out of the queue."));
  }
  if (!deliveryPaused_) deliverNext();
  if (!delivering_.running()) { // else the next one has begun
    if (filesWritten_ > 0 && station_ != Station::Deliver) emit told(filesWritten_ == 1 ? tr("One file is written and read back.") : tr("%1 files are written and read back.").arg(filesWritten_));
    filesWritten_ = 0;
  }
  emit changed();
}

/// Before another job, or the end: what was written is noted, the rest waits on disk.
void Workbench::leaveDeliveries() {
  delivering_.abandon();
  if (deliveries_) QCoreApplication::sendPostedEvents(this, QEvent::MetaCall);
}

QString Workbench::deliveryLine(const DeliveryOrder& order) const {
  QString name = QString::fromStdString(order.view);
  for (const View& v : job_->views())
    if (v.folder.filename().string() == order.view) name = QString::fromStdString(v.name);
  QStringList kinds;
  for (const std::string& id : order.targets) kinds << QString::fromStdString(findTarget(id) ? findTarget(id)->shortName : id);
  if (deliveryWritten() == order.id) return tr("%1: %2 %, %3").arg(name).arg(int(100 * deliveryShare_)).arg(kinds.join(", "));
  return (order.problem.empty() ? tr("%1: %2") : tr("%1: not written, %2")).arg(name, kinds.join(", "));
}

QString Workbench::deliverVerdict() const {
  const View& v = view();
  if (!deliveries().empty()) {
    std::size_t files = 0, refused = 0;
    for (const DeliveryOrder& o : deliveries()) (o.problem.empty() ? files : refused) += o.targets.size();
    if (delivering()) return files == 1 ? tr("One file is still to be written; you can work on another view meanwhile.")
                                        : tr("%1 files are still to be written; you can work on another view meanwhile.").arg(files);
    if (refused > 0) return refused == 1 ? tr("One file could not be written; Why says what to do, then go on.") : tr("%1 files could not be written; Why says what to do, then go on.").arg(refused);
    return files == 1 ? tr("One file waits to be written; go on when you like.") : tr("%1 files wait to be written; go on when you like.").arg(files);
  }
  if (v.delivered.empty()) return tr("Choose what to write; nothing that is there already is overwritten.");
  if (states().deliver == StationState::OutOfDate) return tr("The picture has changed since it was delivered; deliver again.");
  return v.delivered.size() == 1 ? tr("One file lies in the job's folder for this view; the picture has not changed since.")
                                 : tr("%1 files lie in the job's folder for this view; the picture has not changed since.").arg(v.delivered.size());
}

void Workbench::makeSheet() {
  if (!hasView() || busy()) return;
  struct Piece {
    std::string name;
    fs::path radiance;
    Recipe recipe;
    SceneFacts facts;
    fs::path frame;
    nlohmann::json report;
  };
  std::vector<Piece> pieces;
  for (const View& v : job_->views())
    if (v.combined) pieces.push_back({v.name, v.radianceFile(), v.recipe, factsOf(*v.combined), v.combined->metadataFrom.empty() ? fs::path() : fs::path(v.combined->metadataFrom.front()), v.combined->report});
  work_.start([this, pieces](const Progress& progress) -> std::function<void()> {
    std::vector<SheetPicture> pictures;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
      progress.at("Sheet: " + pieces[k].name, double(k) / double(pieces.size()));
      const auto radiance = readRadiance(pieces[k].radiance);
      if (!radiance) return [this, e = radiance.error()] { emit failed(QString::fromStdString(e.message)); };
      const Roi size = fitted(radiance->width(), radiance->height(), kSheetEdge);
      const Image<float> small = shrinkTo(radiance->view(), size.width, size.height);
      const auto state = FinishState::make(small, pieces[k].recipe, analyseTone(radiance->view(), pieces[k].facts), pieces[k].facts, pieces[k].frame, noisierFromReport(pieces[k].report), progress);
      if (!state) return {};
      Recipe single;
      single.tone.balance = 0;
      single.geometry = pieces[k].recipe.geometry;
      SheetPicture picture{QString::fromStdString(pieces[k].name), state->draw(single, progress).image, state->draw(pieces[k].recipe, progress).image};
      if (picture.after.isNull()) return {};
      pictures.push_back(std::move(picture));
    }
    return [this, pictures] { emit sheetDrawn(pictures); };
  });
}

} // namespace ml
