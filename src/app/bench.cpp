// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"

#include "app/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ml {

Bench::Bench(StationModel& station) : station_(station) {
  setObjectName("bench");
  setAccessibleName(station.name());
  auto* outer = new QHBoxLayout(this);
  outer->setContentsMargins(22, 12, 22, 14);
  outer->setSpacing(26);
  row_ = new QHBoxLayout;
  row_->setSpacing(26);
  if (textSize() > 1) {
    auto* tools = new QWidget;
    row_->setContentsMargins(0, 0, 0, 0);
    tools->setLayout(row_);
    outer->addWidget(withinReach(tools), 1);
  } else
    outer->addLayout(row_, 1);
  next_ = new QPushButton;
  next_->setObjectName("next");
  next_->setProperty("role", "next");
  next_->setToolTip(tr("The thing to do next (Ctrl+Return)"));
  side_ = new QVBoxLayout;
  side_->setSpacing(6);
  auto* end = new QVBoxLayout;
  end->addLayout(side_);
  end->addStretch();
  next_->setMinimumWidth(150);
  end->addWidget(next_, 0, Qt::AlignRight);
  outer->addLayout(end);
  connect(next_, &QPushButton::clicked, &station_, [this] { station_.doNext(); });
}

void Bench::show() {
  refresh();
  const StationModel::Next next = station_.next();
  next_->setText(next.words);
  next_->setEnabled(next.possible && (next.onlyGoes || !station_.desk().reading()));
}

QVBoxLayout* Bench::group(const QString& title, int stretch) {
  auto* column = new QVBoxLayout;
  column->setSpacing(6);
  auto* label = new QLabel(title);
  label->setProperty("role", "quiet");
  label->setFont(uiFont(9));
  column->addWidget(label);
  row_->addLayout(column, stretch);
  return column;
}

} // namespace ml
