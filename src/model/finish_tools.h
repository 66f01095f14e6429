// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/crop.h"
#include "model/finished_picture.h"
#include "model/picture_marks.h"

#include <QObject>

namespace ml {

/// What a drag on the picture does at Finish.
enum class FinishTool { Light, White, PlaceWhite, Colour, Oval, Ramp, Brush, Heal, Crop, Level, Corners };

/// The tool in hand and the drag under way: from press to release one step of undo. What a drag makes of a recipe
/// stands in finish_drags.h, one function a tool.
class FinishTools : public QObject {
  Q_OBJECT

public:
  FinishTools(Desk& desk, FinishedPicture& picture) : desk_(desk), picture_(picture) {}

  [[nodiscard]] FinishTool tool() const { return tool_; }
  void choose(FinishTool tool);
  /// Places of the finished picture, 0..1.
  void press(QPointF at);
  void drag(QPointF at);
  void release(QPointF at);

  [[nodiscard]] int selectedArea() const; ///< -1: there is none.
  void selectArea(int index);
  /// All windows, or the sky: found anew from the light of each picture.
  void addFound(AreaShape shape);
  void removeArea();
  /// The chosen area, with its settings, for other pictures.
  void keepArea(const QString& name);
  /// One that was kept is laid over this picture.
  void layArea(const std::string& id);

  void setPlumb();
  void findHorizon();
  /// Longer to shorter side; 0: free. What is kept is cut to it at once, and by every drag of the crop tool.
  void setCropRatio(double ratio);
  [[nodiscard]] double cropRatio() const { return cropRatio_; }
  void setCropGuide(CropGuide guide);
  [[nodiscard]] CropGuide cropGuide() const { return cropGuide_; }

  /// What is worked on, and so marked.
  enum class Page { Other, Colour, Shape, Places };
  void setPage(Page page);
  [[nodiscard]] PictureMarks marks() const;

signals:
  void changed();

private:
  void to(QPointF at);
  void takeCorner(Spot2 at);
  void markArea(PictureMarks& marks) const;
  void markCrop(PictureMarks& marks) const;
  [[nodiscard]] bool ready() const { return desk_.hasView() && picture_.state(); }

  Desk& desk_;
  FinishedPicture& picture_;
  FinishTool tool_ = FinishTool::Light;
  Page page_ = Page::Other;
  int selected_ = 0, drag_ = 0;
  QPointF from_;
  bool dragging_ = false, moved_ = false;
  Recipe recipe_;                 ///< When the drag began; a brush paints into it.
  std::optional<Recipe> pending_; ///< Comes when the hand lets go: the ground must not move under it.
  double cropRatio_ = 0;
  CropGuide cropGuide_ = CropGuide::None;
  std::optional<CropBox> cropDrag_;
  std::vector<Spot2> corners_;
};

} // namespace ml
