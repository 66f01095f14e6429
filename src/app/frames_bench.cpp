// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"
#include "app/field_card.h"
#include "app/positions_dialog.h"
#include "app/profiles_dialog.h"
#include "app/theme.h"
#include "base/phrase.h"
#include "exposure/marks.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QSpinBox>
#include <QToolButton>
#include <cmath>

namespace ml {
namespace {

void select(QComboBox* box, const QVariant& value) {
  const QSignalBlocker quiet(box);
  box->setCurrentIndex(std::max(0, box->findData(value)));
}

/// What the planner is asked. What it answers stands on the sheet above.
constexpr int kGive = 10; ///< Pixels that a box takes more where there is room.

class FramesBench final : public Bench {
public:
  explicit FramesBench(FramesModel& frames) : Bench(frames), frames_(frames) {
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(7);
    grid->setVerticalSpacing(6);
    camera_ = addBox(grid, 0, 0, "camera", tr("Camera"), 193);
    school_ = addBox(grid, 1, 0, "school", tr("Bracket"), 193);
    for (const auto& s : schools()) {
      school_->addItem(QString::fromStdString(s.name), QString::fromStdString(s.id));
      school_->setItemData(school_->count() - 1, text(phrase("{}. Costs: {}", s.who, s.cost)), Qt::ToolTipRole);
    }
    moving_ = addBox(grid, 2, 0, "moving", tr("Moving"), 193);
    moving_->addItem(tr("nothing"), QString());
    for (const auto& m : typicalMovers())
      moving_->addItem(QString::fromStdString(m.name), QString::fromStdString(m.id));
    aperture_ = addBox(grid, 0, 2, "aperture", tr("Aperture"), 90);
    for (int sixths = 8; sixths <= 27; ++sixths)
      aperture_->addItem(QString::fromStdString(print(FNumber{std::exp2(sixths / 6.0)})), sixths);
    snr_ = addBox(grid, 1, 2, "snr", tr("Shadows"), 90);
    snr_->addItem(tr("SNR 10"), 10);
    snr_->addItem(tr("SNR 20"), 20);
    snr_->addItem(tr("SNR 40"), 40);
    snr_->setToolTip(
        tr("Least SNR of what must keep texture: 10 is acceptable, 40 excellent (ISO 12232); or type your own"));
    snr_->setEditable(true);
    snr_->setInsertPolicy(QComboBox::NoInsert);
    connect(snr_->lineEdit(), &QLineEdit::editingFinished, this, &FramesBench::choose);
    iso_ = addBox(grid, 2, 2, "isoCap", tr("ISO up to"), 90);
    for (const int iso : {0, 200, 400, 800, 1600, 3200})
      iso_->addItem(iso == 0 ? tr("base") : QString::number(iso), iso);
    hand_ = new QCheckBox(tr("Hand-held"));
    hand_->setObjectName("planHandHeld");
    focal_ = new QSpinBox;
    focal_->setObjectName("focal");
    focal_->setRange(4, 1200);
    focal_->setSuffix(tr(" mm"));
    focal_->setAccessibleName(tr("Focal length"));
    focal_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    focal_->setKeyboardTracking(false);
    focal_->setFixedWidth(grown(74));
    grid->addWidget(hand_, 0, 4);
    grid->addWidget(focal_, 0, 5);
    fade_ = new QComboBox;
    fade_->setObjectName("fade");
    fade_->setAccessibleName(tr("The light"));
    fade_->addItem(tr("Light steady"), 0.0);
    fade_->addItem(tr("Fading, 1/4 stop/min"), 0.25);
    fade_->addItem(tr("Fading, 1 stop/min"), 1.0);
    grid->addWidget(fade_, 1, 4, 1, 2);
    positions_ = addButton("positions", tr("Positions"), tr("Panorama, lens shift, planes of focus"));
    card_ = addButton("fieldCard", tr("Field card"),
                      tr("One page to carry: settings, shots, checklist; PDF, PNG, CSV, JSON"));
    grid->addWidget(positions_, 2, 4);
    grid->addWidget(card_, 2, 5);
    row_->setSpacing(10);
    row_->addLayout(grid);
    buildOwn();
    row_->addStretch();
    connectAll();
  }

  void refresh() override {
    const PlanChoices c = frames_.choices();
    {
      const QSignalBlocker quiet(camera_);
      camera_->clear();
      for (const auto& p : frames_.desk().profiles.all())
        camera_->addItem(QString::fromStdString(p.name), QString::fromStdString(p.id));
      camera_->addItem(tr("Cameras of your own..."), QString());
    }
    select(camera_, QString::fromStdString(c.camera));
    select(school_, QString::fromStdString(c.school));
    select(aperture_, int(std::lround(6 * std::log2(c.aperture.value))));
    if (!(snr_->lineEdit()->hasFocus() && snr_->lineEdit()->isModified())) { // else a hand is typing
      const QSignalBlocker quiet(snr_);
      snr_->setCurrentIndex(snr_->findData(int(c.snrTarget)));
      snr_->setEditText(tr("SNR %1").arg(c.snrTarget));
    }
    select(iso_, c.isoCap ? int(c.isoCap->value) : 0);
    select(moving_, c.situation.movers.empty() ? QString() : QString::fromStdString(c.situation.movers.front().id));
    showFade(c.situation.fadeStopsPerMinute);
    const QSignalBlocker quietHand(hand_), quietFocal(focal_);
    hand_->setChecked(c.situation.handHeld);
    focal_->setValue(int(std::lround(c.situation.focalMm)));
    const bool free = !busy();
    for (QWidget* w : std::initializer_list<QWidget*>{camera_, school_, aperture_, snr_, iso_, moving_, fade_, hand_,
                                                      focal_, positions_})
      w->setEnabled(free);
    card_->setEnabled(free && view().plan.has_value());
    refreshOwn(free);
  }

private:
  /// What the sun of the visit says stands beside the usual ones.
  void showFade(double stops) {
    const QSignalBlocker quiet(fade_);
    constexpr int kUsualFades = 3;
    while (fade_->count() > kUsualFades) fade_->removeItem(kUsualFades);
    if (fade_->findData(stops) < 0) fade_->addItem(tr("Fading, %1 stop/min").arg(stops, 0, 'f', 2), stops);
    fade_->setCurrentIndex(std::max(0, fade_->findData(stops)));
  }

  void connectAll() {
    for (auto* box : {camera_, school_, aperture_, snr_, moving_, iso_, fade_})
      connect(box, &QComboBox::activated, this, &FramesBench::choose);
    connect(hand_, &QCheckBox::toggled, this, &FramesBench::choose);
    connect(focal_, &QSpinBox::valueChanged, this, &FramesBench::choose);
    connect(positions_, &QToolButton::clicked, this, [this] {
      PlanChoices c = frames_.choices();
      if (editPositions(this, c.situation, frames_.desk().habits.feet)) frames_.choose(c);
    });
    connect(card_, &QToolButton::clicked, this, [this] {
      const QString folder = QFileDialog::getExistingDirectory(this, tr("Where to put the field card"),
                                                               QString::fromStdString(view().folder.string()));
      if (!folder.isEmpty()) exportField(folder);
    });
  }

  /// A bracket of the user's own, from what is planned now.
  void buildOwn() {
    auto* column = group(tr("A bracket of your own"));
    count_ = new QSpinBox;
    count_->setObjectName("ownCount");
    count_->setAccessibleName(tr("Frames of your own bracket"));
    count_->setRange(1, 15);
    count_->setSuffix(tr(" frames"));
    count_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    count_->setKeyboardTracking(false);
    const auto box = [](const char* object, const QString& title) {
      auto* made = new QComboBox;
      made->setObjectName(object);
      made->setAccessibleName(title);
      made->setToolTip(title);
      made->setMinimumWidth(grown(112));
      made->setMaximumWidth(grown(112 + kGive));
      return made;
    };
    step_ = box("ownStep", tr("Stops between frames"));
    for (int thirds = 1; thirds <= 12; ++thirds)
      step_->addItem(tr("%1 apart").arg(text(print(Stops{thirds / 3.0})).remove('+')), thirds);
    first_ = box("ownFirst", tr("Shortest time"));
    for (int k = kShortestMarkThirds; k >= kLongestMarkThirds; --k)
      first_->addItem(tr("from %1").arg(text(print(timeAtThirds(k)))), k);
    ownIso_ = box("ownIso", tr("ISO"));
    for (const int iso : {50, 64, 100, 200, 400, 800, 1600, 3200, 6400})
      ownIso_->addItem(text(print(Iso{double(iso)})), iso);
    recommended_ = addButton("recommended", tr("Reset"), tr("Back to the smallest that covers"));
    auto* cells = new QGridLayout;
    cells->setSpacing(4);
    cells->addWidget(count_, 0, 0);
    cells->addWidget(step_, 0, 1);
    cells->addWidget(first_, 1, 0);
    cells->addWidget(ownIso_, 1, 1);
    cells->addWidget(recommended_, 2, 0, Qt::AlignLeft);
    column->addLayout(cells);
    column->addStretch();
    connect(count_, &QSpinBox::valueChanged, this, &FramesBench::chooseOwn);
    for (auto* b : {step_, first_, ownIso_}) connect(b, &QComboBox::activated, this, &FramesBench::chooseOwn);
    connect(recommended_, &QToolButton::clicked, this, [this] { frames_.chooseWay("auto"); });
  }

  void refreshOwn(bool free) {
    const auto& plan = view().plan;
    for (QWidget* w : std::initializer_list<QWidget*>{count_, step_, first_, ownIso_})
      w->setEnabled(free && plan.has_value());
    recommended_->setEnabled(free && plan && (frames_.choices().own || frames_.choices().school != "auto"));
    if (!plan) return;
    const QSignalBlocker a(count_);
    count_->setValue(int(plan->frames.size()));
    select(step_, int(std::lround(3 * plan->step.value)));
    select(first_, nearestThirds(plan->frames.front().time));
    select(ownIso_, int(std::lround(plan->iso().value)));
  }

  void chooseOwn() {
    PlanChoices c = frames_.choices();
    c.own = OwnBracket{count_->value(), step_->currentData().toInt(), first_->currentData().toInt(),
                       exact(Iso{double(ownIso_->currentData().toInt())})};
    frames_.choose(c);
  }

  static QComboBox* addBox(QGridLayout* grid, int line, int column, const char* name, const QString& title, int width) {
    auto* label = new QLabel(title);
    label->setProperty("role", "quiet");
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setAccessibleName(title);
    box->setMinimumWidth(grown(width));
    box->setMaximumWidth(grown(width + kGive));
    grid->addWidget(label, line, column);
    grid->addWidget(box, line, column + 1);
    return box;
  }
  static QToolButton* addButton(const char* name, const QString& text, const QString& tip) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setText(text);
    button->setToolTip(tip);
    return button;
  }
  void exportField(const QString& folder) {
    const FieldCard card = fieldCardOf(frames_);
    const auto written = writeFieldFiles(card, folder.toStdString());
    if (written)
      frames_.desk().notices.tell(tr("Field card and shot list are in %1.").arg(folder));
    else
      frames_.desk().notices.fail(written.error());
  }
  void choose() {
    if (camera_->currentData().toString().isEmpty()) { // the last entry is no camera
      refresh();
      return editProfiles(this, frames_);
    }
    PlanChoices c = frames_.choices();
    c.camera = camera_->currentData().toString().toStdString();
    const std::string school = school_->currentData().toString().toStdString();
    if (school != c.school) c.own.reset();
    c.school = school;
    c.aperture = FNumber{std::exp2(aperture_->currentData().toInt() / 6.0)};
    snr_->lineEdit()->setModified(false);
    const double target =
        QString(snr_->currentText()).remove(QRegularExpression("[^0-9.,]")).replace(',', '.').toDouble();
    if (target >= 1 && target <= 1000) c.snrTarget = target;
    c.isoCap.reset();
    if (const int iso = iso_->currentData().toInt(); iso > 0) c.isoCap = Iso{double(iso)};
    c.situation.handHeld = hand_->isChecked();
    c.situation.focalMm = focal_->value();
    c.situation.fadeStopsPerMinute = fade_->currentData().toDouble();
    c.situation.movers.clear();
    const std::string mover = moving_->currentData().toString().toStdString();
    for (const auto& m : typicalMovers())
      if (m.id == mover) c.situation.movers.push_back(m);
    frames_.choose(c);
  }

  FramesModel& frames_;
  QComboBox *camera_, *school_, *aperture_, *snr_, *iso_, *moving_, *fade_;
  QCheckBox* hand_;
  QSpinBox* focal_;
  QToolButton *positions_, *card_, *recommended_;
  QSpinBox* count_;
  QComboBox *step_, *first_, *ownIso_;
};

} // namespace

Bench* makeFramesBench(FramesModel& frames) {
  return new FramesBench(frames);
}

} // namespace ml
