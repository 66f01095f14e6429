#include "deliver/deliver.h"
#include "image/resample.h"
#include "model/workbench.h"
#include "pipeline/noisier.h"

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

DeliverRequest requestFor(const View& v, const std::string& job, int number, std::vector<Target> targets, const DeliverChoices& choices) {
  DeliverRequest r;
  r.recipe = v.recipe;
  r.targets = std::move(targets);
  r.pattern = choices.pattern;
  r.name.job = job;
  r.name.view = v.folder.filename().string().substr(3);
  r.name.number = number;
  r.name.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
  r.folder = v.deliveredFolder();
  r.wishes = choices.wishes;
  r.ev100OfUnit = v.combined->ev100OfUnit;
  r.noisier = std::make_shared<const Image<float>>(noisierFromReport(v.combined->report));
  r.ghosts = ghostsLeft(v.combined->report);
  if (!v.combined->metadataFrom.empty()) r.metadataFrom = v.combined->metadataFrom.front();
  return r;
}

} // namespace

void Workbench::deliver(const DeliverChoices& choices) {
  if (!hasView() || busy()) return;
  struct Piece {
    std::size_t view;
    std::string name;
    fs::path radiance;
    DeliverRequest request;
  };
  std::vector<Piece> pieces;
  for (std::size_t i = 0; i < job_->views().size(); ++i) {
    const View& v = job_->views()[i];
    if (!v.combined || (!choices.allViews && int(i) != current_)) continue;
    std::vector<Target> wanted;
    for (const std::string& id : choices.targets)
      if (const Target* t = findTarget(id); t && !(choices.allViews && isCurrent(v, *t))) wanted.push_back(*t);
    if (!wanted.empty()) pieces.push_back({i, v.name, v.radianceFile(), requestFor(v, job_->name(), int(i) + 1, std::move(wanted), choices)});
  }
  if (pieces.empty()) {
    emit told(tr("Everything that was asked for is there and current."));
    return;
  }
  work_.start([this, pieces](const Progress& progress) -> std::function<void()> {
    std::vector<std::pair<std::size_t, std::vector<DeliveredFile>>> made;
    std::optional<Error> problem;
    for (std::size_t k = 0; k < pieces.size() && !problem; ++k) {
      const Piece& piece = pieces[k];
      const Progress part{progress.stop, [&](const std::string& stage, double f) { progress.at(piece.name + ": " + stage, (double(k) + f) / double(pieces.size())); }};
      part.at("Read the radiance", 0);
      const auto radiance = readRadiance(piece.radiance);
      if (!radiance) {
        problem = radiance.error();
        break;
      }
      // One target at a time is noted, so that what was written before a stop counts.
      const auto delivered = deliverView(radiance->view(), piece.request, part);
      if (!delivered) {
        problem = delivered.error();
        break;
      }
      std::vector<DeliveredFile> files;
      for (std::size_t i = 0; i < delivered->files.size(); ++i)
        files.push_back({delivered->files[i].filename().string(), toJson(piece.request.recipe), job_->views()[piece.view].radianceStamp, piece.request.targets[i].id});
      made.emplace_back(piece.view, std::move(files));
    }
    return [this, made, problem] {
      for (const auto& [index, files] : made) {
        View& v = job_->views()[index];
        v.delivered.insert(v.delivered.end(), files.begin(), files.end());
        check(v.saveFinish());
      }
      if (problem && problem->code != ErrorCode::Stopped) emit failed(QString::fromStdString(problem->message));
      emit changed();
    };
  });
}

void Workbench::makeSheet() {
  if (!hasView() || busy()) return;
  struct Piece {
    std::string name;
    fs::path radiance;
    Recipe recipe;
    double ev100OfUnit;
    fs::path frame;
    nlohmann::json report;
  };
  std::vector<Piece> pieces;
  for (const View& v : job_->views())
    if (v.combined) pieces.push_back({v.name, v.radianceFile(), v.recipe, v.combined->ev100OfUnit, v.combined->metadataFrom.empty() ? fs::path() : fs::path(v.combined->metadataFrom.front()), v.combined->report});
  work_.start([this, pieces](const Progress& progress) -> std::function<void()> {
    std::vector<SheetPicture> pictures;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
      progress.at("Sheet: " + pieces[k].name, double(k) / double(pieces.size()));
      const auto radiance = readRadiance(pieces[k].radiance);
      if (!radiance) return [this, e = radiance.error()] { emit failed(QString::fromStdString(e.message)); };
      const Roi size = fitted(radiance->width(), radiance->height(), kSheetEdge);
      const Image<float> small = shrinkTo(radiance->view(), size.width, size.height);
      const auto state = FinishState::make(small, pieces[k].recipe, analyseTone(radiance->view(), pieces[k].ev100OfUnit), pieces[k].ev100OfUnit, pieces[k].frame, noisierFromReport(pieces[k].report), progress);
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
