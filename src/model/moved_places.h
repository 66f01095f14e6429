#pragma once
#include "finish/judgement.h"
#include "pipeline/combine.h"

#include <QPainterPath>
#include <QString>
#include <nlohmann/json.hpp>
#include <optional>
#include <vector>

namespace ml {

/// A place that is taken from one frame, as it lies on the combined picture.
struct MovedPlace {
  QPainterPath outline;    ///< 0..1 of the picture shown.
  QPointF label;           ///< Inside the outline.
  int source = 0;          ///< Frame, darkest first.
  std::vector<int> recording;
  bool painted = false;
};

/// From a combine report; small places are left out of what is drawn, all of them can be clicked.
[[nodiscard]] std::vector<MovedPlace> movedPlaces(const nlohmann::json& report);

/// What a combine report says of places where frames that differ are still mixed. Empty: movement was not looked for.
[[nodiscard]] std::optional<GhostsLeft> ghostsLeft(const nlohmann::json& report);

/// A point of the picture shown in shares of the whole reference frame, as SourceChoice wants it.
[[nodiscard]] SourceChoice::Point toReference(const nlohmann::json& report, double x, double y);

/// The choices after a click at (x, y) of the picture shown: the place there comes from the next frame that records it. Empty: there is no place.
[[nodiscard]] std::optional<std::vector<SourceChoice>> nextSource(const nlohmann::json& report, const std::vector<SourceChoice>& choices, double x, double y);

} // namespace ml
