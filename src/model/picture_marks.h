// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/scene_reading.h"
#include "model/moved_places.h"
#include "session/job.h"

#include <QImage>
#include <QPainterPath>
#include <QPointF>
#include <QRectF>
#include <QSize>
#include <QString>
#include <optional>
#include <vector>

namespace ml {

/// What a station draws over the picture, places in 0..1 of it, and what the hand does there.
struct PictureMarks {
  enum class Pointer {
    Look,  ///< Moves the picture at 100 %.
    Spot,  ///< A click reads a spot.
    Place, ///< A click chooses a place.
    Brush, ///< A stroke of `brush` radius.
    Lift,  ///< A drag up and down.
    Drag,  ///< Any drag, drawn as `dragShape`.
  };
  enum class DragShape { None, Line, Oval };
  Pointer pointer = Pointer::Look;
  DragShape dragShape = DragShape::None;
  double brush = 0; ///< Share of the width.

  std::vector<SpotReading> readings;
  std::optional<ProposedZones> proposals;
  std::vector<MovedPlace> places; ///< What comes from one frame.
  QRectF moved;                   ///< A place to look at; empty: none.
  QString movedWhat;
  std::vector<QPainterPath> outlines;
  std::vector<QPointF> rings;
  std::vector<QString> ringNames; ///< Beside them; fewer: the others have none.
  QRectF kept;                    ///< What a cut under way would keep; empty: none is under way.
  QPainterPath guides;            ///< Thin lines to compose by.

  QSize fullSize;       ///< Pixels of the picture at 100 %; empty: those on screen are all.
  QImage beside;        ///< Another version of it; null: none.
  bool divider = false; ///< Behind a divider, not side by side.
  QString besideName;
  QString caption; ///< What the picture itself is, when it is not what the station shows; empty: that.
};

} // namespace ml
