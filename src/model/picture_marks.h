#pragma once
#include <QPainterPath>
#include <QPointF>
#include <vector>

namespace ml {

/// Outlines of places and small rings on a picture, 0..1.
struct PictureMarks {
  std::vector<QPainterPath> outlines;
  std::vector<QPointF> rings;
};

} // namespace ml
