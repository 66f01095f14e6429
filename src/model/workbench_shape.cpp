#include "finish/lines.h"
#include "model/workbench.h"

#include <algorithm>

namespace ml {

// ---- Turning

void Workbench::setPlumb() {
  const ToneAnalysis* analysis = finishAnalysis();
  if (!analysis) return;
  const Verticals found = findVerticals(analysis->logLight, kAssumedFocal);
  if (!found.found()) {
    emit told(tr("There are too few plumb edges in this picture to go by; draw one with Draw a line."));
    return;
  }
  Recipe recipe = view().recipe;
  recipe.geometry.roll = std::clamp(recipe.geometry.roll + found.roll, -45.0, 45.0);
  recipe.geometry.pitch = std::clamp(recipe.geometry.pitch + found.pitch, -45.0, 45.0);
  recipe.geometry.strength = 1;
  setRecipe(recipe);
}

void Workbench::findHorizon() {
  const ToneAnalysis* analysis = finishAnalysis();
  if (!analysis) return;
  Recipe recipe = view().recipe;
  recipe.geometry.roll = std::clamp(recipe.geometry.roll + ml::findHorizon(analysis->logLight), -45.0, 45.0);
  recipe.geometry.strength = 1;
  setRecipe(recipe);
}

// ---- Corners and cuts

/// The fourth makes the four a rectangle, in place of any turning before.
void Workbench::takeCorner(Spot2 at) {
  cornerPoints_.push_back(at);
  if (cornerPoints_.size() < 4) {
    emit changed();
    return;
  }
  Recipe recipe = view().recipe;
  const ShapeMap shape(recipe.geometry, radiance_->preview.width(), radiance_->preview.height(), radiance_->state->lens() ? &radiance_->state->lens()->map : nullptr);
  std::vector<Spot2> corners;
  for (const Spot2& p : clockwise(cornerPoints_)) corners.push_back(shape.toCombined(p));
  Geometry& g = recipe.geometry;
  g.roll = g.pitch = g.yaw = 0;
  g.corners = corners;
  setFinishTool(FinishTool::Light);
  if (homography({corners[0], corners[1], corners[2], corners[3]}, {Spot2{0, 0}, {1, 0}, {1, 1}, {0, 1}})) setRecipe(recipe);
  else emit told(tr("These four points lie on a line; click the corners of something that is a rectangle in life."));
}

void Workbench::setCropRatio(double ratio) {
  cropRatio_ = ratio;
  if (radiance_ && hasView() && ratio > 0) {
    Recipe recipe = view().recipe;
    recipe.geometry = cutToRatio(recipe.geometry, ratio, double(radiance_->preview.width()) / radiance_->preview.height());
    setRecipe(recipe);
  }
  emit changed();
}

void Workbench::setCropGuide(CropGuide guide) {
  cropGuide_ = guide;
  emit changed();
}

void Workbench::showGuides(bool shown) {
  guidesShown_ = shown;
  emit changed();
}

/// Lines inside the part that is kept, or would be.
void Workbench::markCrop(PictureMarks& marks) const {
  const CropBox box = cropDrag_.value_or(CropBox{});
  const auto at = [&](Spot2 p) { return QPointF(box.x0 + p.x * (box.x1 - box.x0), box.y0 + p.y * (box.y1 - box.y0)); };
  if (cropDrag_) marks.kept = QRectF(at({0, 0}), at({1, 1}));
  if (guidesShown_ || cropDrag_)
    for (const GuideLine& line : guideLines(cropGuide_)) {
      marks.guides.moveTo(at(line.from));
      marks.guides.lineTo(at(line.to));
    }
  QPainterPath corners;
  for (const Spot2& p : cornerPoints_) {
    marks.rings.emplace_back(p.x, p.y);
    corners.elementCount() == 0 ? corners.moveTo(p.x, p.y) : corners.lineTo(p.x, p.y);
  }
  if (corners.elementCount() > 1) marks.outlines.push_back(corners);
}

} // namespace ml
