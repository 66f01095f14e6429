// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/finish_tools.h"

#include "finish/areas.h"
#include "finish/lines.h"
#include "model/drag.h"
#include "model/finish_drags.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace ml {
namespace {

constexpr double kLeastMove = 0.004;                   ///< Of the picture; below, a press is a click.
constexpr double kBrushRadius = 0.03;                  ///< Of the width.
constexpr double kNewStroke = 0.5, kFoundPlace = -0.4; ///< Stops.

/// What a tool does with a drag.
struct ToolKind {
  FinishTool tool;
  DraggedRecipe (*make)(const FinishDrag&) = nullptr; ///< Null: FinishTools does it, see to().
  bool byClick = false;                               ///< Also without moving.
  bool onRelease = false;                             ///< The picture changes its shape, so it waits for the hand.
  bool lasts = false;                                 ///< Stays in hand afterwards.
  PictureMarks::DragShape shape = PictureMarks::DragShape::None;
};
using enum PictureMarks::DragShape;
constexpr ToolKind kTools[] = {
    {FinishTool::Light, liftLight, false, false, true, None},
    {FinishTool::White, takeWhite, true, false, false, None},
    {FinishTool::PlaceWhite, takePlaceWhite, true, false, false, None},
    {FinishTool::Colour, moveHue, false, false, true, None},
    {FinishTool::Oval, layOval, false, false, false, Oval},
    {FinishTool::Ramp, layRamp, false, false, false, Line},
    {FinishTool::Brush, nullptr, true, false, true, None},
    {FinishTool::Heal, cover, true, false, true, None},
    {FinishTool::Crop, nullptr, false, true, false, None},
    {FinishTool::Level, level, false, true, false, Line},
    {FinishTool::Corners, nullptr, true, false, false, None},
};

const ToolKind& kindOf(FinishTool tool) {
  return *std::find_if(std::begin(kTools), std::end(kTools), [tool](const ToolKind& k) { return k.tool == tool; });
}

ShapeMap shapeOfFinished(const FinishState& state, const Recipe& recipe) {
  const Image<float>& preview = state.combined().preview;
  return ShapeMap(recipe.geometry, preview.width(), preview.height(), state.lens() ? &state.lens()->map : nullptr);
}

} // namespace

void FinishTools::choose(FinishTool tool) {
  tool_ = tool;
  corners_.clear();
  cropDrag_.reset();
  emit changed();
}

void FinishTools::setPage(Page page) {
  page_ = page;
  choose(FinishTool::Light);
}

// ---- A drag

void FinishTools::press(QPointF at) {
  if (!ready()) return;
  from_ = at;
  recipe_ = desk_.view().recipe;
  pending_.reset();
  drag_ = newDrag();
  dragging_ = true;
  moved_ = false;
  if (tool_ == FinishTool::Brush) {
    if (selectedArea() < 0 || recipe_.areas[std::size_t(selectedArea())].shape != AreaShape::Brush) {
      Area brush;
      brush.shape = AreaShape::Brush;
      brush.exposure = kNewStroke;
      recipe_.areas.push_back(brush);
      selected_ = int(recipe_.areas.size()) - 1;
    }
    recipe_.areas[std::size_t(selected_)].strokes.push_back({{}, kBrushRadius, false});
  }
  to(at);
}

void FinishTools::drag(QPointF at) {
  if (!dragging_ || !ready()) return;
  moved_ = moved_ || std::hypot(at.x() - from_.x(), at.y() - from_.y()) > kLeastMove;
  to(at);
}

/// The recipe as the drag from where it began to `at` makes it.
void FinishTools::to(QPointF at) {
  const ToolKind& kind = kindOf(tool_);
  if ((!moved_ && !kind.byClick) || tool_ == FinishTool::Corners) return;
  const ShapeMap shape = shapeOfFinished(*picture_.state(), recipe_);
  const Spot2 from{from_.x(), from_.y()}, here{at.x(), at.y()};
  const FinishDrag drag{*picture_.state(),      recipe_,       from, here, shape.toCombined(from),
                        shape.toCombined(here), selectedArea()};
  DraggedRecipe made;
  if (kind.make) {
    made = kind.make(drag);
  } else if (tool_ == FinishTool::Brush) {
    recipe_.areas[std::size_t(selected_)].strokes.back().points.push_back(drag.combinedTo);
    made = recipe_;
  } else {
    cropDrag_ = draggedBox(from, here, cropRatio_, double(drag.state.width()) / drag.state.height());
    made = recipe_;
    made->geometry = cutTo(recipe_.geometry, *cropDrag_);
    emit changed(); // the box is drawn, and the picture stays as it is
  }
  if (!made) return;
  if (made->areas.size() > recipe_.areas.size()) selected_ = int(made->areas.size()) - 1;
  if (kind.onRelease)
    pending_ = std::move(made);
  else
    changeRecipe(desk_, *made, drag_);
}

void FinishTools::release(QPointF at) {
  if (!dragging_ || !ready()) {
    dragging_ = false;
    return;
  }
  if (tool_ == FinishTool::Corners) {
    dragging_ = false;
    return takeCorner({at.x(), at.y()});
  }
  drag(at);
  dragging_ = false;
  cropDrag_.reset();
  if (const auto pending = std::exchange(pending_, {})) changeRecipe(desk_, *pending, drag_);
  if (!kindOf(tool_).lasts) choose(FinishTool::Light);
}

/// The fourth makes the four a rectangle, in place of any turning before.
void FinishTools::takeCorner(Spot2 at) {
  corners_.push_back(at);
  if (corners_.size() < 4) return emit changed();
  Recipe recipe = desk_.view().recipe;
  const ShapeMap shape = shapeOfFinished(*picture_.state(), recipe);
  std::vector<Spot2> corners;
  for (const Spot2& p : clockwise(corners_)) corners.push_back(shape.toCombined(p));
  Geometry& g = recipe.geometry;
  g.roll = g.pitch = g.yaw = 0;
  g.corners = corners;
  choose(FinishTool::Light);
  if (homography({corners[0], corners[1], corners[2], corners[3]}, {Spot2{0, 0}, {1, 0}, {1, 1}, {0, 1}}))
    changeRecipe(desk_, recipe);
  else
    desk_.notices.tell(
        tr("These four points lie on a line; click the corners of something that is a rectangle in life."));
}

// ---- Places

int FinishTools::selectedArea() const {
  const int count = desk_.hasView() ? int(desk_.view().recipe.areas.size()) : 0;
  return count > 0 ? std::clamp(selected_, 0, count - 1) : -1;
}

void FinishTools::selectArea(int index) {
  selected_ = index;
  emit changed();
}

void FinishTools::keepArea(const QString& name) {
  const int at = selectedArea();
  if (at < 0 || name.trimmed().isEmpty()) return;
  desk_.notices.check(desk_.areas.saveArea(name.trimmed().toStdString(), desk_.view().recipe.areas[std::size_t(at)]));
  emit changed();
}

void FinishTools::layArea(const std::string& id) {
  const Look* kept = desk_.areas.find(id);
  if (!ready() || !kept || kept->recipe.areas.empty()) return;
  Recipe recipe = desk_.view().recipe;
  recipe.areas.push_back(kept->recipe.areas.front());
  selected_ = int(recipe.areas.size()) - 1;
  changeRecipe(desk_, recipe);
}

void FinishTools::addFound(AreaShape shape) {
  if (!ready()) return;
  const ToneAnalysis& analysis = picture_.state()->analysis();
  const bool sky = shape == AreaShape::Sky;
  const Image<float> cells = sky ? skyCells(analysis) : windowCells(analysis);
  if (std::none_of(cells.data(), cells.data() + cells.size(), [](float v) { return v > 0.5f; }))
    return desk_.notices.tell(
        sky ? tr("No sky is found in this picture: paint it with the brush, or lay a ramp over it.")
            : tr("No window is found in this picture: paint it with the brush."));
  Recipe recipe = desk_.view().recipe;
  Area found;
  found.shape = shape;
  found.exposure = kFoundPlace;
  recipe.areas.push_back(found);
  selected_ = int(recipe.areas.size()) - 1;
  changeRecipe(desk_, recipe);
}

void FinishTools::removeArea() {
  const int index = selectedArea();
  if (index < 0) return;
  Recipe recipe = desk_.view().recipe;
  recipe.areas.erase(recipe.areas.begin() + index);
  changeRecipe(desk_, recipe);
}

// ---- Shape

void FinishTools::setPlumb() {
  const ToneAnalysis* analysis = picture_.analysis();
  if (!analysis) return;
  const Verticals found = findVerticals(analysis->logLight, kAssumedFocal);
  if (!found.found())
    return desk_.notices.tell(tr("There are too few plumb edges in this picture to go by; draw one with Draw a line."));
  Recipe recipe = desk_.view().recipe;
  recipe.geometry.roll = std::clamp(recipe.geometry.roll + found.roll, -45.0, 45.0);
  recipe.geometry.pitch = std::clamp(recipe.geometry.pitch + found.pitch, -45.0, 45.0);
  recipe.geometry.strength = 1;
  changeRecipe(desk_, recipe);
}

void FinishTools::findHorizon() {
  const ToneAnalysis* analysis = picture_.analysis();
  if (!analysis) return;
  Recipe recipe = desk_.view().recipe;
  recipe.geometry.roll = std::clamp(recipe.geometry.roll + ml::findHorizon(analysis->logLight), -45.0, 45.0);
  recipe.geometry.strength = 1;
  changeRecipe(desk_, recipe);
}

void FinishTools::setCropRatio(double ratio) {
  cropRatio_ = ratio;
  if (picture_.exists() && ratio > 0) {
    const Image<float>& preview = picture_.combined()->preview;
    Recipe recipe = desk_.view().recipe;
    recipe.geometry = cutToRatio(recipe.geometry, ratio, double(preview.width()) / preview.height());
    changeRecipe(desk_, recipe);
  }
  emit changed();
}

void FinishTools::setCropGuide(CropGuide guide) {
  cropGuide_ = guide;
  emit changed();
}

// ---- Marks

PictureMarks FinishTools::marks() const {
  PictureMarks marks;
  marks.pointer = tool_ == FinishTool::Light ? PictureMarks::Pointer::Lift : PictureMarks::Pointer::Drag;
  marks.dragShape = kindOf(tool_).shape;
  const bool white = page_ == Page::Colour;
  if (const Finding* found = picture_.worstFinding(); found && !white)
    for (const Spot2& p : found->places) marks.rings.emplace_back(p.x, p.y);
  if (const WhiteTrim* trim = picture_.whiteTrim(); trim && white)
    for (const Spot2& p : trim->places) marks.rings.emplace_back(p.x, p.y);
  markCrop(marks);
  if (page_ == Page::Places && tool_ != FinishTool::Brush) markArea(marks);
  return marks;
}

void FinishTools::markArea(PictureMarks& marks) const {
  const int index = selectedArea();
  if (index < 0 || !picture_.state()) return;
  const Recipe& recipe = desk_.view().recipe;
  const Area& area = recipe.areas[std::size_t(index)];
  const Image<float>& preview = picture_.combined()->preview;
  const ShapeMap shape = shapeOfFinished(*picture_.state(), recipe);
  const auto at = [&](double x, double y) {
    const Spot2 p = shape.toFinished({x, y});
    return QPointF(p.x, p.y);
  };
  constexpr int kCorners = 48;
  QPainterPath path;
  if (area.shape == AreaShape::Oval) {
    const double aspect = double(preview.width()) / preview.height(), turn = area.angle * std::numbers::pi / 180;
    for (int i = 0; i <= kCorners; ++i) {
      const double t = i * 2 * std::numbers::pi / kCorners, u = area.b.x * std::cos(t),
                   v = area.b.y / aspect * std::sin(t);
      const QPointF p = at(area.a.x + u * std::cos(turn) - v * std::sin(turn),
                           area.a.y + (u * std::sin(turn) + v * std::cos(turn)) * aspect);
      i == 0 ? path.moveTo(p) : path.lineTo(p);
    }
  } else if (area.shape == AreaShape::Ramp) {
    path.moveTo(at(area.a.x, area.a.y));
    path.lineTo(at(area.b.x, area.b.y));
  }
  if (!path.isEmpty()) marks.outlines.push_back(path);
}

/// Lines inside the part that is kept, or would be; corners clicked so far.
void FinishTools::markCrop(PictureMarks& marks) const {
  const CropBox box = cropDrag_.value_or(CropBox{});
  const auto at = [&](Spot2 p) { return QPointF(box.x0 + p.x * (box.x1 - box.x0), box.y0 + p.y * (box.y1 - box.y0)); };
  if (cropDrag_) marks.kept = QRectF(at({0, 0}), at({1, 1}));
  if (page_ == Page::Shape || cropDrag_)
    for (const GuideLine& line : guideLines(cropGuide_)) {
      marks.guides.moveTo(at(line.from));
      marks.guides.lineTo(at(line.to));
    }
  QPainterPath corners;
  for (const Spot2& p : corners_) {
    marks.rings.emplace_back(p.x, p.y);
    corners.elementCount() == 0 ? corners.moveTo(p.x, p.y) : corners.lineTo(p.x, p.y);
  }
  if (corners.elementCount() > 1) marks.outlines.push_back(corners);
}

} // namespace ml
