// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/desk.h"
#include "model/finish_state.h"

#include <QImage>
#include <QObject>
#include <QRectF>
#include <QSize>
#include <QTimer>

namespace ml {

/// The combined picture of the view in hand under its recipe: drawn anew whenever either changes, judged when the hand
/// rests.
class FinishedPicture : public QObject {
  Q_OBJECT

public:
  explicit FinishedPicture(Desk& desk);

  /// What opening the view found; null: nothing is combined.
  void opened(std::shared_ptr<const CombinedPicture> picture);
  void draw();
  /// A part of the picture (0..1) at full size; answered by detailDrawn.
  void showDetail(const QRectF& part);
  /// One exposure instead of the finish, while held.
  void hold(bool before);
  [[nodiscard]] bool holds() const { return held_; }

  [[nodiscard]] bool exists() const { return picture_ != nullptr; }
  [[nodiscard]] std::shared_ptr<const CombinedPicture> combined() const { return picture_; }
  /// Null until it was drawn.
  [[nodiscard]] std::shared_ptr<FinishState> state() const { return state_; }
  /// Of its finished shape, or as combined as long as that is not drawn. Null: nothing is combined.
  [[nodiscard]] const ToneAnalysis* analysis() const {
    return state_ ? &state_->analysis() : picture_ ? &picture_->analysis : nullptr;
  }
  /// Reading of a surface of value 1.
  [[nodiscard]] double ev100OfUnit() const { return picture_ ? picture_->facts.ev100OfUnit : 0; }
  [[nodiscard]] const QImage& image() const { return held_ ? before_ : image_; }
  /// What a single frame would give.
  [[nodiscard]] const QImage& before() const { return before_; }
  /// Tones of the finished picture, as the Ladder draws them.
  [[nodiscard]] const std::vector<float>& paper() const { return paper_; }
  [[nodiscard]] const FinishReport& report() const { return report_; }
  /// Null until it was judged.
  [[nodiscard]] const Judgement* judgement() const { return judgement_ ? &*judgement_ : nullptr; }
  /// What is too much by the largest factor; null: nothing.
  [[nodiscard]] const Finding* worstFinding() const { return judgement_ ? judgement_->worst() : nullptr; }
  /// White paint found in the picture; null: none, or not looked for yet.
  [[nodiscard]] const WhiteTrim* whiteTrim() const { return white_ ? &*white_ : nullptr; }
  /// Pixels at full size; empty: nothing is combined.
  [[nodiscard]] QSize fullSize() const;
  /// The frame whose metadata name the lens; may be empty.
  [[nodiscard]] std::filesystem::path lensFrame() const;
  /// A judgement is to come.
  [[nodiscard]] bool waiting() const { return rest_.isActive(); }

signals:
  void drawn();
  void judged();
  void detailDrawn(const QImage& part, const QRectF& place);

private:
  struct FullSize {
    std::mutex use;
    std::optional<OpenRadiance> combined; ///< Opened when first asked for.
    Image<float> prepared;                ///< Likewise, and only where a recipe asks for it.
    Recipe preparedBy;
  };
  void combinedAnew();
  void judge();
  std::function<void()> detail(const std::shared_ptr<FullSize>& full, const std::shared_ptr<FinishState>& state,
                               const Recipe& recipe, const std::filesystem::path& file, const QRectF& part,
                               const Progress& progress);

  Desk& desk_;
  std::shared_ptr<const CombinedPicture> picture_;
  std::shared_ptr<FinishState> state_;
  std::shared_ptr<FullSize> full_;
  QImage image_, before_;
  bool held_ = false;
  FinishReport report_;
  std::vector<float> paper_;
  std::optional<Judgement> judgement_;
  std::optional<WhiteTrim> white_;
  QTimer rest_; ///< The hand rests when it runs out.
};

/// A change of the finish of the view in hand. One drag is one step of undo.
void changeRecipe(Desk& desk, const Recipe& recipe, int drag = 0);
/// These views take the finish of `from`, but keep their own white point, shape and placement; what is not combined
/// takes none. One step of undo, which leaves alone what was changed since.
void layFinish(Desk& desk, const std::string& from, const std::vector<std::string>& views);

} // namespace ml
