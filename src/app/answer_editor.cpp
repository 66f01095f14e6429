// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/answer_editor.h"

#include "app/theme.h"
#include "base/phrase.h"
#include "exposure/marks.h"
#include "model/station_model.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QEvent>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cmath>

namespace ml {
namespace {

QComboBox* timeCombo(double about) {
  auto* box = new QComboBox;
  int nearest = 0;
  double least = 1e9;
  for (const Seconds mark : shutterMarks()) {
    box->addItem(text(print(mark)), mark.value);
    if (const double off = std::abs(std::log2(mark.value / about)); off < least) {
      least = off;
      nearest = box->count() - 1;
    }
  }
  box->setCurrentIndex(nearest);
  return box;
}

template <class Field> Field* named(Field* field, const QString& name, const QString& what) {
  field->setObjectName(name);
  field->setAccessibleName(what);
  return field;
}

class SpotEditor final : public AnswerEditor {
public:
  explicit SpotEditor(const SpotTruth& truth) {
    auto* form = new QFormLayout(this);
    for (std::size_t i = 0; i < truth.spots.size(); ++i) {
      auto* field = named(new QDoubleSpinBox, QString("spot-%1").arg(i + 1), tr("EV of spot %1").arg(i + 1));
      field->setRange(-15, 30);
      field->setDecimals(1);
      field->setSingleStep(1.0 / 3);
      field->setPrefix(tr("EV "));
      field->setButtonSymbols(QAbstractSpinBox::NoButtons);
      field->setValue(8);
      form->addRow(tr("Spot %1").arg(i + 1), field);
      fields_.push_back(field);
    }
  }
  ExerciseAnswer answer() const override {
    SpotAnswer out;
    for (const auto* field : fields_) out.ev100.push_back({field->value()});
    return out;
  }

private:
  std::vector<QDoubleSpinBox*> fields_;
};

class BracketEditor final : public AnswerEditor {
public:
  explicit BracketEditor(const BracketTruth& truth) {
    auto* form = new QFormLayout(this);
    count_ = named(new QComboBox, "bracketCount", tr("Frames"));
    count_->addItem("1", 1);
    for (const int count : truth.camera.counts) count_->addItem(QString::number(count), count);
    count_->setCurrentIndex(std::max(0, count_->findData(3)));
    step_ = named(new QComboBox, "bracketStep", tr("Stops apart"));
    for (const Stops step : truth.camera.steps) step_->addItem(text(printAmount(step)), step.value);
    step_->setCurrentIndex(step_->count() - 1);
    centre_ = named(timeCombo(1.0 / 60), "bracketCentre", tr("Time of the middle frame"));
    form->addRow(tr("Frames"), count_);
    form->addRow(tr("Stops apart"), step_);
    form->addRow(tr("Middle"), centre_);
  }
  ExerciseAnswer answer() const override {
    return BracketAnswer{
        count_->currentData().toInt(), {step_->currentData().toDouble()}, {centre_->currentData().toDouble()}};
  }

private:
  QComboBox *count_, *step_, *centre_;
};

class FaultEditor final : public AnswerEditor {
public:
  explicit FaultEditor(const FaultTruth& truth) {
    auto* form = new QFormLayout(this);
    for (const auto& name : faultNames()) {
      if (!showsInFrames(name.kind)) continue;
      auto* box = named(new QComboBox, QString("fault-") + name.id, text(phrase(name.name)));
      box->addItem(tr("not there"), -1);
      for (int frame = 0; frame < truth.frames; ++frame) box->addItem(tr("from frame %1").arg(frame + 1), frame);
      form->addRow(text(phrase(name.name)), box);
      kinds_.emplace_back(name.kind, box);
    }
  }
  ExerciseAnswer answer() const override {
    FaultAnswer out;
    for (const auto& [kind, box] : kinds_)
      if (const int frame = box->currentData().toInt(); frame >= 0) out.faults.push_back({kind, frame});
    return out;
  }

private:
  std::vector<std::pair<FaultKind, QComboBox*>> kinds_;
};

class LeaveOutEditor final : public AnswerEditor {
public:
  explicit LeaveOutEditor(const LeaveOutTruth& truth) {
    auto* column = new QVBoxLayout(this);
    for (std::size_t i = 0; i < truth.frames.size(); ++i) {
      auto* box = named(new QCheckBox(tr("leave out frame %1, %2").arg(i + 1).arg(text(print(truth.frames[i].time)))),
                        QString("leave-%1").arg(i + 1), tr("Leave out frame %1").arg(i + 1));
      column->addWidget(box);
      frames_.push_back(box);
    }
  }
  ExerciseAnswer answer() const override {
    LeaveOutAnswer out;
    for (std::size_t i = 0; i < frames_.size(); ++i)
      if (frames_[i]->isChecked()) out.frames.push_back(int(i));
    return out;
  }

private:
  std::vector<QCheckBox*> frames_;
};

class SettingsEditor final : public AnswerEditor {
public:
  explicit SettingsEditor(const SettingsTruth& truth) {
    auto* form = new QFormLayout(this);
    for (const auto& item : truth.items) {
      auto* box = named(new QComboBox, "setting-" + text(item.id), text(phrase(item.name)));
      for (const auto& choice : item.choices) box->addItem(text(phrase(choice)), text(choice));
      box->setCurrentIndex(box->findData(text(item.now)));
      form->addRow(text(phrase(item.name)), box);
      items_.push_back({item.id, item.now, box});
    }
  }
  ExerciseAnswer answer() const override {
    SettingsAnswer out;
    for (const auto& item : items_)
      if (const std::string choice = item.box->currentData().toString().toStdString(); choice != item.now)
        out.set.emplace_back(item.id, choice);
    return out;
  }

private:
  struct Item {
    std::string id, now;
    QComboBox* box;
  };
  std::vector<Item> items_;
};

/// A minute of dusk passes in kFaster-th of a minute.
class DuskEditor final : public AnswerEditor {
public:
  explicit DuskEditor(const DuskTruth& truth) : truth_(truth) {
    auto* column = new QVBoxLayout(this);
    sky_ = named(new QLabel, "duskSky", tr("What sky and lamps read"));
    sky_->setFont(uiFont(12, true));
    centre_ = named(timeCombo(1), "duskCentre", tr("Time of the middle frame"));
    shoot_ = named(new QPushButton(tr("Shoot a set")), "duskShoot", tr("Shoot a set"));
    shot_ = named(new QLabel, "duskShot", tr("Sets that were shot"));
    shot_->setWordWrap(true);
    for (QWidget* widget : std::initializer_list<QWidget*>{sky_, centre_, shoot_, shot_}) column->addWidget(widget);
    column->addStretch();
    connect(shoot_, &QPushButton::clicked, this, [this] {
      answer_.shots.push_back({minute_, {centre_->currentData().toDouble()}});
      tick(minute_ * 60 / kFaster);
      emit edited();
    });
    tick(0);
  }
  static constexpr double kFaster = 6;
  ExerciseAnswer answer() const override { return answer_; }
  bool complete() const override { return int(answer_.shots.size()) >= truth_.sets; }
  void tick(double seconds) override {
    minute_ = seconds / 60 * kFaster;
    sky_->setText(tr("Minute %1: sky EV %2, lamps EV %3")
                      .arg(minute_, 0, 'f', 1)
                      .arg(truth_.skyAt(minute_).value, 0, 'f', 1)
                      .arg(truth_.lamps, 0, 'f', 1));
    const bool busy = !answer_.shots.empty() && minute_ < answer_.shots.back().minute + truth_.apart;
    shoot_->setEnabled(!busy && !complete());
    QStringList shot;
    for (const auto& s : answer_.shots)
      shot << tr("minute %1 at %2").arg(s.minute, 0, 'f', 1).arg(text(print(s.centre)));
    shot_->setText(busy ? tr("Being shot... ") + shot.join("; ")
                        : tr("%1 of %2 sets. ").arg(shot.size()).arg(truth_.sets) + shot.join("; "));
  }

private:
  DuskTruth truth_;
  DuskAnswer answer_;
  double minute_ = 0;
  QLabel *sky_, *shot_;
  QComboBox* centre_;
  QPushButton* shoot_;
};

class FinishEditor final : public AnswerEditor {
public:
  explicit FinishEditor(const FinishTruth& truth) {
    auto* form = new QFormLayout(this);
    form->setRowWrapPolicy(QFormLayout::WrapAllRows);
    for (std::size_t i = 0; i < truth.pictures.size(); ++i) {
      auto* box = named(new QComboBox, QString("finish-%1").arg(i + 1), tr("Picture %1").arg(i + 1));
      for (const FinishFlaw flaw : finishFlaws()) box->addItem(text(wordsOf(flaw)), int(flaw));
      box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
      box->setMinimumContentsLength(20);
      auto* where = named(new QLabel, QString("where-%1").arg(i + 1), tr("Where picture %1 is overdone").arg(i + 1));
      where->setProperty("role", "quiet");
      form->addRow(tr("Picture %1").arg(i + 1), box);
      form->addRow(where);
      follow(box, int(i));
      connect(box, &QComboBox::currentIndexChanged, this, [this, i] { say(i); });
      pictures_.push_back({box, where, {}});
      say(i);
    }
  }
  ExerciseAnswer answer() const override {
    FinishAnswer out;
    for (const auto& picture : pictures_) {
      out.pictures.push_back({flawOf(picture), {}});
      if (picture.at && flawOf(picture) != FinishFlaw::Natural)
        out.pictures.back().place = FinishPlace{picture.at->x(), picture.at->y()};
    }
    return out;
  }
  bool asksWhere() const override { return true; }
  void point(int picture, QPointF at) override {
    pictures_[std::size_t(picture)].at = at;
    say(std::size_t(picture));
  }
  std::optional<QPointF> pointed(int picture) const override { return pictures_[std::size_t(picture)].at; }

private:
  struct Picture {
    QComboBox* flaw;
    QLabel* where;
    std::optional<QPointF> at;
  };
  static FinishFlaw flawOf(const Picture& picture) { return FinishFlaw(picture.flaw->currentData().toInt()); }
  void say(std::size_t i) {
    if (i >= pictures_.size()) return;
    const Picture& picture = pictures_[i];
    if (flawOf(picture) == FinishFlaw::Natural)
      picture.where->setText(picture.at ? tr("pointed at, but called natural") : QString(" "));
    else if (picture.at)
      picture.where->setText(tr("there: %1 % from the left, %2 % from the top")
                                 .arg(100 * picture.at->x(), 0, 'f', 0)
                                 .arg(100 * picture.at->y(), 0, 'f', 0));
    else
      picture.where->setText(tr("where? Click it in the picture"));
  }

  std::vector<Picture> pictures_;
};

class SortEditor final : public AnswerEditor {
public:
  explicit SortEditor(const SortTruth& truth) {
    auto* form = new QFormLayout(this);
    form->setVerticalSpacing(2);
    for (const auto& frame : truth.frames) {
      auto* box = named(new QSpinBox, "sort-" + text(frame.name), tr("Set of %1").arg(text(frame.name)));
      box->setRange(0, 99);
      box->setSpecialValueText(tr("none"));
      box->setPrefix(tr("set "));
      box->setButtonSymbols(QAbstractSpinBox::NoButtons);
      form->addRow(tr("%1  %2").arg(text(frame.name), text(frame.clock)), box);
      follow(box, int(sets_.size()));
      sets_.push_back(box);
    }
  }
  ExerciseAnswer answer() const override {
    SortAnswer out;
    out.sets.resize(100);
    for (std::size_t i = 0; i < sets_.size(); ++i)
      if (const int set = sets_[i]->value(); set > 0) out.sets[std::size_t(set)].push_back(int(i));
    return out;
  }

private:
  std::vector<QSpinBox*> sets_;
};

} // namespace

void AnswerEditor::follow(QWidget* field, int picture) {
  field->setProperty("picture", picture);
  field->installEventFilter(this);
}

bool AnswerEditor::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::FocusIn) emit lookedAt(watched->property("picture").toInt());
  return QWidget::eventFilter(watched, event);
}

AnswerEditor* makeAnswerEditor(const PracticeModel& model) {
  struct Make {
    AnswerEditor* operator()(const SpotTruth& t) const { return new SpotEditor(t); }
    AnswerEditor* operator()(const BracketTruth& t) const { return new BracketEditor(t); }
    AnswerEditor* operator()(const FaultTruth& t) const { return new FaultEditor(t); }
    AnswerEditor* operator()(const LeaveOutTruth& t) const { return new LeaveOutEditor(t); }
    AnswerEditor* operator()(const SettingsTruth& t) const { return new SettingsEditor(t); }
    AnswerEditor* operator()(const DuskTruth& t) const { return new DuskEditor(t); }
    AnswerEditor* operator()(const FinishTruth& t) const { return new FinishEditor(t); }
    AnswerEditor* operator()(const SortTruth& t) const { return new SortEditor(t); }
  };
  return std::visit(Make(), model.material()->truth);
}

} // namespace ml
