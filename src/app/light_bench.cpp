#include "app/bench.h"
#include "app/theme.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QHeaderView>
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
  explicit LightBench(Workbench& workbench) : Bench(workbench, tr("Light")) {
    auto* left = group(tr("Readings; ticked ones must keep texture"), 3);
    table_ = new QTableWidget(0, 3);
    table_->setObjectName("readings");
    table_->horizontalHeader()->hide();
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(28);
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    table_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Fixed);
    table_->setColumnWidth(2, 34);
    table_->setShowGrid(false);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setFixedHeight(92);
    table_->setMinimumWidth(250);
    table_->setFocusPolicy(Qt::NoFocus);
    left->addWidget(table_);

    auto* right = group(tr("Or type one: an EV, or a time at this aperture, ISO 100"), 3);
    auto* typing = new QHBoxLayout;
    name_ = new QLineEdit;
    name_->setObjectName("readingName");
    name_->setPlaceholderText(tr("sky, corner"));
    value_ = new QLineEdit;
    value_->setObjectName("readingValue");
    value_->setPlaceholderText(tr("13 1/3 or 1/125"));
    auto* add = new QPushButton(tr("Add"));
    add->setObjectName("addReading");
    typing->addWidget(name_, 3);
    typing->addWidget(value_, 3);
    typing->addWidget(add);
    right->addLayout(typing);
    auto* finder = new QHBoxLayout;
    auto* caption = new QLabel(tr("Finder picture"));
    caption->setProperty("role", "quiet");
    darker_ = new QToolButton;
    darker_->setObjectName("finderDarker");
    darker_->setText(tr("Darker"));
    darker_->setShortcut(Qt::Key_BracketLeft);
    darker_->setToolTip(tr("Darken the finder by a stop ([): look into the sky"));
    brighter_ = new QToolButton;
    brighter_->setObjectName("finderBrighter");
    brighter_->setText(tr("Brighter"));
    brighter_->setShortcut(Qt::Key_BracketRight);
    brighter_->setToolTip(tr("Brighten the finder by a stop (]): look into the corners"));
    finder->addWidget(caption);
    finder->addWidget(darker_);
    finder->addWidget(brighter_);
    finder->addStretch();
    right->addLayout(finder);
    right->addStretch();

    connect(add, &QPushButton::clicked, this, &LightBench::addTyped);
    connect(value_, &QLineEdit::returnPressed, this, &LightBench::addTyped);
    connect(value_, &QLineEdit::textEdited, this, [this] { value_->setStyleSheet({}); });
    connect(darker_, &QToolButton::clicked, &workbench_, [this] { workbench_.brightenFinder(-1); });
    connect(brighter_, &QToolButton::clicked, &workbench_, [this] { workbench_.brightenFinder(1); });
    connect(next(), &QPushButton::clicked, &workbench_, [this] { workbench_.goTo(workbench_.hasCamera() ? Station::Frames : Station::Combine); });
  }

  void refresh() override {
    const auto& readings = workbench_.view().readings;
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
      connect(keep, &QCheckBox::toggled, &workbench_, [this, i](bool on) { workbench_.setKeepTexture(i, on); }, Qt::QueuedConnection);
      table_->setCellWidget(i, 0, keep);
      auto* ev = new QTableWidgetItem(tr("EV %1").arg(readings[std::size_t(i)].ev100.value, 0, 'f', 1));
      ev->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      table_->setItem(i, 1, ev);
      auto* remove = new QToolButton;
      remove->setObjectName(QString("removeReading%1").arg(i));
      remove->setText(QString(QChar(0x00d7)));
      remove->setProperty("role", "plain");
      remove->setToolTip(tr("Remove this reading"));
      connect(remove, &QToolButton::clicked, &workbench_, [this, i] { workbench_.removeReading(i); }, Qt::QueuedConnection);
      table_->setCellWidget(i, 2, remove);
    }
    for (auto* finder : {darker_, brighter_}) finder->setEnabled(workbench_.hasCamera());
    setNext(workbench_.hasCamera() ? tr("Plan the frames") : tr("Combine"), workbench_.view().plan.has_value() || !workbench_.hasCamera());
  }

private:
  void addTyped() {
    if (workbench_.typeReading(name_->text(), value_->text())) {
      name_->clear();
      value_->clear();
      name_->setFocus();
    } else {
      value_->setStyleSheet(QString("border: 1px solid %1;").arg(Theme::dusk().accent.name()));
      value_->setToolTip(tr("Type an EV such as 13 1/3, or a time such as 1/125 s"));
      value_->setFocus();
    }
  }

  QTableWidget* table_;
  QLineEdit *name_, *value_;
  QToolButton *darker_, *brighter_;
};

} // namespace

Bench* makeLightBench(Workbench& workbench) { return new LightBench(workbench); }

} // namespace ml
