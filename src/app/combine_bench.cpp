// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"
#include "app/theme.h"
#include "exposure/marks.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QInputDialog>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QStandardItemModel>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr int kLent = Qt::UserRole + 1; ///< Of an item of the list of frames.

class CombineBench final : public Bench {
public:
  explicit CombineBench(CombineModel& combine) : Bench(combine), combine_(combine) {
    row_->setSpacing(14);
    buildMethod();
    buildPlacing();
    buildPainting();
    buildJoining();
    buildFrames();
  }

  void refresh() override {
    const bool ready = !view().frames.empty() && !busy();
    const bool done = combine_.state() == StationState::Done;
    const CombineOptions options = combine_.options();
    choose(method_, int(options.method));
    const bool joined = options.method == CombineMethod::Positions;
    setItemEnabled(method_, method_->findData(int(CombineMethod::Positions)), view().positions().size() > 1);
    choose(align_, int(options.align));
    choose(motion_, int(shownAs(options.motion)));
    const QSignalBlocker quiet(empty_), quietLow(low_), quietHigh(high_);
    empty_->setChecked(options.emptyScene);
    low_->setValue(int(options.toneRange.untouchedBelow));
    high_->setValue(int(options.toneRange.replacedAbove));
    for (QWidget* w : {static_cast<QWidget*>(method_), static_cast<QWidget*>(align_), static_cast<QWidget*>(motion_),
                       static_cast<QWidget*>(frames_)})
      w->setEnabled(ready);
    for (QWidget* w : std::initializer_list<QWidget*>{paintTitle_, paint_, from_, brush_}) w->setVisible(!joined);
    for (QWidget* w : std::initializer_list<QWidget*>{joinTitle_, projection_, turning_, angles_})
      w->setVisible(joined);
    choose(projection_, int(options.joining.projection));
    fillTurning();
    showAngles(combine_.turned());
    for (QWidget* w : std::initializer_list<QWidget*>{projection_, turning_, angles_}) w->setEnabled(ready);
    const bool byTone = options.method == CombineMethod::ToneRange;
    tones_->setVisible(byTone);
    again_->setVisible(!byTone);
    empty_->setEnabled(ready && view().frames.size() > 2);
    framesTitle_->setText(joined ? tr("Positions that are joined") : tr("Frames that are used"));
    again_->setEnabled(ready && done);
    constexpr int kListHeight = 92, kListBesideLend = 62;
    const bool others = !combine_.lendable().empty();
    lend_->setVisible(others);
    lend_->setEnabled(ready);
    frames_->setFixedHeight(grown(others ? kListBesideLend : kListHeight));
    const bool paintable = combine_.canPaint();
    paint_->setEnabled(paintable);
    fillFrames();
    const QSignalBlocker quietPaint(paint_);
    paint_->setChecked((combine_.paintFrom() >= 0));
    brush_->setEnabled((combine_.paintFrom() >= 0));
    from_->setEnabled(paintable);
  }

private:
  QComboBox* box(const char* name, int width, const QString& accessible) {
    auto* made = new QComboBox;
    made->setObjectName(name);
    made->setAccessibleName(accessible);
    made->setFixedWidth(grown(width));
    connect(made, &QComboBox::activated, this, &CombineBench::combine);
    return made;
  }
  static void setItemEnabled(QComboBox* box, int index, bool enabled) {
    if (auto* model = qobject_cast<QStandardItemModel*>(box->model()); model && index >= 0)
      model->item(index)->setEnabled(enabled);
  }
  static MotionMode shownAs(MotionMode motion) { return motion == MotionMode::Auto ? MotionMode::Medium : motion; }
  static void choose(QComboBox* box, int value) {
    const QSignalBlocker quiet(box);
    box->setCurrentIndex(std::max(0, box->findData(value)));
  }

  void buildMethod() {
    auto* column = group(tr("Combined as"));
    method_ = box("method", 180, tr("How the frames are combined"));
    method_->addItem(tr("All their light"), int(CombineMethod::Radiance));
    method_->addItem(tr("Blended as pictures"), int(CombineMethod::Fusion));
    method_->addItem(tr("Two, joined by tone"), int(CombineMethod::ToneRange));
    method_->addItem(tr("Darker where painted"), int(CombineMethod::Darker));
    method_->addItem(tr("One frame as it is"), int(CombineMethod::Single));
    method_->addItem(tr("All positions joined"), int(CombineMethod::Positions));
    column->addWidget(method_);
    projection_ = box("projection", 180, tr("Which lines stay straight"));
    projection_->addItem(tr("As the angle asks"), int(Projection::Auto));
    projection_->addItem(tr("All lines straight"), int(Projection::Perspective));
    projection_->addItem(tr("Verticals straight"), int(Projection::Cylindrical));
    projection_->addItem(tr("Both in degrees"), int(Projection::Equirectangular));
    column->addWidget(projection_);
    tones_ = new QWidget;
    auto* row = new QHBoxLayout(tones_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    const auto tone = [&](const char* name, const QString& accessible) {
      auto* made = new QSpinBox;
      made->setObjectName(name);
      made->setRange(0, 255);
      made->setButtonSymbols(QAbstractSpinBox::NoButtons);
      made->setFixedWidth(grown(42));
      made->setAccessibleName(accessible);
      connect(made, &QSpinBox::editingFinished, this, [this] {
        if (changedTones()) combine();
      });
      row->addWidget(made);
      return made;
    };
    row->addWidget(new QLabel(tr("from")));
    low_ = tone("toneLow", tr("Tone below which nothing is replaced"));
    row->addWidget(new QLabel(tr("to")));
    high_ = tone("toneHigh", tr("Tone above which all is replaced"));
    row->addStretch();
    tones_->setToolTip(
        tr("Tones of the lighter frame, 0 to 255: below the first nothing is replaced, above the second everything"));
    column->addWidget(tones_);
    again_ = new QPushButton(tr("Combine again"));
    again_->setObjectName("combineAgain");
    connect(again_, &QPushButton::clicked, this, &CombineBench::combine);
    column->addWidget(again_, 0, Qt::AlignLeft);
    column->addStretch();
  }

  void buildPlacing() {
    auto* column = group(tr("Alignment and movement"));
    align_ = box("align", 232, tr("How the frames are aligned"));
    align_->addItem(tr("Aligned as needed"), int(AlignMode::Auto));
    align_->addItem(tr("Shift only"), int(AlignMode::Shift));
    align_->addItem(tr("Shift and rotation"), int(AlignMode::Rigid));
    align_->addItem(tr("Perspective"), int(AlignMode::Perspective));
    align_->addItem(tr("Not aligned"), int(AlignMode::Off));
    column->addWidget(align_);
    motion_ = box("motion", 232, tr("How moving things are treated"));
    motion_->addItem(tr("Movement: from one frame"), int(MotionMode::Medium));
    motion_->addItem(tr("Looked for closely"), int(MotionMode::High));
    motion_->addItem(tr("Only where obvious"), int(MotionMode::Low));
    motion_->addItem(tr("Not looked for"), int(MotionMode::Off));
    column->addWidget(motion_);
    empty_ = new QCheckBox(tr("Empty the scene"));
    empty_->setObjectName("emptyScene");
    empty_->setToolTip(tr("Keeps what most frames agree on, so that passers-by vanish; needs three frames"));
    connect(empty_, &QCheckBox::clicked, this, &CombineBench::combine);
    column->addWidget(empty_);
    column->addStretch();
  }

  void buildPainting() {
    auto* column = group(tr("Choose by hand"));
    paintTitle_ = column->itemAt(0)->widget();
    paint_ = new QPushButton(tr("Paint from"));
    paint_->setObjectName("paint");
    paint_->setCheckable(true);
    paint_->setToolTip(tr("Paint on the picture what comes from one frame. Without it, a click on an outlined place "
                          "takes it from the next frame"));
    from_ = new QComboBox;
    from_->setObjectName("paintFrom");
    from_->setAccessibleName(tr("Frame to paint from"));
    from_->setMinimumWidth(grown(104));
    from_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    column->addWidget(paint_);
    column->addWidget(from_);
    brush_ = new QComboBox;
    brush_->setObjectName("brush");
    brush_->setAccessibleName(tr("Size of the brush"));
    brush_->setMinimumWidth(grown(104));
    brush_->addItem(tr("small brush"), 0.012);
    brush_->addItem(tr("brush"), 0.03);
    brush_->addItem(tr("large brush"), 0.07);
    brush_->setCurrentIndex(1);
    column->addWidget(brush_);
    column->addStretch();
    connect(paint_, &QPushButton::toggled, this,
            [this](bool on) { combine_.setPaintFrom(on ? from_->currentData().toInt() : -1); });
    connect(from_, &QComboBox::activated, this, [this] {
      if (paint_->isChecked()) combine_.setPaintFrom(from_->currentData().toInt());
    });
    connect(brush_, &QComboBox::activated, this, [this] { combine_.setBrushRadius(brush_->currentData().toDouble()); });
  }

  /// How joined positions lie on the picture; the same by dragging it.
  void buildJoining() {
    auto* column = group(tr("Level, and turned by hand"));
    joinTitle_ = column->itemAt(0)->widget();
    turning_ = new QComboBox;
    turning_->setObjectName("turning");
    turning_->setAccessibleName(tr("What is turned"));
    turning_->setToolTip(
        tr("What the angles below, and drags on the picture, turn: the whole, or one position that was "
           "placed wrongly"));
    turning_->setFixedWidth(grown(184));
    connect(turning_, &QComboBox::activated, this,
            [this] { combine_.setTurning(turning_->currentData().toString().toStdString()); });
    column->addWidget(turning_);
    angles_ = new QWidget;
    auto* rows = new QGridLayout(angles_);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setHorizontalSpacing(6);
    rows->setVerticalSpacing(4);
    const auto angle = [&](const char* name, int at, const QString& words, double most, const QString& tip) {
      auto* made = new QDoubleSpinBox;
      made->setObjectName(name);
      made->setAccessibleName(words);
      made->setToolTip(tip);
      made->setDecimals(1);
      made->setRange(-most, most);
      made->setSingleStep(0.5);
      made->setSuffix(QString(QChar(0x00b0)));
      made->setButtonSymbols(QAbstractSpinBox::NoButtons);
      made->setFixedWidth(grown(58));
      connect(made, &QDoubleSpinBox::editingFinished, this, &CombineBench::turn);
      auto* label = new QLabel(words);
      label->setProperty("role", "quiet");
      label->setFont(uiFont(9));
      rows->addWidget(label, 0, at);
      rows->addWidget(made, 1, at);
      return made;
    };
    yaw_ = angle("facingYaw", 0, tr("right"), 180, tr("Looks further to the right; or drag the picture"));
    pitch_ = angle("facingPitch", 1, tr("up"), 90, tr("Looks further up: bends the horizon back; or drag the picture"));
    roll_ = angle("facingRoll", 2, tr("leaning"), 180, tr("Leans to the right: levels the horizon"));
    column->addWidget(angles_);
    column->addStretch();
  }

  /// The whole, and each position.
  void fillTurning() {
    const QSignalBlocker quiet(turning_);
    turning_->clear();
    turning_->addItem(tr("The whole"), QString());
    for (const auto& position : combine_.joinedPositions())
      turning_->addItem(position.words, QString::fromStdString(position.set));
    const int at = turning_->findData(QString::fromStdString(combine_.turning()));
    turning_->setCurrentIndex(std::max(0, at));
  }

  void showAngles(const Angles& angles) {
    const QSignalBlocker quietYaw(yaw_), quietPitch(pitch_), quietRoll(roll_);
    yaw_->setValue(angles.yaw);
    pitch_->setValue(angles.pitch);
    roll_->setValue(angles.roll);
  }

  /// Only what was typed: the boxes show tenths.
  void turn() {
    Angles angles = combine_.turned();
    const auto take = [](double& angle, const QDoubleSpinBox* box) {
      constexpr double kShown = 0.0501;
      if (std::abs(box->value() - angle) > kShown) angle = box->value();
    };
    take(angles.yaw, yaw_);
    take(angles.pitch, pitch_);
    take(angles.roll, roll_);
    combine_.turn(angles);
  }

  void buildFrames() {
    auto* column = group(tr("Frames that are used"), 1);
    framesTitle_ = qobject_cast<QLabel*>(column->itemAt(0)->widget());
    frames_ = new QListWidget;
    frames_->setObjectName("combineFrames");
    frames_->setAccessibleName(tr("Frames"));
    frames_->setFont(uiFont(9));
    frames_->setToolTip(tr("Untick a frame to leave it out. Double-click to type its exposure time"));
    column->addWidget(frames_);
    lend_ = new QToolButton;
    lend_->setObjectName("lend");
    lend_->setText(tr("Borrow from another set"));
    lend_->setPopupMode(QToolButton::InstantPopup);
    lend_->setToolTip(
        tr("A frame of another set of this view stands by: paint from it, or click on a place that moved, and "
           "that place comes from it"));
    lend_->setMenu(new QMenu(lend_));
    connect(lend_->menu(), &QMenu::aboutToShow, this, &CombineBench::fillLendable);
    column->addWidget(lend_, 0, Qt::AlignLeft);
    column->addStretch();
    connect(frames_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
      if (item->data(kLent).toBool())
        combine_.lend(item->data(Qt::UserRole).toString(), item->checkState() == Qt::Checked);
      else
        combine();
    });
    connect(frames_, &QListWidget::itemDoubleClicked, this, &CombineBench::typeTime);
  }

  void fillLendable() {
    lend_->menu()->clear();
    for (const auto& frame : combine_.lendable()) {
      QAction* action = lend_->menu()->addAction(frame.words);
      action->setCheckable(true);
      action->setChecked(frame.lent);
      connect(action, &QAction::triggered, this, [this, name = frame.name](bool on) { combine_.lend(name, on); });
    }
  }

  void fillFrames() {
    const QSignalBlocker quiet(frames_), quietFrom(from_);
    const int current = frames_->currentRow(), wanted = from_->currentIndex();
    frames_->clear();
    from_->clear();
    for (const auto& place : combine_.framePlaces()) {
      auto* item = new QListWidgetItem(place.note.isEmpty() ? place.line : place.line + "  !", frames_);
      item->setData(Qt::UserRole, place.file);
      item->setData(kLent, place.lent);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      item->setCheckState(place.used ? Qt::Checked : Qt::Unchecked);
      item->setToolTip(place.details + (place.note.isEmpty() ? QString() : "\n" + place.note));
      if (place.merged < 0) continue;
      const QString of = from_->fontMetrics().elidedText(place.of, Qt::ElideRight, grown(96));
      from_->addItem(of.isEmpty() ? tr("frame %1").arg(place.number) : tr("frame %1, %2").arg(place.number).arg(of),
                     place.merged);
    }
    frames_->setCurrentRow(current);
    from_->setCurrentIndex(std::clamp(wanted, 0, std::max(0, from_->count() - 1)));
  }

  void typeTime(QListWidgetItem* item) {
    bool taken = false;
    const QString name = item->data(Qt::UserRole).toString();
    const QString text = QInputDialog::getText(this, tr("Exposure time"),
                                               tr("How long was %1 exposed? For instance 1/60 or 0.4").arg(name),
                                               QLineEdit::Normal, {}, &taken);
    if (!taken) return;
    const auto time = parseTime(text.toStdString());
    if (!time)
      return combine_.desk().notices.fail(tr("\"%1\" is no exposure time; type one like 1/60, 0.4 or 2.").arg(text));
    CombineOptions options = chosen();
    options.seconds[name.toStdString()] = time->value;
    combine_.combine(options);
  }

  [[nodiscard]] bool changedTones() const {
    const auto now = combine_.options().toneRange;
    return low_->value() != int(now.untouchedBelow) || high_->value() != int(now.replacedAbove);
  }

  [[nodiscard]] CombineOptions chosen() const {
    CombineOptions options = combine_.options();
    options.method = CombineMethod(method_->currentData().toInt());
    options.align = AlignMode(align_->currentData().toInt());
    const auto motion = MotionMode(motion_->currentData().toInt());
    if (motion != shownAs(options.motion)) options.motion = motion;
    options.emptyScene = empty_->isChecked();
    options.joining.projection = Projection(projection_->currentData().toInt());
    options.toneRange = {float(low_->value()), float(high_->value())};
    options.unused.clear();
    for (int i = 0; i < frames_->count(); ++i)
      if (frames_->item(i)->checkState() == Qt::Unchecked && !frames_->item(i)->data(kLent).toBool())
        options.unused.push_back(frames_->item(i)->data(Qt::UserRole).toString().toStdString());
    if (options.unused != combine_.options().unused)
      options.choices.clear(), options.darker.clear(); // they count the merged frames
    return options;
  }

  void combine() { combine_.combine(chosen()); }

  CombineModel& combine_;
  QComboBox *method_, *align_, *motion_, *from_, *brush_, *projection_, *turning_;
  QDoubleSpinBox *yaw_, *pitch_, *roll_;
  QWidget *paintTitle_, *joinTitle_, *angles_;
  QSpinBox *low_, *high_;
  QWidget* tones_;
  QCheckBox* empty_;
  QListWidget* frames_;
  QToolButton* lend_;
  QLabel* framesTitle_;
  QPushButton *again_, *paint_;
};

} // namespace

Bench* makeCombineBench(CombineModel& combine) {
  return new CombineBench(combine);
}

} // namespace ml
