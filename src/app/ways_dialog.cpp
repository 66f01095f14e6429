// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ways_dialog.h"

#include "app/theme.h"
#include "model/station_model.h"

#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace ml {
namespace {

constexpr int kDialogWidth = 660, kTableHeight = 190, kDialogRow = 36, kMostMinutes = 600, kMinutesWidth = 96;

QTableWidget* table(const char* name, const QStringList& heads) {
  auto* out = new QTableWidget(0, int(heads.size()));
  out->setObjectName(name);
  out->setHorizontalHeaderLabels(heads);
  out->verticalHeader()->hide();
  out->setShowGrid(false);
  out->setTabKeyNavigation(false);
  out->setSelectionMode(QAbstractItemView::NoSelection);
  out->setFocusPolicy(Qt::NoFocus); // its fields have it
  out->verticalHeader()->setDefaultSectionSize(grown(kDialogRow));
  out->setEditTriggers(QAbstractItemView::NoEditTriggers);
  out->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  out->setFixedHeight(grown(kTableHeight));
  return out;
}

QSpinBox* minutesField(const QString& name, const QString& what, double minutes) {
  auto* out = new QSpinBox;
  out->setObjectName(name);
  out->setAccessibleName(what);
  out->setRange(0, kMostMinutes);
  out->setValue(int(minutes + 0.5));
  out->setSuffix(QDialog::tr(" min"));
  out->setButtonSymbols(QAbstractSpinBox::NoButtons);
  return out;
}

/// Both tables of the dialog; rows are read back when it is accepted.
class WaysTables {
public:
  explicit WaysTables(const Visit& visit)
      : stands(table("standsTable", {QDialog::tr("View"), QDialog::tr("Its camera stands at")})),
        ways(table("waysTable", {QDialog::tr("From"), QDialog::tr("To"), QDialog::tr("Minutes"), QString()})),
        names_(standsOf(visit)) {
    for (const int narrow : {2, 3}) {
      ways->horizontalHeader()->setSectionResizeMode(narrow, QHeaderView::Fixed);
      ways->setColumnWidth(narrow, grown(kMinutesWidth));
    }
    for (const auto& view : visit.views) addStand(view);
    for (const auto& way : visit.ways) addWay(way);
  }

  void addWay(const StandWay& way) {
    const int row = ways->rowCount();
    ways->insertRow(row);
    ways->setCellWidget(row, 0, choice("from", row, way.from));
    ways->setCellWidget(row, 1, choice("to", row, way.to));
    auto* minutes =
        minutesField(QString("wayMinutes-%1").arg(row), QDialog::tr("Minutes of way %1").arg(row + 1), way.minutes);
    ways->setCellWidget(row, 2, minutes);
    auto* away = new QPushButton(QDialog::tr("Remove"));
    away->setProperty("role", "small");
    away->setAccessibleName(QDialog::tr("Remove way %1").arg(row + 1));
    ways->setCellWidget(row, 3, away);
    QObject::connect(away, &QPushButton::clicked, ways, [this, minutes] { // its number changes as others go
      for (int r = 0; r < ways->rowCount(); ++r)
        if (ways->cellWidget(r, 2) == minutes) return ways->removeRow(r);
    });
  }
  /// Between the first two stands that no way joins yet.
  void addNextWay(double usual) {
    const auto given = readWays();
    for (std::size_t a = 0; a < names_.size(); ++a)
      for (std::size_t b = a + 1; b < names_.size(); ++b) {
        const StandWay next{names_[a], names_[b], usual};
        if (std::none_of(given.begin(), given.end(), [&](const StandWay& way) { return joinsTheSame(way, next); }))
          return addWay(next);
      }
  }
  void readInto(Visit& visit) const {
    for (std::size_t i = 0; i < visit.views.size(); ++i) {
      const auto* stand = static_cast<QComboBox*>(stands->cellWidget(int(i), 1));
      const std::string at = stand->currentText().trimmed().toStdString();
      visit.views[i].stand = at == visit.views[i].name ? std::string() : at;
    }
    visit.ways = readWays();
  }

  QTableWidget *stands, *ways;

private:
  void addStand(const VisitView& view) {
    const int row = stands->rowCount();
    stands->insertRow(row);
    stands->setItem(row, 0, new QTableWidgetItem(text(view.name)));
    auto* at = choice("stand", row, standOf(view));
    at->setEditable(true);
    at->setEditText(text(standOf(view)));
    stands->setCellWidget(row, 1, at);
  }
  QComboBox* choice(const char* name, int row, const std::string& now) const {
    auto* box = new QComboBox;
    box->setObjectName(QString("%1-%2").arg(name).arg(row));
    box->setAccessibleName(QString("%1 %2").arg(name).arg(row + 1));
    for (const auto& stand : names_) box->addItem(text(stand));
    if (box->findText(text(now)) < 0) box->addItem(text(now));
    box->setCurrentText(text(now));
    return box;
  }
  /// The last word on each pair; a way from a stand to itself is none.
  std::vector<StandWay> readWays() const {
    std::vector<StandWay> out;
    for (int row = 0; row < ways->rowCount(); ++row) {
      const auto said = [&](int column) {
        return static_cast<QComboBox*>(ways->cellWidget(row, column))->currentText().toStdString();
      };
      const StandWay way{said(0), said(1), double(static_cast<QSpinBox*>(ways->cellWidget(row, 2))->value())};
      if (way.from == way.to) continue;
      std::erase_if(out, [&](const StandWay& other) { return joinsTheSame(way, other); });
      out.push_back(way);
    }
    return out;
  }

  std::vector<std::string> names_;
};

} // namespace

bool editWays(QWidget* parent, Visit& visit) {
  QDialog dialog(parent);
  dialog.setObjectName("waysDialog");
  dialog.setWindowTitle(QDialog::tr("Stands and ways"));
  dialog.setMinimumWidth(grown(kDialogWidth));
  WaysTables tables(visit);
  auto* column = new QVBoxLayout(&dialog);
  column->setContentsMargins(20, 18, 20, 16);
  column->setSpacing(9);
  auto* about = new QLabel(QDialog::tr("Views shot from one stand need no way between them. Name the ways that take "
                                       "another time than most."));
  about->setWordWrap(true);
  auto* usual = minutesField("wayUsual", QDialog::tr("Minutes of a way that is not named"), visit.wayMinutes);
  auto* most = new QHBoxLayout;
  most->addWidget(new QLabel(QDialog::tr("Most ways take")));
  most->addWidget(usual);
  most->addStretch();
  auto* add = new QPushButton(QDialog::tr("Add a way"));
  add->setObjectName("addWay");
  add->setProperty("role", "small");
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  column->addWidget(about);
  column->addWidget(tables.stands);
  column->addLayout(most);
  column->addWidget(tables.ways);
  column->addWidget(add, 0, Qt::AlignLeft);
  column->addWidget(buttons);
  QObject::connect(add, &QPushButton::clicked, &dialog, [&] { tables.addNextWay(usual->value() + 1); });
  QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
  QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  if (dialog.exec() != QDialog::Accepted) return false;
  visit.wayMinutes = usual->value();
  tables.readInto(visit);
  return true;
}

} // namespace ml
