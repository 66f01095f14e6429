// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/view_saver.h"

#include "session/radiance_history.h"

#include <utility>

namespace ml {

ViewSaver::ViewSaver(JobModel& job, Lane& lane, Notices& notices, QObject* parent)
    : QObject(parent), job_(job), lane_(lane), notices_(notices) {
  timer_.setSingleShot(true);
  timer_.setInterval(kSaveWithinMs);
  connect(&timer_, &QTimer::timeout, this, &ViewSaver::saveInBackground);
  connect(&job_, &JobModel::viewChanged, this, &ViewSaver::mark);
  connect(&job_, &JobModel::leaving, this, &ViewSaver::flush);
}

ViewSaver::~ViewSaver() {
  flush();
}

ViewSaver::File ViewSaver::fileOf(Aspect aspect) {
  switch (aspect) {
  case Aspect::About:
  case Aspect::Readings:
  case Aspect::Choices:
  case Aspect::Plan: return File::Plan;
  case Aspect::Sets: return File::Frames;
  case Aspect::Combined: return File::Combined;
  case Aspect::Journal: return File::Journal;
  case Aspect::Recipe:
  case Aspect::Delivered: break;
  }
  return File::Finish;
}

Result<void> ViewSaver::save(const View& view, File file) {
  switch (file) {
  case File::Plan: return view.savePlan();
  case File::Frames: return view.saveFrames();
  case File::Combined: return keepCombined(view);
  case File::Journal: return view.saveJournal();
  case File::Finish: break;
  }
  return view.saveFinish();
}

void ViewSaver::mark(const std::string& view, Aspect aspect) {
  dirty_.emplace(view, fileOf(aspect));
  if (aspect == Aspect::About) // a few words of it stand there
    for (const File file : {File::Finish, File::Frames}) dirty_.emplace(view, file);
  if (!timer_.isActive()) timer_.start(); // from the first change on, so that a long drag is kept as well
}

void ViewSaver::saveInBackground() {
  if (lane_.running()) return timer_.start();
  struct Piece {
    View view; ///< As it is now.
    File file;
  };
  std::vector<Piece> pieces;
  const Dirty taken = std::exchange(dirty_, {});
  for (const auto& [name, file] : taken)
    if (const View* view = job_.find(name)) pieces.push_back({*view, file});
  if (pieces.empty()) return;
  lane_.start([this, pieces = std::move(pieces)](const Progress&) -> std::function<void()> {
    Dirty left;
    std::optional<Error> problem;
    for (const Piece& piece : pieces)
      if (const auto saved = save(piece.view, piece.file); !saved) {
        left.emplace(idOf(piece.view), piece.file);
        problem = saved.error();
      }
    return [this, left, problem] {
      dirty_.insert(left.begin(), left.end());
      if (problem) notices_.fail(*problem);
    };
  });
}

void ViewSaver::flush() {
  timer_.stop();
  lane_.wait();
  for (const auto& [name, file] : std::exchange(dirty_, {}))
    if (const View* view = job_.find(name))
      if (!notices_.check(save(*view, file))) dirty_.emplace(name, file);
}

} // namespace ml
