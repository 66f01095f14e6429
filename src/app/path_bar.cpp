// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/path_bar.h"

#include "app/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ml {

PathBar::PathBar(FirstPath& path, QWidget* parent) : QFrame(parent), path_(path) {
  setObjectName("pathBar");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(16, 8, 16, 8);
  row->setSpacing(12);
  auto* column = new QVBoxLayout;
  column->setSpacing(2);
  words_ = new QLabel;
  words_->setObjectName("pathWords");
  words_->setFont(uiFont(11, true));
  words_->setWordWrap(true);
  why_ = new QLabel;
  why_->setObjectName("pathWhy");
  why_->setProperty("role", "quiet");
  why_->setWordWrap(true);
  column->addWidget(words_);
  column->addWidget(why_);
  row->addLayout(column, 1);
  go_ = new QPushButton(tr("Take me there"));
  go_->setObjectName("pathGo");
  go_->setProperty("role", "small");
  end_ = new QPushButton(tr("End the path"));
  end_->setObjectName("pathEnd");
  end_->setProperty("role", "small");
  row->addWidget(go_);
  row->addWidget(end_);
  connect(go_, &QPushButton::clicked, &path_, &FirstPath::goThere);
  connect(end_, &QPushButton::clicked, &path_, &FirstPath::end);
  connect(&path_, &FirstPath::changed, this, &PathBar::refresh);
  refresh();
}

void PathBar::refresh() {
  setVisible(path_.running());
  words_->setText(tr("Practice. %1").arg(path_.words()));
  why_->setText(path_.why());
  why_->setVisible(!why_->text().isEmpty());
  go_->setVisible(!path_.finished());
}

} // namespace ml
