// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/bench.h"
#include "app/theme.h"

#include <vector>

namespace ml {

/// What a station shows in place of the picture.
class StationSheet : public QFrame {
  Q_OBJECT

public:
  /// Whether it stands there now.
  [[nodiscard]] virtual bool wanted() const = 0;
  virtual void refresh() = 0;
  virtual void setTheme(const Theme& theme) = 0;
};

/// What a station looks like.
struct StationFace {
  Bench* bench;
  StationSheet* sheet = nullptr; ///< Null: the picture.
};

/// The one list of stations, in the order of the workbench's path. A further one is one model, one bench and one line
/// in here.
[[nodiscard]] std::vector<StationFace> makeStations(Workbench& workbench);

} // namespace ml
