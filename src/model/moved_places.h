// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine_report.h"

#include <QPainterPath>
#include <QString>
#include <optional>
#include <vector>

namespace ml {

/// A place that is taken from one frame, as it lies on the combined picture.
struct MovedPlace {
  QPainterPath outline; ///< 0..1 of the picture shown.
  QPointF label;        ///< Inside the outline.
  int source = 0;       ///< Frame, darkest first.
  int number = 1;       ///< Its number, as it arrived.
  std::vector<int> recording;
  bool painted = false;
};

/// From a combine report, all of its places; `numbers` of the merged frames, darkest first.
[[nodiscard]] std::vector<MovedPlace> movedPlaces(const CombineReport& report, const std::vector<int>& numbers);

/// A point of the picture shown in shares of the whole reference frame, as SourceChoice wants it.
[[nodiscard]] SourceChoice::Point toReference(const CombineReport& report, double x, double y);

/// The place at (x, y) of the picture shown, the topmost; null: there is none that more than one frame records.
[[nodiscard]] const CombineReport::Place* placeAt(const CombineReport& report, double x, double y);
/// The frame that records a place and comes after the one it is taken from.
[[nodiscard]] int nextFrame(const CombineReport::Place& place);
/// The choices with the place there taken from that frame.
[[nodiscard]] std::vector<SourceChoice> withSource(const CombineReport& report, std::vector<SourceChoice> choices,
                                                   double x, double y, int frame);

} // namespace ml
