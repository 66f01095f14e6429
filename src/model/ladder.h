#pragma once
#include "session/job.h"
#include "tone/natural.h"

#include <QString>
#include <vector>

namespace ml {

/// All that the Light Ladder draws: one scene on one scale of EV100. Made from a view; drawn by a widget that adds nothing.
struct LadderData {
  struct Pin {
    QString label;
    double ev = 0;
    bool keepTexture = true;
  };
  struct Column {
    int number = 1;
    QString time, offset;
    double floor = 0, clip = 0;   ///< Darkest EV100 at the SNR target, brightest below clipping.
    double quiet = 0;             ///< EV100 from which SNR 40 is reached: solid from here up.
    bool shot = false;
  };
  struct Stretch {
    double from = 0, to = 0;
  };
  double top = 16, bottom = 0;    ///< Drawn range, EV100.
  std::vector<Pin> pins;
  std::vector<Column> columns;
  std::optional<Stretch> together; ///< What the merged bracket records; a little more than its columns.
  std::vector<Stretch> uncovered; ///< Parts of the must-keep range that no frame records.
  std::vector<float> glow;        ///< Share of the scene per glowStep stops from glowStart up; empty: not known yet.
  double glowStart = 0, glowStep = 0.25;
  std::vector<Tie> ties;          ///< Scene EV100 to paper stops; empty before Finish.
};

/// `analysis` and `ev100OfUnit` describe the combined radiance when there is one; `settings` the recipe's light.
[[nodiscard]] LadderData ladderOf(const View& view, const std::vector<ExposureSettings>& shot, const ToneAnalysis* analysis,
                                  double ev100OfUnit, const ToneSettings& settings, bool finishing);

} // namespace ml
