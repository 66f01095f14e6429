// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ladder_widget.h"
#include "app/picture_view.h"
#include "app/station_path.h"
#include "app/stations.h"
#include "app/verdict_bar.h"
#include "model/workbench.h"

#include <QMainWindow>
#include <filesystem>

class QComboBox;
class QLabel;
class QStackedWidget;
class QToolButton;

namespace ml {

/// Where a window opens the first time: of its usual size, or as large as the screen's free area leaves it, frame and
/// title bar included.
[[nodiscard]] QRect firstPlace(const QRect& free);

/// One window: the way on the left, the Ladder beside the picture, the verdict above it, the station's bench below.
class MainWindow : public QMainWindow {
  Q_OBJECT

public:
  explicit MainWindow(std::filesystem::path jobsFolder, QWidget* parent = nullptr);
  [[nodiscard]] Workbench& workbench() { return workbench_; }
  void openDemo();
  void openPaths(const QStringList& paths);
  void setTheme(const Theme& theme);

protected:
  void dragEnterEvent(QDragEnterEvent*) override;
  void dropEvent(QDropEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void keyReleaseEvent(QKeyEvent*) override;
  void closeEvent(QCloseEvent*) override;

private:
  void buildHeader();
  QWidget* buildWelcome();
  void buildStations();
  void buildMenu();
  void buildKeys();
  void layOut();
  void connectPicture();
  void connectWork();
  void takePlace();
  QAction* action(const QString& name, const QString& text, const QKeySequence& shortcut,
                  const std::function<void()>& work);
  void whenFinishing(const QString& name, const QString& text, Qt::Key key, void (FinishModel::*work)());
  void chooseFrames();
  void sortFrames(const Grouping& grouping, const QString& name, const QString& jobs);
  void chooseJob();
  void refresh();
  void refreshHeader();
  void refreshPicture();
  void refreshMarks();
  void rememberJob();
  void saveSheet(const std::vector<SheetPicture>& pictures);
  void showKeys();

  std::filesystem::path jobsFolder_;
  Workbench workbench_;
  std::vector<StationFace> faces_;
  const Theme* theme_ = &Theme::dusk();
  QFrame* header_;
  QLabel* jobName_;
  QString rememberedJob_;
  QComboBox* views_;
  QToolButton *menu_, *undo_, *redo_, *size_;
  StationPath* path_;
  LadderWidget* ladder_;
  VerdictBar* verdict_;
  PictureView* picture_;
  QStackedWidget* middle_;
  QStackedWidget* benches_;
  QWidget* welcome_;
};

} // namespace ml
