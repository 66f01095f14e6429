// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/judgement.h"
#include "finish/white.h"
#include "ingest/lens_facts.h"
#include "model/combined_picture.h"

#include <QImage>
#include <mutex>

namespace ml {

/// A combined picture in its finished shape, ready to be finished again and again. Made on one thread, used on others;
/// drawing and judging have each their own finisher and lock, so that a judgement never holds up a drag.
class FinishState {
public:
  /// `frame`: that knows the lens; may be empty. Null when stopped.
  static std::shared_ptr<FinishState> make(std::shared_ptr<const CombinedPicture> combined, const Recipe& recipe,
                                           const std::filesystem::path& frame, const Progress& progress);

  [[nodiscard]] bool fits(const Recipe& recipe) const { return samePreparation(recipe, by_); }
  [[nodiscard]] const CombinedPicture& combined() const { return *combined_; }
  /// Null: no profile is used, or none is known.
  [[nodiscard]] const LensFacts* lens() const { return lens_ ? &*lens_ : nullptr; }
  [[nodiscard]] const ToneAnalysis& analysis() const { return prepared_.empty() ? combined_->analysis : analysis_; }
  [[nodiscard]] int width() const { return picture().width; }
  [[nodiscard]] int height() const { return picture().height; }
  [[nodiscard]] ImageView<const float> picture() const {
    return prepared_.empty() ? combined_->preview.view() : prepared_.view();
  }

  /// White paint found in the picture, against the settings in force.
  [[nodiscard]] std::optional<WhiteTrim> whiteTrim(const Recipe& recipe) const {
    return findWhiteTrim(analysis(), recipe.tone);
  }
  /// Display-linear; empty when stopped.
  [[nodiscard]] Image<float> light(const Recipe& recipe, const Progress& progress);

  struct Drawn {
    QImage image;
    FinishReport report;
  };
  /// Null image when stopped.
  [[nodiscard]] Drawn draw(const Recipe& recipe, const Progress& progress);
  /// Empty when stopped.
  [[nodiscard]] std::optional<Judgement> judge(const Recipe& recipe, const std::optional<GhostsLeft>& ghosts,
                                               const Progress& progress);

private:
  std::shared_ptr<const CombinedPicture> combined_;
  Image<float> prepared_;
  ToneAnalysis analysis_; ///< Of what was prepared; unused without.
  Recipe by_;
  std::optional<LensFacts> lens_;
  struct Hand {
    std::mutex use;
    std::unique_ptr<Finisher> finisher;
  };
  Hand drawing_, judging_;
};

/// The recipe's shape and nothing else: the view as one exposure for everything would show it.
[[nodiscard]] Recipe asOneExposure(const Recipe& recipe);

} // namespace ml
