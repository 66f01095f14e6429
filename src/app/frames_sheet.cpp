// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/frames_sheet.h"

#include "exposure/marks.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLocale>
#include <QScrollArea>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

namespace ml {
namespace {

QLabel* label(const char* name, bool quiet, double size) {
  auto* made = new QLabel;
  made->setObjectName(name);
  made->setWordWrap(true);
  made->setFont(uiFont(size));
  made->setTextInteractionFlags(Qt::TextSelectableByMouse);
  if (quiet) made->setProperty("role", "quiet");
  return made;
}

struct Cell {
  QString text;
  Qt::Alignment alignment = Qt::AlignRight | Qt::AlignVCenter;
};

std::vector<Cell> cellsOf(const Way& way) {
  const Alternative& a = *way.figures;
  const auto& c = a.plan.coverage;
  const auto left = Qt::AlignLeft | Qt::AlignVCenter;
  return {{way.name, left},
          {way.frames + ", " + way.times, left},
          {way.missing.isEmpty() ? QObject::tr("all") : way.missing, left},
          {QObject::tr("%1 at EV %2")
               .arg(c.worstSnr, 0, 'f', 0)
               .arg(c.worstAt.value, 0, 'f', 0)
               .replace('-', QChar(0x2212))},
          {a.plan.frames.size() > 1 ? QLocale().toString(a.leastOverlap.value, 'f', 1).replace('-', QChar(0x2212))
                                    : QString()},
          {QLocale().toString(a.onSite.value, 'f', 1)},
          {QLocale().toString(a.megabytes, 'f', 0)}};
}

} // namespace

FramesSheet::FramesSheet(FramesModel& frames) : frames_(frames) {
  setObjectName("framesSheet");
  auto* outer = new QVBoxLayout(this);
  outer->setContentsMargins(22, 8, 16, 8);
  empty_ = label("sheetEmpty", true, 11);
  empty_->setText(tr("Here every way to bracket stands beside the others, with its frames, its coverage and its "
                     "cost.\nTake two readings at Light first: the brightest and the darkest that must keep texture."));
  empty_->setAlignment(Qt::AlignCenter);
  outer->addWidget(empty_, 1);
  auto* body = new QWidget;
  auto* columns = new QHBoxLayout(body);
  columns->setContentsMargins(0, 0, 0, 0);
  columns->setSpacing(20);

  auto* left = new QVBoxLayout;
  left->setSpacing(6);
  left->addWidget(buildAnswer());
  ways_ = new WaysChart;
  ways_->setMinimumWidth(grown(340));
  left->addWidget(ways_, 1);
  buildTable();
  left->addWidget(table_, 1);
  answer_ = label("answers", true, 9);
  left->addWidget(answer_);
  columns->addLayout(left, 1);
  columns->addWidget(buildSide());
  body_ = withinReach(body);
  outer->addWidget(body_, 1);
  connect(ways_, &WaysChart::chosen, &frames_, &FramesModel::chooseWay);
}

/// The times, large, and the switch to all ways.
QWidget* FramesSheet::buildAnswer() {
  auto* whole = new QWidget;
  auto* row = new QHBoxLayout(whole);
  row->setContentsMargins(0, 4, 0, 4);
  times_ = label("times", false, 19);
  times_->setFont(uiFont(19, true));
  all_ = new QToolButton;
  all_->setObjectName("allWays");
  all_->setText(tr("All ways"));
  all_->setCheckable(true);
  all_->setToolTip(tr("Every way to bracket, with its figures"));
  row->addWidget(times_, 1);
  row->addWidget(all_, 0, Qt::AlignVCenter);
  connect(all_, &QToolButton::toggled, this, &FramesSheet::refresh);
  return whole;
}

void FramesSheet::buildTable() {
  table_ = new QTableWidget(0, 7);
  table_->setObjectName("comparison");
  table_->setHorizontalHeaderLabels(
      {tr("Way to bracket"), tr("Frames"), tr("Covers"), tr("Least SNR"), tr("Overlap"), tr("Seconds"), tr("MB")});
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setMinimumSectionSize(18);
  table_->verticalHeader()->setDefaultSectionSize(grown(24));
  table_->horizontalHeader()->setFont(uiFont(8));
  table_->setFont(uiFont(9));
  table_->setShowGrid(false);
  table_->setTabKeyNavigation(false);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  const int widths[] = {0, 150, 104, 70, 52, 54, 36};
  table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  for (int i = 1; i < 7; ++i) {
    table_->horizontalHeader()->setSectionResizeMode(i, QHeaderView::Fixed);
    table_->setColumnWidth(i, grown(widths[i]));
  }
  const char* tips[] = {"",
                        QT_TR_NOOP("How many are fired, from the shortest to the longest time"),
                        QT_TR_NOOP("The readings that must keep texture, or what is missing, in stops"),
                        QT_TR_NOOP("Least SNR of all frames together, and where"),
                        QT_TR_NOOP("Least stretch that neighbouring frames both record, in stops"),
                        QT_TR_NOOP("Time on site: timer, exposures, gaps"),
                        QT_TR_NOOP("Space on the card")};
  for (int i = 0; i < 7; ++i) {
    table_->horizontalHeaderItem(i)->setTextAlignment((i < 3 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    table_->horizontalHeaderItem(i)->setToolTip(tr(tips[i]));
  }
  table_->setAccessibleName(tr("Ways to bracket this scene"));
  connect(table_, &QTableWidget::cellActivated, this, [this](int row, int) {
    frames_.chooseWay(table_->item(row, 0)->data(Qt::UserRole).toString().toStdString());
  });
  connect(table_, &QTableWidget::cellClicked, table_, &QTableWidget::cellActivated);
}

/// What to set on the camera, and what to watch for.
QWidget* FramesSheet::buildSide() {
  auto* side = new QWidget;
  side->setFixedWidth(grown(262, 0.6));
  auto* right = new QVBoxLayout(side);
  right->setContentsMargins(0, 0, 0, 0);
  right->setSpacing(6);
  auto* heading = label("settingsTitle", true, 9);
  heading->setText(tr("On the camera, in this order"));
  right->addWidget(heading);
  settings_ = new QTableWidget(0, 2);
  settings_->setObjectName("settings");
  settings_->horizontalHeader()->hide();
  settings_->verticalHeader()->hide();
  settings_->verticalHeader()->setMinimumSectionSize(18);
  settings_->verticalHeader()->setDefaultSectionSize(grown(19));
  settings_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  settings_->setFont(uiFont(9));
  settings_->setShowGrid(false);
  settings_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  settings_->setSelectionMode(QAbstractItemView::NoSelection);
  settings_->setFocusPolicy(Qt::NoFocus);
  settings_->horizontalHeader()->setStretchLastSection(true);
  settings_->setColumnWidth(0, grown(92));
  right->addWidget(settings_, 3);
  warnings_ = label("warnings", false, 9);
  right->addWidget(warnings_);
  shots_ = label("shotCount", true, 9);
  right->addWidget(shots_);
  chart_ = new SnrChart;
  right->addWidget(chart_, 2);
  return side;
}

void FramesSheet::setTheme(const Theme& theme) {
  ways_->setTheme(theme);
  chart_->setTheme(theme);
}

void FramesSheet::refresh() {
  const bool planned = frames_.desk().hasView() && frames_.desk().view().plan.has_value() && frames_.comparison();
  body_->setVisible(planned);
  empty_->setVisible(!planned);
  if (!planned) return;
  refreshTable();
  refreshSettings();
}

void FramesSheet::refreshTable() {
  const Comparison& c = *frames_.comparison();
  const auto& ways = frames_.ways();
  const Plan& plan = *frames_.desk().view().plan;
  QStringList times;
  for (const auto& frame : plan.frames) times << text(print(frame.time));
  times_->setText(times.join(QString("  \u00b7  ")));
  times_->setFont(uiFont(times.size() > 5 ? 12 : 19, true));
  const bool all = all_->isChecked();
  table_->setVisible(all);
  ways_->setVisible(!all);
  const MustKeep wanted = plan.request.mustKeep();
  ways_->show(mostWeighed(ways), scaleOf(mostWeighed(ways)), {wanted.low.value, wanted.high.value});
  const QSignalBlocker quiet(table_);
  table_->clearSelection();
  table_->setRowCount(int(ways.size()));
  const Way* shown = nullptr;
  for (int r = 0; r < int(ways.size()); ++r) {
    const Way& way = ways[std::size_t(r)];
    const auto cells = cellsOf(way);
    for (int i = 0; i < int(cells.size()); ++i) {
      auto* item = new QTableWidgetItem(cells[std::size_t(i)].text);
      item->setTextAlignment(cells[std::size_t(i)].alignment);
      item->setToolTip(way.also.isEmpty() ? way.why
                                          : way.why + "\n" + tr("The same here: %1.").arg(way.also.join(", ")));
      item->setData(Qt::UserRole, text(way.id));
      if (way.recommended) item->setFont(uiFont(9, true));
      table_->setItem(r, i, item);
    }
    if (way.chosen) table_->selectRow(r), shown = &way;
  }
  QStringList lines;
  lines << (shown && !shown->recommended && shown->id != "own"
                ? tr("%1: %2").arg(shown->name, text(shown->figures->difference))
                : text(c.reason));
  lines << text(c.extraFrames);
  lines.removeAll(QString());
  answer_->setText(lines.join('\n'));
}

void FramesSheet::refreshSettings() {
  const auto list = frames_.settingsToMake();
  settings_->setRowCount(int(list.size()));
  for (int i = 0; i < int(list.size()); ++i) {
    auto* name = new QTableWidgetItem(text(list[std::size_t(i)].name));
    auto* value = new QTableWidgetItem(text(list[std::size_t(i)].value));
    value->setFont(uiFont(9, true));
    name->setToolTip(text(list[std::size_t(i)].why));
    value->setToolTip(text(list[std::size_t(i)].why));
    settings_->setItem(i, 0, name);
    settings_->setItem(i, 1, value);
  }
  const auto warnings = frames_.warnings();
  QStringList lines;
  for (std::size_t i = 0; i < std::min<std::size_t>(warnings.size(), 2); ++i) lines << text(warnings[i]);
  if (warnings.size() > 2) lines << tr("and %1 more on the field card").arg(warnings.size() - 2);
  warnings_->setText(lines.join('\n'));
  warnings_->setVisible(!warnings.empty());
  const auto shots = frames_.shots();
  shots_->setText(shots ? tr("%1 frames in %2 %3, %4 s, %5 MB%6")
                              .arg(shots->shots.size())
                              .arg(shots->count())
                              .arg(shots->count() == 1 ? tr("set") : tr("sets"))
                              .arg(shots->time.value, 0, 'f', 1)
                              .arg(shots->megabytes, 0, 'f', 0)
                              .arg(shots->count() > 1 ? tr("; %1 megapixels together").arg(shots->megapixels, 0, 'f', 0)
                                                      : QString())
                        : QString());
  const Plan& plan = *frames_.desk().view().plan;
  const MustKeep wanted = plan.request.mustKeep();
  chart_->show(snrCurve(SensorModel(plan.camera), plan.frames, {wanted.low.value - 2}, {wanted.high.value + 1.5}, 0.05),
               wanted);
}

} // namespace ml
