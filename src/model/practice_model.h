// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/desk.h"
#include "practice/answers.h"
#include "practice/material.h"
#include "practice/progress.h"

#include <QImage>
#include <QObject>

namespace ml {

/// The practice room: which exercises there are, the one in hand, its clock, its answer and its score. Nothing of it is
/// ever a visit.
class PracticeModel : public QObject {
  Q_OBJECT

public:
  using Clock = std::function<std::int64_t()>; ///< Milliseconds.
  explicit PracticeModel(Desk& desk, Clock clock = {});

  [[nodiscard]] const std::vector<Exercise>& exercises() const { return exercises_; }
  [[nodiscard]] const QStringList& problems() const { return problems_; }
  /// The folder may have got exercises; what went wrong on location decides what comes next.
  void refresh(const FaultCounts& wentWrong);
  /// To be practised next; null: there is none.
  [[nodiscard]] const Exercise* next() const;
  /// Best points so far; below 0: never done.
  [[nodiscard]] double best(const std::string& exercise) const;
  [[nodiscard]] bool due(const std::string& exercise) const;

  void begin(const std::string& exercise);
  void leave();
  [[nodiscard]] const Exercise* current() const { return current_ ? &*current_ : nullptr; }
  /// Null while it is being prepared.
  [[nodiscard]] const ExerciseMaterial* material() const { return material_.get(); }
  [[nodiscard]] const std::vector<QImage>& pictures() const { return pictures_; }
  /// Seconds since it was shown; of one that was answered, until then.
  [[nodiscard]] double seconds() const;
  [[nodiscard]] bool overTime() const;
  /// Scored and kept; only once. An answer after the limit counts half.
  void answer(const ExerciseAnswer& answer);
  [[nodiscard]] const Score* score() const { return score_ ? &*score_ : nullptr; }
  [[nodiscard]] QString verdict() const;
  [[nodiscard]] std::filesystem::path ownFolder() const { return exercisesFolder(desk_.jobsFolder); }

signals:
  void changed();

private:
  Desk& desk_;
  Clock clock_;
  PracticeRecord record_;
  std::vector<Exercise> exercises_;
  QStringList problems_;
  FaultCounts wentWrong_;
  std::optional<Exercise> current_;
  std::shared_ptr<const ExerciseMaterial> material_;
  std::vector<QImage> pictures_;
  std::optional<Score> score_;
  std::int64_t shown_ = 0, answered_ = 0;
};

} // namespace ml
