#pragma once
#include <QPainterPath>
#include <QPointF>
#include <QRectF>
#include <vector>

namespace ml {

/// Outlines of places and small rings on a picture, 0..1.
struct PictureMarks {
  std::vector<QPainterPath> outlines;
  std::vector<QPointF> rings;
  QRectF kept;          ///< What a cut under way would keep; empty: none is under way.
  QPainterPath guides;  ///< Thin lines to compose by.
};

} // namespace ml
