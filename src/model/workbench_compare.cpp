#include "deliver/deliver.h"
#include "image/resample.h"
#include "model/pictures.h"
#include "model/workbench.h"
#include "pipeline/noisier.h"

#include <array>

namespace ml {

std::vector<Workbench::Comparand> Workbench::comparands() const {
  std::vector<Comparand> all{{Against::OneExposure, 0, tr("one exposure")}, {Against::Pinned, 0, tr("this finish as it stands now")}};
  for (std::size_t i = earlier_.size(); i-- > 0;)
    if (earlier_[i].stamp != view().radianceStamp) all.push_back({Against::Earlier, earlier_[i].number, earlier_[i].name});
  if (hasView())
    for (std::size_t i = 0; i < job_->views().size(); ++i)
      if (int(i) != current_ && job_->views()[i].combined) all.push_back({Against::OtherView, int(i), tr("%1, finished alike").arg(QString::fromStdString(job_->views()[i].name))});
  all.push_back({Against::Reinhard, 0, tr("Reinhard 2002, global")});
  all.push_back({Against::Drago, 0, tr("Drago 2003, logarithmic")});
  all.push_back({Against::Durand, 0, tr("Durand and Dorsey 2002, bilateral")});
  return all;
}

void Workbench::compareWith(const Comparand& what) {
  comparand_ = what;
  if (what.against == Against::Pinned && hasView()) pinned_ = view().recipe;
  besideImage_ = {};
  if (comparisonMode_ == Comparing::Off) comparisonMode_ = Comparing::Beside;
  refreshBeside();
  emit pictureChanged();
  emit changed();
}

void Workbench::setComparison(Comparing how) {
  comparisonMode_ = how;
  refreshBeside();
  emit pictureChanged();
  emit changed();
}

QImage Workbench::besidePicture() const {
  if (comparisonMode_ == Comparing::Off || (station_ != Station::Finish && station_ != Station::Deliver)) return {};
  return comparand_.against == Against::OneExposure ? beforeImage_ : besideImage_;
}

/// The recipe of what the picture is compared with, on the picture's own light.
Recipe Workbench::recipeBeside() const {
  Recipe recipe = comparand_.against == Against::Pinned ? pinned_ : view().recipe;
  switch (comparand_.against) {
  case Against::Reinhard: recipe.tone.op = ToneOperator::Reinhard; break;
  case Against::Drago: recipe.tone.op = ToneOperator::Drago; break;
  case Against::Durand: recipe.tone.op = ToneOperator::Durand; break;
  default: break;
  }
  return recipe;
}

void Workbench::refreshBeside() {
  if (comparisonMode_ == Comparing::Off || comparand_.against == Against::OneExposure || !hasView() || !radiance_ || !radiance_->state) return;
  const std::size_t index = std::size_t(comparand_.index);
  const auto kept = std::find_if(earlier_.begin(), earlier_.end(), [this](const EarlierCombination& e) { return e.number == comparand_.index; });
  const bool other = comparand_.against == Against::OtherView, earlier = comparand_.against == Against::Earlier;
  if ((other && (index >= job_->views().size() || !job_->views()[index].combined)) || (earlier && kept == earlier_.end())) return;
  const std::filesystem::path file = other ? job_->views()[index].radianceFile() : std::filesystem::path{};
  const auto report = other ? job_->views()[index].combined->report : nlohmann::json();
  const SceneFacts facts = other ? factsOf(*job_->views()[index].combined) : SceneFacts{};
  const auto radiance = earlier ? kept->radiance : radiance_;
  const std::array<std::string, 2> names{view().name, other ? job_->views()[index].name : std::string()};
  beside_.start([this, names, other, file, facts, report, recipe = recipeBeside(), radiance, state = earlier ? nullptr : radiance_->state, frame = lensFrame()](const Progress& progress) -> std::function<void()> {
    QImage image;
    std::optional<WallUnderTwoLights> wall;
    if (other) {
      const auto whole = readRadiance(file);
      if (!whole) return [this, e = whole.error()] { emit failed(QString::fromStdString(e.message)); };
      const Image<float> noisier = noisierFromReport(report);
      const Roi size = fitted(whole->width(), whole->height(), kPreviewEdge);
      const Image<float> small = shrinkTo(whole->view(), size.width, size.height);
      const auto theirs = FinishState::make(small, recipe, analyseTone(small.view(), facts), facts, frame, noisier, progress);
      if (theirs) image = theirs->draw(recipe, progress).image;
      if (theirs && state) {
        const Image<float> first = state->light(recipe, progress), second = theirs->light(recipe, progress);
        if (!first.empty() && !second.empty()) wall = compareWall(first.view(), second.view());
      }
    } else {
      const auto mine = state && state->fits(recipe) ? state : FinishState::make(radiance->preview, recipe, radiance->analysis, radiance->facts, frame, radiance->noisier, progress);
      if (mine) image = mine->draw(recipe, progress).image;
    }
    return [this, image, wall, names] {
      besideImage_ = image;
      if (wall) emit told(QString::fromStdString(sentence(*wall, names[0], names[1])));
      emit pictureChanged();
    };
  });
}

} // namespace ml
