// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/visit_page.h"

#include "app/language.h"
#include "app/visit_sheet.h"
#include "app/ways_dialog.h"

#include <QComboBox>
#include <QDateEdit>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>
#include <QTimeEdit>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {
namespace {

enum Columns { kDone, kName, kWhen, kKind, kLight, kTowards, kLamps, kPositions, kPlanes, kMinutes, kLate, kColumns };
constexpr int kRowHeight = 34;

QLabel* quiet(const QString& words) {
  auto* label = new QLabel(words);
  label->setProperty("role", "quiet");
  label->setFont(uiFont(8.5));
  return label;
}

QLabel* sentence(const char* name) {
  auto* label = new QLabel;
  label->setObjectName(name);
  label->setWordWrap(true);
  return label;
}

QDate toDate(const year_month_day& d) {
  return {int(d.year()), int(unsigned(d.month())), int(unsigned(d.day()))};
}

year_month_day fromDate(const QDate& d) {
  return {std::chrono::year{d.year()}, std::chrono::month{unsigned(d.month())}, std::chrono::day{unsigned(d.day())}};
}

QTime toTime(int minutes) {
  return QTime(minutes / 60 % 24, minutes % 60);
}

int fromTime(const QTime& t) {
  return t.hour() * 60 + t.minute();
}

QString lampWords(Lamps lamps) {
  return lamps == Lamps::Off ? VisitPage::tr("off") : lamps == Lamps::On ? VisitPage::tr("on") : VisitPage::tr("both");
}

} // namespace

VisitPage::VisitPage(Workbench& workbench, QWidget* parent)
    : QFrame(parent), workbench_(workbench), model_(workbench.visit) {
  setObjectName("visitPage");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(14, 8, 14, 8);
  column->setSpacing(8);
  column->addWidget(buildPlace());
  auto* middle = new QHBoxLayout;
  middle->setSpacing(12);
  table_ = new QTableWidget(0, kColumns);
  table_->setObjectName("visitViews");
  table_->setAccessibleName(tr("Views of the visit"));
  table_->setHorizontalHeaderLabels({tr("Done"), tr("View"), tr("When"), tr("Kind"), tr("Light it wants"),
                                     tr("Towards"), tr("Lamps"), tr("Places"), tr("Planes"), tr("Minutes"),
                                     tr("Late")});
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(grown(kRowHeight));
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setShowGrid(false);
  table_->setTabKeyNavigation(false);
  table_->setFont(uiFont(9.5));
  table_->horizontalHeader()->setFont(uiFont(8.5));
  const int widths[] = {42, 104, 88, 104, 146, 56, 66, 48, 48, 56, 44};
  for (int i = 0; i < kColumns; ++i) table_->setColumnWidth(i, grown(widths[i]));
  table_->horizontalHeader()->setSectionResizeMode(kName, QHeaderView::Stretch);
  middle->addWidget(table_, 1);
  chart_ = new DayChart;
  chart_->setFixedWidth(grown(256));
  middle->addWidget(chart_);
  column->addLayout(middle, 1);
  now_ = sentence("visitNow");
  now_->setFont(uiFont(11, true));
  sun_ = sentence("visitSun");
  left_ = sentence("visitLeftOut");
  pace_ = quiet({});
  pace_->setObjectName("visitPace");
  pace_->setWordWrap(true);
  for (QLabel* words : {now_, left_, sun_, pace_}) column->addWidget(words);
  column->addWidget(buildTools());
  connectFields();
}

QWidget* VisitPage::buildPlace() {
  auto* box = new QWidget;
  auto* grid = new QGridLayout(box);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setHorizontalSpacing(8);
  grid->setVerticalSpacing(2);
  int at = 0;
  const auto put = [&](const QString& words, QWidget* field, const char* name, int width) {
    field->setObjectName(name);
    field->setAccessibleName(words);
    if (width > 0)
      field->setFixedWidth(grown(width));
    else
      field->setMinimumWidth(grown(110));
    auto* label = quiet(words);
    grid->addWidget(label, 0, at);
    grid->addWidget(field, 1, at++);
  };
  put(tr("Place"), name_ = new QLineEdit, "visitPlace", 0);
  put(tr("Latitude"), latitude_ = new QLineEdit, "visitLatitude", 92);
  put(tr("Longitude"), longitude_ = new QLineEdit, "visitLongitude", 92);
  put(QString(), fromFrames_ = new QToolButton, "visitPlaceFromFrames", 0);
  fromFrames_->setText(tr("from frames"));
  fromFrames_->setProperty("role", "tight");
  fromFrames_->setAccessibleName(tr("Place from the frames"));
  fromFrames_->setToolTip(tr("Latitude and longitude as the frames' Exif says"));
  put(tr("Time zone"), zone_ = new QComboBox, "visitZone", 156);
  zone_->setEditable(true);
  zone_->setInsertPolicy(QComboBox::NoInsert);
  zone_->addItems(model_.zones());
  put(tr("Day"), date_ = new QDateEdit, "visitDate", 108);
  date_->setDisplayFormat(dateFormat());
  date_->setDateRange(QDate(1950, 1, 1), QDate(2100, 12, 31));
  put(tr("From"), from_ = new QTimeEdit, "visitFrom", 70);
  put(tr("To"), to_ = new QTimeEdit, "visitTo", 70);
  for (QTimeEdit* time : {from_, to_}) time->setDisplayFormat("HH:mm");
  put(tr("Begin"), prefer_ = new QComboBox, "visitPrefer", 132);
  prefer_->addItems({tr("early"), tr("as late as it goes")});
  grid->setColumnStretch(0, 1);
  latitude_->setToolTip(tr("Degrees, such as 46.8, 46 48 N or -33.9"));
  longitude_->setToolTip(tr("Degrees, such as 9.5, 9 30 E or -71.2"));
  return box;
}

QWidget* VisitPage::buildTools() {
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(8);
  newView_ = new QLineEdit;
  newView_->setObjectName("visitNewView");
  newView_->setPlaceholderText(tr("A further view..."));
  newView_->setAccessibleName(tr("Name of a further view"));
  newView_->setMinimumWidth(grown(90));
  newView_->setMaximumWidth(grown(170));
  const auto button = [&](const char* name, const QString& words, const QString& tip) {
    auto* made = new QPushButton(words);
    made->setObjectName(name);
    made->setToolTip(tip);
    made->setProperty("role", "small");
    return made;
  };
  add_ = button("visitAddView", tr("Add"), tr("Plan a view that is not in the job yet"));
  remove_ =
      button("visitRemoveView", tr("Take out"), tr("Views of the job itself are taken out in the list at the left"));
  undo_ = button("visitUndo", tr("Undo"), {});
  redo_ = button("visitRedo", tr("Redo"), {});
  sheet_ =
      button("visitSheet", tr("Sheet to take along"), tr("A PDF and a picture for the phone, in the job's folder"));
  calendar_ = button("visitCalendar", tr("Calendar..."), tr("An iCalendar file with an event for each view"));
  ways_ = button("visitWays", tr("Stands and ways..."),
                 tr("Views that share a stand, and how long it takes from one to the next"));
  again_ = button("visitAgain", tr("Plan again from now"),
                  tr("After something took longer: what is left into the light that is left"));
  again_->setProperty("role", "next");
  row->addWidget(newView_);
  for (QWidget* widget : std::initializer_list<QWidget*>{add_, remove_, ways_, undo_, redo_}) row->addWidget(widget);
  row->addStretch();
  for (QWidget* widget : std::initializer_list<QWidget*>{sheet_, calendar_, again_}) row->addWidget(widget);
  return box;
}

void VisitPage::connectFields() {
  for (QLineEdit* field : {name_, latitude_, longitude_})
    connect(field, &QLineEdit::editingFinished, this, &VisitPage::typePlace);
  connect(zone_, &QComboBox::textActivated, this, &VisitPage::typePlace);
  connect(zone_->lineEdit(), &QLineEdit::editingFinished, this, &VisitPage::typePlace);
  connect(fromFrames_, &QToolButton::clicked, &model_, &VisitModel::takePlaceFromFrames);
  const auto edited = [this](const QString& words, const std::function<void(Visit&)>& how) {
    if (!filling_) model_.change(words, how);
  };
  connect(date_, &QDateEdit::dateChanged, this,
          [this, edited] { edited(tr("day"), [this](Visit& v) { v.date = fromDate(date_->date()); }); });
  const auto times = [this, edited] {
    edited(tr("time of the visit"), [this](Visit& v) {
      v.from = fromTime(from_->time());
      v.to = fromTime(to_->time());
      if (v.to <= v.from) v.to += 24 * 60; // beyond midnight
    });
  };
  connect(from_, &QTimeEdit::timeChanged, this, times);
  connect(to_, &QTimeEdit::timeChanged, this, times);
  connect(prefer_, &QComboBox::activated, this,
          [edited](int late) { edited(VisitPage::tr("early or late"), [late](Visit& v) { v.late = late == 1; }); });
  connect(ways_, &QPushButton::clicked, this, [this, edited] {
    Visit changed = model_.visit();
    if (editWays(this, changed))
      edited(tr("stands and ways"), [&](Visit& v) {
        v.ways = changed.ways;
        v.wayMinutes = changed.wayMinutes;
        for (std::size_t i = 0; i < std::min(v.views.size(), changed.views.size()); ++i)
          v.views[i].stand = changed.views[i].stand;
      });
  });
  const auto addView = [this] {
    model_.addView(newView_->text());
    newView_->clear();
  };
  connect(add_, &QPushButton::clicked, this, addView);
  connect(newView_, &QLineEdit::returnPressed, this, addView);
  connect(remove_, &QPushButton::clicked, this, [this] { model_.removeView(chosen()); });
  connect(undo_, &QPushButton::clicked, this, [this] { model_.undoStack().undo(); });
  connect(redo_, &QPushButton::clicked, this, [this] { model_.undoStack().redo(); });
  connect(again_, &QPushButton::clicked, &model_, &VisitModel::planAgain);
  connect(sheet_, &QPushButton::clicked, this, &VisitPage::makeSheet);
  connect(calendar_, &QPushButton::clicked, this, &VisitPage::exportCalendar);
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
    if (filling_) return;
    chart_->show(day());
    remove_->setEnabled(chosen() >= 0 && model_.visit().views[std::size_t(chosen())].folder.empty());
  });
  connect(table_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
    if (!filling_ && item->column() == kDone) model_.markDone(item->row(), item->checkState() == Qt::Checked);
  });
}

/// What makes no sense stays as it was.
void VisitPage::typePlace() {
  if (filling_) return;
  const auto latitude = parseAngle(latitude_->text().toStdString(), 90),
             longitude = parseAngle(longitude_->text().toStdString(), 180);
  const std::string zone = zone_->currentText().trimmed().toStdString();
  const auto known = checkZone(zone);
  if (!latitude || !longitude)
    workbench_.desk.notices.tell(
        tr("Latitude lies within 90 degrees, longitude within 180: type them as 46.8 or 46 48 N."));
  else if (!known)
    workbench_.desk.notices.fail(known.error());
  model_.change(tr("place"), [&](Visit& v) {
    v.place.name = name_->text().toStdString();
    if (latitude) v.place.latitude = *latitude;
    if (longitude) v.place.longitude = *longitude;
    if (known) v.place.timeZone = zone;
  });
  refresh();
}

int VisitPage::chosen() const {
  const auto rows = table_->selectionModel()->selectedRows();
  return rows.isEmpty() || rows.front().row() >= int(model_.visit().views.size()) ? -1 : rows.front().row();
}

DayPicture VisitPage::day() const {
  DayPicture out{&model_.visit(), model_.plan(), model_.track(), {}, chosen()};
  if (model_.underWay()) out.now = model_.now();
  return out;
}

void VisitPage::fillTable() {
  const int rows = int(model_.visit().views.size());
  if (table_->rowCount() != rows) table_->setRowCount(rows);
  for (int row = 0; row < rows; ++row) fillRow(row);
}

void VisitPage::fillRow(int row) {
  const VisitView& view = model_.visit().views[std::size_t(row)];
  const auto item = [&](int column) {
    if (!table_->item(row, column)) table_->setItem(row, column, new QTableWidgetItem);
    return table_->item(row, column);
  };
  item(kDone)->setFlags(Qt::ItemIsUserCheckable | Qt::ItemIsEnabled | Qt::ItemIsSelectable);
  item(kDone)->setCheckState(view.done ? Qt::Checked : Qt::Unchecked);
  item(kName)->setText(text(view.name));
  item(kName)->setToolTip(text(view.name));
  QString when = view.done ? tr("done") : QString();
  if (const auto* plan = model_.plan()) {
    for (const auto& entry : plan->order)
      if (entry.view == row && !view.done)
        when = tr("%1–%2").arg(text(clockAt(plan->zone, entry.begin)), text(clockAt(plan->zone, entry.end)));
    for (const auto& left : plan->leftOut)
      if (left.view == row) when = tr("no time");
  }
  item(kWhen)->setText(when);
  if (!table_->cellWidget(row, kKind)) { // made once; what they do names the row they stand in
    const auto combo = [&](int column, const char* name) {
      auto* box = new QComboBox;
      box->setObjectName(QString("visit%1-%2").arg(name).arg(row));
      box->setAccessibleName(tr("%1 of view %2").arg(tr(name)).arg(row + 1));
      table_->setCellWidget(row, column, box);
      return box;
    };
    auto* kind = combo(kKind, QT_TR_NOOP("Kind"));
    kind->setEditable(true);
    for (const auto& usual : usualPace()) kind->addItem(text(usual.kind));
    connect(kind, &QComboBox::textActivated, this, [this, row](const QString& k) {
      model_.changeView(row, tr("kind of view"),
                        [&](VisitView& v) { v.kind = k.trimmed().isEmpty() ? "interior" : k.trimmed().toStdString(); });
    });
    auto* light = combo(kLight, QT_TR_NOOP("Light"));
    for (const LightWant want : lightWants()) light->addItem(text(nameOf(want)), int(want));
    light->view()->setMinimumWidth(grown(150));
    connect(light, &QComboBox::activated, this, [this, row, light] {
      model_.changeView(row, tr("light of the view"),
                        [&](VisitView& v) { v.light.want = LightWant(light->currentData().toInt()); });
    });
    auto* lamps = combo(kLamps, QT_TR_NOOP("Lamps"));
    for (const Lamps l : {Lamps::Off, Lamps::On, Lamps::Both}) lamps->addItem(lampWords(l), int(l));
    connect(lamps, &QComboBox::activated, this, [this, row, lamps] {
      model_.changeView(row, tr("lamps"), [&](VisitView& v) { v.lamps = Lamps(lamps->currentData().toInt()); });
    });
    const auto spin = [&](int column, const char* name, int low, int high) {
      auto* box = new QSpinBox;
      box->setRange(low, high);
      box->setButtonSymbols(QAbstractSpinBox::NoButtons);
      box->setKeyboardTracking(false);
      box->setObjectName(QString("visit%1-%2").arg(name).arg(row));
      box->setAccessibleName(tr("%1 of view %2").arg(tr(name)).arg(row + 1));
      table_->setCellWidget(row, column, box);
      return box;
    };
    auto* towards = spin(kTowards, QT_TR_NOOP("Towards"), 0, 359);
    towards->setSuffix(QStringLiteral("°"));
    towards->setToolTip(tr("Where the camera looks: 0 north, 90 east"));
    connect(towards, &QSpinBox::valueChanged, this, [this, row](int to) {
      if (!filling_) model_.changeView(row, tr("direction"), [&](VisitView& v) { v.light.direction = to; });
    });
    auto* places = spin(kPositions, QT_TR_NOOP("Places"), 1, 200);
    places->setToolTip(tr("Positions of the camera: turned, or its lens shifted"));
    connect(places, &QSpinBox::valueChanged, this, [this, row](int count) {
      if (!filling_) model_.changeView(row, tr("positions"), [&](VisitView& v) { v.positions = count; });
    });
    auto* planes = spin(kPlanes, QT_TR_NOOP("Planes"), 1, 50);
    planes->setToolTip(tr("Planes of focus at each position"));
    connect(planes, &QSpinBox::valueChanged, this, [this, row](int count) {
      if (!filling_) model_.changeView(row, tr("planes of focus"), [&](VisitView& v) { v.planes = count; });
    });
    auto* minutes = spin(kMinutes, QT_TR_NOOP("Minutes"), 0, 600);
    minutes->setSpecialValueText(tr("auto"));
    connect(minutes, &QSpinBox::valueChanged, this, [this, row](int m) {
      if (!filling_)
        model_.changeView(row, tr("minutes"),
                          [&](VisitView& v) { v.minutes = m > 0 ? std::optional<double>(m) : std::nullopt; });
    });
    auto* late = new QToolButton;
    late->setText(tr("late"));
    late->setCheckable(true);
    late->setProperty("role", "plain");
    late->setObjectName(QString("visitLate-%1").arg(row));
    late->setAccessibleName(tr("View %1 as late as the rest allows").arg(row + 1));
    table_->setCellWidget(row, kLate, late);
    connect(late, &QToolButton::clicked, this,
            [this, row](bool on) { model_.changeView(row, tr("early or late"), [&](VisitView& v) { v.late = on; }); });
  }
  static_cast<QComboBox*>(table_->cellWidget(row, kKind))->setEditText(text(view.kind));
  static_cast<QComboBox*>(table_->cellWidget(row, kKind))->lineEdit()->setCursorPosition(0);
  auto* light = static_cast<QComboBox*>(table_->cellWidget(row, kLight));
  light->setCurrentIndex(light->findData(int(view.light.want)));
  auto* lamps = static_cast<QComboBox*>(table_->cellWidget(row, kLamps));
  lamps->setCurrentIndex(lamps->findData(int(view.lamps)));
  auto* towards = static_cast<QSpinBox*>(table_->cellWidget(row, kTowards));
  towards->setValue(int(view.light.direction));
  towards->setEnabled(needsDirection(view.light.want));
  static_cast<QSpinBox*>(table_->cellWidget(row, kPositions))->setValue(view.positions);
  static_cast<QSpinBox*>(table_->cellWidget(row, kPlanes))->setValue(view.planes);
  auto* minutes = static_cast<QSpinBox*>(table_->cellWidget(row, kMinutes));
  minutes->setValue(view.minutes ? int(*view.minutes + 0.5) : 0);
  minutes->setToolTip(
      tr("Now %1 minutes, brackets included; type others, or 0").arg((secondsFor(view, model_.pace()) + 30) / 60));
  static_cast<QToolButton*>(table_->cellWidget(row, kLate))->setChecked(view.late);
}

void VisitPage::refresh() {
  if (!model_.isOpen()) return;
  filling_ = true;
  const Visit& visit = model_.visit();
  const auto type = [](QLineEdit* field, const QString& words) {
    if (!field->hasFocus() || !field->isModified()) field->setText(words);
  };
  type(name_, text(visit.place.name));
  type(latitude_, QLocale().toString(visit.place.latitude, 'g', 8));
  type(longitude_, QLocale().toString(visit.place.longitude, 'g', 9));
  zone_->setEditText(text(visit.place.timeZone));
  date_->setDate(toDate(visit.date));
  from_->setTime(toTime(visit.from));
  to_->setTime(toTime(visit.to));
  prefer_->setCurrentIndex(visit.late ? 1 : 0);
  fillTable();
  filling_ = false;
  chart_->show(day());
  const auto* plan = model_.plan();
  sun_->setText(plan ? text(sunWords(*plan)) : QString());
  now_->setText(model_.nowWords());
  now_->setVisible(!now_->text().isEmpty());
  QStringList left;
  if (plan)
    for (const auto& view : plan->leftOut) left << text(view.reason + " " + view.change);
  left_->setText(left.join('\n'));
  left_->setVisible(left.size() > 1); // one stands in the verdict
  QStringList pace;
  if (!model_.forecast().isEmpty()) pace << model_.forecast();
  for (const auto& own : model_.pace()) pace << text(paceWords(own));
  pace_->setText(pace.join(" · "));
  pace_->setVisible(!pace.isEmpty());
  undo_->setEnabled(model_.undoStack().canUndo());
  redo_->setEnabled(model_.undoStack().canRedo());
  undo_->setToolTip(tr("Undo %1").arg(model_.undoStack().undoText()));
  remove_->setEnabled(chosen() >= 0 && visit.views[std::size_t(chosen())].folder.empty());
  for (QPushButton* button : {sheet_, calendar_}) button->setEnabled(plan != nullptr);
  again_->setEnabled(model_.underWay());
}

void VisitPage::setTheme(const Theme& theme) {
  chart_->setTheme(theme);
}

void VisitPage::makeSheet() {
  if (!model_.plan()) return;
  const auto folder = workbench_.job().folder();
  const auto pdf = folder / "visit.pdf", phone = folder / "visit.png";
  if (!workbench_.desk.notices.check(writeVisitPdf(day(), pdf))) return;
  if (!visitImage(day()).save(text(phone.string())))
    return workbench_.desk.notices.fail(tr("%1 cannot be written; free some space.").arg(text(phone.string())));
  workbench_.desk.notices.tell(
      tr("The sheet is in %1, and as a picture for the phone beside it.").arg(text(pdf.string())));
}

void VisitPage::exportCalendar() {
  const QString file = QFileDialog::getSaveFileName(
      this, tr("Calendar"), text((workbench_.job().folder() / "visit.ics").string()), tr("iCalendar (*.ics)"));
  if (file.isEmpty()) return;
  if (workbench_.desk.notices.check(model_.writeCalendar(file.toStdString())))
    workbench_.desk.notices.tell(tr("The calendar is in %1.").arg(file));
}

} // namespace ml
