// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/main_window.h"

#include "app/monitor_colour.h"
#include "app/position_map.h"
#include "app/preferences.h"
#include "app/printing.h"
#include "app/sheets.h"
#include "app/sort_sheet.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QMimeData>
#include <QPrinter>
#include <QPushButton>
#include <QScreen>
#include <QSettings>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWindow>

namespace ml {

namespace {

constexpr int kBenchHeight = 152;
constexpr QSize kUsualSize{1280, 800}, kSmallestSize{1240, 640};

QVBoxLayout* tight(QWidget* widget) {
  auto* column = new QVBoxLayout(widget);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  return column;
}

} // namespace

QRect firstPlace(const QRect& free) {
  constexpr int kSide = 2, kTitle = 40; // what a frame takes, before there is one to measure
  const QRect inside = free.adjusted(kSide, kTitle, -kSide, -kSide);
  QRect place(QPoint(), kUsualSize.boundedTo(inside.size()));
  place.moveCenter(inside.center());
  return place;
}

MainWindow::MainWindow(std::filesystem::path jobsFolder, QWidget* parent)
    : QMainWindow(parent), jobsFolder_(std::move(jobsFolder)), workbench_(jobsFolder_) {
  setWindowTitle(tr("Mellow Lantern"));
  setAcceptDrops(true);
  setMinimumSize(kSmallestSize);
  takePlace();
  left_ = new LeftColumn(workbench_);
  ladder_ = new LadderWidget;
  verdict_ = new VerdictBar;
  picture_ = new PictureView;
  allViews_ = new AllViewsSheet(workbench_);
  visit_ = new VisitPage(workbench_);
  logbook_ = new LogbookPage(workbench_);
  practice_ = new PracticePage(workbench_);
  pathBar_ = new PathBar(path_);
  welcome_ = new Welcome;
  picture_->setEmptyText({}, tr("Here the picture will be."));
  buildStations();
  buildHeader();
  buildCommands();
  layOut();
  connectPicture();
  connectWork();
  takePreferences();
  refresh();
  workbench_.logbook.open(); // pace and hand go into plans
  qApp->installEventFilter(this);
  welcome_->refresh(); // the first key is for what it offers
}

/// A field that loses the keyboard says its last word: while there is a workbench to hear it.
MainWindow::~MainWindow() {
  if (QWidget* field = focusWidget()) field->clearFocus();
  hide();
}

/// Where it was, as far as that lies on a screen.
void MainWindow::takePlace() {
  if (!restoreGeometry(QSettings().value("window").toByteArray()))
    setGeometry(firstPlace(screen()->availableGeometry()));
}

void MainWindow::takePreferences() {
  setTheme(Preferences::theme() == "paper" ? Theme::paper() : Theme::dusk());
  Habits& habits = workbench_.desk.habits;
  habits.shadows = Preferences::shadows();
  habits.feet = Preferences::feet();
  habits.webEdge = Preferences::webEdge();
}

void MainWindow::buildStations() {
  faces_ = makeStations(workbench_);
  middle_ = new QStackedWidget;
  middle_->addWidget(picture_);
  benches_ = new QStackedWidget;
  for (const StationFace& face : faces_) {
    benches_->addWidget(face.bench);
    if (face.sheet) middle_->addWidget(face.sheet);
  }
  benches_->setFixedHeight(grown(kBenchHeight));
}

void MainWindow::layOut() {
  pages_ = new QStackedWidget;
  pages_->addWidget(middle_);
  pages_->addWidget(allViews_);
  pages_->addWidget(welcome_);
  ownPages_ = {withinReach(visit_), withinReach(logbook_), withinReach(practice_)};
  for (QWidget* page : ownPages_) pages_->addWidget(page);
  auto* seen = new QVBoxLayout;
  seen->setSpacing(0);
  seen->addWidget(pathBar_);
  seen->addWidget(verdict_);
  seen->addWidget(pages_, 1);
  auto* above = new QHBoxLayout;
  above->setSpacing(0);
  above->addWidget(ladder_);
  above->addLayout(seen, 1);
  auto* right = new QVBoxLayout;
  right->setSpacing(0);
  right->addLayout(above, 1);
  right->addWidget(benches_);
  auto* body = new QHBoxLayout;
  body->setSpacing(0);
  body->addWidget(left_);
  body->addLayout(right, 1);
  auto* central = new QWidget;
  auto* whole = tight(central);
  whole->addWidget(header_);
  whole->addLayout(body, 1);
  setCentralWidget(central);
}

/// What the hand does on the picture is the station's.
void MainWindow::connectPicture() {
  const auto station = [this]() -> StationModel& { return workbench_.station(); };
  connect(picture_, &PictureView::clicked, this, [station](QPointF at) { station().click(at); });
  connect(picture_, &PictureView::strokePainted, this,
          [station](const QPolygonF& stroke) { station().stroke(stroke); });
  connect(picture_, &PictureView::dragBegan, this, [station](QPointF at) { station().dragBegins(at); });
  connect(picture_, &PictureView::dragged, this, [station](QPointF at) { station().drag(at); });
  connect(picture_, &PictureView::dragEnded, this, [station](QPointF at) { station().dragEnds(at); });
  connect(picture_, &PictureView::detailWanted, this, [station](const QRectF& part) { station().showDetail(part); });
  connect(picture_, &PictureView::zoomChanged, this, &MainWindow::refreshHeader);
  connect(picture_, &PictureView::menuWanted, this, &MainWindow::pictureMenu);
  for (StationModel* s : workbench_.path())
    connect(s, &StationModel::detailDrawn, this, [this, s](const QImage& part, const QRectF& place) {
      if (s == &workbench_.station()) picture_->setDetail(part, place);
    });
  connect(ladder_, &LadderWidget::frameChosen, &workbench_.shoot, &ShootModel::showFrame);
  connect(ladder_, &LadderWidget::tieDragged, &workbench_.finish, &FinishModel::pullTie);
}

void MainWindow::connectWork() {
  connect(left_, &LeftColumn::stationChosen, this, [this](int station) {
    showAllViews(false);
    workbench_.goTo(station);
  });
  connect(left_, &LeftColumn::allViewsWanted, this, &MainWindow::showAllViews);
  connect(allViews_, &AllViewsSheet::viewOpened, this, [this](int index) {
    showAllViews(false);
    workbench_.selectView(index);
  });
  connect(welcome_, &Welcome::demoWanted, this, &MainWindow::openDemo);
  connect(welcome_, &Welcome::framesWanted, this, &MainWindow::chooseFrames);
  connect(welcome_, &Welcome::jobWanted, this, &MainWindow::goOnWith);
  connect(&workbench_, &Workbench::changed, this, &MainWindow::refresh);
  connect(&workbench_, &Workbench::viewsChanged, this, [this] {
    left_->refresh(page_ == Page::AllViews, page_ == Page::Station);
    if (page_ != Page::AllViews) return;
    verdict_->show(workbench_.views.verdict(), {});
    allViews_->refresh();
  });
  connect(&workbench_.visit, &VisitModel::changed, this, [this] {
    if (page_ == Page::Visit) refreshPage();
  });
  connect(&workbench_.logbook, &LogbookModel::changed, this, [this] {
    if (page_ == Page::Logbook) refreshPage();
  });
  connect(&workbench_.practice, &PracticeModel::changed, this, [this] {
    if (page_ == Page::Practice) refreshPage();
  });
  connect(logbook_, &LogbookPage::jobWanted, this, [this](const QString& folder) {
    showPage(Page::Station);
    openPaths({folder});
  });
  connect(practice_, &PracticePage::firstPathWanted, this, [this] {
    if (path_.begin()) showPage(Page::Station);
  });
  connect(&workbench_.desk.job, &JobModel::closing, &path_, [this] {
    if (path_.running()) path_.end();
  });
  connect(&workbench_, &Workbench::pictureChanged, this, &MainWindow::refreshPicture);
  connect(&workbench_.deliver, &DeliverModel::sheetDrawn, this, &MainWindow::saveSheet);
  connect(&workbench_.opening, &JobOpening::sorted, this, &MainWindow::sortFrames);
  connect(&workbench_.opening, &JobOpening::viewRead, this, &MainWindow::restore, Qt::QueuedConnection);
  const Notices& notices = workbench_.desk.notices;
  connect(&notices, &Notices::failed, verdict_, &VerdictBar::complain);
  connect(&notices, &Notices::told, verdict_, &VerdictBar::complain);
  const Lane& work = workbench_.desk.works.longWork;
  connect(verdict_, &VerdictBar::stopRequested, &workbench_, &Workbench::stopWork);
  connect(&work, &Lane::progressed, verdict_, &VerdictBar::setProgress);
  connect(&work, &Lane::runningChanged, this, [this](bool busy) {
    verdict_->setBusy(busy);
    if (busy) verdict_->forgive();
    if (!busy && !isActiveWindow()) QApplication::alert(this); // the desktop shows that something ended
  });
}

void MainWindow::buildHeader() {
  header_ = new QFrame;
  header_->setObjectName("header");
  header_->setFixedHeight(grown(49, 0.5));
  auto* row = new QHBoxLayout(header_);
  row->setContentsMargins(12, 6, 16, 6);
  row->setSpacing(8);
  menu_ = new QToolButton;
  menu_->setObjectName("menu");
  menu_->setText(tr("Job"));
  menu_->setPopupMode(QToolButton::InstantPopup);
  menu_->setMenu(new QMenu(menu_));
  const auto label = [](const char* name, bool bold) {
    auto* made = new QLabel;
    made->setObjectName(name);
    made->setFont(uiFont(11, bold));
    if (!bold) made->setProperty("role", "quiet");
    return made;
  };
  jobName_ = label("jobName", true);
  viewName_ = label("viewName", false);
  reading_ = label("onlyLooking", false);
  reading_->setProperty("role", "tag");
  reading_->setFont(uiFont(9));
  zoom_ = label("zoomFigure", false);
  zoom_->setFont(uiFont(9));
  const auto plain = [](const QString& name, const QString& text, const QString& tip) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setText(text);
    button->setToolTip(tip);
    button->setProperty("role", "plain");
    return button;
  };
  undo_ = plain("undo", tr("Undo"), {});
  redo_ = plain("redo", tr("Redo"), {});
  size_ = plain("actualSize", tr("100 %"),
                tr("Pixel by pixel, or the whole picture (P); the wheel enlarges at the pointer"));
  size_->setCheckable(true);
  row->addWidget(menu_);
  row->addSpacing(8);
  row->addWidget(jobName_);
  row->addWidget(viewName_);
  row->addWidget(reading_);
  row->addStretch();
  const auto page = [&](const QString& name, const QString& text, const QString& tip, Page shown) {
    auto* button = plain(name, text, tip);
    button->setCheckable(true);
    row->addWidget(button);
    pageButtons_.push_back(button);
    connect(button, &QToolButton::clicked, this, [this, shown] { showPage(page_ == shown ? Page::Station : shown); });
  };
  page("visitPageButton", tr("Visit"), tr("Where and when, and the order of the views by the sun (V)"), Page::Visit);
  page("logbookPageButton", tr("Logbook"), tr("All visits, and what they have taught (L)"), Page::Logbook);
  page("practicePageButton", tr("Practice room"), tr("Exercises with the simulated camera (E)"), Page::Practice);
  row->addSpacing(14);
  row->addWidget(zoom_);
  row->addWidget(size_);
  row->addWidget(undo_);
  row->addWidget(redo_);
  connect(undo_, &QToolButton::clicked, &workbench_, &Workbench::undo);
  connect(redo_, &QToolButton::clicked, &workbench_, &Workbench::redo);
  connect(size_, &QToolButton::clicked, picture_, &PictureView::toggleActualSize);
}

void MainWindow::setTheme(const Theme& theme) {
  theme_ = &theme;
  setFont(uiFont(10));
  setStyleSheet(theme.styleSheet());
  left_->setTheme(theme);
  ladder_->setTheme(theme);
  verdict_->setTheme(theme);
  picture_->setTheme(theme);
  allViews_->setTheme(theme);
  visit_->setTheme(theme);
  logbook_->setTheme(theme);
  practice_->setTheme(theme);
  for (const StationFace& face : faces_)
    if (face.sheet) face.sheet->setTheme(theme);
  for (PositionMap* map : findChildren<PositionMap*>()) map->setTheme(theme);
  QSettings().setValue("theme", theme.name);
}

void MainWindow::showPage(Page page) {
  const bool needsJob = page == Page::AllViews || page == Page::Visit;
  page_ = needsJob && !workbench_.hasView() ? Page::Station : page;
  workbench_.chronicle.keep();
  if (page_ == Page::Logbook) workbench_.logbook.open();
  if (page_ == Page::Practice) practice_->refresh();
  refresh();
  if (page_ == Page::AllViews) allViews_->setFocus();
}

/// The page beside the way that is shown.
void MainWindow::refreshPage() {
  switch (page_) {
  case Page::Station: return;
  case Page::AllViews:
    verdict_->show(workbench_.views.verdict(), tr("A double click opens a view; Ctrl chooses several."));
    return allViews_->refresh();
  case Page::Visit:
    verdict_->show(
        workbench_.visit.verdict(),
        tr("Views go into the light they want, in the order that takes least time; a view waits only for its "
           "light. Without views that find no time the rest stays as it is."));
    return visit_->refresh();
  case Page::Logbook:
    verdict_->show(workbench_.logbook.verdict(),
                   tr("The logbook is an index of what lies in the jobs; nothing leaves this machine. Simulated "
                      "views are not counted in what is learnt."));
    return logbook_->refresh();
  case Page::Practice:
    verdict_->show(workbench_.practice.verdict(),
                   tr("Scores: a third of a stop is right, two stops are nothing; 70 points pass."));
    return practice_->refresh();
  }
}

// ---- Jobs

void MainWindow::openDemo() {
  showAllViews(false);
  workbench_.opening.openDemo(jobsFolder_);
}

void MainWindow::openPaths(const QStringList& paths) {
  if (paths.isEmpty()) return;
  showAllViews(false);
  const std::filesystem::path first = paths.front().toStdString();
  std::error_code error;
  if (paths.size() == 1 && std::filesystem::exists(first / "job.json", error))
    workbench_.opening.openJob(first);
  else
    workbench_.opening.takeFiles(paths, jobsFolder_);
}

void MainWindow::goOnWith(const QString& job) {
  const QSettings kept;
  const bool last = kept.value("lastJob").toString() == job;
  if (last) restore_ = Left{kept.value("lastStation").toString(), kept.value("lastEnlarged").toBool()};
  if (!workbench_.opening.openJob(job.toStdString(), last ? kept.value("lastView").toString().toStdString() : ""))
    restore_.reset();
}

/// When what the view needs is read.
void MainWindow::restore() {
  if (!restore_) return;
  const Left left = *std::exchange(restore_, {});
  if (!left.station.isEmpty()) workbench_.goTo(left.station);
  if (left.enlarged && !picture_->actualSize()) picture_->toggleActualSize();
}

void MainWindow::sortFrames(const Grouping& grouping, const QString& name, const QString& jobs) {
  auto* sheet = new SortSheet(grouping, *theme_, this);
  sheet->setAttribute(Qt::WA_DeleteOnClose);
  connect(sheet, &QDialog::accepted, this, [this, sheet, name, jobs] {
    workbench_.opening.takeSorted(sheet->grouping(), name.toStdString(), jobs.toStdString());
    workbench_.views.combineMissing();
  });
  sheet->open();
}

void MainWindow::chooseFrames() {
  openPaths(QFileDialog::getOpenFileNames(this, tr("Frames of one or more brackets"),
                                          QStandardPaths::writableLocation(QStandardPaths::PicturesLocation)));
}

void MainWindow::chooseJob() {
  const QString folder =
      QFileDialog::getExistingDirectory(this, tr("Job folder"), QString::fromStdString(jobsFolder_.string()));
  if (!folder.isEmpty()) openPaths({folder});
}

/// After a crash the next start offers it.
void MainWindow::rememberJob() {
  const QString folder = QString::fromStdString(workbench_.job().folder().string());
  QSettings kept;
  kept.setValue("lastView", QString::fromStdString(idOf(workbench_.view())));
  kept.setValue("lastStation", workbench_.station().id());
  if (folder == rememberedJob_) return;
  rememberedJob_ = folder;
  kept.setValue("lastJob", folder);
  RecentJobs::add(folder, QString::fromStdString(workbench_.job().name()));
  fillMenu();
}

// ---- What is shown

void MainWindow::refresh() {
  const bool open = workbench_.hasView();
  refreshHeader();
  if (!open && (page_ == Page::AllViews || page_ == Page::Visit)) page_ = Page::Station;
  left_->refresh(page_ == Page::AllViews, page_ == Page::Station);
  for (QWidget* part : {static_cast<QWidget*>(ladder_), static_cast<QWidget*>(benches_)})
    part->setVisible(open && page_ == Page::Station);
  QWidget* const shown[] = {open ? static_cast<QWidget*>(middle_) : welcome_, allViews_, ownPages_[0], ownPages_[1],
                            ownPages_[2]};
  pages_->setCurrentWidget(shown[int(page_)]);
  verdict_->showSentence(open || page_ != Page::Station);
  if (open) rememberJob();
  if (page_ != Page::Station) return refreshPage();
  if (!open) return;
  verdict_->show(workbench_.verdict(), workbench_.reasoning());
  ladder_->show(workbench_.ladder(), workbench_.shoot.shownFrame());
  const StationFace& face = faces_[std::size_t(workbench_.stationIndex())];
  benches_->setCurrentWidget(face.bench);
  face.bench->show();
  const bool sheet = face.sheet && face.sheet->wanted();
  middle_->setCurrentWidget(sheet ? static_cast<QWidget*>(face.sheet) : picture_);
  if (sheet) face.sheet->refresh();
  refreshMarks();
}

void MainWindow::refreshHeader() {
  const bool open = workbench_.hasView(), station = page_ == Page::Station;
  const bool picture = open && station && middle_->currentWidget() == picture_;
  for (std::size_t i = 0; i < pageButtons_.size(); ++i)
    pageButtons_[i]->setChecked(int(page_) == int(Page::Visit) + int(i));
  pageButtons_.front()->setEnabled(open);
  jobName_->setText(open ? QString::fromStdString(workbench_.job().name()) : tr("Mellow Lantern"));
  QString name = open && station ? QString::fromStdString(workbench_.view().name) : QString();
  const QString now = name.isEmpty() ? QString() : workbench_.visit.nowWords();
  if (!now.isEmpty()) name += "  ·  " + now.section(". ", 0, 0);
  constexpr int kNameWidth = 470;
  viewName_->setText(viewName_->fontMetrics().elidedText(name, Qt::ElideRight, kNameWidth));
  viewName_->setToolTip(now);
  const bool reading = workbench_.desk.reading();
  reading_->setVisible(reading);
  reading_->setText(tr("looking only"));
  reading_->setToolTip(reading ? text(whyOnlyReading(*workbench_.desk.job.lock())) : QString());
  for (QToolButton* b : {undo_, redo_}) b->setVisible(open && !reading);
  size_->setVisible(picture);
  zoom_->setVisible(picture && picture_->actualSize() && std::abs(picture_->zoom() - 1) > 0.005);
  size_->setChecked(picture_->actualSize());
  zoom_->setText(tr("%1 %").arg(100 * picture_->zoom(), 0, 'f', 0));
  undo_->setEnabled(workbench_.canUndo());
  redo_->setEnabled(workbench_.canRedo());
  const QUndoStack& stack = workbench_.desk.job.undoStack();
  undo_->setToolTip(workbench_.desk.job.canBringBack() ? tr("Bring the view back (Ctrl+Z)")
                                                       : tr("Undo %1 (Ctrl+Z)").arg(stack.undoText()));
  redo_->setToolTip(tr("Redo %1 (Ctrl+Shift+Z)").arg(stack.redoText()));
}

void MainWindow::refreshMarks() {
  picture_->setMarks(workbench_.hasView() ? workbench_.station().marks() : PictureMarks{});
}

void MainWindow::refreshPicture() {
  picture_->setPicture(workbench_.picture());
  refreshMarks();
}

void MainWindow::saveSheet(const std::vector<SheetPicture>& pictures) {
  const QString name = jobName_->text();
  if (std::exchange(printsSheet_, false))
    return preview(this, [&](QPrinter& paper) { (void)drawSheet(paper, name, pictures); });
  const QString file = QString::fromStdString((workbench_.job().folder() / "sheet.pdf").string());
  if (writeSheet(file, name, pictures))
    verdict_->complain(tr("The sheet is in %1.").arg(file));
  else
    verdict_->complain(tr("%1 cannot be written; free some space or choose another folder.").arg(file));
}

// ---- The hand

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  QStringList paths;
  for (const auto& url : event->mimeData()->urls())
    if (url.isLocalFile()) paths << url.toLocalFile();
  if (workbench_.busy()) return verdict_->complain(tr("Work is going on; stop it or wait before dropping frames."));
  openPaths(paths);
}

void MainWindow::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_B && !event->isAutoRepeat()) return workbench_.finished.hold(true);
  QMainWindow::keyPressEvent(event);
}

void MainWindow::keyReleaseEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_B && !event->isAutoRepeat()) return workbench_.finished.hold(false);
  QMainWindow::keyReleaseEvent(event);
}

bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
  const auto type = event->type();
  if ((type == QEvent::KeyPress || type == QEvent::MouseButtonPress || type == QEvent::MouseMove ||
       type == QEvent::Wheel) &&
      page_ == Page::Station && workbench_.hasView() && isActiveWindow())
    workbench_.chronicle.active(workbench_.station().id());
  return QMainWindow::eventFilter(watched, event);
}

/// Files may have gone or come, or the screen been measured, while another program was in front.
void MainWindow::changeEvent(QEvent* event) {
  QMainWindow::changeEvent(event);
  if (event->type() != QEvent::ActivationChange || !isActiveWindow()) return;
  takeMonitorColours();
  if (workbench_.hasView()) refresh();
}

void MainWindow::showEvent(QShowEvent* event) {
  QMainWindow::showEvent(event);
  takeMonitorColours();
  connect(windowHandle(), &QWindow::screenChanged, this, &MainWindow::takeMonitorColours, Qt::UniqueConnection);
}

void MainWindow::takeMonitorColours() {
  if (setMonitorProfile(profileOfScreen(screen()))) pages_->update();
}

void MainWindow::closeEvent(QCloseEvent* event) {
  QSettings kept;
  kept.setValue("window", saveGeometry());
  kept.setValue("lastEnlarged", picture_->actualSize());
  QMainWindow::closeEvent(event);
}

} // namespace ml
