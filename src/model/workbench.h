// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/all_views.h"
#include "model/chronicle.h"
#include "model/deliver_model.h"
#include "model/finish_model.h"
#include "model/frames_model.h"
#include "model/interval_shooting.h"
#include "model/job_opening.h"
#include "model/light_model.h"
#include "model/logbook_model.h"
#include "model/practice_model.h"
#include "model/shoot_model.h"
#include "model/visit_model.h"

#include <QObject>
#include <map>

namespace ml {

/// Everything behind the window, put together: the desk, the stations on the way through a view, which one is in hand.
/// No widgets, and no work of its own.
class Workbench : public QObject {
  Q_OBJECT

public:
  explicit Workbench(const std::filesystem::path& jobs);
  ~Workbench() override;

  Desk desk;
  JobOpening opening{desk};
  FinishedPicture finished{desk};
  FramesModel frames{desk}; ///< Plans before others are told of a change.
  LightModel light{desk};
  ShootModel shoot{desk};
  IntervalShooting interval{shoot};
  CombineModel combine{desk, finished};
  FinishModel finish{desk, finished, combine};
  DeliverModel deliver{desk, finished};
  AllViews views{desk, finished};
  Chronicle chronicle{desk};
  VisitModel visit{desk};
  LogbookModel logbook{desk};
  PracticeModel practice{desk};

  /// A further station at the end of the way.
  StationModel& add(std::unique_ptr<StationModel> station);
  [[nodiscard]] const std::vector<StationModel*>& path() const { return path_; }
  [[nodiscard]] StationModel& station() const { return *path_[std::size_t(current_)]; }
  [[nodiscard]] int stationIndex() const { return current_; }
  void goTo(const QString& id);
  void goTo(int index);

  [[nodiscard]] bool hasView() const { return desk.hasView(); }
  [[nodiscard]] const View& view() const { return desk.view(); }
  [[nodiscard]] const Job& job() const { return desk.job.job(); }
  void selectView(int index);
  [[nodiscard]] bool busy() const { return desk.busy(); }
  /// Nothing is under way, nor about to be.
  [[nodiscard]] bool settled() const;
  void stopWork() { desk.works.longWork.stop(); }

  [[nodiscard]] bool canUndo();
  [[nodiscard]] bool canRedo() { return desk.free() && desk.job.undoStack().canRedo(); }
  void undo();
  void redo();

  [[nodiscard]] QString verdict() const;
  [[nodiscard]] QString reasoning() const;
  [[nodiscard]] LadderData ladder() const;
  [[nodiscard]] QImage picture() const { return hasView() ? station().picture() : QImage(); }

signals:
  void changed(); ///< Anything but the picture.
  void pictureChanged();
  void viewsChanged(); ///< Where the views of the job stand, and their pictures.

private:
  void know(StationModel& station);
  /// Not while stations change from one view to another.
  [[nodiscard]] bool entered() const { return !hasView() || entered_ == idOf(view()); }
  void tell();
  void takeWhatWasLearnt();
  void viewEntered();
  void viewRead(const std::vector<ExposureSettings>& shot, const std::shared_ptr<const CombinedPicture>& picture);

  std::vector<StationModel*> path_;
  std::vector<std::unique_ptr<StationModel>> added_;
  int current_ = 0;
  std::string entered_;
  mutable std::map<std::string, LadderData::Stretch> scales_; ///< Of the Ladder, by view.
};

} // namespace ml
