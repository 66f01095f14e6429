// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/all_views_sheet.h"

#include "app/monitor_colour.h"

#include "app/view_list.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QTextLayout>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr int kWidth = 328, kPictureHeight = 104, kWordsHeight = 80;
enum Role { kBefore = Qt::UserRole, kAfter, kState, kSays, kLook, kOut, kStates, kView };

/// How several views may be combined otherwise.
struct Otherwise {
  const char* words;
  CombineOptions options;
};
std::vector<Otherwise> otherwise() {
  std::vector<Otherwise> all{{QT_TR_NOOP("as usual"), {}}};
  CombineOptions o;
  o.motion = MotionMode::High;
  all.push_back({QT_TR_NOOP("movement looked at closely"), o});
  o = {};
  o.emptyScene = true;
  all.push_back({QT_TR_NOOP("passers-by taken out"), o});
  o = {};
  o.align = AlignMode::Off;
  all.push_back({QT_TR_NOOP("not aligned: tripod"), o});
  o = {};
  o.method = CombineMethod::Fusion;
  all.push_back({QT_TR_NOOP("blended as pictures"), o});
  return all;
}

void drawFitted(QPainter& p, const QRectF& box, const QImage& picture, const Theme& theme) {
  if (picture.isNull()) {
    p.setPen(QPen(theme.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
    return;
  }
  const QSizeF size = QSizeF(picture.size()).scaled(box.size(), Qt::KeepAspectRatio);
  const QImage sharp = picture.scaled((size * p.device()->devicePixelRatioF()).toSize(), Qt::IgnoreAspectRatio,
                                      Qt::SmoothTransformation);
  p.drawImage(QRectF(box.center() - QPointF(size.width() / 2, size.height() / 2), size), monitorColour().shown(sharp));
}

/// As many lines as there is room for; the last one says that there is more.
void drawLines(QPainter& p, const QRect& box, const QString& words) {
  QTextLayout layout(words, p.font());
  layout.beginLayout();
  const int lines = box.height() / p.fontMetrics().lineSpacing();
  for (int i = 0; i < lines; ++i) {
    QTextLine line = layout.createLine();
    if (!line.isValid()) break;
    line.setLineWidth(box.width());
    const QString all = words.mid(line.textStart()), part = words.mid(line.textStart(), line.textLength());
    const QRect row(box.left(), box.top() + i * p.fontMetrics().lineSpacing(), box.width(), p.fontMetrics().height());
    p.drawText(row, Qt::AlignLeft | Qt::AlignTop,
               i + 1 == lines ? p.fontMetrics().elidedText(all, Qt::ElideRight, box.width()) : part);
  }
  layout.endLayout();
}

} // namespace

/// Draws a view: as it was shot, as it is finished, its name, where it stands and what was said of it.
class PairCard : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;
  const Theme* theme = &Theme::dusk();

  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
    return {grown(kWidth, 0.3), kPictureHeight + grown(kWordsHeight)};
  }
  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRect r = option.rect.adjusted(5, 5, -5, -5);
    const bool chosen = option.state & QStyle::State_Selected;
    p->setPen(QPen(chosen ? theme->info : theme->line, chosen ? 2 : 1));
    p->setBrush(theme->panel);
    p->drawRoundedRect(r, 6, 6);
    if (index.data(kOut).toBool()) p->setOpacity(0.45);
    const double half = (r.width() - 24) / 2.0;
    const QRectF left(r.left() + 8, r.top() + 8, half, kPictureHeight - 10);
    drawFitted(*p, left, index.data(kBefore).value<QImage>(), *theme);
    drawFitted(*p, left.translated(half + 8, 0), index.data(kAfter).value<QImage>(), *theme);
    const QRect words(r.left() + 10, r.top() + kPictureHeight + 2, r.width() - 20, r.height() - kPictureHeight - 6);
    const int state = grown(130);
    p->setPen(theme->text);
    p->setFont(uiFont(10, true));
    p->drawText(
        QRect(words.left(), words.top(), words.width() - state, grown(18)), Qt::AlignLeft | Qt::AlignVCenter,
        p->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, words.width() - state));
    p->setFont(uiFont(8.5));
    p->setPen(theme->quiet);
    p->drawText(QRect(words.right() - state, words.top(), state, grown(18)), Qt::AlignRight | Qt::AlignVCenter,
                index.data(kState).toString());
    drawStates(*p, *theme, QPointF(words.left() + 3, words.top() + grown(25)),
               index.data(kStates).value<StationStates>());
    p->setFont(uiFont(8.5));
    p->setPen(index.data(kLook).toBool() ? theme->text : theme->quiet);
    if (index.data(kLook).toBool()) { // a mark beside the words, not a colour alone
      p->fillRect(QRect(words.left() - 4, words.top() + grown(34), 3, grown(26)), theme->accent);
    }
    drawLines(*p, QRect(words.left() + 4, words.top() + grown(33), words.width() - 4, grown(32)),
              index.data(kSays).toString());
    p->restore();
  }
};

AllViewsSheet::AllViewsSheet(Workbench& workbench, QWidget* parent) : QFrame(parent), workbench_(workbench) {
  setObjectName("allViewsSheet");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  list_ = new QListWidget;
  list_->setObjectName("allViewsList");
  list_->setAccessibleName(tr("All views"));
  list_->setViewMode(QListView::IconMode);
  list_->setResizeMode(QListView::Adjust);
  list_->setMovement(QListView::Static);
  list_->setUniformItemSizes(true);
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setContextMenuPolicy(Qt::CustomContextMenu);
  card_ = new PairCard(this);
  list_->setItemDelegate(card_);
  column->addWidget(list_, 1);
  QWidget* tools = withinReach(buildTools());
  if (textSize() > 1) tools->setFixedHeight(grown(82));
  column->addWidget(tools);
  connect(list_, &QListWidget::itemSelectionChanged, this, &AllViewsSheet::refresh);
  connect(list_, &QListWidget::itemActivated, this, [this] { emit viewOpened(list_->currentRow()); });
  connect(list_, &QWidget::customContextMenuRequested, this, &AllViewsSheet::menu);
}

QWidget* AllViewsSheet::buildTools() {
  auto* bench = new QFrame;
  bench->setObjectName("bench");
  auto* row = new QHBoxLayout(bench);
  row->setContentsMargins(22, 12, 22, 14);
  row->setSpacing(10);
  const auto button = [&](const char* name, const QString& words, const QString& tip) {
    auto* made = new QPushButton(words);
    made->setObjectName(name);
    made->setToolTip(tip);
    row->addWidget(made, 0, Qt::AlignVCenter);
    return made;
  };
  count_ = new QLabel;
  count_->setObjectName("chosenViews");
  count_->setProperty("role", "quiet");
  row->addWidget(count_);
  open_ = button("openView", tr("Work on it"), tr("Go to this view (Return)"));
  lay_ = button("layFinish", {},
                tr("The chosen views take the finish of the view in hand; each keeps its own white "
                   "point, shape and placement"));
  how_ = new QComboBox;
  how_->setObjectName("combineHow");
  how_->setAccessibleName(tr("How the chosen views are combined"));
  for (const auto& other : otherwise()) how_->addItem(tr(other.words));
  row->addWidget(how_);
  combine_ = button("combineViews", tr("Combine again"), tr("The chosen views, one after the other"));
  leave_ = button("leaveViews", {}, tr("Views that are left out are not delivered"));
  row->addStretch();
  deliver_ = button("deliverViews", {}, tr("Files of all these views, as chosen at Deliver (Ctrl+Return)"));
  deliver_->setProperty("role", "next");
  connect(open_, &QPushButton::clicked, this, [this] { emit viewOpened(list_->currentRow()); });
  connect(lay_, &QPushButton::clicked, this, [this] { layFinish(workbench_.desk, idOf(workbench_.view()), chosen()); });
  connect(combine_, &QPushButton::clicked, this, &AllViewsSheet::combineChosen);
  connect(leave_, &QPushButton::clicked, this, [this] {
    const auto views = chosen();
    const View* first = views.empty() ? nullptr : workbench_.desk.job.find(views.front());
    if (first) workbench_.views.leaveOut(views, !first->leftOut);
  });
  connect(deliver_, &QPushButton::clicked, this, [this] {
    DeliverChoices choices = workbench_.deliver.choices();
    choices.views = chosen();
    choices.allViews = choices.views.empty();
    workbench_.deliver.deliver(choices);
  });
  return bench;
}

std::vector<std::string> AllViewsSheet::chosen() const {
  std::vector<std::string> views;
  for (int i = 0; i < list_->count(); ++i)
    if (list_->item(i)->isSelected()) views.push_back(list_->item(i)->data(kView).toString().toStdString());
  return views;
}

void AllViewsSheet::combineChosen() {
  workbench_.views.combine(chosen(), otherwise()[std::size_t(how_->currentIndex())].options);
}

void AllViewsSheet::refresh() {
  if (!workbench_.hasView()) return;
  const QSignalBlocker quiet(list_);
  const auto& views = workbench_.job().views();
  while (list_->count() > int(views.size())) delete list_->takeItem(list_->count() - 1);
  while (list_->count() < int(views.size())) list_->addItem(QString());
  for (int i = 0; i < list_->count(); ++i) {
    const View& v = views[std::size_t(i)];
    const auto& pictures = workbench_.views.pictures.of(idOf(v));
    auto* item = list_->item(i);
    const QString says = workbench_.views.says(v);
    item->setText(text(v.name));
    item->setData(kBefore, pictures.before);
    item->setData(kAfter, pictures.after);
    item->setData(kState, workbench_.views.state(v));
    item->setData(kSays, says);
    item->setData(kLook, workbench_.views.wantsALook(v));
    item->setData(kOut, v.leftOut);
    item->setData(kStates, QVariant::fromValue(stationStates(v)));
    item->setData(kView, text(idOf(v)));
    item->setData(Qt::AccessibleTextRole, QString("%1, %2. %3").arg(text(v.name), workbench_.views.state(v), says));
    item->setToolTip(says);
  }
  const auto picked = chosen();
  const bool some = !picked.empty(), free = !workbench_.busy();
  count_->setText(some ? tr("%1 chosen").arg(picked.size()) : tr("None chosen"));
  open_->setEnabled(picked.size() == 1);
  lay_->setText(tr("Finish like %1").arg(text(workbench_.view().name)));
  lay_->setEnabled(some && free && workbench_.view().combined.has_value());
  combine_->setEnabled(some && free);
  how_->setEnabled(some && free);
  const View* first = some ? workbench_.desk.job.find(picked.front()) : nullptr;
  leave_->setText(first && first->leftOut ? tr("Take back in") : tr("Leave out"));
  leave_->setEnabled(some && free);
  deliver_->setText(some ? tr("Deliver the chosen") : tr("Deliver all views"));
  deliver_->setEnabled(free &&
                       std::any_of(views.begin(), views.end(), [](const View& v) { return v.combined.has_value(); }));
  list_->viewport()->update();
}

void AllViewsSheet::menu(const QPoint& at) {
  QMenu menu(this);
  for (QPushButton* button : {open_, lay_, combine_, leave_, deliver_}) {
    QAction* action = menu.addAction(button->text(), button, &QPushButton::click);
    action->setEnabled(button->isEnabled());
  }
  menu.exec(list_->viewport()->mapToGlobal(at));
}

void AllViewsSheet::setTheme(const Theme& theme) {
  card_->theme = &theme;
  list_->viewport()->update();
}

} // namespace ml
