// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"
#include "app/position_map.h"
#include "app/set_dialog.h"
#include "app/source_menu.h"
#include "app/theme.h"
#include "base/phrase.h"
#include "exposure/marks.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {
namespace {

void select(QComboBox* box, int value) {
  const QSignalBlocker quiet(box);
  box->setCurrentIndex(std::max(0, box->findData(value)));
}

class ShootBench final : public Bench {
public:
  ShootBench(ShootModel& shoot, FramesModel& frames, IntervalShooting& interval)
      : Bench(shoot), shoot_(shoot), frames_(frames), interval_(interval) {
    auto* first = group(QString(), 0);
    status_ = qobject_cast<QLabel*>(first->itemAt(0)->widget());
    status_->setObjectName("device");
    source_ = new SourceMenu(shoot_);
    first->addWidget(source_);
    auto* boxes = new QHBoxLayout;
    format_ = new QComboBox;
    format_->setObjectName("format");
    format_->setAccessibleName(tr("File format"));
    format_->addItem(tr("Raw"), int(FrameFormat::Dng));
    format_->addItem(tr("JPEG"), int(FrameFormat::Jpeg));
    format_->addItem(tr("TIFF"), int(FrameFormat::Tiff));
    order_ = new QComboBox;
    order_->setObjectName("order");
    order_->setAccessibleName(tr("Order of the frames"));
    order_->addItem(tr("dark first"), int(BracketOrder::DarkFirst));
    order_->addItem(tr("middle first"), int(BracketOrder::MiddleFirst));
    order_->addItem(tr("bright first"), int(BracketOrder::BrightFirst));
    boxes->addWidget(format_);
    boxes->addWidget(order_);
    first->addLayout(boxes);
    handHeld_ = new QCheckBox(tr("Hand-held"));
    handHeld_->setObjectName("handHeld");
    still_ = new QCheckBox(tr("Wait for a lull"));
    still_->setObjectName("holdStill");
    still_->setToolTip(tr("Watches the finder and fires when next to nothing moves"));
    auto* ticks = new QHBoxLayout;
    ticks->addWidget(handHeld_);
    ticks->addWidget(still_);
    first->addLayout(ticks);
    first->addStretch();

    auto* positions = group(tr("Positions"), 0);
    positionsTitle_ = positions->itemAt(0)->widget();
    positions_ = new PositionMap(shoot_.desk().positions);
    positions->addWidget(positions_);
    positions->addStretch();

    auto* second = group(tr("Frames of this set, as they arrived"), 1);
    auto* head = new QHBoxLayout;
    sets_ = new QComboBox;
    sets_->setObjectName("sets");
    sets_->setAccessibleName(tr("Set"));
    sets_->setMinimumWidth(grown(196));
    sets_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    again_ = plain("shootAgain", tr("Shoot again"), tr("A new set as planned"));
    more_ = plain("more", tr("More"), tr("Watch a folder, the camera's connection and card, faults to practise with"));
    more_->setPopupMode(QToolButton::InstantPopup);
    more_->setMenu(makeMenu());
    for (QWidget* w : std::initializer_list<QWidget*>{sets_, again_, more_}) head->addWidget(w);
    head->addStretch();
    second->addLayout(head);
    strip_ = new QHBoxLayout;
    strip_->setSpacing(6);
    second->addLayout(strip_);
    auto* foot = new QHBoxLayout;
    judgement_ = new QLabel;
    judgement_->setObjectName("judgement");
    judgement_->setProperty("role", "quiet");
    judgement_->setWordWrap(true);
    judgement_->setFont(uiFont(9));
    judgement_->setMinimumHeight(grown(30));
    leave_ = plain("leaveOut", tr("Leave out"), tr("This frame takes no part"));
    foot->addWidget(judgement_, 1);
    foot->addWidget(leave_);
    second->addLayout(foot);
    second->addStretch();
    connectAll();
  }

  void refresh() override {
    const View& v = view();
    const bool camera = hasCamera(), working = busy();
    select(format_, int(v.format));
    select(order_, int(shoot_.order()));
    const QSignalBlocker quiet(handHeld_);
    handHeld_->setChecked(frames_.choices().situation.handHeld);
    const bool real = shoot_.desk().camera.wired() != nullptr;
    format_->setEnabled(camera && !working && !real && v.profile().hasRaw); // a real camera's is set on the camera
    format_->setToolTip(real ? tr("Set raw on the camera; what it writes is taken") : QString());
    for (QWidget* w : std::initializer_list<QWidget*>{order_, handHeld_, still_}) w->setEnabled(camera && !working);
    if (real && !shoot_.desk().camera.wired()->facts().preview) still_->setEnabled(false); // nothing to watch
    handHeld_->setToolTip(real ? QString() : tr("The simulated camera sways"));
    source_->refresh();
    for (QWidget* w : {positionsTitle_, static_cast<QWidget*>(positions_)})
      w->setVisible(shoot_.desk().positions.several());
    positions_->refresh();
    positions_->setEnabled(!working);
    refreshDevice();
    refreshSets(working);
    refreshStrip();
    again_->setVisible(camera && !v.frames.empty());
    again_->setEnabled(!working && v.plan.has_value());
  }

private:
  void connectAll() {
    connect(format_, &QComboBox::activated, &frames_,
            [this] { frames_.setFormat(FrameFormat(format_->currentData().toInt())); });
    connect(order_, &QComboBox::activated, &shoot_,
            [this] { shoot_.setOrder(BracketOrder(order_->currentData().toInt())); });
    connect(handHeld_, &QCheckBox::toggled, &frames_, [this](bool on) { frames_.setHandHeld(on); });
    connect(still_, &QCheckBox::toggled, &shoot_, [this](bool on) { shoot_.setWaitForLull(on); });
    connect(positions_, &PositionMap::chosen, &shoot_, &ShootModel::goToPosition);
    connect(sets_, &QComboBox::activated, &shoot_, [this](int index) { shoot_.selectSet(index); });
    connect(again_, &QToolButton::clicked, &shoot_, [this] { shoot_.shoot(); });
    connect(leave_, &QToolButton::clicked, &shoot_,
            [this] { shoot_.setFrameUsed(shoot_.shownFrame(), !shoot_.isUsed(shoot_.shownFrame())); });
  }

  static QToolButton* plain(const char* name, const QString& text, const QString& tip) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setText(text);
    button->setToolTip(tip);
    return button;
  }

  QMenu* makeMenu() {
    auto* menu = new QMenu(this);
    name_ = menu->addAction(tr("Name this set..."), this, [this] { describeSet(this, shoot_); });
    name_->setObjectName("nameSet");
    every_ = menu->addAction(tr("Sets at an interval..."), this, [this] { shootAtInterval(this, interval_); });
    every_->setObjectName("interval");
    watch_ = menu->addAction(tr("Watch a folder..."), this, [this] {
      if (!shoot_.watched().isEmpty()) return shoot_.stopWatching();
      const QString folder = QFileDialog::getExistingDirectory(this, tr("The folder your camera's program writes to"));
      if (!folder.isEmpty()) shoot_.watch(folder);
    });
    watch_->setObjectName("watchFolder");
    goOn_ = menu->addAction(tr("Combine all the same"), this, [this] { emit shoot_.goTo(stations::kCombine); });
    goOn_->setObjectName("goOnAnyway");
    menu->addSeparator();
    menu->addAction(tr("Connect the camera"), this, [this] { shoot_.desk().camera.connectCamera(); })
        ->setObjectName("connectCamera");
    menu->addAction(tr("Put in another card"), this, [this] { shoot_.desk().camera.changeCard(); })
        ->setObjectName("changeCard");
    practise_ = menu->addMenu(tr("Practise: let it happen"));
    for (const auto& fault : faultNames()) {
      if (fault.kind == FaultKind::HandHeld) continue;
      practise_
          ->addAction(text(phrase(fault.name)), this,
                      [this, kind = fault.kind] { shoot_.desk().camera.armFault(kind); })
          ->setObjectName(QString("fault-") + fault.id);
    }
    return menu;
  }

  [[nodiscard]] QString cameraSays(const DeviceStatus& d) const {
    const auto real = shoot_.desk().camera.wired();
    QStringList says;
    if (!real || real->facts().battery) says << tr("Battery %1 %").arg(100 * d.battery, 0, 'f', 0);
    if (!real || real->facts().freeMegabytes) says << tr("%1 GB left").arg(d.freeMegabytes / 1000, 0, 'f', 1);
    if (d.buffered > 0) says << tr("%1 to write").arg(d.buffered);
    return says.isEmpty() ? tr("Connected") : says.join(", ");
  }

  void refreshDevice() {
    const auto d = shoot_.desk().camera.status();
    if (!shoot_.watched().isEmpty())
      status_->setText(tr("Watching a folder"));
    else if (!d)
      status_->setText(tr("No camera at this view"));
    else if (!d->connected)
      status_->setText(tr("The camera is gone"));
    else
      status_->setText(cameraSays(*d));
    watch_->setText(shoot_.watched().isEmpty() ? tr("Watch a folder...") : tr("Stop watching"));
    every_->setEnabled(d.has_value() && view().plan.has_value());
    goOn_->setEnabled(!view().frames.empty());
    practise_->setEnabled(shoot_.desk().camera.hasSimulated() && !shoot_.desk().camera.wired());
  }

  void refreshSets(bool busy) {
    const View& v = view();
    const QSignalBlocker quiet(sets_);
    sets_->clear();
    for (const auto& set : v.sets) {
      QString name = QString::fromStdString(set.label.empty() ? set.name : set.label);
      if (set.row || set.column) name += tr(", row %1 column %2").arg(set.row).arg(set.column);
      if (set.plane) name += tr(", plane %1").arg(set.plane);
      const auto used = std::count_if(set.frames.begin(), set.frames.end(), [](const auto& m) { return m.used; });
      const auto all = std::ptrdiff_t(set.frames.size());
      sets_->addItem(used != all ? tr("%1: %2 of %3 frames").arg(name).arg(used).arg(all)
                     : all == 1  ? tr("%1: one frame").arg(name)
                                 : tr("%1: %2 frames").arg(name).arg(all));
    }
    sets_->setCurrentIndex(v.activeSet);
    sets_->setVisible(!v.sets.empty());
    sets_->setEnabled(!busy);
    name_->setEnabled(!v.sets.empty());
    more_->menu()->setEnabled(!busy);
  }

  void refreshStrip() {
    while (auto* item = strip_->takeAt(0)) {
      delete item->widget();
      delete item;
    }
    const auto& shot = shoot_.shot();
    const auto& judged = shoot_.check().judged;
    for (int i = 0; i < int(shot.size()); ++i) {
      auto* chip = new QToolButton;
      chip->setObjectName(QString("frame%1").arg(i));
      chip->setCheckable(true);
      chip->setChecked(i == shoot_.shownFrame());
      const bool used = shoot_.isUsed(i);
      const bool flawed = i < int(judged.size()) && !judged[std::size_t(i)].flaws.empty();
      // Frames are told apart by number and time; a mark tells what the judgement found.
      const QString mark = !used                    ? QString(QChar(0x2013))
                           : flawed                 ? "!"
                           : i < int(judged.size()) ? QString(QChar(0x2713))
                                                    : "";
      chip->setText(
          QString("%1  %2  %3").arg(i + 1).arg(QString::fromStdString(print(shot[std::size_t(i)].time)), mark));
      chip->setToolTip(i < int(judged.size()) ? QString::fromStdString(judged[std::size_t(i)].sentence) : QString());
      if (!used) chip->setProperty("role", "aside");
      if (flawed && used) chip->setProperty("role", "flawed");
      connect(
          chip, &QToolButton::clicked, &shoot_, [this, i] { shoot_.showFrame(i); }, Qt::QueuedConnection);
      strip_->addWidget(chip);
    }
    if (shot.empty()) {
      auto* empty = new QLabel(tr("None yet: they appear here and on the Ladder. Keep feet and cables out of walkways; "
                                  "never look at the sun through a finder."));
      empty->setProperty("role", "quiet");
      empty->setFont(uiFont(9));
      empty->setMinimumHeight(2 * QFontMetrics(uiFont(9)).lineSpacing() + 2);
      empty->setWordWrap(true);
      strip_->addWidget(empty, 1);
    }
    strip_->addStretch();
    const int shown = shoot_.shownFrame();
    const bool known = shown >= 0 && shown < int(judged.size());
    judgement_->setText(
        known ? tr("Frame %1: %2").arg(shown + 1).arg(QString::fromStdString(judged[std::size_t(shown)].sentence))
              : QString());
    leave_->setVisible(known);
    leave_->setEnabled(!busy());
    leave_->setText(shoot_.isUsed(shoot_.shownFrame()) ? tr("Leave out") : tr("Use it"));
  }

  ShootModel& shoot_;
  FramesModel& frames_;
  IntervalShooting& interval_;
  QComboBox *format_, *order_, *sets_;
  QCheckBox *handHeld_, *still_;
  QHBoxLayout* strip_;
  QToolButton *again_, *more_, *leave_;
  QAction *name_, *every_, *watch_, *goOn_;
  QMenu* practise_;
  QLabel *status_, *judgement_;
  SourceMenu* source_;
  QWidget* positionsTitle_;
  PositionMap* positions_;
};

} // namespace

Bench* makeShootBench(ShootModel& shoot, FramesModel& frames, IntervalShooting& interval) {
  return new ShootBench(shoot, frames, interval);
}

} // namespace ml
