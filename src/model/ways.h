// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/ladder.h"
#include "plan/comparison.h"

#include <QStringList>

namespace ml {

/// One way to bracket the scene, beside the others.
struct Way {
  std::string id; ///< Of its school; "own": the user's own bracket.
  QString name;   ///< Ways that fire the same frames are one; the others are named in `also`.
  QStringList also;
  QString frames;  ///< "3 frames".
  QString times;   ///< "1/160 to 0.4 s".
  QString missing; ///< "clips 0.7 stop"; empty: all is covered.
  QString cost;    ///< "2.9 s, 84 MB".
  QString why;     ///< A sentence.
  bool recommended = false, chosen = false;
  const Alternative* figures = nullptr; ///< Lives as long as the comparison.
  struct Bar {
    double floor = 0, clip = 0; ///< EV100.
    QString time;
  };
  std::vector<Bar> bars;                      ///< Shortest first.
  std::vector<LadderData::Stretch> uncovered; ///< Of the light that must be kept.
};

/// The comparison as ways, the recommended first; those that fire the same frames are one row.
[[nodiscard]] std::vector<Way> waysOf(const Comparison& comparison, const std::string& chosen);
/// A plan of the user's own, as a way.
[[nodiscard]] Way ownWay(const Alternative& own);
/// Those that most people weigh: the smallest, one raw, three, five and, where there is one, their own.
[[nodiscard]] std::vector<Way> mostWeighed(const std::vector<Way>& all);
/// EV100 from the darkest floor to the brightest clip, gaps included; whole stops.
[[nodiscard]] LadderData::Stretch scaleOf(const std::vector<Way>& ways);

} // namespace ml
