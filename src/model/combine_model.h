// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/combining.h"
#include "model/finished_picture.h"
#include "model/station_model.h"

namespace ml {

/// Combine: frames to one picture, with what the hand chooses: how, which frames, and from which frame each place
/// comes.
class CombineModel : public StationModel {
  Q_OBJECT

public:
  CombineModel(Desk& desk, FinishedPicture& finished);

  [[nodiscard]] QString id() const override { return stations::kCombine; }
  [[nodiscard]] QString name() const override { return tr("Combine"); }
  [[nodiscard]] StationState state() const override { return stationStates(desk_.view()).combine; }
  [[nodiscard]] QString verdict() const override;
  [[nodiscard]] QStringList reasons() const override;
  [[nodiscard]] QImage picture() const override;
  [[nodiscard]] PictureMarks marks() const override;
  void addTo(LadderContent& content) const override;
  [[nodiscard]] Next next() const override;
  void enter() override;
  void doNext() override;
  void showDetail(const QRectF& part) override;
  void click(QPointF at) override;
  void stroke(const QPolygonF& stroke) override { paint(stroke, brushRadius_, paintFrom_); }

  void combine(const CombineOptions& options);
  /// Joined positions are laid on the picture otherwise: a drag turns and tilts the whole.
  void join(const Joining& joining);
  /// The picture is one of joined positions, and may be dragged level.
  [[nodiscard]] bool canBeLevelled() const;
  /// Positions that are joined, in the order of the report.
  struct Joined {
    std::string set; ///< Its name.
    QString words;
  };
  [[nodiscard]] std::vector<Joined> joinedPositions() const;
  /// What angles and drags turn: a position alone, by its set's name; empty: the whole.
  [[nodiscard]] std::string turning() const;
  void setTurning(const std::string& set);
  /// How that was turned by hand.
  [[nodiscard]] Angles turned() const;
  void turn(const Angles& angles);
  void dragBegins(QPointF at) override;
  void drag(QPointF at) override;
  void dragEnds(QPointF at) override;
  /// What the picture was combined with, or would be by default.
  [[nodiscard]] CombineOptions options() const { return desk_.hasView() ? optionsOf(desk_.view()) : CombineOptions{}; }
  /// While frames are combined: `picture` is a first look at a fraction of their size.
  [[nodiscard]] bool showsFirstLook() const { return !firstLook_.isNull(); }
  /// What the window shows when no first look is there.
  [[nodiscard]] std::vector<MovedPlace> movedPlaces() const;
  /// The place at (x, y) of the picture, 0..1, comes from the next frame that records it. False: there is none.
  bool cyclePlace(double x, double y);
  /// It comes from this frame, darkest first.
  void takePlace(QPointF at, int frame);
  [[nodiscard]] std::vector<Choice> choicesAt(QPointF at) override;
  /// What lies under the stroke comes from `frame` (darkest first); radius in shares of the width.
  void paint(const QPolygonF& stroke, double radius, int frame);
  /// By how the frames were combined, and whether they still are those.
  [[nodiscard]] bool canPaint() const;
  /// While painting, strokes on the picture come from this frame; -1: not painting.
  [[nodiscard]] int paintFrom() const { return canPaint() ? paintFrom_ : -1; }
  void setPaintFrom(int frame);
  [[nodiscard]] double brushRadius() const { return brushRadius_; }
  void setBrushRadius(double radius);

  /// One entry for each frame of the view, as they arrived: how it lay and whether it is used.
  struct FramePlace {
    QString file, line, details, note; ///< `note`: why leaving it out is proposed, or what is odd about it.
    QString of;                        ///< The set that a lent frame is of.
    bool used = true, lent = false;    ///< `lent`: of another set; `file` is then "set/file".
    int merged = -1;                   ///< Index among the merged frames.
    int number = 0;                    ///< As it arrived.
  };
  [[nodiscard]] std::vector<FramePlace> framePlaces() const;

  /// A frame of another set of the view, which places can be taken from once it is lent.
  struct Lendable {
    QString name, words; ///< As CombineOptions::lent has it; for the eye.
    bool lent = false;
  };
  [[nodiscard]] std::vector<Lendable> lendable() const;
  /// Lends it, or takes it back with all that was taken from it.
  void lend(const QString& name, bool lent);

private:
  void takeFirstLook(const View& view, const CombineOptions& options, const Progress& progress);

  QImage firstLook_; ///< While frames are combined: the same, small and soon there.
  FinishedPicture& finished_;
  int paintFrom_ = -1;
  double brushRadius_ = 0.03;
  std::optional<QPointF> dragFrom_; ///< While the picture is dragged.
  QPointF dragged_;                 ///< By how much, in shares of it.
  std::string turning_;             ///< As chosen; another view may have no such position.
};

} // namespace ml
