// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/scene_reading.h"
#include "judge/set_judge.h"
#include "session/job.h"
#include "tone/natural.h"

#include <QString>
#include <vector>

namespace ml {

/// Stops of paper that are drawn below its white.
inline constexpr double kPaperStops = 8;

/// All that the Light Ladder draws: one scene on one scale of EV100. Made from a view; drawn by a widget that adds
/// nothing.
struct LadderData {
  struct Pin {
    QString label;
    double ev = 0;
    bool keepTexture = true;
    bool atLeast = false;
    double uncertainty = 0;
  };
  struct Column {
    int number = 1;
    QString time, offset;
    double seconds = 0;
    double floor = 0, clip = 0; ///< Darkest EV100 at the SNR target, brightest below clipping.
    double quiet = 0;           ///< EV100 from which SNR 40 is reached: solid from here up.
    bool shot = false;
    bool flawed = false; ///< The judgement found something.
    bool aside = false;  ///< Gave way or left out.
    int frame = -1;      ///< As it arrived, from 0; -1: only planned.
    std::string file;    ///< Its name.
  };
  struct Stretch {
    double from = 0, to = 0;
  };
  double top = 17, bottom = -1; ///< Drawn range, EV100.
  std::vector<Pin> pins;
  std::vector<Pin> legend; ///< Everyday light levels.
  std::vector<Column> columns;
  std::optional<Stretch> together; ///< What the merged bracket records; a little more than its columns.
  std::optional<Stretch> wanted;   ///< From the darkest to the brightest reading that must keep texture.
  std::vector<Stretch> uncovered;  ///< Parts of the must-keep range that no frame records.
  /// What each half stop of the combined picture is made of: which frame says most, and its signal to noise ratio.
  struct Given {
    double ev = 0, snr = 0;
    int column = -1;
    double share = 0; ///< Of the pixels at this stop, those for which that column says most.
  };
  std::vector<Given> given; ///< Empty before Combine.
  std::vector<float> glow;  ///< Share of the scene per glowStep stops from glowStart up; empty: not known yet.
  double glowStart = 0, glowStep = 0.25;
  std::vector<Tie> ties;      ///< Scene EV100 to paper stops; empty before Finish.
  std::vector<double> pulled; ///< EV100 of those that the user dragged.
  /// Share of the finished picture at each tone of paper, from white down in equal steps to kPaperStops below; empty:
  /// not known.
  std::vector<float> paper;
};

/// What the station shown wants of it, and what is known.
struct LadderContent {
  enum class Columns { None, Planned, Shot }; ///< Shot: what is there, and what was planned and is not.
  Columns columns = Columns::Shot;
  bool legend = false;    ///< Everyday light beside the scale.
  bool given = false;     ///< What each stop of the combined picture is made of.
  bool ties = false;      ///< Where light is placed on paper.
  bool sceneFirst = true; ///< The glow is what the frames show, not what they were combined to.
  static constexpr double kUsualBottom = -1, kUsualTop = 17; ///< EV100: from a room at night to a sunlit cloud.
  LadderData::Stretch* scale = nullptr; ///< What this view was drawn on until now; is widened where light lies beyond.
  std::vector<ExposureSettings> fired;  ///< What is planned, in the order it is fired; empty: darkest first.
  std::vector<ExposureSettings> shot;   ///< As they arrived.
  std::vector<FrameJudgement> judged;   ///< The same frames; empty: not judged.
  const SceneDistribution* scene = nullptr;
  const ToneAnalysis* analysis = nullptr; ///< Of the combined radiance.
  double ev100OfUnit = 0;
  const CombineReport* combined = nullptr;
  std::vector<float> paper; ///< As LadderData has it.
};

/// Parts of the wanted light that these frames together record with less than the SNR target, or not at all.
[[nodiscard]] std::vector<LadderData::Stretch> uncoveredBy(const SensorModel& sensor, const MustKeep& wanted,
                                                           const std::vector<ExposureSettings>& frames);

/// What the Ladder shows, as lines of text.
[[nodiscard]] QString listOf(const LadderData& data);

[[nodiscard]] LadderData ladderOf(const View& view, const LadderContent& content);

} // namespace ml
