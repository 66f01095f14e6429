// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"
#include "app/queue_list.h"
#include "app/theme.h"

#include <QCheckBox>
#include <QDesktopServices>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QStackedWidget>
#include <QUrl>
#include <QVBoxLayout>

namespace ml {
namespace {

class DeliverBench final : public Bench {
public:
  explicit DeliverBench(DeliverModel& deliver) : Bench(deliver), deliver_(deliver) {
    buildTargets();
    buildNames();
    auto* third = group(tr("Delivered so far"), 1);
    title_ = qobject_cast<QLabel*>(third->itemAt(0)->widget());
    pages_ = new QStackedWidget;
    third->addWidget(pages_);
    buildDelivered();
    buildQueue();
    connect(all_, &QCheckBox::toggled, this, &DeliverBench::choose);
    connect(location_, &QCheckBox::toggled, this, &DeliverBench::choose);
    for (QLineEdit* edit : {pattern_, creator_, rights_})
      connect(edit, &QLineEdit::textChanged, this, &DeliverBench::choose);
    choose();
  }

  void refresh() override {
    QStringList names;
    for (const auto& d : view().delivered) names << QString::fromStdString(d.file);
    files_->setText(names.isEmpty() ? tr("Nothing yet.") : names.join(", "));
    open_->setVisible(!names.isEmpty());
    const bool waits = !deliver_.orders().empty();
    pages_->setCurrentIndex(waits ? 1 : 0);
    title_->setText(waits ? tr("Waiting to be written") : tr("Delivered so far"));
    queue_->refresh();
    pause_->setText(deliver_.running() ? tr("Pause") : tr("Go on"));
    const QSize full = deliver_.marks().fullSize;
    for (const auto& [id, box] : boxes_) {
      const QString name = QString::fromStdString(findTarget(id)->name);
      box->setToolTip(full.isEmpty()
                          ? name
                          : name + "\n" +
                                QString::fromStdString(sizeWords(*findTarget(id), full.width(), full.height())));
    }
  }

private:
  void buildTargets() {
    auto* first = group(tr("Write"));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(18);
    grid->setVerticalSpacing(4);
    const struct {
      const char *name, *target;
    } kinds[] = {{"jpeg", "jpeg"},        {"webJpeg", "web"},    {"tiff", "print"},      {"exr", "archive"},
                 {"hdrAvif", "hdr-avif"}, {"hdrJxl", "hdr-jxl"}, {"hdrJpeg", "hdr-jpeg"}};
    for (int i = 0; i < int(std::size(kinds)); ++i) {
      auto* box = new QCheckBox(QString::fromStdString(findTarget(kinds[i].target)->shortName));
      box->setObjectName(kinds[i].name);
      box->setChecked(i == 0 || i == 3);
      grid->addWidget(box, i % 3, i / 3);
      boxes_.emplace_back(kinds[i].target, box);
      connect(box, &QCheckBox::toggled, this, &DeliverBench::choose);
    }
    first->addLayout(grid);
    all_ = new QCheckBox(tr("all views of the job"));
    all_->setToolTip(tr("Every combined view but those left out; what is there and current is not written again"));
    all_->setObjectName("allViews");
    first->addWidget(all_, 0, Qt::AlignLeft);
    first->addStretch();
  }

  void buildNames() {
    auto* second = group(tr("Names and rights"));
    pattern_ = line(second, "namePattern", kNamePattern, tr("{job} {view} {number} {date} {target} {width} {height}"));
    auto* who = new QHBoxLayout;
    who->setSpacing(6);
    creator_ = line(who, "creator", "", tr("creator"));
    rights_ = line(who, "rights", "", tr("rights"));
    second->addLayout(who);
    location_ = new QCheckBox(tr("keep the location"));
    location_->setObjectName("keepLocation");
    location_->setChecked(QSettings().value("keepLocation", true).toBool());
    second->addWidget(location_);
    second->addStretch();
  }

  void buildDelivered() {
    auto* there = page();
    files_ = new QLabel;
    files_->setObjectName("deliveredFiles");
    files_->setWordWrap(true);
    files_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    there->addWidget(files_);
    auto* row = new QHBoxLayout;
    open_ = button(row, "openFolder", tr("Open the folder"));
    sheet_ = button(row, "makeSheet", tr("Sheet (PDF)"));
    sheet_->setToolTip(tr("A PDF with every view, before and after"));
    row->addStretch();
    there->addLayout(row);
    there->addStretch();
    connect(open_, &QPushButton::clicked, &deliver_, [this] {
      QDesktopServices::openUrl(QUrl::fromLocalFile(QString::fromStdString(view().deliveredFolder().string())));
    });
    connect(sheet_, &QPushButton::clicked, &deliver_, &DeliverModel::makeSheet);
  }

  void buildQueue() {
    auto* waiting = page();
    queue_ = new QueueList(deliver_);
    waiting->addWidget(queue_, 1);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(6);
    pause_ = button(keys, "pauseQueue", tr("Pause"));
    auto* up = button(keys, "queueUp", QString(QChar(0x2191)));
    auto* down = button(keys, "queueDown", QString(QChar(0x2193)));
    up->setToolTip(tr("Sooner (Alt+Up)"));
    down->setToolTip(tr("Later (Alt+Down)"));
    for (auto* arrow : {up, down}) arrow->setFixedWidth(grown(30)), arrow->setAccessibleName(arrow->toolTip());
    auto* out = button(keys, "queueOut", tr("Take out"));
    keys->addStretch();
    waiting->addLayout(keys);
    connect(pause_, &QPushButton::clicked, &deliver_,
            [this] { deliver_.running() ? deliver_.pause() : deliver_.goOn(); });
    connect(up, &QPushButton::clicked, queue_, [this] { queue_->moveChosen(-1); });
    connect(down, &QPushButton::clicked, queue_, [this] { queue_->moveChosen(1); });
    connect(out, &QPushButton::clicked, queue_, &QueueList::removeChosen);
    connect(&deliver_, &DeliverModel::progressed, queue_, &QueueList::refresh);
  }

  /// A column in a page of its own.
  QVBoxLayout* page() {
    auto* widget = new QWidget;
    auto* column = new QVBoxLayout(widget);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    pages_->addWidget(widget);
    return column;
  }

  QLineEdit* line(QBoxLayout* column, const char* name, const char* otherwise, const QString& hint) {
    auto* made = new QLineEdit(QSettings().value(name, otherwise).toString());
    made->setObjectName(name);
    made->setPlaceholderText(hint);
    made->setAccessibleName(name == QString("namePattern") ? tr("How files are named") : hint);
    made->setToolTip(hint);
    made->setMinimumWidth(grown(84));
    column->addWidget(made);
    connect(made, &QLineEdit::editingFinished, this,
            [made] { QSettings().setValue(made->objectName(), made->text()); });
    return made;
  }

  QPushButton* button(QHBoxLayout* row, const char* name, const QString& text) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    made->setProperty("role", "small");
    row->addWidget(made);
    return made;
  }

  [[nodiscard]] DeliverChoices choices() const {
    DeliverChoices c;
    c.targets.clear();
    for (const auto& [id, box] : boxes_)
      if (box->isChecked()) c.targets.push_back(id);
    c.allViews = all_->isChecked();
    c.pattern = pattern_->text().trimmed().isEmpty() ? kNamePattern : pattern_->text().trimmed().toStdString();
    c.wishes.creator = creator_->text().toStdString();
    c.wishes.rights = rights_->text().toStdString();
    c.wishes.keepLocation = location_->isChecked();
    QSettings().setValue("keepLocation", location_->isChecked());
    return c;
  }

  void choose() { deliver_.choose(choices()); }

  DeliverModel& deliver_;
  std::vector<std::pair<std::string, QCheckBox*>> boxes_;
  QCheckBox *all_, *location_;
  QLineEdit *pattern_, *creator_, *rights_;
  QLabel *files_, *title_;
  QStackedWidget* pages_;
  QueueList* queue_;
  QPushButton *open_, *sheet_, *pause_;
};

} // namespace

Bench* makeDeliverBench(DeliverModel& deliver) {
  return new DeliverBench(deliver);
}

} // namespace ml
