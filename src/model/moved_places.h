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
  std::vector<int> recording;
  bool painted = false;
};

/// From a combine report; small places are left out of what is drawn, all of them can be clicked.
[[nodiscard]] std::vector<MovedPlace> movedPlaces(const CombineReport& report);

/// A point of the picture shown in shares of the whole reference frame, as SourceChoice wants it.
[[nodiscard]] SourceChoice::Point toReference(const CombineReport& report, double x, double y);

/// The choices after a click at (x, y) of the picture shown: the place there comes from the next frame that records it.
/// Empty: there is no place.
[[nodiscard]] std::optional<std::vector<SourceChoice>>
nextSource(const CombineReport& report, const std::vector<SourceChoice>& choices, double x, double y);

} // namespace ml
