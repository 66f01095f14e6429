// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/main_window.h"

#include "app/sheets.h"
#include "app/sort_sheet.h"

#include <QAction>
#include <QCloseEvent>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QScreen>
#include <QSettings>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {

namespace {

constexpr int kBenchHeight = 152;
constexpr QSize kUsualSize{1280, 800}, kSmallestSize{1240, 640};

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
  path_ = new StationPath;
  ladder_ = new LadderWidget;
  verdict_ = new VerdictBar;
  picture_ = new PictureView;
  picture_->setEmptyText(tr("Bracket the light, combine it, keep it natural."),
                         tr("Drop a folder of bracketed frames here.\nOr practise in the ferry house: a dark room, a "
                            "bright lake, a camera that costs nothing."));
  buildStations();
  welcome_ = buildWelcome();
  buildHeader();
  buildMenu();
  buildKeys();
  layOut();
  connectPicture();
  connectWork();
  setTheme(QSettings().value("theme").toString() == "paper" ? Theme::paper() : Theme::dusk());
  refresh();
}

/// Where it was, as far as that lies on a screen.
void MainWindow::takePlace() {
  if (!restoreGeometry(QSettings().value("window").toByteArray()))
    setGeometry(firstPlace(screen()->availableGeometry()));
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
  benches_->setFixedHeight(kBenchHeight);
}

QWidget* MainWindow::buildWelcome() {
  auto* welcome = new QFrame;
  welcome->setObjectName("bench");
  auto* row = new QHBoxLayout(welcome);
  auto* demo = new QPushButton(tr("Open the ferry house demo"));
  demo->setObjectName("openDemo");
  demo->setProperty("role", "next");
  auto* frames = new QPushButton(tr("Choose frames of your own..."));
  frames->setObjectName("chooseFrames");
  const QString last = QSettings().value("lastJob").toString();
  auto* goOn = new QPushButton(tr("Go on with %1").arg(QSettings().value("lastJobName").toString()));
  goOn->setObjectName("goOn");
  std::error_code missing;
  goOn->setVisible(!last.isEmpty() &&
                   std::filesystem::exists(std::filesystem::path(last.toStdString()) / "job.json", missing));
  row->addStretch();
  row->addWidget(goOn);
  row->addWidget(demo);
  row->addWidget(frames);
  row->addStretch();
  welcome->setFixedHeight(kBenchHeight);
  connect(demo, &QPushButton::clicked, this, &MainWindow::openDemo);
  connect(frames, &QPushButton::clicked, this, &MainWindow::chooseFrames);
  connect(goOn, &QPushButton::clicked, this, [this, last] { openPaths({last}); });
  demo->setFocus();
  return welcome;
}

void MainWindow::layOut() {
  auto* right = new QVBoxLayout;
  right->setSpacing(0);
  right->addWidget(verdict_);
  right->addWidget(middle_, 1);
  right->addWidget(benches_);
  right->addWidget(welcome_);
  auto* body = new QHBoxLayout;
  body->setSpacing(0);
  body->addWidget(path_);
  body->addWidget(ladder_);
  body->addLayout(right, 1);
  auto* whole = new QVBoxLayout;
  whole->setContentsMargins(0, 0, 0, 0);
  whole->setSpacing(0);
  whole->addWidget(header_);
  whole->addLayout(body, 1);
  auto* central = new QWidget;
  central->setLayout(whole);
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
  for (StationModel* s : workbench_.path()) connect(s, &StationModel::detailDrawn, picture_, &PictureView::setDetail);
  connect(ladder_, &LadderWidget::frameChosen, &workbench_.shoot, &ShootModel::showFrame);
  connect(ladder_, &LadderWidget::tieDragged, &workbench_.finish, &FinishModel::pullTie);
}

void MainWindow::connectWork() {
  connect(path_, &StationPath::chosen, &workbench_, qOverload<int>(&Workbench::goTo));
  connect(&workbench_, &Workbench::changed, this, &MainWindow::refresh);
  connect(&workbench_, &Workbench::pictureChanged, this, &MainWindow::refreshPicture);
  connect(&workbench_.deliver, &DeliverModel::sheetDrawn, this, &MainWindow::saveSheet);
  connect(&workbench_.opening, &JobOpening::sorted, this, &MainWindow::sortFrames);
  const Notices& notices = workbench_.desk.notices;
  connect(&notices, &Notices::failed, verdict_, &VerdictBar::complain);
  connect(&notices, &Notices::told, verdict_, &VerdictBar::complain);
  const Lane& work = workbench_.desk.works.longWork;
  connect(verdict_, &VerdictBar::stopRequested, &workbench_, &Workbench::stopWork);
  connect(&work, &Lane::progressed, verdict_, &VerdictBar::setProgress);
  connect(&work, &Lane::runningChanged, this, [this](bool busy) {
    verdict_->setBusy(busy);
    if (busy) verdict_->forgive();
  });
}

void MainWindow::buildHeader() {
  header_ = new QFrame;
  header_->setObjectName("header");
  auto* row = new QHBoxLayout(header_);
  row->setContentsMargins(12, 6, 16, 6);
  row->setSpacing(8);
  menu_ = new QToolButton;
  menu_->setObjectName("menu");
  menu_->setText(tr("Job"));
  menu_->setPopupMode(QToolButton::InstantPopup);
  menu_->setMenu(new QMenu(menu_));
  jobName_ = new QLabel;
  jobName_->setObjectName("jobName");
  jobName_->setFont(uiFont(11, true));
  views_ = new QComboBox;
  views_->setObjectName("views");
  views_->setToolTip(tr("View of this job"));
  views_->setMinimumWidth(180);
  connect(views_, &QComboBox::activated, &workbench_, &Workbench::selectView);
  const auto plain = [](const QString& name, const QString& text) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setText(text);
    button->setProperty("role", "plain");
    return button;
  };
  undo_ = plain("undo", tr("Undo"));
  redo_ = plain("redo", tr("Redo"));
  size_ = plain("actualSize", tr("100 %"));
  size_->setCheckable(true);
  row->addWidget(menu_);
  row->addSpacing(8);
  row->addWidget(jobName_);
  row->addWidget(views_);
  row->addStretch();
  row->addWidget(size_);
  row->addWidget(undo_);
  row->addWidget(redo_);
  connect(undo_, &QToolButton::clicked, &workbench_, &Workbench::undo);
  connect(redo_, &QToolButton::clicked, &workbench_, &Workbench::redo);
  connect(size_, &QToolButton::clicked, picture_, &PictureView::toggleActualSize);
}

QAction* MainWindow::action(const QString& name, const QString& text, const QKeySequence& shortcut,
                            const std::function<void()>& work) {
  auto* made = new QAction(text, this);
  made->setObjectName(name);
  made->setShortcut(shortcut);
  made->setStatusTip(text);
  connect(made, &QAction::triggered, this, work);
  addAction(made);
  return made;
}

void MainWindow::buildMenu() {
  auto* menu = menu_->menu();
  menu->addAction(action("actionDemo", tr("Open the ferry house demo"), {}, [this] { openDemo(); }));
  menu->addAction(action("actionFrames", tr("New job from frames..."), QKeySequence::New, [this] { chooseFrames(); }));
  menu->addAction(action("actionOpen", tr("Open a job..."), QKeySequence::Open, [this] { chooseJob(); }));
  menu->addSeparator();
  menu->addAction(action("actionUndo", tr("Undo"), Qt::CTRL | Qt::Key_Z, [this] { workbench_.undo(); }));
  menu->addAction(action("actionRedo", tr("Redo"), Qt::CTRL | Qt::SHIFT | Qt::Key_Z, [this] { workbench_.redo(); }));
  menu->addSeparator();
  menu->addAction(action("actionTheme", tr("Dusk or paper"), Qt::CTRL | Qt::Key_T,
                         [this] { setTheme(theme_ == &Theme::dusk() ? Theme::paper() : Theme::dusk()); }));
  menu->addAction(action("actionKeys", tr("Keys"), Qt::Key_F1, [this] { showKeys(); }));
  menu->addAction(action("actionQuit", tr("Quit"), QKeySequence::Quit, [this] { close(); }));
}

void MainWindow::buildKeys() {
  int number = 0;
  for (StationModel* station : workbench_.path()) {
    action(QString("actionStation%1").arg(number + 1), station->name(), Qt::Key(Qt::Key_1 + number),
           [this, number] { workbench_.goTo(number); });
    ++number;
  }
  action("actionNext", tr("The thing to do next"), Qt::CTRL | Qt::Key_Return, [this] {
    if (workbench_.hasView()) faces_[std::size_t(workbench_.stationIndex())].bench->next()->click();
  });
  whenFinishing("actionRemedy", tr("Mend the worst of what the judgement found"), Qt::Key_M, &FinishModel::remedy);
  whenFinishing("actionWhite", tr("Take the white that was found"), Qt::Key_N, &FinishModel::takeWhiteTrim);
  whenFinishing("actionStart", tr("The next starting point: as metered, lighter, deeper"), Qt::Key_S,
                &FinishModel::nextStart);
  action("actionZoom", tr("Whole picture or 100 %"), Qt::Key_Z, [this] {
    picture_->toggleActualSize();
    size_->setChecked(picture_->actualSize());
  });
}

void MainWindow::whenFinishing(const QString& name, const QString& words, Qt::Key key, void (FinishModel::*work)()) {
  action(name, words, key, [this, work] {
    if (workbench_.hasView() && &workbench_.station() == &workbench_.finish) (workbench_.finish.*work)();
  });
}

void MainWindow::setTheme(const Theme& theme) {
  theme_ = &theme;
  setFont(uiFont(10));
  setStyleSheet(theme.styleSheet());
  path_->setTheme(theme);
  ladder_->setTheme(theme);
  verdict_->setTheme(theme);
  picture_->setTheme(theme);
  for (const StationFace& face : faces_)
    if (face.sheet) face.sheet->setTheme(theme);
  QSettings().setValue("theme", theme.name);
}

void MainWindow::openDemo() {
  workbench_.opening.openDemo(jobsFolder_);
}

void MainWindow::openPaths(const QStringList& paths) {
  if (paths.isEmpty()) return;
  const std::filesystem::path first = paths.front().toStdString();
  std::error_code error;
  if (paths.size() == 1 && std::filesystem::exists(first / "job.json", error))
    workbench_.opening.openJob(first);
  else
    workbench_.opening.takeFiles(paths, jobsFolder_);
}

void MainWindow::sortFrames(const Grouping& grouping, const QString& name, const QString& jobs) {
  auto* sheet = new SortSheet(grouping, *theme_, this);
  sheet->setAttribute(Qt::WA_DeleteOnClose);
  connect(sheet, &QDialog::accepted, this, [this, sheet, name, jobs] {
    workbench_.opening.takeSorted(sheet->grouping(), name.toStdString(), jobs.toStdString());
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
  if (!folder.isEmpty()) workbench_.opening.openJob(folder.toStdString());
}

void MainWindow::showKeys() {
  QMessageBox::information(
      this, tr("Keys"),
      tr("1 to 6\tstations\nCtrl+Return\tthe thing to do next\n[ and ]\tdarker, brighter finder\nT\ttest "
         "frame\nZ\twhole picture or 100 %\n"
         "B\thold: one exposure instead of all\nM\tmend the worst of what the judgement found\nN\ttake the white that "
         "was "
         "found\nS\tas metered, lighter, deeper\ndrag at Finish\tup: lighter, down: darker, there\ndrag on the "
         "Ladder\tlight to a tone of the paper\nCtrl+drag\tmove the picture at 100 %\nCtrl+Z, Ctrl+Shift+Z\tundo, "
         "redo\nclick a place at Combine\tfrom the next frame\nAlt+Up, Alt+Down\tsooner, later in the queue\nEsc\tstop "
         "the work\nCtrl+T\tdusk or paper\n"
         "Ctrl+N\tnew job from frames\nCtrl+O\topen a job"));
}

void MainWindow::refresh() {
  const bool open = workbench_.hasView();
  benches_->setVisible(open);
  welcome_->setVisible(!open);
  if (open && !path_->isEnabled()) {
    path_->setEnabled(true);
    path_->setFocus();
  }
  path_->setEnabled(open);
  verdict_->show(workbench_.verdict(), workbench_.reasoning());
  ladder_->show(workbench_.ladder(), workbench_.shoot.shownFrame());
  std::vector<StationPath::Step> steps;
  for (const StationModel* s : workbench_.path()) steps.push_back({s->name(), open ? s->state() : StationState::Open});
  path_->show(workbench_.stationIndex(), std::move(steps));
  refreshHeader();
  if (!open) return;
  rememberJob();
  const StationFace& face = faces_[std::size_t(workbench_.stationIndex())];
  benches_->setCurrentWidget(face.bench);
  face.bench->show();
  const bool sheet = face.sheet && face.sheet->wanted();
  middle_->setCurrentWidget(sheet ? static_cast<QWidget*>(face.sheet) : picture_);
  if (sheet) face.sheet->refresh();
  size_->setEnabled(!sheet);
  refreshMarks();
}

void MainWindow::refreshHeader() {
  const bool open = workbench_.hasView();
  jobName_->setText(open ? QString::fromStdString(workbench_.job().name()) : tr("No job open"));
  views_->setVisible(open);
  undo_->setEnabled(workbench_.canUndo());
  redo_->setEnabled(workbench_.canRedo());
  const QUndoStack& stack = workbench_.desk.job.undoStack();
  undo_->setToolTip(tr("Undo %1 (Ctrl+Z)").arg(stack.undoText()));
  redo_->setToolTip(tr("Redo %1 (Ctrl+Shift+Z)").arg(stack.redoText()));
  if (!open) return;
  const QSignalBlocker quiet(views_);
  views_->clear();
  for (const auto& view : workbench_.job().views()) views_->addItem(QString::fromStdString(view.name));
  views_->setCurrentIndex(workbench_.desk.job.viewIndex());
}

/// After a crash the next start offers it.
void MainWindow::rememberJob() {
  const QString folder = QString::fromStdString(workbench_.job().folder().string());
  if (folder == rememberedJob_) return;
  rememberedJob_ = folder;
  QSettings().setValue("lastJob", folder);
  QSettings().setValue("lastJobName", QString::fromStdString(workbench_.job().name()));
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
  const QString file = QString::fromStdString((workbench_.job().folder() / "sheet.pdf").string());
  if (writeSheet(file, name, pictures))
    verdict_->complain(tr("The sheet is in %1.").arg(file));
  else
    verdict_->complain(tr("%1 cannot be written; free some space or choose another folder.").arg(file));
}

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

void MainWindow::closeEvent(QCloseEvent* event) {
  QSettings().setValue("window", saveGeometry());
  QMainWindow::closeEvent(event);
}

} // namespace ml
