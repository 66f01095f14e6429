// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/view_list.h"

#include "app/monitor_colour.h"

#include <QContextMenuEvent>
#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QStyledItemDelegate>

namespace ml {
namespace {

constexpr int kHeight = 56, kPictureWidth = 54;
enum Role { kPicture = Qt::UserRole, kState, kLook, kStates };

} // namespace

void drawStates(QPainter& p, const Theme& theme, QPointF at, const StationStates& states) {
  p.setRenderHint(QPainter::Antialiasing);
  for (const StationState s :
       {states.light, states.frames, states.shoot, states.combine, states.finish, states.deliver}) {
    p.setPen(QPen(s == StationState::Open ? theme.quiet : theme.text, 1));
    p.setBrush(s == StationState::Done ? theme.text : QColor(Qt::transparent));
    p.drawEllipse(at, 2.6, 2.6);
    if (s == StationState::OutOfDate) {
      p.setBrush(theme.text);
      p.drawPie(QRectF(at.x() - 2.6, at.y() - 2.6, 5.2, 5.2), 90 * 16, 180 * 16);
    }
    at.rx() += 9;
  }
}

/// Draws one view.
class ViewCard : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;
  const Theme* theme = &Theme::dusk();

  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {120, grown(kHeight)}; }
  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRect r = option.rect.adjusted(4, 2, -4, -2);
    const bool here = option.state & QStyle::State_Selected;
    if (here || option.state & QStyle::State_MouseOver) {
      p->setPen(option.state & QStyle::State_HasFocus && here ? QPen(theme->info) : QPen(Qt::NoPen));
      p->setBrush(here ? theme->raised : theme->panel);
      p->drawRoundedRect(r, 5, 5);
    }
    const QRect box(r.left() + 5, r.top() + 6, kPictureWidth, grown(kHeight) - 16);
    const QImage picture = index.data(kPicture).value<QImage>();
    if (picture.isNull()) {
      p->setPen(QPen(theme->line, 1));
      p->setBrush(Qt::NoBrush);
      p->drawRoundedRect(box, 3, 3);
    } else {
      const double density = p->device()->devicePixelRatioF();
      const QSizeF size = QSizeF(picture.size()).scaled(box.size(), Qt::KeepAspectRatio);
      QImage small = picture.scaled((size * density).toSize(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
      p->drawImage(QRectF(box.center() - QPointF(size.width() / 2, size.height() / 2), size),
                   monitorColour().shown(small));
    }
    const int left = box.right() + 8;
    const QRect words(left, r.top(), r.right() - left - 2, r.height());
    p->setFont(uiFont(9, here));
    p->setPen(theme->text);
    p->drawText(QRect(words.left(), words.top() + grown(5), words.width(), grown(16)), Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, words.width()));
    p->setFont(uiFont(8));
    p->setPen(index.data(kLook).toBool() ? theme->accent : theme->quiet);
    p->drawText(QRect(words.left(), words.top() + grown(21), words.width(), grown(14)),
                Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(index.data(kState).toString(), Qt::ElideRight, words.width()));
    drawStates(*p, *theme, QPointF(words.left() + 3, words.top() + grown(43)),
               index.data(kStates).value<StationStates>());
    p->restore();
  }
};

ViewList::ViewList(Workbench& workbench, QWidget* parent)
    : QListWidget(parent), workbench_(workbench), card_(new ViewCard(this)) {
  setObjectName("views");
  setAccessibleName(tr("Views of this job"));
  setItemDelegate(card_);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setMouseTracking(true);
  connect(this, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row >= 0) workbench_.selectView(row);
    if (workbench_.hasView() && currentRow() != workbench_.desk.job.viewIndex()) refresh(); // it could not be left
  });
}

void ViewList::setTheme(const Theme& theme) {
  card_->theme = &theme;
  viewport()->update();
}

const View& ViewList::chosen() const {
  return workbench_.view();
}

void ViewList::refresh() {
  const QSignalBlocker quiet(this);
  if (!workbench_.hasView()) return clear();
  const auto& views = workbench_.job().views();
  while (count() > int(views.size())) delete takeItem(count() - 1);
  while (count() < int(views.size())) addItem(QString());
  for (int i = 0; i < count(); ++i) {
    const View& v = views[std::size_t(i)];
    const auto& pictures = workbench_.views.pictures.of(idOf(v));
    const QString name = text(v.name), state = workbench_.views.state(v);
    auto* line = item(i);
    line->setText(name);
    line->setData(kPicture, pictures.after.isNull() ? pictures.before : pictures.after);
    line->setData(kState, workbench_.views.wantsALook(v) ? tr("look: %1").arg(state) : state);
    line->setData(kLook, workbench_.views.wantsALook(v));
    line->setData(kStates, QVariant::fromValue(stationStates(v)));
    line->setData(Qt::AccessibleTextRole, QString("%1, %2").arg(name, state));
    line->setToolTip(v.notes.empty() ? name + "\n" + state : name + "\n" + state + "\n\n" + text(v.notes));
  }
  setCurrentRow(workbench_.desk.job.viewIndex());
  viewport()->update();
}

void ViewList::addView() {
  if (!workbench_.hasView() || workbench_.busy()) return;
  bool taken = false;
  const QString name = QInputDialog::getText(this, tr("A further view"), tr("What does it show?"), QLineEdit::Normal,
                                             tr("View %1").arg(count() + 1), &taken);
  if (taken && !name.trimmed().isEmpty())
    workbench_.desk.notices.check(workbench_.desk.job.add(name.trimmed(), chosen().world, chosen().camera));
}

void ViewList::renameView() {
  if (!workbench_.hasView()) return;
  bool taken = false;
  const QString name = QInputDialog::getText(this, tr("Name of the view"), tr("What does it show?"), QLineEdit::Normal,
                                             text(chosen().name), &taken);
  if (taken) workbench_.desk.job.rename(name.trimmed());
}

void ViewList::duplicateView() {
  if (!workbench_.hasView() || workbench_.busy()) return;
  workbench_.desk.notices.check(
      workbench_.desk.job.duplicate(workbench_.desk.job.viewIndex(), tr("%1, again").arg(text(chosen().name))));
}

void ViewList::removeView() {
  if (!workbench_.hasView() || workbench_.busy()) return;
  const QString name = text(chosen().name);
  if (count() < 2) return workbench_.desk.notices.tell(tr("A job keeps at least one view."));
  if (workbench_.desk.notices.check(workbench_.desk.job.remove(workbench_.desk.job.viewIndex())))
    workbench_.desk.notices.tell(tr("%1 is out of the job; Undo brings it back. Its files stay.").arg(name));
}

void ViewList::editNotes() {
  if (!workbench_.hasView()) return;
  bool taken = false;
  const QString notes = QInputDialog::getMultiLineText(this, tr("Notes"), tr("Notes on %1").arg(text(chosen().name)),
                                                       text(chosen().notes), &taken);
  if (taken) workbench_.desk.job.writeNotes(notes);
}

void ViewList::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
  case Qt::Key_F2: return renameView();
  case Qt::Key_Delete: return removeView();
  default: QListWidget::keyPressEvent(event);
  }
}

void ViewList::contextMenuEvent(QContextMenuEvent* event) {
  if (!workbench_.hasView()) return;
  QMenu menu(this);
  menu.addAction(tr("Rename...\tF2"), this, &ViewList::renameView);
  menu.addAction(tr("Notes..."), this, &ViewList::editNotes);
  menu.addAction(tr("Duplicate"), this, &ViewList::duplicateView);
  menu.addAction(tr("Add a view..."), this, &ViewList::addView);
  menu.addSeparator();
  const bool out = chosen().leftOut;
  menu.addAction(out ? tr("Take back in") : tr("Leave out when all are delivered"), this,
                 [this, out] { workbench_.views.leaveOut({idOf(chosen())}, !out); });
  menu.addAction(tr("Take out of the job\tDel"), this, &ViewList::removeView);
  menu.exec(event->globalPos());
}

} // namespace ml
