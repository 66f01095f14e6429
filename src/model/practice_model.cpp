// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/practice_model.h"

#include <QDateTime>
#include <algorithm>

namespace ml {

PracticeModel::PracticeModel(Desk& desk, Clock clock)
    : desk_(desk), clock_(std::move(clock)), record_(practiceFile(desk.jobsFolder)) {
  if (!clock_) clock_ = [] { return std::int64_t(QDateTime::currentMSecsSinceEpoch()); };
  refresh({});
}

void PracticeModel::refresh(const FaultCounts& wentWrong) {
  wentWrong_ = wentWrong;
  std::vector<std::string> problems;
  if (auto all = allExercises(ownFolder(), problems); all != exercises_) exercises_ = std::move(all);
  problems_.clear();
  for (const auto& problem : problems) problems_ << QString::fromStdString(problem);
  emit changed();
}

const Exercise* PracticeModel::next() const {
  return nextExercise(exercises_, record_.results(), wentWrong_, clock_() / 1000);
}

double PracticeModel::best(const std::string& exercise) const {
  double best = -1;
  for (const auto& result : record_.results())
    if (result.exercise == exercise) best = std::max(best, result.points);
  return best;
}

bool PracticeModel::due(const std::string& exercise) const {
  const auto at = dueAt(record_.results(), exercise);
  return at && *at <= clock_() / 1000;
}

void PracticeModel::begin(const std::string& id) {
  const auto it = std::find_if(exercises_.begin(), exercises_.end(), [&](const Exercise& e) { return e.id == id; });
  if (it == exercises_.end()) return;
  current_ = *it;
  material_.reset();
  pictures_.clear();
  score_.reset();
  desk_.works.practising.start([this, exercise = *it](const Progress& progress) -> std::function<void()> {
    auto made = prepare(exercise, progress);
    if (!made)
      return [this, e = made.error()] {
        desk_.notices.fail(e);
        leave();
      };
    auto material = std::make_shared<const ExerciseMaterial>(std::move(*made));
    std::vector<QImage> pictures;
    for (const auto& picture : material->pictures)
      pictures.push_back(QImage(picture.rgb.data(), picture.rgb.width(), picture.rgb.height(),
                                qsizetype(picture.rgb.width()) * 3, QImage::Format_RGB888)
                             .copy());
    return [this, material, pictures] {
      material_ = material;
      pictures_ = pictures;
      shown_ = clock_();
      emit changed();
    };
  });
  emit changed();
}

void PracticeModel::leave() {
  desk_.works.practising.stop();
  current_.reset();
  material_.reset();
  pictures_.clear();
  score_.reset();
  emit changed();
}

double PracticeModel::seconds() const {
  return material_ ? double((score_ ? answered_ : clock_()) - shown_) / 1000 : 0;
}

bool PracticeModel::overTime() const {
  return current_ && current_->limitSeconds > 0 && seconds() > current_->limitSeconds;
}

void PracticeModel::answer(const ExerciseAnswer& answer) {
  if (!material_ || score_) return;
  answered_ = clock_();
  const bool late = overTime();
  score_ = scoreOf(material_->truth, answer);
  if (late) {
    score_->points /= 2;
    score_->explanation.insert(
        score_->explanation.begin(),
        tr("Over the limit of %1 s: half the points.").arg(current_->limitSeconds).toStdString());
  }
  desk_.notices.check(record_.keep({current_->id, answered_ / 1000, score_->points, seconds()}));
  emit changed();
}

QString PracticeModel::verdict() const {
  if (!current_) {
    const Exercise* exercise = next();
    if (!exercise) return tr("There is no exercise.");
    const QString title = QString::fromStdString(exercise->title);
    return tr("Next to practise: %1").arg(title.endsWith('?') ? title : title + '.');
  }
  if (!material_) return tr("The exercise is being prepared.");
  if (!score_) return QString::fromStdString(material_->task);
  return score_->passed() ? tr("%1 of 100 points, in %2 s.").arg(score_->points, 0, 'f', 0).arg(seconds(), 0, 'f', 0)
                          : tr("%1 of 100 points. Read why, and try again later.").arg(score_->points, 0, 'f', 0);
}

} // namespace ml
