// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"
#include "app/position_map.h"
#include "app/theme.h"

#include "exposure/ev.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>

namespace ml {
namespace {

class LightBench final : public Bench {
public:
  explicit LightBench(LightModel& light) : Bench(light), light_(light) {
    auto* left = group(tr("Readings; ticked ones must keep texture"), 3);
    table_ = new QTableWidget(0, 3);
    table_->setObjectName("readings");
    table_->horizontalHeader()->hide();
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(grown(28));
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    table_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Fixed);
    table_->setColumnWidth(2, grown(26));
    table_->setShowGrid(false);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setFixedHeight(grown(92));
    table_->setMinimumWidth(grown(256));
    table_->setFocusPolicy(Qt::NoFocus);
    table_->setTabKeyNavigation(false); // else Tab never leaves it
    left->addWidget(table_);

    auto* positions = group(tr("Read at each position"), 0);
    positionsTitle_ = positions->itemAt(0)->widget();
    positions_ = new PositionMap(light_.desk().positions);
    positions->addWidget(positions_);
    positions->addStretch();

    auto* right = group(tr("Or type one: EV, 1/125 f/8 ISO 100, or cd/m2"), 3);
    auto* typing = new QHBoxLayout;
    name_ = new QLineEdit;
    name_->setObjectName("readingName");
    name_->setPlaceholderText(tr("sky, corner"));
    name_->setAccessibleName(tr("What is read"));
    value_ = new QLineEdit;
    value_->setObjectName("readingValue");
    value_->setPlaceholderText(tr("13 1/3 or 1/125"));
    value_->setAccessibleName(tr("Its light: EV, a time, or cd/m2"));
    add_ = new QPushButton(tr("Add"));
    add_->setObjectName("addReading");
    typing->addWidget(name_, 3);
    typing->addWidget(value_, 3);
    typing->addWidget(add_);
    right->addLayout(typing);
    auto* finder = new QHBoxLayout;
    finder->setSpacing(6);
    darker_ = tool("finderDarker", tr("Darker"), tr("Darken the finder by a stop ([): look into the sky"),
                   Qt::Key_BracketLeft);
    brighter_ = tool("finderBrighter", tr("Brighter"), tr("Brighten the finder by a stop (]): look into the corners"),
                     Qt::Key_BracketRight);
    spot_ = new QComboBox;
    spot_->setObjectName("spotSize");
    spot_->setMinimumWidth(grown(112));
    spot_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    spot_->setAccessibleName(tr("Size of the spot"));
    spot_->setToolTip(tr("How large a spot is read"));
    spot_->addItem(tr("small spot"), 0.004);
    spot_->addItem(tr("usual spot"), 0.008);
    spot_->addItem(tr("large spot"), 0.02);
    test_ =
        tool("testFrame", tr("Test frame"), tr("Shoot one frame at the finder's exposure and read it (T)"), Qt::Key_T);
    for (auto* widget : std::initializer_list<QWidget*>{darker_, brighter_, spot_, test_}) finder->addWidget(widget);
    finder->addStretch();
    right->addLayout(finder);
    right->addStretch();
    connectAll();
  }

  void refresh() override {
    for (QWidget* w : {positionsTitle_, static_cast<QWidget*>(positions_)})
      w->setVisible(light_.desk().positions.several());
    positions_->refresh();
    positions_->setEnabled(!busy());
    const auto& readings = view().readings;
    for (auto* old : table_->findChildren<QWidget*>(QRegularExpression("^(keep|removeReading)"))) {
      old->hide(); // deleted later, when no click of theirs is being handled
      old->setObjectName({});
    }
    table_->setRowCount(0);
    table_->setRowCount(int(readings.size()));
    for (int i = 0; i < int(readings.size()); ++i) {
      auto* keep = new QCheckBox(QString::fromStdString(readings[std::size_t(i)].name));
      keep->setObjectName(QString("keep%1").arg(i));
      keep->setChecked(readings[std::size_t(i)].keepTexture);
      keep->setToolTip(tr("Ticked: must keep its texture. Not ticked: may clip, like a bare lamp."));
      connect(
          keep, &QCheckBox::toggled, &light_, [this, i](bool on) { light_.setKeepTexture(i, on); },
          Qt::QueuedConnection);
      table_->setCellWidget(i, 0, keep);
      const auto& r = readings[std::size_t(i)];
      QString figure = tr("EV %1").arg(r.ev100.value, 0, 'f', 1);
      if (r.atLeast)
        figure = tr("at least %1").arg(figure);
      else if (r.uncertainty >= 0.05)
        figure += QString(" \u00b1 %L1").arg(r.uncertainty, 0, 'f', 1);
      auto* ev = new QTableWidgetItem(figure);
      ev->setToolTip(
          r.uncertainty > 0
              ? tr("Spread of the light inside the spot; %1 cd/m2 in the mean").arg(luminanceOf(r.ev100), 0, 'g', 3)
              : QString());
      ev->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      table_->setItem(i, 1, ev);
      auto* remove = new QToolButton;
      remove->setObjectName(QString("removeReading%1").arg(i));
      remove->setText(QString(QChar(0x00d7)));
      remove->setProperty("role", "plain");
      remove->setToolTip(tr("Remove this reading"));
      connect(
          remove, &QToolButton::clicked, &light_, [this, i] { light_.removeReading(i); }, Qt::QueuedConnection);
      table_->setCellWidget(i, 2, remove);
    }
    for (auto* finder : {darker_, brighter_}) finder->setEnabled(hasCamera() && !light_.showsTestFrame());
    test_->setText(light_.showsTestFrame() ? tr("Finder") : tr("Test frame"));
    test_->setEnabled(!busy());
    const QSignalBlocker quiet(spot_);
    spot_->setCurrentIndex(std::max(0, spot_->findData(light_.spotRadius())));
  }

private:
  void connectAll() {
    connect(positions_, &PositionMap::chosen, &light_, &LightModel::lookAtPosition);
    connect(add_, &QPushButton::clicked, this, &LightBench::addTyped);
    connect(value_, &QLineEdit::returnPressed, this, &LightBench::addTyped);
    connect(value_, &QLineEdit::textEdited, this, [this] { value_->setStyleSheet({}); });
    connect(darker_, &QToolButton::clicked, &light_, [this] { light_.brightenFinder(-1); });
    connect(brighter_, &QToolButton::clicked, &light_, [this] { light_.brightenFinder(1); });
    connect(spot_, &QComboBox::activated, &light_, [this] { light_.setSpotRadius(spot_->currentData().toDouble()); });
    connect(test_, &QToolButton::clicked, &light_,
            [this] { light_.showsTestFrame() ? light_.putTestFrameAway() : light_.takeTestFrame(); });
    connect(table_, &QTableWidget::cellDoubleClicked, this, [this](int row, int) { rename(row); });
  }

  static QToolButton* tool(const char* name, const QString& text, const QString& tip, const QKeySequence& key) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setText(text);
    button->setToolTip(tip);
    button->setShortcut(key);
    button->setProperty("role", "tight");
    return button;
  }
  void rename(int row) {
    if (row < 0 || row >= int(view().readings.size())) return;
    bool taken = false;
    const QString name = QInputDialog::getText(this, tr("Name of the reading"), tr("What is it?"), QLineEdit::Normal,
                                               QString::fromStdString(view().readings[std::size_t(row)].name), &taken);
    if (taken) light_.renameReading(row, name);
  }
  void addTyped() {
    if (light_.typeReading(name_->text(), value_->text())) {
      name_->clear();
      value_->clear();
      name_->setFocus();
    } else {
      value_->setStyleSheet(QString("border: 1px solid %1;").arg(Theme::dusk().accent.name()));
      value_->setToolTip(tr("Type an EV such as 13 1/3, a time such as 1/125 f/4 ISO 200, or 4000 cd/m2"));
      value_->setFocus();
    }
  }

  LightModel& light_;
  QTableWidget* table_;
  QLineEdit *name_, *value_;
  QPushButton* add_;
  QToolButton *darker_, *brighter_, *test_;
  QComboBox* spot_;
  QWidget* positionsTitle_;
  PositionMap* positions_;
};

} // namespace

Bench* makeLightBench(LightModel& light) {
  return new LightBench(light);
}

} // namespace ml
