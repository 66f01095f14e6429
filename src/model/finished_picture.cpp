// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/finished_picture.h"

#include "model/ladder.h"
#include "model/pictures.h"
#include "model/view_edit.h"
#include "session/radiance_history.h"

#include <cmath>

namespace ml {
namespace {

constexpr int kPaperSteps = 48;
constexpr int kRestMs = 180; ///< Longer than between two moves of a drag; a judgement takes longer than a drag may.

} // namespace

FinishedPicture::FinishedPicture(Desk& desk) : desk_(desk) {
  rest_.setSingleShot(true);
  rest_.setInterval(kRestMs);
  connect(&rest_, &QTimer::timeout, this, &FinishedPicture::judge);
  connect(&desk_.job, &JobModel::viewEntered, this, [this] { opened(nullptr); });
  connect(&desk_.job, &JobModel::viewChanged, this, [this](const std::string& view, Aspect aspect) {
    if (!desk_.hasView() || idOf(desk_.view()) != view) return;
    if (aspect == Aspect::Combined) combinedAnew();
    if (aspect != Aspect::Recipe) return;
    judgement_.reset();
    draw();
  });
}

void FinishedPicture::opened(std::shared_ptr<const CombinedPicture> picture) {
  picture_ = std::move(picture);
  state_.reset();
  full_ = std::make_shared<FullSize>();
  image_ = before_ = {};
  report_ = {};
  paper_.clear();
  judgement_.reset();
  white_.reset();
  rest_.stop();
}

/// By combining, or by going back to what was there before.
void FinishedPicture::combinedAnew() {
  const View& view = desk_.view();
  opened(view.combined ? desk_.radiances.find(idOf(view), view.radianceStamp) : nullptr);
  if (picture_ || !view.combined) {
    draw();
    emit drawn();
    return;
  }
  desk_.works.preview.start([this, view](const Progress& progress) -> std::function<void()> {
    const auto picture = loadPicture(view, progress);
    if (!picture && picture.error().code == ErrorCode::Stopped) return {};
    if (!picture) return [this, e = picture.error()] { desk_.notices.fail(e); };
    return [this, id = idOf(view), stamp = view.radianceStamp, picture = *picture] {
      desk_.radiances.keep(id, stamp, picture);
      if (!desk_.hasView() || idOf(desk_.view()) != id || desk_.view().radianceStamp != stamp) return;
      opened(picture);
      draw();
    };
  });
}

void FinishedPicture::draw() {
  if (!picture_) return;
  desk_.works.preview.start([this, picture = picture_, state = state_, recipe = desk_.view().recipe,
                             frame = lensFrame(),
                             first = before_.isNull()](const Progress& progress) -> std::function<void()> {
    const bool anew = !state || !state->fits(recipe);
    const auto ready = anew ? FinishState::make(picture, recipe, frame, progress) : state;
    if (!ready) return {};
    const auto drawn = ready->draw(recipe, progress);
    if (drawn.image.isNull()) return {};
    const QImage before = first || anew ? ready->draw(asOneExposure(recipe), progress).image : QImage();
    return [this, picture, ready, drawn, before, paper = paperTones(drawn.image, kPaperSteps, kPaperStops),
            unknown = anew && recipe.geometry.lens && !ready->lens()] {
      if (picture != picture_) return;
      state_ = ready;
      if (unknown)
        desk_.notices.tell(tr(
            "No lens profile is known for this frame; Bent lines, Dark corners and the fringes can be set by hand."));
      image_ = drawn.image;
      if (!before.isNull()) before_ = before;
      report_ = drawn.report;
      paper_ = paper;
      rest_.start();
      emit this->drawn();
    };
  });
}

void FinishedPicture::judge() {
  if (!state_) return;
  const auto ghosts = desk_.view().combined ? desk_.view().combined->report->ghosts : std::nullopt;
  desk_.works.judging.start(
      [this, state = state_, recipe = desk_.view().recipe, ghosts](const Progress& progress) -> std::function<void()> {
        auto found = state->judge(recipe, ghosts, progress);
        if (!found) return {};
        return [this, state, recipe, found, white = state->whiteTrim(recipe)] {
          if (state != state_ || !(recipe == desk_.view().recipe)) return;
          judgement_ = *found;
          white_ = white;
          emit judged();
        };
      });
}

void FinishedPicture::hold(bool before) {
  if (held_ == before) return;
  held_ = before;
  emit drawn();
}

QSize FinishedPicture::fullSize() const {
  if (!desk_.hasView() || !desk_.view().combined) return {};
  const CombineReport& report = *desk_.view().combined->report;
  const Geometry& g = desk_.view().recipe.geometry;
  return {int(std::lround(report.width * g.cropWidth)), int(std::lround(report.height * g.cropHeight))};
}

std::filesystem::path FinishedPicture::lensFrame() const {
  const View& view = desk_.view();
  return view.combined && !view.combined->metadataFrom.empty()
             ? std::filesystem::path(view.combined->metadataFrom.front())
             : std::filesystem::path();
}

// ---- 100 %

void FinishedPicture::showDetail(const QRectF& part) {
  if (!state_ || fullSize().isEmpty()) return;
  const auto work = [this, full = full_, state = state_, recipe = desk_.view().recipe, file = radianceNow(desk_.view()),
                     part](const Progress& progress) { return detail(full, state, recipe, file, part, progress); };
  desk_.works.detail.start(work);
}

/// On the lane's thread.
std::function<void()> FinishedPicture::detail(const std::shared_ptr<FullSize>& full,
                                              const std::shared_ptr<FinishState>& state, const Recipe& recipe,
                                              const std::filesystem::path& file, const QRectF& part,
                                              const Progress& progress) {
  const std::lock_guard lock(full->use);
  if (!full->combined) {
    auto opened = openRadiance(file, progress.stop);
    if (!opened && opened.error().code == ErrorCode::Stopped) return {};
    if (!opened) return [this, e = opened.error()] { desk_.notices.fail(e); };
    full->combined = std::move(*opened);
  }
  const bool prepare = needsPreparation(recipe);
  if (prepare && (full->prepared.empty() || !samePreparation(full->preparedBy, recipe))) {
    Image<float> room;
    auto ready =
        prepared(full->combined->rows().whole(room), recipe, state->combined().analysis.noise, state->lens(), progress);
    if (!ready) return {};
    full->prepared = std::move(*ready);
    full->preparedBy = recipe;
  }
  const PictureRows picture = prepare ? PictureRows(std::as_const(full->prepared).view()) : full->combined->rows();
  const Roi pixels = pixelsOf(part, picture.width, picture.height);
  QImage image(pixels.width, pixels.height, QImage::Format_RGB888);
  if (!Finisher(state->analysis(), state->lens())
           .finishBytes(picture, recipe, pixels, image.bits(), image.bytesPerLine(), progress))
    return {};
  const QRectF place(double(pixels.x) / picture.width, double(pixels.y) / picture.height,
                     double(pixels.width) / picture.width, double(pixels.height) / picture.height);
  return [this, image, place] { emit detailDrawn(image, place); };
}

void changeRecipe(Desk& desk, const Recipe& recipe, int drag) {
  if (!desk.hasView() || recipe == desk.view().recipe) return;
  desk.job.edit(
      idOf(desk.view()), Aspect::Recipe, QObject::tr("finish"), desk.view().recipe, recipe,
      [](View& view, const Recipe& r) { view.recipe = r; }, drag);
}

void layFinish(Desk& desk, const std::string& from, const std::vector<std::string>& views) {
  struct Laid {
    Recipe recipe, over; ///< Only over this one.
  };
  const View* giver = desk.job.find(from);
  if (!giver) return;
  const Recipe given = giver->recipe;
  QUndoStack& stack = desk.job.undoStack();
  stack.beginMacro(QObject::tr("finish of several views"));
  for (const auto& name : views) {
    const View* view = desk.job.find(name);
    if (!view || name == from || !view->combined) continue;
    const Recipe before = view->recipe, after = forAnotherView(given, before);
    desk.job.edit(name, Aspect::Recipe, QObject::tr("finish"), Laid{before, after}, Laid{after, before},
                  [](View& changed, const Laid& laid) {
                    if (changed.recipe == laid.over) changed.recipe = laid.recipe;
                  });
  }
  stack.endMacro();
}

} // namespace ml
