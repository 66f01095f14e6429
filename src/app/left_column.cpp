// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/left_column.h"

#include <QHBoxLayout>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {

LeftColumn::LeftColumn(Workbench& workbench, QWidget* parent)
    : QFrame(parent), workbench_(workbench), path_(new StationPath), views_(new ViewList(workbench)) {
  setObjectName("leftColumn");
  setFixedWidth(grown(164, 0.4));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 4, 0, 4);
  column->setSpacing(4);
  column->addWidget(path_);
  auto* row = new QHBoxLayout;
  row->setContentsMargins(10, 0, 8, 0);
  row->setSpacing(4);
  all_ = new QToolButton;
  all_->setObjectName("allViewsPage");
  all_->setText(tr("All views"));
  all_->setCheckable(true);
  all_->setProperty("role", "tight");
  all_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  all_->setToolTip(tr("Every view side by side: before, after, and what is to do (0)"));
  add_ = new QToolButton;
  add_->setObjectName("addView");
  add_->setText("+");
  add_->setProperty("role", "tight");
  add_->setAccessibleName(tr("Add a view"));
  add_->setToolTip(tr("Add a view"));
  row->addWidget(all_, 1);
  row->addWidget(add_);
  column->addLayout(row);
  column->addWidget(views_, 1);
  connect(path_, &StationPath::chosen, this, &LeftColumn::stationChosen);
  connect(all_, &QToolButton::clicked, this, &LeftColumn::allViewsWanted);
  connect(add_, &QToolButton::clicked, views_, &ViewList::addView);
}

void LeftColumn::refresh(bool allViewsShown, bool onTheWay) {
  const bool open = workbench_.hasView();
  setVisible(open);
  if (!open) return;
  std::vector<StationPath::Step> steps;
  for (const StationModel* station : workbench_.path()) steps.push_back({station->name(), station->state()});
  path_->show(onTheWay ? workbench_.stationIndex() : -1, std::move(steps));
  all_->setChecked(allViewsShown);
  add_->setEnabled(!workbench_.busy());
  views_->refresh();
}

void LeftColumn::setTheme(const Theme& theme) {
  path_->setTheme(theme);
  views_->setTheme(theme);
}

} // namespace ml
