// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/logbook_page.h"

#include "app/language.h"
#include "app/log_pages.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QTabWidget>
#include <QTextBrowser>
#include <QTextEdit>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr int kListWidth = 330;

QString rowWords(const LogRow& row) {
  QStringList second{LogbookPage::tr("%1 views").arg(row.views)};
  if (row.frames > 0) second << LogbookPage::tr("%1 frames").arg(row.frames);
  if (row.repeats > 0) second << LogbookPage::tr("%1 shot again").arg(row.repeats);
  if (row.faults == 1) second << LogbookPage::tr("one fault");
  if (row.faults > 1) second << LogbookPage::tr("%1 faults").arg(row.faults);
  return shownDate(row.date) + "  " + text(row.name) + (row.place.empty() ? QString() : ", " + text(row.place)) + "\n" +
         second.join(" · ");
}

} // namespace

LogbookPage::LogbookPage(Workbench& workbench, QWidget* parent)
    : QFrame(parent), workbench_(workbench), model_(workbench.logbook) {
  setObjectName("logbookPage");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(14, 8, 14, 8);
  column->setSpacing(8);
  column->addWidget(buildSearch());
  auto* middle = new QHBoxLayout;
  middle->setSpacing(12);
  visits_ = new QListWidget;
  visits_->setObjectName("logVisits");
  visits_->setAccessibleName(tr("Visits"));
  visits_->setFixedWidth(grown(kListWidth));
  visits_->setWordWrap(true);
  middle->addWidget(visits_);
  tabs_ = new QTabWidget;
  tabs_->setObjectName("logTabs");
  tabs_->addTab(buildVisit(), tr("The visit"));
  tabs_->addTab(buildLearnt(), tr("What it has learnt"));
  tabs_->addTab(buildCharts(), tr("Charts"));
  middle->addWidget(tabs_, 1);
  column->addLayout(middle, 1);
  column->addWidget(buildTools());
  connect(visits_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (!filling_ && row >= 0 && row < int(model_.rows().size())) model_.show(model_.rows()[std::size_t(row)].id);
  });
  connect(visits_, &QListWidget::itemActivated, this, [this] { open_->click(); });
  connect(&model_, &LogbookModel::learnt, this, &LogbookPage::showLearnt);
  connect(&model_, &LogbookModel::yearRead, this, [this](const std::vector<LogEntry>& entries) {
    const QString year = year_->currentIndex() > 0 ? year_->currentText() : tr("all");
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Year as a PDF"), tr("logbook-%1.pdf").arg(year), tr("PDF (*.pdf)"));
    if (file.isEmpty()) return;
    if (workbench_.desk.notices.check(writeLogPdf(entries, model_.lessons(), file.toStdString())))
      workbench_.desk.notices.tell((entries.size() == 1 ? tr("One visit is in %1.").arg(file)
                                                        : tr("%1 visits are in %2.").arg(entries.size()).arg(file)));
  });
}

QWidget* LogbookPage::buildSearch() {
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(8);
  words_ = new QLineEdit;
  words_->setObjectName("logWords");
  words_->setPlaceholderText(tr("Words that stand in it: a place, a lesson, a fault..."));
  words_->setAccessibleName(tr("Words to look for"));
  words_->setClearButtonEnabled(true);
  const auto combo = [](const char* name, const QString& what) {
    auto* made = new QComboBox;
    made->setObjectName(name);
    made->setAccessibleName(what);
    made->setMinimumWidth(grown(120));
    return made;
  };
  tag_ = combo("logTag", tr("Tag"));
  year_ = combo("logYear", tr("Year"));
  order_ = combo("logOrder", tr("Order"));
  order_->addItems({tr("newest first"), tr("oldest first"), tr("by name"), tr("longest first")});
  faults_ = new QCheckBox(tr("something was wrong"));
  faults_->setObjectName("logFaults");
  row->addWidget(words_, 1);
  for (QWidget* w : std::initializer_list<QWidget*>{tag_, year_, faults_, order_}) row->addWidget(w);
  connect(words_, &QLineEdit::textChanged, this, &LogbookPage::search);
  for (QComboBox* c : {tag_, year_, order_}) connect(c, &QComboBox::activated, this, &LogbookPage::search);
  connect(faults_, &QCheckBox::toggled, this, &LogbookPage::search);
  return box;
}

QWidget* LogbookPage::buildVisit() {
  auto* box = new QWidget;
  auto* column = new QVBoxLayout(box);
  page_ = new QTextBrowser;
  page_->setObjectName("logPage");
  page_->setAccessibleName(tr("The visit"));
  page_->setOpenLinks(false);
  page_->setFrameShape(QFrame::NoFrame);
  column->addWidget(page_, 1);
  auto* row = new QHBoxLayout;
  tags_ = new QLineEdit;
  tags_->setObjectName("logTags");
  tags_->setAccessibleName(tr("Tags"));
  tags_->setPlaceholderText(tr("Tags, with commas between"));
  tags_->setFixedWidth(grown(220));
  lesson_ = new QTextEdit;
  lesson_->setObjectName("logLesson");
  lesson_->setAccessibleName(tr("Learnt"));
  lesson_->setPlaceholderText(tr("What to do better next time"));
  lesson_->setFixedHeight(grown(54));
  lesson_->setTabChangesFocus(true);
  keep_ = new QPushButton(tr("Keep"));
  keep_->setObjectName("logKeep");
  keep_->setToolTip(tr("Tags and lesson, in the job's own folder"));
  keep_->setProperty("role", "small");
  row->addWidget(tags_);
  row->addWidget(lesson_, 1);
  row->addWidget(keep_);
  column->addLayout(row);
  connect(keep_, &QPushButton::clicked, this, &LogbookPage::keepWords);
  return box;
}

QWidget* LogbookPage::buildLearnt() {
  auto* box = new QWidget;
  auto* column = new QVBoxLayout(box);
  lessons_ = new QListWidget;
  lessons_->setObjectName("logLessons");
  lessons_->setAccessibleName(tr("What the logbook has learnt"));
  lessons_->setWordWrap(true);
  lessons_->setFont(uiFont(11));
  cases_ = new QListWidget;
  cases_->setObjectName("logCases");
  cases_->setAccessibleName(tr("The views behind it"));
  cases_->setFixedHeight(grown(170));
  auto* label = new QLabel(tr("The views behind the sentence that is chosen"));
  label->setProperty("role", "quiet");
  start_ = new QPushButton(tr("Keep where my finishes end as a starting point"));
  start_->setObjectName("logOwnStart");
  start_->setProperty("role", "small");
  start_->setToolTip(tr("A look of your own, among the looks at Finish"));
  connect(start_, &QPushButton::clicked, this, [this] { model_.keepOwnStart(tr("My starting point")); });
  column->addWidget(lessons_, 1);
  column->addWidget(start_, 0, Qt::AlignLeft);
  column->addWidget(label);
  column->addWidget(cases_);
  connect(lessons_, &QListWidget::currentRowChanged, this, [this](int row) {
    cases_->clear();
    if (row < 0 || row >= int(model_.lessons().size())) return;
    for (const auto& from : model_.lessons()[std::size_t(row)].cases) {
      auto* item = new QListWidgetItem(text(from.date + "  " + from.name));
      item->setData(Qt::UserRole, qlonglong(from.visit));
      cases_->addItem(item);
    }
  });
  connect(cases_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    model_.show(item->data(Qt::UserRole).toLongLong());
    tabs_->setCurrentIndex(0);
  });
  return box;
}

QWidget* LogbookPage::buildCharts() {
  auto* box = new QWidget;
  auto* column = new QVBoxLayout(box);
  for (const LogChart chart : kLogCharts) {
    charts_.push_back(new LogChartView(chart));
    column->addWidget(charts_.back(), 1);
  }
  svg_ = new QPushButton(tr("As SVG..."));
  svg_->setObjectName("logSvg");
  svg_->setProperty("role", "small");
  column->addWidget(svg_, 0, Qt::AlignRight);
  connect(svg_, &QPushButton::clicked, this, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for the charts"));
    if (folder.isEmpty()) return;
    static constexpr const char* kNames[] = {"pace", "ranges", "hand"};
    for (const LogChart chart : kLogCharts)
      if (!writeLogChart(folder + "/" + kNames[int(chart)] + ".svg", chart, model_.cases()))
        return workbench_.desk.notices.fail(tr("%1 cannot be written; choose another folder.").arg(folder));
    workbench_.desk.notices.tell(tr("Three charts are in %1.").arg(folder));
  });
  return box;
}

QWidget* LogbookPage::buildTools() {
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(8);
  const auto button = [&](const char* name, const QString& words, const char* role) {
    auto* made = new QPushButton(words);
    made->setObjectName(name);
    made->setProperty("role", role);
    row->addWidget(made);
    return made;
  };
  rebuild_ = button("logRebuild", tr("Read all jobs again"), "small");
  rebuild_->setToolTip(tr("The logbook is an index: what it says lies in the jobs"));
  row->addStretch();
  export_ = button("logExport", tr("Export"), "small");
  auto* menu = new QMenu(export_);
  menu->addAction(tr("Table (CSV)..."), this, [this] { exportAs("csv", "csv"); });
  menu->addAction(tr("Everything (JSON)..."), this, [this] { exportAs("json", "json"); });
  menu->addAction(tr("Pages (Markdown)..."), this, [this] { exportAs("markdown", "md"); });
  menu->addAction(tr("Year (PDF)..."), this,
                  [this] { model_.readYear(year_->currentIndex() > 0 ? year_->currentText() : QString()); });
  export_->setMenu(menu);
  open_ = button("logOpenJob", tr("Open the job"), "next");
  connect(rebuild_, &QPushButton::clicked, &model_, &LogbookModel::rebuild);
  connect(open_, &QPushButton::clicked, this, [this] {
    if (model_.entry()) emit jobWanted(text(model_.entry()->folder));
  });
  return box;
}

void LogbookPage::search() {
  if (filling_) return;
  LogQuery query;
  query.words = words_->text().toStdString();
  if (tag_->currentIndex() > 0) query.tag = tag_->currentText().toStdString();
  if (year_->currentIndex() > 0) query.year = year_->currentText().toStdString();
  query.withFaults = faults_->isChecked();
  query.order = LogOrder(std::max(0, order_->currentIndex()));
  model_.search(query);
}

void LogbookPage::exportAs(const QString& format, const QString& ending) {
  const QString file = QFileDialog::getSaveFileName(this, tr("Export"), "logbook." + ending);
  if (!file.isEmpty()) model_.exportTo(file, format);
}

/// Words of a hand lie in the job; the logbook follows.
void LogbookPage::keepWords() {
  const LogEntry* entry = model_.entry();
  if (!entry) return;
  std::vector<std::string> tags;
  for (const QString& tag : tags_->text().split(',', Qt::SkipEmptyParts))
    if (!tag.trimmed().isEmpty()) tags.push_back(tag.trimmed().toStdString());
  model_.keepWords(entry->folder, tags, lesson_->toPlainText().trimmed().toStdString(), workbench_.visit);
}

void LogbookPage::showEntry() {
  const LogEntry* entry = model_.entry();
  tags_->setEnabled(entry);
  lesson_->setEnabled(entry);
  keep_->setEnabled(entry);
  open_->setEnabled(entry);
  if (!entry)
    return page_->setHtml(tr("<p>Choose a visit at the left. Every job you work on is written down by itself: light, "
                             "plan, what was shot again and why, faults, times, finish.</p>"));
  if (model_.entryId() != shown_ || !lesson_->hasFocus()) {
    QStringList tags;
    for (const auto& tag : entry->tags) tags << text(tag);
    tags_->setText(tags.join(", "));
    lesson_->setPlainText(text(entry->lesson));
  }
  const QString html = logPageHtml(*entry);
  if (html == html_) return;
  html_ = html;
  page_->setHtml(html);
  shown_ = model_.entryId();
}

void LogbookPage::showLearnt() {
  lessons_->clear();
  for (const auto& lesson : model_.lessons()) lessons_->addItem(text(lesson.sentence));
  if (lessons_->count() == 0) {
    auto* item = new QListWidgetItem(tr("Nothing is learnt yet: a figure needs ten cases."));
    item->setFlags(Qt::NoItemFlags);
    lessons_->addItem(item);
  }
  for (LogChartView* chart : charts_) chart->show(model_.cases());
  start_->setEnabled(!ownStart(model_.cases()).empty());
}

void LogbookPage::refresh() {
  filling_ = true;
  const auto fill = [](QComboBox* box, const QString& all, const std::vector<std::string>& entries) {
    const QString chosen = box->currentIndex() > 0 ? box->currentText() : QString();
    box->clear();
    box->addItem(all);
    for (const auto& entry : entries) box->addItem(text(entry));
    box->setCurrentIndex(std::max(0, chosen.isEmpty() ? 0 : box->findText(chosen)));
  };
  fill(tag_, tr("any tag"), model_.tags());
  fill(year_, tr("any year"), model_.years());
  const auto& rows = model_.rows();
  if (visits_->count() != int(rows.size())) visits_->clear();
  for (int i = 0; i < int(rows.size()); ++i) {
    if (i >= visits_->count()) visits_->addItem(QString());
    visits_->item(i)->setText(rowWords(rows[std::size_t(i)]));
    if (rows[std::size_t(i)].id == model_.entryId()) visits_->setCurrentRow(i);
  }
  filling_ = false;
  rebuild_->setEnabled(!model_.busy());
  export_->setEnabled(!rows.empty());
  showEntry();
}

void LogbookPage::setTheme(const Theme& theme) {
  for (LogChartView* chart : charts_) chart->setTheme(theme);
}

} // namespace ml
