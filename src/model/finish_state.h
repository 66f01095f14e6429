#pragma once
#include "finish/judgement.h"
#include "finish/white.h"
#include "ingest/lens_facts.h"

#include <QImage>
#include <memory>
#include <mutex>

namespace ml {

/// A combined picture in its finished shape, ready to be finished again and again. Made on one thread, used on others under its own lock.
class FinishState {
public:
  /// `preview`: as combined, reduced. `whole`: analysis of the full picture, whose noise and, where nothing is prepared, everything is taken.
  /// `frame`: that knows the lens; may be empty. `noisier`: places of the combined picture, as noisierPlaces; may be empty. Null when stopped.
  static std::shared_ptr<FinishState> make(const Image<float>& preview, const Recipe& recipe, const ToneAnalysis& whole, const SceneFacts& facts,
                                           const std::filesystem::path& frame, const Image<float>& noisier, const Progress& progress);

  [[nodiscard]] bool fits(const Recipe& recipe) const { return samePreparation(recipe, by_); }
  /// Null: no profile is used, or none is known.
  [[nodiscard]] const LensFacts* lens() const { return lens_ ? &*lens_ : nullptr; }
  [[nodiscard]] const ToneAnalysis& analysis() const { return analysis_; }
  [[nodiscard]] int width() const { return picture().width; }
  [[nodiscard]] int height() const { return picture().height; }
  [[nodiscard]] ImageView<const float> picture() const { return prepared_.empty() ? combined_->view() : prepared_.view(); }

  /// White paint found in the picture, against the settings in force.
  [[nodiscard]] std::optional<WhiteTrim> whiteTrim(const Recipe& recipe) const { return findWhiteTrim(analysis_, recipe.tone); }
  /// Display-linear; empty when stopped.
  [[nodiscard]] Image<float> light(const Recipe& recipe, const Progress& progress);

  struct Drawn {
    QImage image;
    FinishReport report;
  };
  /// Null image when stopped.
  [[nodiscard]] Drawn draw(const Recipe& recipe, const Progress& progress);
  [[nodiscard]] std::optional<Judgement> judge(const Recipe& recipe, const std::optional<GhostsLeft>& ghosts, const Progress& progress);

private:
  const Image<float>* combined_ = nullptr; ///< Outlives this.
  Image<float> prepared_;
  ToneAnalysis analysis_;
  Recipe by_;
  std::optional<LensFacts> lens_;
  std::mutex use_;
  std::unique_ptr<Finisher> finisher_;
};

} // namespace ml
