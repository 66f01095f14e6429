// SPDX-License-Identifier: GPL-3.0-or-later
// What the window does by a name and a key.
#include "app/command_list.h"
#include "app/field_card.h"
#include "app/guide_window.h"
#include "app/look_around_window.h"
#include "app/main_window.h"
#include "app/preferences.h"
#include "app/printing.h"

#include <QApplication>
#include <QClipboard>
#include <QMenu>
#include <QPainter>
#include <QPrinter>
#include <QPushButton>
#include <QToolButton>

namespace ml {

void MainWindow::buildCommands() {
  buildJobCommands();
  buildViewCommands();
  buildPictureCommands();
  buildFinishCommands();
  fillMenu();
}

void MainWindow::buildJobCommands() {
  commands_.add("actionDemo", tr("Practise in the ferry house"), {}, [this] { openDemo(); });
  commands_.add("actionFrames", tr("New job from frames..."), QKeySequence::New, [this] { chooseFrames(); });
  commands_.add("actionOpen", tr("Open a job..."), QKeySequence::Open, [this] { chooseJob(); });
  commands_.add("actionUndo", tr("Undo"), Qt::CTRL | Qt::Key_Z, [this] { workbench_.undo(); });
  commands_.add("actionRedo", tr("Redo"), Qt::CTRL | Qt::SHIFT | Qt::Key_Z, [this] { workbench_.redo(); });
  commands_.add("actionNext", tr("The thing to do next"), Qt::CTRL | Qt::Key_Return, [this] { pressNext(); });
  commands_.add("actionPrintCard", tr("Print the field card..."), {}, [this] { printCard(); });
  commands_.add("actionPrintSheet", tr("Print the sheet of all views..."), QKeySequence::Print,
                [this] { printSheet(); });
  commands_.add("actionStop", tr("Combine no further views"), {}, [this] { workbench_.views.stop(); });
  commands_.add("actionCombineAll", tr("Combine every view that is not combined yet"), {},
                [this] { workbench_.views.combineMissing(); });
  commands_.add("actionPreferences", tr("Preferences..."), Qt::CTRL | Qt::Key_Comma, [this] { showPreferences(); });
  commands_.add("actionCommands", tr("Commands and keys..."), Qt::CTRL | Qt::Key_K, [this] { showCommands(); });
  commands_.add("actionGuide", tr("Guide"), Qt::Key_F1, [this] { showGuide(); });
  commands_.add("actionTheme", tr("Dusk or paper"), Qt::CTRL | Qt::Key_T,
                [this] { setTheme(theme_ == &Theme::dusk() ? Theme::paper() : Theme::dusk()); });
  commands_.add("actionFullScreen", tr("Full screen"), Qt::Key_F11,
                [this] { isFullScreen() ? showNormal() : showFullScreen(); });
  commands_.add("actionQuit", tr("Quit"), QKeySequence::Quit, [this] { close(); });
}

void MainWindow::buildViewCommands() {
  int number = 0;
  for (StationModel* station : workbench_.path()) {
    commands_.add(QString("actionStation%1").arg(number + 1), tr("Station: %1").arg(station->name()),
                  Qt::Key(Qt::Key_1 + number), [this, number] {
                    showAllViews(false);
                    workbench_.goTo(number);
                  });
    ++number;
  }
  commands_.add("actionAllViews", tr("All views side by side"), Qt::Key_0,
                [this] { showAllViews(page_ != Page::AllViews); });
  const auto page = [this](const char* name, const QString& words, Qt::Key key, Page shown) {
    commands_.add(name, words, key, [this, shown] { showPage(page_ == shown ? Page::Station : shown); });
  };
  page("actionVisit", tr("The visit: place, day and order of the views"), Qt::Key_V, Page::Visit);
  page("actionLogbook", tr("The logbook"), Qt::Key_L, Page::Logbook);
  page("actionPractice", tr("The practice room"), Qt::Key_E, Page::Practice);
  commands_.add("actionFirstPath", tr("Practise the first ten minutes"), {}, [this] {
    if (path_.begin()) showPage(Page::Station);
  });
  const auto step = [this](int by) {
    if (!workbench_.busy()) workbench_.desk.job.step(by);
  };
  commands_.add("actionNextView", tr("Next view"), Qt::Key_PageDown, [step] { step(1); });
  commands_.add("actionPreviousView", tr("Previous view"), Qt::Key_PageUp, [step] { step(-1); });
  ViewList& views = left_->views();
  commands_.add("actionAddView", tr("Add a view..."), {}, [&views] { views.addView(); });
  commands_.add("actionRenameView", tr("Rename the view..."), {}, [&views] { views.renameView(); });
  commands_.add("actionDuplicateView", tr("Duplicate the view"), {}, [&views] { views.duplicateView(); });
  commands_.add("actionNotes", tr("Notes on the view..."), {}, [&views] { views.editNotes(); });
  commands_.add("actionRemoveView", tr("Take the view out of the job"), {}, [&views] { views.removeView(); });
}

void MainWindow::buildPictureCommands() {
  commands_.add("actionZoom", tr("Pixel by pixel, or the whole picture"), Qt::Key_P,
                [this] { picture_->toggleActualSize(); });
  commands_.add("actionZoomIn", tr("Enlarge the picture"), QKeySequence::ZoomIn, [this] { picture_->zoomIn(); });
  commands_.add("actionZoomOut", tr("Make the picture smaller"), QKeySequence::ZoomOut,
                [this] { picture_->zoomOut(); });
  commands_.add("actionWhole", tr("Show the whole picture"), Qt::CTRL | Qt::Key_0, [this] { picture_->showWhole(); });
  commands_.add("actionPicture", tr("Go to the picture with the keys"), Qt::Key_G, [this] { picture_->setFocus(); });
  commands_.add("actionLookAround", tr("Look around in a sphere"), Qt::Key_O, [this] { lookAround(); });
  commands_.add("actionCopy", tr("Copy the picture"), QKeySequence::Copy, [this] { copyPicture(); });
  commands_.add("actionCopyLadder", tr("Copy the Light Ladder as a picture"), {},
                [this] { QApplication::clipboard()->setPixmap(ladder_->grab()); });
  commands_.add("actionCopyVerdict", tr("Copy the verdict and its figures"), Qt::CTRL | Qt::SHIFT | Qt::Key_C,
                [this] { QApplication::clipboard()->setText(workbench_.verdict() + "\n\n" + workbench_.reasoning()); });
}

void MainWindow::buildFinishCommands() {
  const auto whenFinishing = [this](const char* name, const QString& words, const QKeySequence& key,
                                    const std::function<void(FinishModel&)>& work) {
    commands_.add(name, words, key, [this, work] {
      if (workbench_.hasView() && &workbench_.station() == &workbench_.finish) work(workbench_.finish);
    });
  };
  whenFinishing("actionRemedy", tr("At Finish: put the worst finding right"), Qt::Key_M,
                [](FinishModel& f) { f.remedy(); });
  whenFinishing("actionWhite", tr("At Finish: take the white that was found"), Qt::Key_N,
                [](FinishModel& f) { f.takeWhiteTrim(); });
  whenFinishing("actionStart", tr("At Finish: next starting point (as metered, lighter, deeper)"), Qt::Key_S,
                [](FinishModel& f) { f.nextStart(); });
  whenFinishing("actionClipping", tr("At Finish: show what is at white or black"), Qt::Key_X,
                [](FinishModel& f) { f.showClipping(!f.showsClipping()); });
}

/// The menu holds what belongs to jobs; the rest is found by the list of commands.
void MainWindow::fillMenu() {
  QMenu* menu = menu_->menu();
  menu->clear();
  const auto put = [&](const char* name) { menu->addAction(findChild<QAction*>(name)); };
  for (const char* name : {"actionFrames", "actionOpen"}) put(name);
  auto* recent = menu->addMenu(tr("Open lately"));
  for (const auto& job : RecentJobs::all())
    recent->addAction(job.name, this, [this, folder = job.folder] { goOnWith(folder); })->setToolTip(job.folder);
  recent->setEnabled(!recent->isEmpty());
  put("actionDemo");
  menu->addSeparator();
  for (const char* name : {"actionAddView", "actionRenameView", "actionDuplicateView", "actionNotes"}) put(name);
  menu->addSeparator();
  for (const char* name : {"actionVisit", "actionLogbook", "actionPractice"}) put(name);
  menu->addSeparator();
  for (const char* name : {"actionPrintCard", "actionPrintSheet"}) put(name);
  menu->addSeparator();
  for (const char* name : {"actionTheme", "actionFullScreen", "actionPreferences", "actionCommands", "actionGuide"})
    put(name);
  menu->addSeparator();
  put("actionQuit");
}

void MainWindow::pressNext() {
  if (!workbench_.hasView() && page_ == Page::Station) return;
  QPushButton* const pages[] = {nullptr, allViews_->next(), visit_->next(), logbook_->next(), practice_->next()};
  QPushButton* next = pages[int(page_)];
  if (!next) next = faces_[std::size_t(workbench_.stationIndex())].bench->next();
  next->click();
}

void MainWindow::showCommands() {
  CommandList list(commands_, this);
  list.exec();
}

/// At the task that belongs to what is shown.
void MainWindow::showGuide() {
  if (!guide_) guide_ = new GuideWindow(this);
  if (page_ == Page::AllViews) return guide_->showFor("all-views");
  if (page_ != Page::Station) return guide_->showFor("visit");
  guide_->showFor(workbench_.hasView() ? workbench_.station().id() : QStringLiteral("welcome"));
}

void MainWindow::lookAround() {
  if (!workbench_.hasView() || !LookAround::possible(workbench_.finish))
    return workbench_.desk.notices.tell(tr(
        "This view shows one side only. Frames of a camera that sees all directions, twice as wide as high, become a "
        "sphere to look around in."));
  auto* around = new LookAroundWindow(workbench_.finish, this);
  around->show();
}

void MainWindow::showPreferences() {
  if (editPreferences(this, commands_)) takePreferences();
  refresh();
}

void MainWindow::copyPicture() {
  if (!picture_->picture().isNull()) QApplication::clipboard()->setImage(picture_->picture());
}

void MainWindow::printCard() {
  if (!workbench_.hasView()) return;
  if (!workbench_.view().plan)
    return workbench_.desk.notices.tell(tr("There is no plan yet; take two readings at Light."));
  const FieldCard card = fieldCardOf(workbench_.frames);
  preview(this, [&card](QPrinter& paper) {
    QPainter p;
    if (p.begin(&paper)) drawFieldCard(p, card, QRectF(0, 0, paper.width(), paper.height()));
  });
}

/// Every view is drawn first; the preview follows.
void MainWindow::printSheet() {
  if (!workbench_.hasView() || workbench_.busy()) return;
  printsSheet_ = true;
  workbench_.deliver.makeSheet();
}

/// What can be done at a place of the picture.
void MainWindow::pictureMenu(QPointF at, const QPoint& screen) {
  QMenu menu(this);
  for (const auto& choice : workbench_.station().choicesAt(at)) menu.addAction(choice.words, this, choice.work);
  if (!menu.isEmpty()) menu.addSeparator();
  for (const char* name : {"actionZoom", "actionCopy"}) menu.addAction(findChild<QAction*>(name));
  menu.exec(screen);
}

} // namespace ml
