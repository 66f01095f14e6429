#include "model/finish_state.h"
#include "model/workbench_change.h"

#include "deliver/deliver.h"
#include "finish/hues.h"
#include "finish/lines.h"

#include <cmath>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr double kStopsPerHeight = 4;   ///< A drag over the picture's height.
constexpr double kHuePerWidth = 2;      ///< Saturation gain over its width.
constexpr double kSameLight = 0.6;      ///< Stops; a pull near another replaces it.
constexpr double kSpot = 0.006;         ///< Of the width: what a click reads.

/// Mean radiance around a place of a picture.
std::array<float, 3> meanAt(ImageView<const float> picture, const Spot2& at) {
  const int r = std::max(1, int(kSpot * picture.width)), cx = int(at.x * picture.width), cy = int(at.y * picture.height);
  std::array<float, 3> sum{};
  int n = 0;
  for (int y = std::max(0, cy - r); y <= std::min(picture.height - 1, cy + r); ++y)
    for (int x = std::max(0, cx - r); x <= std::min(picture.width - 1, cx + r); ++x, ++n)
      for (std::size_t c = 0; c < 3; ++c) sum[c] += picture.at(x, y)[c];
  for (float& v : sum) v = std::max(1e-9f, v / float(std::max(1, n)));
  return sum;
}

void setPull(ToneSettings& tone, double scene, double paper) {
  std::erase_if(tone.pulls, [&](const Tie& p) { return std::abs(p.scene - scene) < kSameLight; });
  tone.pulls.push_back({scene, std::clamp(paper, -11.0, 1.0)});
}

} // namespace

const ToneAnalysis* Workbench::finishAnalysis() const { return radiance_ ? (radiance_->state ? &radiance_->state->analysis() : &radiance_->analysis) : nullptr; }

/// The frame whose metadata name the lens.
fs::path Workbench::lensFrame() const { return view().combined && !view().combined->metadataFrom.empty() ? fs::path(view().combined->metadataFrom.front()) : fs::path(); }

const Judgement* Workbench::judgement() const { return radiance_ && radiance_->judgement ? &*radiance_->judgement : nullptr; }

void Workbench::refreshFinish() {
  preview_.start([this, radiance = radiance_, recipe = view().recipe, frame = lensFrame(), compareWith = beforeImage_.isNull()](const Progress& progress) -> std::function<void()> {
    auto state = radiance->state;
    const bool anew = !state || !state->fits(recipe);
    if (anew) state = FinishState::make(radiance->preview, recipe, radiance->analysis, radiance->facts, frame, radiance->noisier, progress);
    if (!state) return {};
    auto drawn = state->draw(recipe, progress);
    if (drawn.image.isNull()) return {};
    QImage before;
    if (compareWith || anew) { // one exposure for everything: what a single frame would give
      Recipe single;
      single.tone.balance = 0;
      single.geometry = recipe.geometry;
      before = state->draw(single, progress).image;
    }
    return [this, radiance, state, drawn, before, unknown = anew && recipe.geometry.lens && !state->lens()] {
      radiance->state = state;
      if (unknown) emit told(tr("No lens profile is known for this frame; Bent lines, Dark corners and the fringes can be set by hand."));
      finishImage_ = drawn.image;
      if (!before.isNull()) beforeImage_ = before;
      radiance->finish = drawn.report;
      emit pictureChanged();
      emit changed();
      refreshBeside();
      refreshJudgement();
    };
  });
}

std::optional<GhostsLeft> Workbench::ghostsLeft() const { return view().combined ? ml::ghostsLeft(view().combined->report) : std::nullopt; }

/// When the hand rests: a judgement takes longer than a drag may.
void Workbench::refreshJudgement() {
  judging_.start([this, radiance = radiance_, state = radiance_->state, recipe = view().recipe, ghosts = ghostsLeft()](const Progress& progress) -> std::function<void()> {
    auto judged = state->judge(recipe, ghosts, progress);
    if (!judged) return {};
    return [this, radiance, judged, white = state->whiteTrim(recipe)] {
      radiance->judgement = *judged;
      radiance->white = white;
      emit changed();
    };
  });
}

// ---- Tools on the picture

void Workbench::setFinishTool(FinishTool tool) {
  finishTool_ = tool;
  cornerPoints_.clear();
  cropDrag_.reset();
  emit changed();
}

void Workbench::selectArea(int index) {
  selectedArea_ = index;
  emit changed();
}

void Workbench::showAreas(bool shown) {
  areasShown_ = shown;
  emit changed();
}

int Workbench::selectedArea() const { return hasView() && !view().recipe.areas.empty() ? std::clamp(selectedArea_, 0, int(view().recipe.areas.size()) - 1) : -1; }

void Workbench::toolPress(QPointF at) {
  if (!hasView() || !radiance_ || !radiance_->state) return;
  toolFrom_ = at;
  toolRecipe_ = view().recipe;
  ++toolDrag_;
  toolMoved_ = false;
  if (finishTool_ == FinishTool::Brush) {
    if (selectedArea() < 0 || view().recipe.areas[std::size_t(selectedArea())].shape != AreaShape::Brush) {
      Area brush;
      brush.shape = AreaShape::Brush;
      brush.exposure = 0.5;
      toolRecipe_.areas.push_back(brush);
      selectedArea_ = int(toolRecipe_.areas.size()) - 1;
    }
    toolRecipe_.areas[std::size_t(selectedArea())].strokes.push_back({{}, brushRadius_, false});
  }
  toolTo(at);
}

void Workbench::toolDrag(QPointF at) {
  if (!hasView() || !radiance_ || !radiance_->state) return;
  toolMoved_ = toolMoved_ || std::hypot(at.x() - toolFrom_.x(), at.y() - toolFrom_.y()) > 0.004;
  toolTo(at);
}

/// The recipe as the drag from where it began to `at` makes it.
void Workbench::toolTo(QPointF at) {
  Recipe recipe = toolRecipe_;
  const double dx = at.x() - toolFrom_.x(), dy = at.y() - toolFrom_.y();
  const ShapeMap shape(toolRecipe_.geometry, radiance_->preview.width(), radiance_->preview.height());
  const Spot2 from = shape.toCombined({toolFrom_.x(), toolFrom_.y()}), to = shape.toCombined({at.x(), at.y()});
  const ImageView<const float> picture = radiance_->state->picture();
  const Spot2 fromHere{toolFrom_.x(), toolFrom_.y()};
  switch (finishTool_) {
  case FinishTool::Light: {
    if (!toolMoved_) return;
    const auto c = meanAt(picture, fromHere);
    const double scene = std::log2(luminance(c.data())), paper = ToneCurve(placedTies(radiance_->state->analysis(), toolRecipe_.tone))(scene);
    setPull(recipe.tone, scene, paper - dy * kStopsPerHeight);
    break;
  }
  case FinishTool::White: {
    const Neutral neutral = neutralFor(meanAt(picture, Spot2{at.x(), at.y()}));
    recipe.tone.warmth = neutral.warmth, recipe.tone.tint = neutral.tint;
    break;
  }
  case FinishTool::PlaceWhite: {
    if (selectedArea() < 0) return;
    // What the white point of the whole picture leaves of a cast.
    const Neutral neutral = neutralFor(meanAt(picture, Spot2{at.x(), at.y()}));
    Area& area = recipe.areas[std::size_t(selectedArea())];
    area.warmth = std::clamp(neutral.warmth - recipe.tone.warmth, -4.0, 4.0), area.tint = std::clamp(neutral.tint - recipe.tone.tint, -4.0, 4.0);
    break;
  }
  case FinishTool::Colour: {
    if (!toolMoved_) return;
    const auto c = meanAt(picture, fromHere);
    const HueAndChroma found = hueOf(c.data());
    if (found.chroma < 0.08) return;
    auto near = std::find_if(recipe.hues.begin(), recipe.hues.end(), [&](const HueMove& h) { return std::abs(std::remainder(h.hue - found.hue, 360.0)) < 20; });
    if (near == recipe.hues.end()) near = recipe.hues.insert(recipe.hues.end(), HueMove{found.hue, 40, 0, 0});
    near->saturation = std::clamp(near->saturation + dx * kHuePerWidth, -1.0, 1.0);
    near->lightness = std::clamp(near->lightness - dy * kStopsPerHeight / 2, -3.0, 3.0);
    break;
  }
  case FinishTool::Oval:
  case FinishTool::Ramp: {
    if (!toolMoved_) return;
    Area area;
    area.shape = finishTool_ == FinishTool::Oval ? AreaShape::Oval : AreaShape::Ramp;
    area.a = from;
    area.b = finishTool_ == FinishTool::Oval ? Spot2{std::max(0.01, std::abs(to.x - from.x)), std::max(0.01, std::abs(to.y - from.y))} : to;
    area.exposure = 0.4;
    recipe.areas.push_back(area);
    selectedArea_ = int(recipe.areas.size()) - 1;
    break;
  }
  case FinishTool::Brush:
    toolRecipe_.areas[std::size_t(selectedArea_)].strokes.back().points.push_back(to);
    recipe = toolRecipe_;
    break;
  case FinishTool::Heal:
    recipe.healings.push_back({from, std::clamp(std::max(0.006, std::hypot(to.x - from.x, to.y - from.y)), 0.003, 0.08)});
    break;
  case FinishTool::Crop: {
    if (!toolMoved_) return;
    cropDrag_ = draggedBox(fromHere, {at.x(), at.y()}, cropRatio_, double(picture.width) / picture.height);
    recipe.geometry = cutTo(toolRecipe_.geometry, *cropDrag_);
    emit changed(); // the box is drawn, and the picture stays as it is
    toolPending_ = recipe; // cut when the hand lets go: the ground must not move under it
    return;
  }
  case FinishTool::Corners: return; // clicks, see toolRelease
  case FinishTool::Level: {
    const double px = dx * radiance_->preview.width(), py = dy * radiance_->preview.height();
    if (std::hypot(px, py) < 20) return;
    const double degrees = std::atan2(py, px) * 180 / 3.14159265358979;
    const double off = std::remainder(degrees, 90.0); // against level or plumb, whichever is nearer
    recipe.geometry.roll = std::clamp(toolRecipe_.geometry.roll + off, -45.0, 45.0);
    recipe.geometry.strength = 1;
    toolPending_ = recipe;
    return;
  }
  }
  setRecipe(recipe, kToolDrags + toolDrag_);
}

void Workbench::toolRelease(QPointF at) {
  if (!hasView() || !radiance_ || !radiance_->state) return;
  toolPending_.reset();
  if (finishTool_ == FinishTool::Corners) return takeCorner({at.x(), at.y()});
  toolDrag(at);
  cropDrag_.reset();
  if (const std::optional<Recipe> pending = toolPending_) setRecipe(*pending, kToolDrags + toolDrag_);
  const FinishTool once = finishTool_;
  if (once != FinishTool::Light && once != FinishTool::Colour && once != FinishTool::Brush && once != FinishTool::Heal) setFinishTool(FinishTool::Light);
}

void Workbench::pullTie(double ev100, double paper, int dragId) {
  if (!radiance_ || !hasView()) return;
  Recipe recipe = view().recipe;
  setPull(recipe.tone, ev100 - radiance_->facts.ev100OfUnit, paper - recipe.tone.exposure);
  setRecipe(recipe, kToolDrags + 100000 + dragId);
}

// ---- Whole moves

const Finding* Workbench::worstFinding() const { return judgement() ? judgement()->worst() : nullptr; }

void Workbench::remedy() {
  const Finding* found = worstFinding();
  if (!found || !radiance_->state) return;
  if (found->kind == FindingKind::GhostsLeft) {
    CombineOptions stricter = combineOptions();
    if (stricter.motion == MotionMode::High) {
      emit told(tr("Movement is looked for as strictly as can be; at Combine, paint what is doubled from one frame."));
      return;
    }
    stricter.motion = MotionMode::High;
    return combine(stricter);
  }
  setRecipe(remedied(view().recipe, *found, radiance_->state->analysis()));
}

void Workbench::addFound(AreaShape shape) {
  if (!radiance_ || !radiance_->state) return;
  const ToneAnalysis& analysis = radiance_->state->analysis();
  const Image<float> cells = shape == AreaShape::Sky ? skyCells(analysis) : windowCells(analysis);
  if (std::none_of(cells.data(), cells.data() + cells.size(), [](float v) { return v > 0.5f; })) {
    emit told(shape == AreaShape::Sky ? tr("No sky is found in this picture: paint it with the brush, or lay a ramp over it.") : tr("No window is found in this picture: paint it with the brush."));
    return;
  }
  Recipe recipe = view().recipe;
  Area found;
  found.shape = shape;
  found.exposure = -0.4;
  recipe.areas.push_back(found);
  selectedArea_ = int(recipe.areas.size()) - 1;
  setRecipe(recipe);
}

void Workbench::takeWhiteTrim() {
  const WhiteTrim* white = whiteTrim();
  if (!white || !hasView()) {
    emit told(tr("No white paint is found in this picture: click something white with \"This is white\"."));
    return;
  }
  Recipe recipe = view().recipe;
  recipe.tone.warmth = white->warmth, recipe.tone.tint = white->tint;
  setRecipe(recipe);
}

void Workbench::showWhiteTrim(bool shown) {
  whiteShown_ = shown;
  emit changed();
}

void Workbench::nextStart() {
  if (!hasView()) return;
  std::size_t next = 0;
  for (std::size_t i = 0; i < kStarts; ++i)
    if (looks()[i].id == view().recipe.look) next = (i + 1) % kStarts;
  chooseLook(looks()[next].id, 1);
  emit told(tr("Starting point: %1.").arg(QString::fromStdString(looks()[next].name)));
}

void Workbench::removeArea() {
  const int index = selectedArea();
  if (index < 0) return;
  Recipe recipe = view().recipe;
  recipe.areas.erase(recipe.areas.begin() + index);
  setRecipe(recipe);
}

std::vector<Look> Workbench::allLooks() const {
  std::vector<Look> all = looks();
  const auto& own = lookShelf_->looks();
  all.insert(all.end(), own.begin(), own.end());
  return all;
}

void Workbench::chooseLook(const std::string& id, double strength, int dragId) {
  if (!hasView()) return;
  for (const Look& look : allLooks())
    if (look.id == id) return setRecipe(withLook(view().recipe, look, strength), dragId);
}

void Workbench::saveLook(const QString& name) {
  if (hasView()) check(lookShelf_->save(name.trimmed().toStdString(), view().recipe));
  emit changed();
}

void Workbench::copyToOtherViews() {
  if (!hasView() || busy()) return;
  std::vector<Recipe> before, after;
  int count = 0;
  for (std::size_t i = 0; i < job_->views().size(); ++i) {
    const View& v = job_->views()[i];
    before.push_back(v.recipe);
    const bool takes = int(i) != current_ && v.combined;
    after.push_back(takes ? forAnotherView(view().recipe, v.recipe) : v.recipe);
    count += takes;
  }
  if (count == 0) {
    emit told(tr("No other view is combined yet; combine them first."));
    return;
  }
  pushChange(tr("copy to other views"), before, after, [this](const std::vector<Recipe>& recipes) {
    for (std::size_t i = 0; i < recipes.size(); ++i) {
      View& v = job_->views()[i];
      if (v.recipe == recipes[i]) continue;
      v.recipe = recipes[i];
      check(v.saveFinish());
    }
    emit changed();
  });
  emit told(count == 1 ? tr("One other view takes this finish; it keeps its own white point, shape and placement.")
                      : tr("%1 other views take this finish; each keeps its own white point, shape and placement.").arg(count));
}

PictureMarks Workbench::finishMarks() const {
  PictureMarks marks;
  if (!hasView() || !radiance_) return marks;
  if (const Finding* found = worstFinding(); found && !whiteShown_)
    for (const Spot2& p : found->places) marks.rings.emplace_back(p.x, p.y);
  if (const WhiteTrim* white = whiteTrim(); white && whiteShown_)
    for (const Spot2& p : white->places) marks.rings.emplace_back(p.x, p.y);
  markCrop(marks);
  const int index = selectedArea();
  if (index < 0 || !areasShown_ || finishTool_ == FinishTool::Brush) return marks;
  const Area& area = view().recipe.areas[std::size_t(index)];
  const ShapeMap shape(view().recipe.geometry, radiance_->preview.width(), radiance_->preview.height());
  const auto at = [&](double x, double y) {
    const Spot2 p = shape.toFinished({x, y});
    return QPointF(p.x, p.y);
  };
  QPainterPath path;
  if (area.shape == AreaShape::Oval) {
    const double aspect = double(radiance_->preview.width()) / radiance_->preview.height(), turn = area.angle * 3.14159265358979 / 180;
    for (int i = 0; i <= 48; ++i) {
      const double t = i * 2 * 3.14159265358979 / 48, u = area.b.x * std::cos(t), v = area.b.y / aspect * std::sin(t);
      const QPointF p = at(area.a.x + u * std::cos(turn) - v * std::sin(turn), area.a.y + (u * std::sin(turn) + v * std::cos(turn)) * aspect);
      i == 0 ? path.moveTo(p) : path.lineTo(p);
    }
  } else if (area.shape == AreaShape::Ramp) {
    path.moveTo(at(area.a.x, area.a.y));
    path.lineTo(at(area.b.x, area.b.y));
  }
  if (!path.isEmpty()) marks.outlines.push_back(path);
  return marks;
}

// ---- 100 %

QSize Workbench::fullSize() const {
  if (!hasView() || !view().combined || station_ < Station::Finish) return {};
  const auto& report = view().combined->report;
  const Geometry& g = view().recipe.geometry;
  return QSize(int(std::lround(report.value("width", 0) * g.cropWidth)), int(std::lround(report.value("height", 0) * g.cropHeight)));
}

void Workbench::showDetail(QRectF visible) {
  if (!radiance_ || !radiance_->state || fullSize().isEmpty()) return;
  detail_.start([this, radiance = radiance_, state = radiance_->state, recipe = view().recipe, file = view().radianceFile(), visible](const Progress& progress) -> std::function<void()> {
    const std::lock_guard lock(radiance->fullUse);
    if (radiance->full.empty()) {
      auto whole = readRadiance(file);
      if (!whole) return [this, e = whole.error()] { emit failed(QString::fromStdString(e.message)); };
      radiance->full = std::move(*whole);
      radiance->fullPrepared = {};
    }
    if (needsPreparation(recipe) && (radiance->fullPrepared.empty() || !samePreparation(radiance->fullBy, recipe))) {
      auto ready = prepared(radiance->full.view(), recipe, radiance->analysis.noise, state->lens(), progress);
      if (!ready) return {};
      radiance->fullPrepared = std::move(*ready);
      radiance->fullBy = recipe;
    }
    const ImageView<const float> picture = needsPreparation(recipe) ? std::as_const(radiance->fullPrepared).view() : std::as_const(radiance->full).view();
    Roi part{int(visible.x() * picture.width), int(visible.y() * picture.height), int(visible.width() * picture.width) + 2, int(visible.height() * picture.height) + 2};
    part.x = std::clamp(part.x, 0, picture.width - 1), part.y = std::clamp(part.y, 0, picture.height - 1);
    part.width = std::min(part.width, picture.width - part.x), part.height = std::min(part.height, picture.height - part.y);
    QImage image(part.width, part.height, QImage::Format_RGB888);
    if (!Finisher(state->analysis(), state->lens()).finishBytes(picture, recipe, part, image.bits(), image.bytesPerLine(), progress)) return {};
    const QRectF place(double(part.x) / picture.width, double(part.y) / picture.height, double(part.width) / picture.width, double(part.height) / picture.height);
    return [this, image, place] { emit detailDrawn(image, place); };
  });
}

} // namespace ml
