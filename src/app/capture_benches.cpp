#include "app/bench.h"
#include "app/theme.h"
#include "exposure/marks.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {
namespace {

void select(QComboBox* box, const QVariant& value) {
  const QSignalBlocker quiet(box);
  box->setCurrentIndex(std::max(0, box->findData(value)));
}

class FramesBench final : public Bench {
public:
  explicit FramesBench(Workbench& workbench) : Bench(workbench, tr("Frames")) {
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(12);
    grid->setVerticalSpacing(8);
    camera_ = addBox(grid, 0, 0, "camera", tr("Camera"), 250);
    for (const auto& p : shippedProfiles()) camera_->addItem(QString::fromStdString(p.name), QString::fromStdString(p.id));
    school_ = addBox(grid, 1, 0, "school", tr("Bracket"), 250);
    for (const auto& s : schools()) school_->addItem(QString::fromStdString(s.name), QString::fromStdString(s.id));
    aperture_ = addBox(grid, 0, 2, "aperture", tr("Aperture"), 180);
    for (int sixths = 8; sixths <= 27; ++sixths) aperture_->addItem(QString::fromStdString(print(FNumber{std::exp2(sixths / 6.0)})), sixths);
    snr_ = addBox(grid, 1, 2, "snr", tr("Shadows"), 180);
    snr_->addItem(tr("acceptable, SNR 10"), 10);
    snr_->addItem(tr("excellent, SNR 40"), 40);
    frames_ = new QLabel;
    frames_->setObjectName("plannedFrames");
    frames_->setFont(uiFont(11, true));
    grid->addWidget(frames_, 2, 0, 1, 4);
    grid->setRowStretch(3, 1);
    row_->addLayout(grid);
    row_->addStretch();
    for (auto* box : {camera_, school_, aperture_, snr_}) connect(box, &QComboBox::activated, this, &FramesBench::choose);
    connect(next(), &QPushButton::clicked, &workbench_, [this] { workbench_.goTo(Station::Shoot); });
  }

  void refresh() override {
    const PlanChoices c = workbench_.planChoices();
    select(camera_, QString::fromStdString(c.camera));
    select(school_, QString::fromStdString(c.school));
    select(aperture_, int(std::lround(6 * std::log2(c.aperture.value))));
    select(snr_, int(c.snrTarget));
    QStringList times;
    if (workbench_.view().plan)
      for (const auto& f : workbench_.view().plan->frames) times << QString::fromStdString(print(f.time));
    frames_->setText(times.join("   "));
    for (auto* box : {camera_, school_, aperture_, snr_}) box->setEnabled(workbench_.hasCamera() && !workbench_.busy());
    setNext(tr("Go to the camera"), workbench_.view().plan.has_value());
  }

private:
  static QComboBox* addBox(QGridLayout* grid, int line, int column, const char* name, const QString& title, int width) {
    auto* label = new QLabel(title);
    label->setProperty("role", "quiet");
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setAccessibleName(title);
    box->setFixedWidth(width);
    grid->addWidget(label, line, column);
    grid->addWidget(box, line, column + 1);
    return box;
  }
  void choose() {
    PlanChoices c;
    c.camera = camera_->currentData().toString().toStdString();
    c.school = school_->currentData().toString().toStdString();
    c.aperture = FNumber{std::exp2(aperture_->currentData().toInt() / 6.0)};
    c.snrTarget = snr_->currentData().toInt();
    workbench_.choosePlan(c);
  }

  QComboBox *camera_, *school_, *aperture_, *snr_;
  QLabel* frames_;
};

class ShootBench final : public Bench {
public:
  explicit ShootBench(Workbench& workbench) : Bench(workbench, tr("Shoot")) {
    auto* first = group(tr("Files"), 1);
    format_ = new QComboBox;
    format_->setObjectName("format");
    format_->addItem(tr("Raw (DNG)"), int(FrameFormat::Dng));
    format_->addItem(tr("JPEG"), int(FrameFormat::Jpeg));
    format_->addItem(tr("TIFF, 16 bit"), int(FrameFormat::Tiff));
    handHeld_ = new QCheckBox(tr("Hand-held: the camera sways"));
    handHeld_->setObjectName("handHeld");
    first->addWidget(format_);
    first->addWidget(handHeld_);
    first->addStretch();
    auto* second = group(tr("Frames of this set, darkest first"), 3);
    strip_ = new QHBoxLayout;
    strip_->setSpacing(6);
    second->addLayout(strip_);
    shootButton_ = new QPushButton(tr("Shoot the set again"));
    shootButton_->setObjectName("shootAgain");
    auto* again = new QHBoxLayout;
    again->addWidget(shootButton_);
    caution_ = new QLabel(tr("Keep feet and cables out of walkways; never look at the sun through a finder."));
    caution_->setProperty("role", "quiet");
    caution_->setWordWrap(true);
    caution_->setFont(uiFont(9));
    again->addWidget(caution_, 1);
    second->addLayout(again);
    second->addStretch();
    connect(format_, &QComboBox::activated, &workbench_, [this] { workbench_.setFormat(FrameFormat(format_->currentData().toInt())); });
    connect(handHeld_, &QCheckBox::toggled, &workbench_, [this](bool on) { workbench_.setHandHeld(on); });
    connect(shootButton_, &QPushButton::clicked, &workbench_, [this] { workbench_.shoot(); });
    connect(next(), &QPushButton::clicked, &workbench_, [this] {
      if (workbench_.view().frames.empty()) workbench_.shoot();
      else workbench_.goTo(Station::Combine);
    });
  }

  void refresh() override {
    const bool camera = workbench_.hasCamera(), busy = workbench_.busy();
    const auto* profile = findProfile(workbench_.view().camera);
    select(format_, int(workbench_.view().format));
    const QSignalBlocker quiet(handHeld_);
    handHeld_->setChecked(workbench_.handHeld());
    format_->setEnabled(camera && !busy && (!profile || profile->hasRaw));
    handHeld_->setEnabled(camera && !busy);
    while (auto* item = strip_->takeAt(0)) {
      delete item->widget();
      delete item;
    }
    const auto& shot = workbench_.shotSettings();
    for (int i = 0; i < int(shot.size()); ++i) {
      auto* chip = new QToolButton;
      chip->setObjectName(QString("frame%1").arg(i));
      chip->setCheckable(true);
      chip->setChecked(i == workbench_.shownFrame());
      chip->setText(QString("%1   %2").arg(i + 1).arg(QString::fromStdString(print(shot[std::size_t(i)].time))));
      connect(chip, &QToolButton::clicked, &workbench_, [this, i] { workbench_.showFrame(i); }, Qt::QueuedConnection);
      strip_->addWidget(chip);
    }
    if (shot.empty()) {
      auto* empty = new QLabel(tr("None yet. Frames appear here, and on the Ladder, one by one."));
      empty->setProperty("role", "quiet");
      strip_->addWidget(empty);
    }
    strip_->addStretch();
    shootButton_->setVisible(camera && !workbench_.view().frames.empty());
    shootButton_->setEnabled(!busy && workbench_.view().plan.has_value());
    if (workbench_.view().frames.empty()) setNext(tr("Shoot"), camera && !busy && workbench_.view().plan.has_value());
    else setNext(tr("Combine them"), !busy);
  }

private:
  QComboBox* format_;
  QCheckBox* handHeld_;
  QHBoxLayout* strip_;
  QPushButton* shootButton_;
  QLabel* caution_;
};

} // namespace

Bench* makeFramesBench(Workbench& workbench) { return new FramesBench(workbench); }
Bench* makeShootBench(Workbench& workbench) { return new ShootBench(workbench); }

} // namespace ml
