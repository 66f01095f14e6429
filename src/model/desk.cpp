// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/desk.h"

#include "session/locations.h"

namespace ml {

Desk::Desk(std::filesystem::path jobs)
    : jobsFolder(std::move(jobs)), profiles(profilesFolder(jobsFolder)), looks(looksFolder(jobsFolder)),
      areas(areasFolder(jobsFolder)), curves(curvesFolder(jobsFolder)) {
  for (Lane* lane : {&works.longWork, &works.preview, &works.judging, &works.detail, &works.beside, &works.measuring,
                     &works.delivery, &works.batch, &works.pictures, &works.small, &works.saving})
    QObject::connect(lane, &Lane::failed, &notices, qOverload<const QString&>(&Notices::fail));
  QObject::connect(&job, &JobModel::refused, &notices,
                   [this] { notices.fail(QString::fromStdString(whyOnlyReading(*job.lock()))); });
}

} // namespace ml
