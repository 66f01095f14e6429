// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/all_views_sheet.h"
#include "app/commands.h"
#include "app/ladder_widget.h"
#include "app/left_column.h"
#include "app/logbook_page.h"
#include "app/path_bar.h"
#include "app/picture_view.h"
#include "app/practice_page.h"
#include "app/stations.h"
#include "app/verdict_bar.h"
#include "app/visit_page.h"
#include "app/welcome.h"
#include "model/workbench.h"

#include <QMainWindow>
#include <filesystem>
#include <optional>

class QLabel;
class QStackedWidget;
class QToolButton;

namespace ml {

class GuideWindow;

/// Where a window opens the first time: of its usual size, or as large as the screen's free area leaves it, frame and
/// title bar included.
[[nodiscard]] QRect firstPlace(const QRect& free);

/// One window: the way and the views on the left, the Ladder beside the picture, the verdict above it, the station's
/// bench below. What it can do by a name and a key stands in window_commands.cpp.
class MainWindow : public QMainWindow {
  Q_OBJECT

public:
  explicit MainWindow(std::filesystem::path jobsFolder, QWidget* parent = nullptr);
  ~MainWindow() override;
  [[nodiscard]] Workbench& workbench() { return workbench_; }
  [[nodiscard]] Commands& commands() { return commands_; }
  void openDemo();
  void openPaths(const QStringList& paths);
  /// As it was left: view, station, zoom.
  void goOnWith(const QString& job);
  void setTheme(const Theme& theme);
  /// What stands right of the left column: the station in hand, or one of the pages beside the way.
  enum class Page { Station, AllViews, Visit, Logbook, Practice };
  void showPage(Page page);
  [[nodiscard]] Page page() const { return page_; }
  void showAllViews(bool shown) { showPage(shown ? Page::AllViews : Page::Station); }

protected:
  void dragEnterEvent(QDragEnterEvent*) override;
  void dropEvent(QDropEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void keyReleaseEvent(QKeyEvent*) override;
  /// Every press of the hand counts as work on the view.
  bool eventFilter(QObject* watched, QEvent* event) override;
  void changeEvent(QEvent*) override;
  void showEvent(QShowEvent*) override;
  void closeEvent(QCloseEvent*) override;

private:
  void buildHeader();
  void buildStations();
  void layOut();
  void connectPicture();
  void connectWork();
  void takePlace();
  void takePreferences();
  void takeMonitorColours();
  void chooseFrames();
  void sortFrames(const Grouping& grouping, const QString& name, const QString& jobs);
  void chooseJob();
  void refresh();
  void refreshHeader();
  void refreshPage();
  void refreshPicture();
  void refreshMarks();
  void rememberJob();
  void restore();
  void saveSheet(const std::vector<SheetPicture>& pictures);
  void pictureMenu(QPointF at, const QPoint& screen);

  // window_commands.cpp
  void buildCommands();
  void buildJobCommands();
  void buildViewCommands();
  void buildPictureCommands();
  void buildFinishCommands();
  void fillMenu();
  void showCommands();
  void showGuide();
  void lookAround();
  void showPreferences();
  void copyPicture();
  void printCard();
  void printSheet();
  void pressNext();

  std::filesystem::path jobsFolder_;
  Workbench workbench_;
  FirstPath path_{workbench_};
  Commands commands_{this};
  std::vector<StationFace> faces_;
  const Theme* theme_ = &Theme::dusk();
  QFrame* header_;
  QLabel *jobName_, *viewName_, *reading_, *zoom_;
  QString rememberedJob_;
  QToolButton *menu_, *undo_, *redo_, *size_;
  LeftColumn* left_;
  LadderWidget* ladder_;
  VerdictBar* verdict_;
  PictureView* picture_;
  AllViewsSheet* allViews_;
  std::array<QWidget*, 3> ownPages_{}; ///< Visit, logbook and practice, as they lie among the pages.
  VisitPage* visit_;
  LogbookPage* logbook_;
  PracticePage* practice_;
  PathBar* pathBar_;
  std::vector<QToolButton*> pageButtons_; ///< Visit, Logbook, Practice room.
  QStackedWidget *pages_, *middle_, *benches_;
  Welcome* welcome_;
  GuideWindow* guide_ = nullptr; ///< Made when it is first asked for.
  Page page_ = Page::Station;
  struct Left {
    QString station;
    bool enlarged = false;
  };
  bool printsSheet_ = false;    ///< The sheet that is being drawn goes to paper, not to a file.
  std::optional<Left> restore_; ///< What the job that is being opened was left at.
};

} // namespace ml
