// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/finish_compare.h"

#include "pipeline/report.h"

#include <algorithm>
#include <array>

namespace ml {
namespace {

constexpr std::size_t kMostEarlier = 5;

QString nameOf(const CombineRecord& record) {
  const std::size_t frames = record.report->frames.size();
  const QString name =
      frames == 1 ? QObject::tr("one frame") : QObject::tr("%1 frames, as combined before").arg(frames);
  if (record.options.method == CombineMethod::Radiance) return name;
  return name + QObject::tr(" (%1)").arg(QString::fromUtf8(methodName(record.options.method)));
}

bool underTwoLights(const View& a, const View& b) {
  return a.otherLightOf == b.folder.filename() || b.otherLightOf == a.folder.filename();
}

} // namespace

FinishCompare::FinishCompare(Desk& desk, FinishedPicture& picture) : desk_(desk), picture_(picture) {
  connect(&desk_.job, &JobModel::viewEntered, this, &FinishCompare::forget);
  connect(&picture_, &FinishedPicture::drawn, this, [this] {
    remember();
    draw();
  });
}

void FinishCompare::forget() {
  earlier_.clear();
  now_.reset();
  image_ = {};
  comparand_ = comparands().front();
}

/// One frame, three or five under one finish: what the view was combined to until now can be compared with what came.
void FinishCompare::remember() {
  const View& view = desk_.view();
  if (now_ && now_->stamp != view.radianceStamp) {
    std::erase_if(earlier_, [this](const Earlier& e) { return e.stamp == now_->stamp; });
    earlier_.push_back(std::move(*now_));
    if (earlier_.size() > kMostEarlier) earlier_.erase(earlier_.begin());
    now_.reset();
  }
  if (view.combined && picture_.exists())
    now_ = Earlier{view.radianceStamp, nameOf(*view.combined), picture_.combined()};
}

std::vector<FinishCompare::Comparand> FinishCompare::comparands() const {
  std::vector<Comparand> all{{Against::OneExposure, {}, tr("one exposure, simulated")},
                             {Against::Pinned, {}, tr("this finish as it stands now")}};
  if (desk_.hasView()) {
    for (auto e = earlier_.rbegin(); e != earlier_.rend(); ++e)
      if (e->stamp != desk_.view().radianceStamp) all.push_back({Against::Earlier, e->stamp, e->name});
    for (const View& v : desk_.job.job().views())
      if (&v != &desk_.view() && v.combined) {
        const QString name = QString::fromStdString(v.name);
        if (underTwoLights(v, desk_.view()))
          all.insert(all.begin() + 1, {Against::OtherView, idOf(v), tr("%1: the same under another light").arg(name)});
        else
          all.push_back({Against::OtherView, idOf(v), tr("%1, finished alike").arg(name)});
      }
  }
  all.push_back({Against::Reinhard, {}, tr("one curve for all tones"), "Reinhard et al., SIGGRAPH 2002, global"});
  all.push_back({Against::Drago, {}, tr("the logarithm of light"), "Drago et al., Eurographics 2003"});
  all.push_back(
      {Against::Durand, {}, tr("large tones pressed, detail kept"), "Durand and Dorsey, SIGGRAPH 2002, bilateral"});
  return all;
}

void FinishCompare::with(const Comparand& what) {
  comparand_ = what;
  if (what.against == Against::Pinned && desk_.hasView()) pinned_ = desk_.view().recipe;
  image_ = {};
  set(how_ == Comparing::Off ? Comparing::Beside : how_);
}

void FinishCompare::set(Comparing how) {
  how_ = how;
  draw();
  emit drawn();
  emit changed();
}

QImage FinishCompare::image() const {
  if (how_ == Comparing::Off) return {};
  return comparand_.against == Against::OneExposure ? picture_.before() : image_;
}

/// Of what the picture is compared with, on the picture's own light.
Recipe FinishCompare::recipe() const {
  Recipe recipe = comparand_.against == Against::Pinned ? pinned_ : desk_.view().recipe;
  switch (comparand_.against) {
  case Against::Reinhard: recipe.tone.op = ToneOperator::Reinhard; break;
  case Against::Drago: recipe.tone.op = ToneOperator::Drago; break;
  case Against::Durand: recipe.tone.op = ToneOperator::Durand; break;
  default: break;
  }
  return recipe;
}

void FinishCompare::draw() {
  if (how_ == Comparing::Off || comparand_.against == Against::OneExposure || !desk_.hasView() || !picture_.state())
    return;
  if (comparand_.against == Against::OtherView) {
    const View* other = desk_.job.find(comparand_.key);
    if (other && other->combined) drawOther(*other);
    return;
  }
  std::shared_ptr<const CombinedPicture> light = picture_.combined();
  std::shared_ptr<FinishState> state = picture_.state();
  if (comparand_.against == Against::Earlier) {
    const auto kept =
        std::find_if(earlier_.begin(), earlier_.end(), [this](const Earlier& e) { return e.stamp == comparand_.key; });
    if (kept == earlier_.end()) return;
    light = kept->picture;
    state.reset();
  }
  desk_.works.beside.start([this, light, state, recipe = recipe(),
                            frame = picture_.lensFrame()](const Progress& progress) -> std::function<void()> {
    const auto mine = state && state->fits(recipe) ? state : FinishState::make(light, recipe, frame, progress);
    if (!mine) return {};
    return [this, image = mine->draw(recipe, progress).image] {
      if (image.isNull()) return;
      image_ = image;
      emit drawn();
    };
  });
}

/// And says which of two lights shows a wall that both share truer.
void FinishCompare::drawOther(const View& other) {
  const auto there = desk_.radiances.find(idOf(other), other.radianceStamp);
  const std::array<std::string, 2> names{desk_.view().name, other.name};
  desk_.works.beside.start([this, other, there, names, state = picture_.state(), recipe = recipe(),
                            frame = picture_.lensFrame()](const Progress& progress) -> std::function<void()> {
    const auto loaded = there ? Result<std::shared_ptr<const CombinedPicture>>(there) : loadPicture(other, progress);
    if (!loaded && loaded.error().code == ErrorCode::Stopped) return {};
    if (!loaded) return [this, e = loaded.error()] { desk_.notices.fail(e); };
    const auto theirs = FinishState::make(*loaded, recipe, frame, progress);
    if (!theirs) return {};
    const QImage image = theirs->draw(recipe, progress).image;
    const Image<float> first = state->light(recipe, progress), second = theirs->light(recipe, progress);
    std::optional<WallUnderTwoLights> wall;
    if (!first.empty() && !second.empty()) wall = compareWall(first.view(), second.view());
    return [this, id = idOf(other), stamp = other.radianceStamp, picture = *loaded, image, wall, names] {
      desk_.radiances.keep(id, stamp, picture);
      image_ = image;
      if (wall) desk_.notices.tell(QString::fromStdString(sentence(*wall, names[0], names[1])));
      emit drawn();
    };
  });
}

} // namespace ml
