// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/scene_reading.h"
#include "model/camera_session.h"
#include "model/job_model.h"
#include "model/lane.h"
#include "model/notices.h"
#include "model/position_walk.h"
#include "model/radiance_store.h"
#include "model/shown_frame.h"
#include "model/view_saver.h"
#include "session/look_shelf.h"
#include "session/profiles.h"

#include <filesystem>

namespace ml {

/// What the user chose once for all jobs.
struct Habits {
  double shadows = 10;             ///< SNR that new jobs ask of the shadows.
  bool feet = false;               ///< Distances are said in feet.
  int webEdge = 2048;              ///< Longest side of files for the web, pixels.
  std::optional<double> handStops; ///< That this hand holds beyond 1 / focal length, as the logbook has learnt.
};

/// What all stations share. Each part can be tested alone; none knows a station.
class Desk {
public:
  /// `jobs`: where jobs are kept; the user's own profiles, looks and curves lie beside it.
  explicit Desk(std::filesystem::path jobs);

  const std::filesystem::path jobsFolder;
  Habits habits;
  Notices notices;
  JobModel job;
  RadianceStore radiances;
  ProfileShelf profiles;
  LookShelf looks;
  LookShelf areas;                    ///< Of the finish, kept by name.
  const std::filesystem::path curves; ///< Response curves kept from earlier sets.
  Works works;                        ///< After what its work uses: it is stopped first.
  CameraSession camera{works, notices};
  PositionWalk positions{job, camera};
  ShownFrame frame{works, notices};
  ViewSaver saver{job, works.saving, notices};
  std::optional<SceneDistribution> scene; ///< What the frames in hand show of the light of the view in hand.

  /// Long work is under way: views are not changed, nothing else is begun.
  [[nodiscard]] bool busy() const { return works.longWork.running(); }
  [[nodiscard]] bool hasView() const { return job.hasView(); }
  [[nodiscard]] const View& view() const { return job.view(); }
  /// The job is only looked at: nothing is changed, nothing written.
  [[nodiscard]] bool reading() const { return job.reading(); }
  /// Free to draw and load: there is a view, and no long work.
  [[nodiscard]] bool idle() const { return hasView() && !busy(); }
  /// Free for a change.
  [[nodiscard]] bool free() const { return idle() && !reading(); }
};

} // namespace ml
