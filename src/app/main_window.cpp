#include "app/main_window.h"

#include "app/sheets.h"

#include "app/sort_sheet.h"

#include <QAction>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {

MainWindow::MainWindow(std::filesystem::path jobsFolder, QWidget* parent) : QMainWindow(parent), jobsFolder_(std::move(jobsFolder)), workbench_(jobsFolder_) {
  setWindowTitle(tr("Mellow Lantern"));
  setAcceptDrops(true);
  resize(1280, 800);
  setMinimumSize(1240, 640);

  path_ = new StationPath;
  ladder_ = new LadderWidget;
  verdict_ = new VerdictBar;
  picture_ = new PictureView;
  picture_->setEmptyText(tr("Bracket the light, combine it, keep it natural."),
                         tr("Drop a folder of bracketed frames here.\nOr practise in the ferry house: a dark room, a bright lake, a camera that costs nothing."));
  sheet_ = new FramesSheet(workbench_);
  middle_ = new QStackedWidget;
  middle_->addWidget(picture_);
  middle_->addWidget(sheet_);
  benches_ = new QStackedWidget;
  bench_ = {makeLightBench(workbench_),   makeFramesBench(workbench_), makeShootBench(workbench_),
            makeCombineBench(workbench_), makeFinishBench(workbench_), makeDeliverBench(workbench_)};
  for (auto* bench : bench_) benches_->addWidget(bench);
  benches_->setFixedHeight(152);

  auto* welcome = new QFrame;
  welcome->setObjectName("bench");
  auto* welcomeRow = new QHBoxLayout(welcome);
  auto* demo = new QPushButton(tr("Open the ferry house demo"));
  demo->setObjectName("openDemo");
  demo->setProperty("role", "next");
  auto* frames = new QPushButton(tr("Choose frames of your own..."));
  frames->setObjectName("chooseFrames");
  const QString last = QSettings().value("lastJob").toString();
  auto* goOn = new QPushButton(tr("Go on with %1").arg(QSettings().value("lastJobName").toString()));
  goOn->setObjectName("goOn");
  std::error_code missing;
  goOn->setVisible(!last.isEmpty() && std::filesystem::exists(std::filesystem::path(last.toStdString()) / "job.json", missing));
  welcomeRow->addStretch();
  welcomeRow->addWidget(goOn);
  welcomeRow->addWidget(demo);
  welcomeRow->addWidget(frames);
  welcomeRow->addStretch();
  welcome->setFixedHeight(152);
  welcome_ = welcome;

  buildHeader();
  buildActions();
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

  connect(demo, &QPushButton::clicked, this, &MainWindow::openDemo);
  connect(frames, &QPushButton::clicked, this, &MainWindow::chooseFrames);
  connect(goOn, &QPushButton::clicked, this, [this, last] { openPaths({last}); });
  connect(path_, &StationPath::chosen, &workbench_, [this](Station s) { workbench_.goTo(s); });
  connect(ladder_, &LadderWidget::frameChosen, &workbench_, &Workbench::showFrame);
  connect(picture_, &PictureView::spotClicked, &workbench_, &Workbench::readSpot);
  connect(picture_, &PictureView::placeClicked, this, [this](double x, double y) {
    if (!workbench_.cyclePlace(x, y) && !workbench_.busy()) verdict_->complain(tr("Nothing moved there that another frame records too; paint it to choose a frame."));
  });
  connect(picture_, &PictureView::strokePainted, this, [this](const QPolygonF& stroke) { workbench_.paintPlace(stroke, workbench_.brushRadius(), workbench_.paintFrom()); });
  connect(ladder_, &LadderWidget::tieDragged, &workbench_, &Workbench::pullTie);
  connect(picture_, &PictureView::dragBegan, &workbench_, &Workbench::toolPress);
  connect(picture_, &PictureView::dragged, &workbench_, &Workbench::toolDrag);
  connect(picture_, &PictureView::dragEnded, &workbench_, &Workbench::toolRelease);
  connect(picture_, &PictureView::detailWanted, &workbench_, &Workbench::showDetail);
  connect(&workbench_, &Workbench::detailDrawn, picture_, &PictureView::setDetail);
  connect(&workbench_, &Workbench::sheetDrawn, this, &MainWindow::saveSheet);
  connect(verdict_, &VerdictBar::stopRequested, &workbench_, &Workbench::stopWork);
  connect(&workbench_, &Workbench::changed, this, &MainWindow::refresh);
  connect(&workbench_, &Workbench::pictureChanged, this, &MainWindow::refreshPicture);
  connect(&workbench_, &Workbench::progressed, verdict_, &VerdictBar::setProgress);
  connect(&workbench_, &Workbench::failed, verdict_, &VerdictBar::complain);
  connect(&workbench_, &Workbench::sorted, this, &MainWindow::sortFrames);
  connect(&workbench_, &Workbench::told, verdict_, &VerdictBar::complain);
  connect(&workbench_, &Workbench::busyChanged, this, [this](bool busy) {
    verdict_->setBusy(busy);
    if (busy) verdict_->forgive();
    refresh();
  });
  connect(&workbench_.undoStack(), &QUndoStack::indexChanged, this, &MainWindow::refresh);
  setTheme(QSettings().value("theme").toString() == "paper" ? Theme::paper() : Theme::dusk());
  refresh();
  demo->setFocus();
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
  connect(undo_, &QToolButton::clicked, &workbench_.undoStack(), &QUndoStack::undo);
  connect(redo_, &QToolButton::clicked, &workbench_.undoStack(), &QUndoStack::redo);
  connect(size_, &QToolButton::clicked, picture_, &PictureView::toggleActualSize);
}

QAction* MainWindow::action(const QString& name, const QString& text, const QKeySequence& shortcut, const std::function<void()>& work) {
  auto* made = new QAction(text, this);
  made->setObjectName(name);
  made->setShortcut(shortcut);
  made->setStatusTip(text);
  connect(made, &QAction::triggered, this, work);
  addAction(made);
  return made;
}

void MainWindow::buildActions() {
  auto* menu = menu_->menu();
  menu->addAction(action("actionDemo", tr("Open the ferry house demo"), {}, [this] { openDemo(); }));
  menu->addAction(action("actionFrames", tr("New job from frames..."), QKeySequence::New, [this] { chooseFrames(); }));
  menu->addAction(action("actionOpen", tr("Open a job..."), QKeySequence::Open, [this] { chooseJob(); }));
  menu->addSeparator();
  menu->addAction(action("actionUndo", tr("Undo"), Qt::CTRL | Qt::Key_Z, [this] { if (!workbench_.busy()) workbench_.undoStack().undo(); }));
  menu->addAction(action("actionRedo", tr("Redo"), Qt::CTRL | Qt::SHIFT | Qt::Key_Z, [this] { if (!workbench_.busy()) workbench_.undoStack().redo(); }));
  menu->addSeparator();
  menu->addAction(action("actionTheme", tr("Dusk or paper"), Qt::CTRL | Qt::Key_T, [this] { setTheme(theme_ == &Theme::dusk() ? Theme::paper() : Theme::dusk()); }));
  menu->addAction(action("actionKeys", tr("Keys"), Qt::Key_F1, [this] { showKeys(); }));
  menu->addAction(action("actionQuit", tr("Quit"), QKeySequence::Quit, [this] { close(); }));
  for (int i = 0; i < kStationCount; ++i)
    action(QString("actionStation%1").arg(i + 1), StationPath::nameOf(Station(i)), Qt::Key_1 + i, [this, i] { workbench_.goTo(Station(i)); });
  action("actionNext", tr("The thing to do next"), Qt::CTRL | Qt::Key_Return, [this] {
    if (workbench_.hasView()) bench_[std::size_t(workbench_.station())]->next()->click();
  });
  action("actionRemedy", tr("Mend what the judgement minds"), Qt::Key_M, [this] {
    if (workbench_.hasView() && workbench_.station() == Station::Finish) workbench_.remedy();
  });
  action("actionWhite", tr("Take the white that was found"), Qt::Key_N, [this] {
    if (workbench_.hasView() && workbench_.station() == Station::Finish) workbench_.takeWhiteTrim();
  });
  action("actionStart", tr("The next starting point: as metered, lighter, deeper"), Qt::Key_S, [this] {
    if (workbench_.hasView() && workbench_.station() == Station::Finish) workbench_.nextStart();
  });
  action("actionZoom", tr("Whole picture or 100 %"), Qt::Key_Z, [this] {
    picture_->toggleActualSize();
    size_->setChecked(picture_->actualSize());
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
  sheet_->setTheme(theme);
  QSettings().setValue("theme", theme.name);
}

void MainWindow::openDemo() {
  if (!workbench_.busy()) workbench_.openDemo(jobsFolder_);
}

void MainWindow::openPaths(const QStringList& paths) {
  if (paths.isEmpty()) return;
  const std::filesystem::path first = paths.front().toStdString();
  std::error_code error;
  if (paths.size() == 1 && std::filesystem::exists(first / "job.json", error)) workbench_.openJob(first);
  else workbench_.takeFiles(paths, jobsFolder_);
}

void MainWindow::sortFrames(const Grouping& grouping, const QString& name, const QString& jobs) {
  auto* sheet = new SortSheet(grouping, *theme_, this);
  sheet->setAttribute(Qt::WA_DeleteOnClose);
  connect(sheet, &QDialog::accepted, this, [this, sheet, name, jobs] { workbench_.takeSorted(sheet->grouping(), name.toStdString(), jobs.toStdString()); });
  sheet->open();
}

void MainWindow::chooseFrames() {
  openPaths(QFileDialog::getOpenFileNames(this, tr("Frames of one or more brackets"),
                                          QStandardPaths::writableLocation(QStandardPaths::PicturesLocation)));
}

void MainWindow::chooseJob() {
  const QString folder = QFileDialog::getExistingDirectory(this, tr("Job folder"), QString::fromStdString(jobsFolder_.string()));
  if (!folder.isEmpty()) workbench_.openJob(folder.toStdString());
}

void MainWindow::showKeys() {
  QMessageBox::information(this, tr("Keys"),
                           tr("1 to 6\tstations\nCtrl+Return\tthe thing to do next\n[ and ]\tdarker, brighter finder\nT\ttest frame\nZ\twhole picture or 100 %\n"
                              "B\thold: one exposure instead of all\nM\tmend what the judgement minds\nN\ttake the white that was found\nS\tas metered, lighter, deeper\ndrag at Finish\tup: lighter, down: darker, there\ndrag on the Ladder\tlight to a tone of the paper\nCtrl+drag\tmove the picture at 100 %\nCtrl+Z, Ctrl+Shift+Z\tundo, redo\nclick a place at Combine\tfrom the next frame\nAlt+Up, Alt+Down\tsooner, later in the queue\nEsc\tstop the work\nCtrl+T\tdusk or paper\n"
                              "Ctrl+N\tnew job from frames\nCtrl+O\topen a job"));
}

void MainWindow::refresh() {
  const bool open = workbench_.hasView();
  benches_->setVisible(open);
  welcome_->setVisible(!open);
  jobName_->setText(open ? QString::fromStdString(workbench_.job().name()) : tr("No job open"));
  views_->setVisible(open);
  if (open && !path_->isEnabled()) {
    path_->setEnabled(true);
    path_->setFocus();
  }
  path_->setEnabled(open);
  verdict_->show(workbench_.verdictText(), workbench_.reasoning());
  ladder_->show(workbench_.ladder(), workbench_.shownFrame());
  path_->show(workbench_.station(), workbench_.states());
  undo_->setEnabled(workbench_.undoStack().canUndo() && !workbench_.busy());
  redo_->setEnabled(workbench_.undoStack().canRedo() && !workbench_.busy());
  undo_->setToolTip(tr("Undo %1 (Ctrl+Z)").arg(workbench_.undoStack().undoText()));
  redo_->setToolTip(tr("Redo %1 (Ctrl+Shift+Z)").arg(workbench_.undoStack().redoText()));
  if (!open) return;
  if (const QString folder = QString::fromStdString(workbench_.job().folder().string()); folder != rememberedJob_) {
    rememberedJob_ = folder; // after a crash the next start offers it
    QSettings().setValue("lastJob", folder);
    QSettings().setValue("lastJobName", QString::fromStdString(workbench_.job().name()));
  }
  const QSignalBlocker quiet(views_);
  views_->clear();
  for (const auto& view : workbench_.job().views()) views_->addItem(QString::fromStdString(view.name));
  views_->setCurrentIndex(workbench_.viewIndex());
  benches_->setCurrentIndex(int(workbench_.station()));
  bench_[std::size_t(workbench_.station())]->refresh();
  const bool frames = workbench_.station() == Station::Frames && workbench_.hasCamera();
  middle_->setCurrentIndex(frames ? 1 : 0);
  if (frames) sheet_->refresh();
  size_->setEnabled(!frames);
  refreshMarks();
  refreshFinishing();
}

/// What is drawn over the picture: readings and proposals at Light, what moved at Shoot.
void MainWindow::refreshMarks() {
  const bool light = workbench_.station() == Station::Light;
  picture_->setReading(light);
  picture_->setReadings(light ? workbench_.view().readings : std::vector<SpotReading>{});
  picture_->setProposals(light ? workbench_.proposals() : std::nullopt);
  const bool combining = workbench_.station() == Station::Combine && workbench_.view().combined;
  picture_->setPlaces(combining ? workbench_.movedPlaces() : std::vector<MovedPlace>{}, combining);
  picture_->setBrush(combining && workbench_.painting() ? workbench_.brushRadius() : 0);
  const auto& state = workbench_.shootState();
  const int shown = workbench_.shownFrame();
  QRectF place;
  if (workbench_.station() == Station::Shoot && shown >= 0 && shown < int(state.judged.size()) && state.judged[std::size_t(shown)].has(Flaw::ThingMoved)) {
    const auto& sketch = *state.sketches[std::size_t(shown)];
    const Roi r = state.judged[std::size_t(shown)].movedPlace;
    place = QRectF(double(r.x) / sketch.width, double(r.y) / sketch.height, double(r.width) / sketch.width, double(r.height) / sketch.height);
  }
  picture_->setMoved(place, tr("stands elsewhere in other frames"));
}

/// Places of areas and of what the judgement minds; and what a drag does.
void MainWindow::refreshFinishing() {
  const bool finishing = workbench_.station() == Station::Finish && workbench_.view().combined;
  using Hint = PictureView::DragHint;
  Hint hint = Hint::None;
  switch (workbench_.finishTool()) {
  case FinishTool::Oval: hint = Hint::Oval; break;
  case FinishTool::Ramp:
  case FinishTool::Level: hint = Hint::Line; break;
  default: break;
  }
  picture_->setDragging(finishing, hint);
  if (finishing) picture_->setCursor(workbench_.finishTool() == FinishTool::Light ? Qt::SizeVerCursor : Qt::CrossCursor);
  picture_->setMarks(finishing ? workbench_.finishMarks() : PictureMarks{});
  picture_->setFullSize(workbench_.fullSize());
  picture_->setBeside(workbench_.besidePicture(), workbench_.comparing() == Comparing::Divider, workbench_.comparand().name);
}

void MainWindow::saveSheet(const std::vector<SheetPicture>& pictures) {
  const QString name = jobName_->text();
  const QString file = QString::fromStdString((workbench_.job().folder() / "sheet.pdf").string());
  if (writeSheet(file, name, pictures)) verdict_->complain(tr("The sheet is in %1.").arg(file));
  else verdict_->complain(tr("%1 cannot be written; free some space or choose another folder.").arg(file));
}

void MainWindow::refreshPicture() {
  picture_->setPicture(workbench_.picture());
  if (workbench_.hasView()) refreshFinishing();
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
  if (event->key() == Qt::Key_B && !event->isAutoRepeat()) return workbench_.compare(true);
  QMainWindow::keyPressEvent(event);
}

void MainWindow::keyReleaseEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_B && !event->isAutoRepeat()) return workbench_.compare(false);
  QMainWindow::keyReleaseEvent(event);
}

} // namespace ml
