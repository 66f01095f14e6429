// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/positions_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QSpinBox>

namespace ml {
namespace {

QDoubleSpinBox* number(const char* name, double low, double high, double value, const QString& suffix, int decimals) {
  auto* box = new QDoubleSpinBox;
  box->setObjectName(name);
  box->setDecimals(decimals);
  box->setRange(low, high);
  box->setValue(value);
  box->setSuffix(suffix);
  box->setButtonSymbols(QAbstractSpinBox::NoButtons);
  return box;
}

} // namespace

bool editPositions(QWidget* parent, Situation& s, bool feet) {
  QDialog dialog(parent);
  dialog.setObjectName("positionsDialog");
  dialog.setWindowTitle(QDialog::tr("Positions"));
  auto* form = new QFormLayout(&dialog);
  form->setContentsMargins(20, 18, 20, 16);
  form->setVerticalSpacing(9);
  form->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  auto* pan = number("pan", 0, 360, s.positions.panDegrees, QDialog::tr(" degrees wide"), 0);
  auto* tilt = number("tilt", 0, 180, s.positions.tiltDegrees, QDialog::tr(" degrees high"), 0);
  auto* overlap = number("overlap", 0, 80, 100 * s.positions.overlap, QDialog::tr(" % overlap"), 0);
  auto* portrait = new QCheckBox(QDialog::tr("Camera turned to portrait"));
  portrait->setChecked(s.positions.portrait);
  auto* shifts = new QComboBox;
  shifts->setObjectName("shifts");
  shifts->addItem(QDialog::tr("none"), 1);
  shifts->addItem(QDialog::tr("top, middle, bottom"), 3);
  shifts->setCurrentIndex(std::max(0, shifts->findData(s.positions.lensShifts)));
  auto* planes = new QSpinBox;
  planes->setObjectName("planes");
  planes->setButtonSymbols(QAbstractSpinBox::NoButtons);
  planes->setRange(1, 20);
  planes->setValue(s.positions.focusPlanes);
  const double unit = feet ? 0.3048 : 1;
  auto* distance =
      number("distance", 0.1, 3000, s.focusDistance / unit, feet ? QDialog::tr(" ft") : QDialog::tr(" m"), 1);
  auto* tolerable = number("tolerable", 0, 50, s.tolerablePixels, QDialog::tr(" pixels"), 0);
  tolerable->setSpecialValueText(QDialog::tr("any blur"));
  auto* most = number("mostSeconds", 0, 3600, s.mostSeconds, QDialog::tr(" s"), 0);
  most->setSpecialValueText(QDialog::tr("as long as it takes"));
  form->addRow(QDialog::tr("Panorama"), pan);
  form->addRow(QString(), tilt);
  form->addRow(QString(), overlap);
  form->addRow(QString(), portrait);
  form->addRow(QDialog::tr("Lens shift"), shifts);
  form->addRow(QDialog::tr("Planes of focus"), planes);
  form->addRow(QDialog::tr("Focused at"), distance);
  form->addRow(QDialog::tr("What moves may blur by"), tolerable);
  form->addRow(QDialog::tr("A set may last"), most);
  auto* note = new QLabel(QDialog::tr(
      "Level first. One bracket serves all positions: read the light over all of them. 0 degrees: one position."));
  note->setProperty("role", "quiet");
  note->setWordWrap(true);
  form->addRow(note);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  form->addRow(buttons);
  QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
  QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  if (dialog.exec() != QDialog::Accepted) return false;
  s.positions = {pan->value(),    tilt->value(),        overlap->value() / 100, shifts->currentData().toInt(),
                 planes->value(), portrait->isChecked()};
  s.focusDistance = distance->value() * unit;
  s.tolerablePixels = tolerable->value();
  s.mostSeconds = most->value();
  return true;
}

} // namespace ml
