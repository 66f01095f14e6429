// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/set_dialog.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>

namespace ml {

void describeSet(QWidget* parent, ShootModel& shoot) {
  const View& v = shoot.desk().view();
  if (v.activeSet < 0) return;
  const FrameSet& set = v.sets[std::size_t(v.activeSet)];
  QDialog dialog(parent);
  dialog.setObjectName("setDialog");
  dialog.setWindowTitle(QDialog::tr("This set"));
  auto* form = new QFormLayout(&dialog);
  form->setContentsMargins(20, 18, 20, 16);
  form->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  auto* name = new QLineEdit(QString::fromStdString(set.label));
  name->setObjectName("setName");
  const auto place = [&](int value) {
    auto* box = new QSpinBox;
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setRange(0, 99);
    box->setSpecialValueText(QDialog::tr("none"));
    box->setValue(value);
    return box;
  };
  auto *row = place(set.row), *column = place(set.column), *plane = place(set.plane);
  form->addRow(QDialog::tr("Name"), name);
  form->addRow(QDialog::tr("Row"), row);
  form->addRow(QDialog::tr("Column"), column);
  form->addRow(QDialog::tr("Plane of focus"), plane);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  form->addRow(buttons);
  QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
  QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  if (dialog.exec() == QDialog::Accepted)
    shoot.describeSet(name->text(), row->value(), column->value(), plane->value());
}

void shootAtInterval(QWidget* parent, IntervalShooting& interval) {
  constexpr double kUsualMinutes = 5, kMostMinutes = 600;
  constexpr int kUsualSets = 4, kMostSets = 200;
  QDialog dialog(parent);
  dialog.setObjectName("intervalDialog");
  dialog.setWindowTitle(QDialog::tr("Sets at an interval"));
  auto* form = new QFormLayout(&dialog);
  form->setContentsMargins(20, 18, 20, 16);
  form->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  auto* sets = new QSpinBox;
  sets->setObjectName("intervalSets");
  sets->setButtonSymbols(QAbstractSpinBox::NoButtons);
  sets->setRange(1, kMostSets);
  sets->setValue(kUsualSets);
  auto* minutes = new QDoubleSpinBox;
  minutes->setObjectName("intervalMinutes");
  minutes->setButtonSymbols(QAbstractSpinBox::NoButtons);
  minutes->setDecimals(1);
  minutes->setRange(0.1, kMostMinutes);
  minutes->setValue(kUsualMinutes);
  minutes->setSuffix(QDialog::tr(" minutes from start to start"));
  form->addRow(QDialog::tr("Sets"), sets);
  form->addRow(QDialog::tr("Apart"), minutes);
  auto* note =
      new QLabel(QDialog::tr("All as planned, kept apart, each judged. The first begins now. Stop ends it; a camera "
                             "left alone on a way can be fallen over."));
  note->setProperty("role", "quiet");
  note->setWordWrap(true);
  form->addRow(note);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  buttons->button(QDialogButtonBox::Ok)->setText(QDialog::tr("Begin"));
  form->addRow(buttons);
  QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
  QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  if (dialog.exec() == QDialog::Accepted) interval.begin(minutes->value(), sets->value());
}

} // namespace ml
