// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "visit/plan_visit.h"

#include <QWidget>
#include <memory>

class QPainter;

namespace ml {

/// What is drawn of a visit.
struct DayPicture {
  const Visit* visit = nullptr;
  const VisitPlan* plan = nullptr;
  const SunTrack* track = nullptr;
  std::optional<Moment> now;
  int chosen = -1; ///< View that stands out.
};

/// The sun's height over the hours of the visit, the twilights, and the views at the times that were found. On any
/// painter: screen, paper, phone.
void paintDay(QPainter& p, const QRectF& box, const DayPicture& day, const Theme& theme);
/// Where the sun stands through the visit, seen from above, and where each view looks.
void paintCompass(QPainter& p, const QRectF& box, const DayPicture& day, const Theme& theme);

/// Both, beside each other or one above the other.
class DayChart : public QWidget {
  Q_OBJECT

public:
  explicit DayChart(QWidget* parent = nullptr);
  void show(const DayPicture& day);
  void setTheme(const Theme& theme);

protected:
  void paintEvent(QPaintEvent*) override;

private:
  DayPicture day_;
  const Theme* theme_ = &Theme::dusk();
};

} // namespace ml
