#include "app/bench.h"
#include "app/theme.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDesktopServices>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QUrl>
#include <QVBoxLayout>

namespace ml {
namespace {

/// One control of the recipe: a slider in whole units and how they read.
struct Control {
  const char* name;
  QString title;
  int low, high;
  double unit;
  double ToneSettings::*value;
  bool stops;
};

class FinishBench final : public Bench {
public:
  explicit FinishBench(Workbench& workbench) : Bench(workbench, tr("Finish")) {
    auto* first = group(tr("Start from"), 2);
    look_ = new QComboBox;
    look_->setObjectName("look");
    for (const auto& l : looks()) look_->addItem(QString::fromStdString(l.name), QString::fromStdString(l.id));
    look_->setMinimumContentsLength(12);
    look_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    first->addWidget(look_);
    before_ = new QPushButton(tr("Hold: one exposure"));
    before_->setObjectName("before");
    before_->setToolTip(tr("Shows the view as a single exposure would, while held (B)"));
    first->addWidget(before_);
    first->addStretch();
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(16);
    grid->setVerticalSpacing(2);
    row_->addLayout(grid, 7);
    const Control controls[] = {
        {"exposure", tr("Brightness on paper"), -90, 90, 1.0 / 30, &ToneSettings::exposure, true},
        {"balance", tr("Window with room"), 0, 150, 0.01, &ToneSettings::balance, false},
        {"detail", tr("Fine contrast"), 0, 200, 0.01, &ToneSettings::detail, false},
        {"warmth", tr("Warmth"), -60, 60, 1.0 / 60, &ToneSettings::warmth, true},
        {"colour", tr("Depth of colour"), 0, 160, 0.01, &ToneSettings::saturation, false},
    };
    int index = 0;
    for (const Control& c : controls) addControl(grid, c, index++);
    connect(look_, &QComboBox::activated, this, [this] {
      if (const auto* l = findLook(look_->currentData().toString().toStdString())) workbench_.setRecipe(l->recipe);
    });
    connect(before_, &QPushButton::pressed, &workbench_, [this] { workbench_.compare(true); });
    connect(before_, &QPushButton::released, &workbench_, [this] { workbench_.compare(false); });
    connect(next(), &QPushButton::clicked, &workbench_, [this] { workbench_.goTo(Station::Deliver); });
  }

  void refresh() override {
    const Recipe& recipe = workbench_.view().recipe;
    const bool ready = workbench_.view().combined.has_value();
    const QSignalBlocker quiet(look_);
    look_->setCurrentIndex(std::max(0, look_->findData(QString::fromStdString(recipe.look))));
    look_->setEnabled(ready);
    before_->setEnabled(ready);
    for (const auto& row : rows_) {
      const double value = recipe.tone.*row.control.value;
      const QSignalBlocker quietSlider(row.slider);
      if (!row.slider->isSliderDown()) row.slider->setValue(int(std::lround(value / row.control.unit)));
      row.slider->setEnabled(ready);
      const QString sign = value > 0.004 ? "+" : value < -0.004 ? QString(QChar(0x2212)) : QString();
      row.figure->setText(row.control.stops ? tr("%1%2 stop").arg(sign).arg(std::abs(value), 0, 'f', 1) : tr("%1 %").arg(int(std::lround(value * 100))));
    }
    setNext(tr("Deliver"), ready && !workbench_.busy());
  }

private:
  struct Row {
    Control control;
    QSlider* slider;
    QLabel* figure;
  };

  /// A cell of two lines: what it is and where it stands, and the slider under both.
  void addControl(QGridLayout* grid, const Control& control, int index) {
    const int line = index / 3 * 2, column = index % 3 * 2;
    auto* title = new QLabel(control.title);
    title->setFont(uiFont(9));
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setObjectName(control.name);
    slider->setRange(control.low, control.high);
    slider->setAccessibleName(control.title);
    slider->setMinimumHeight(22);
    auto* figure = new QLabel;
    figure->setObjectName(QString("%1Figure").arg(control.name));
    figure->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    figure->setFont(uiFont(9));
    grid->addWidget(title, line, column);
    grid->addWidget(figure, line, column + 1);
    grid->addWidget(slider, line + 1, column, 1, 2);
    grid->setColumnStretch(column, 1);
    grid->setColumnMinimumWidth(column, title->sizeHint().width() + 4);
    rows_.push_back({control, slider, figure});
    connect(slider, &QSlider::sliderPressed, this, [this] { ++drag_; });
    connect(slider, &QSlider::valueChanged, &workbench_, [this, control, slider](int value) {
      Recipe recipe = workbench_.view().recipe;
      recipe.tone.*control.value = value * control.unit;
      workbench_.setRecipe(recipe, slider->isSliderDown() ? drag_ : 0);
    });
  }

  QComboBox* look_;
  QPushButton* before_;
  std::vector<Row> rows_;
  int drag_ = 0;
};

class DeliverBench final : public Bench {
public:
  explicit DeliverBench(Workbench& workbench) : Bench(workbench, tr("Deliver")) {
    auto* first = group(tr("Write"));
    jpeg_ = box(first, "jpeg", tr("JPEG, full size, sRGB"), true);
    web_ = box(first, "webJpeg", tr("JPEG for the web, 2048 px"), false);
    auto* second = group(tr("and"));
    tiff_ = box(second, "tiff", tr("TIFF, 16 bit, for print"), false);
    exr_ = box(second, "exr", tr("OpenEXR, the radiance itself"), true);
    first->addStretch();
    second->addStretch();
    auto* third = group(tr("Delivered so far"), 1);
    files_ = new QLabel;
    files_->setObjectName("deliveredFiles");
    files_->setWordWrap(true);
    files_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    third->addWidget(files_);
    open_ = new QPushButton(tr("Open the folder"));
    open_->setObjectName("openFolder");
    third->addWidget(open_, 0, Qt::AlignLeft);
    third->addStretch();
    connect(open_, &QPushButton::clicked, &workbench_, [this] {
      QDesktopServices::openUrl(QUrl::fromLocalFile(QString::fromStdString(workbench_.view().deliveredFolder().string())));
    });
    connect(next(), &QPushButton::clicked, &workbench_, [this] {
      workbench_.deliver({jpeg_->isChecked(), web_->isChecked(), tiff_->isChecked(), exr_->isChecked()});
    });
  }

  void refresh() override {
    QStringList names;
    for (const auto& d : workbench_.view().delivered) names << QString::fromStdString(d.file);
    files_->setText(names.isEmpty() ? tr("Nothing yet.") : names.join(", "));
    open_->setVisible(!names.isEmpty());
    updateNext();
  }

private:
  QCheckBox* box(QVBoxLayout* column, const char* name, const QString& text, bool on) {
    auto* made = new QCheckBox(text);
    made->setObjectName(name);
    made->setChecked(on);
    column->addWidget(made);
    connect(made, &QCheckBox::toggled, this, &DeliverBench::updateNext);
    return made;
  }
  void updateNext() {
    const bool some = jpeg_->isChecked() || web_->isChecked() || tiff_->isChecked() || exr_->isChecked();
    setNext(tr("Deliver"), some && workbench_.hasView() && workbench_.view().combined.has_value() && !workbench_.busy());
  }

  QCheckBox *jpeg_, *web_, *tiff_, *exr_;
  QLabel* files_;
  QPushButton* open_;
};

} // namespace

Bench* makeFinishBench(Workbench& workbench) { return new FinishBench(workbench); }
Bench* makeDeliverBench(Workbench& workbench) { return new DeliverBench(workbench); }

} // namespace ml
