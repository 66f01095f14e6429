// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sort_sheet.h"

#include "exposure/marks.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QScrollBar>
#include <QVBoxLayout>
#include <utility>

namespace ml {
namespace {

constexpr int kHead = 34, kFrameWidth = 140, kFrameHeight = 112, kGap = 8, kLeft = 14, kRowGap = 14, kDragFrom = 8;

QString timeOf(const FileFacts& file) {
  return file.exposureKnown ? QString::fromStdString(print(file.settings.time)) : QObject::tr("time not said");
}

} // namespace

SortStrips::SortStrips(Sorting& sorting, const Theme& theme, QWidget* parent)
    : QAbstractScrollArea(parent), sorting_(sorting), theme_(theme) {
  setObjectName("sortStrips");
  setAccessibleName(tr("Sets and their frames"));
  setFocusPolicy(Qt::StrongFocus);
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  connect(&sorting_, &Sorting::thumbnailReady, viewport(), qOverload<>(&QWidget::update));
}

int SortStrips::rows() const {
  return int(sorting_.grouping().sets.size() + sorting_.grouping().aside.size());
}

const FileGroup* SortStrips::group(int row) const {
  const Grouping& g = sorting_.grouping();
  if (row < 0 || row >= rows()) return nullptr;
  return row < int(g.sets.size()) ? &g.sets[std::size_t(row)] : &g.aside[std::size_t(row) - g.sets.size()];
}

int SortStrips::perLine() const {
  return std::max(1, (viewport()->width() - 2 * kLeft + kGap) / (kFrameWidth + kGap));
}

int SortStrips::rowHeight(int row) const {
  const int lines = (int(group(row)->files.size()) + perLine() - 1) / perLine();
  return kHead + lines * (kFrameHeight + kGap) + kRowGap;
}

int SortStrips::rowTop(int row) const {
  int top = 6;
  for (int r = 0; r < row; ++r) top += rowHeight(r);
  return top;
}

QRect SortStrips::rectOf(Place place) const {
  const FileGroup* g = group(place.row);
  if (!g || place.file < 0 || place.file >= int(g->files.size())) return {};
  const int line = place.file / perLine(), column = place.file % perLine();
  return {kLeft + column * (kFrameWidth + kGap),
          rowTop(place.row) + kHead + line * (kFrameHeight + kGap) - verticalScrollBar()->value(), kFrameWidth,
          kFrameHeight};
}

SortStrips::Place SortStrips::placeAt(QPoint at) const {
  for (int row = 0; row < rows(); ++row) {
    const int top = rowTop(row) - verticalScrollBar()->value();
    if (at.y() < top || at.y() >= top + rowHeight(row)) continue;
    for (int file = 0; file < int(group(row)->files.size()); ++file)
      if (rectOf({row, file}).contains(at)) return {row, file};
    return {row, -1};
  }
  return {-1, -1};
}

void SortStrips::setCurrent(Place place) {
  const FileGroup* g = group(place.row);
  if (!g) return;
  place.file = std::clamp(place.file, 0, int(g->files.size()) - 1);
  current_ = place;
  const QRect r = rectOf(place);
  if (r.top() < kHead) verticalScrollBar()->setValue(verticalScrollBar()->value() + r.top() - kHead);
  if (r.bottom() > viewport()->height())
    verticalScrollBar()->setValue(verticalScrollBar()->value() + r.bottom() - viewport()->height() + kGap);
  viewport()->update();
  emit currentChanged();
}

void SortStrips::refresh() {
  const int height = rows() > 0 ? rowTop(rows() - 1) + rowHeight(rows() - 1) : 0;
  verticalScrollBar()->setRange(0, std::max(0, height - viewport()->height()));
  verticalScrollBar()->setPageStep(viewport()->height());
  verticalScrollBar()->setSingleStep(kFrameHeight / 2);
  setCurrent({std::clamp(current_.row, 0, std::max(0, rows() - 1)), current_.file});
}

void SortStrips::resizeEvent(QResizeEvent*) {
  refresh();
}

void SortStrips::paintEvent(QPaintEvent*) {
  QPainter p(viewport());
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  p.fillRect(viewport()->rect(), theme_.ground);
  for (int row = 0; row < rows(); ++row) {
    const int top = rowTop(row) - verticalScrollBar()->value();
    if (top < viewport()->height() && top + rowHeight(row) > 0) drawRow(p, row);
  }
}

void SortStrips::drawRow(QPainter& p, int row) {
  const Grouping& g = sorting_.grouping();
  const FileGroup& group = *this->group(row);
  const bool aside = row >= int(g.sets.size());
  const int top = rowTop(row) - verticalScrollBar()->value(), right = viewport()->width() - kLeft;
  if (row == dragTo_) p.fillRect(QRect(0, top, viewport()->width(), rowHeight(row) - kRowGap / 2), theme_.line);
  p.setPen(theme_.line);
  p.drawLine(kLeft, top, right, top);
  p.setFont(uiFont(10, true));
  p.setPen(aside ? theme_.quiet : theme_.text);
  const QString title = aside ? tr("Set aside") : QString::number(row + 1);
  p.drawText(QRect(kLeft, top + 4, right - kLeft, 24), Qt::AlignLeft | Qt::AlignVCenter, title);
  const int after = kLeft + p.fontMetrics().horizontalAdvance(title) + 12;
  p.setFont(uiFont(10));
  const QString what = sorting_.describe(group);
  p.drawText(QRect(after, top + 4, right - after, 24), Qt::AlignLeft | Qt::AlignVCenter, what);
  if (!group.reason.empty()) {
    const int reasonAt = after + p.fontMetrics().horizontalAdvance(what) + 18;
    p.setFont(uiFont(9));
    p.setPen(theme_.quiet);
    p.drawText(QRect(reasonAt, top + 4, right - reasonAt, 24), Qt::AlignRight | Qt::AlignVCenter,
               p.fontMetrics().elidedText(
                   (aside ? tr("because: %1") : tr("begins here: %1")).arg(QString::fromStdString(group.reason)),
                   Qt::ElideRight, right - reasonAt));
  }
  for (int i = 0; i < int(group.files.size()); ++i)
    drawFrame(p, rectOf({row, i}), group.files[std::size_t(i)], current_ == Place{row, i});
}

void SortStrips::drawFrame(QPainter& p, const QRect& r, const FileFacts& file, bool current) {
  const QRect area = r.adjusted(2, 2, -2, -24);
  p.fillRect(area, theme_.panel);
  if (const QImage image = sorting_.thumbnail(file.path); !image.isNull()) {
    const QSize size = image.size().scaled(area.size(), Qt::KeepAspectRatio);
    p.drawImage(QRect(area.center() - QPoint(size.width() / 2, size.height() / 2), size), image);
  }
  if (current) {
    p.setPen(QPen(hasFocus() ? theme_.accent : theme_.info, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(r.adjusted(1, 1, -1, -1), 4, 4);
  }
  p.setFont(uiFont(8.5, true));
  p.setPen(theme_.text);
  p.drawText(r.adjusted(6, 0, -6, -4), Qt::AlignLeft | Qt::AlignBottom, timeOf(file));
  const int used = p.fontMetrics().horizontalAdvance(timeOf(file)) + 8;
  p.setFont(uiFont(8));
  p.setPen(theme_.quiet);
  p.drawText(r.adjusted(6 + used, 0, -6, -4), Qt::AlignRight | Qt::AlignBottom,
             p.fontMetrics().elidedText(QString::fromStdString(file.path.filename().string()), Qt::ElideLeft,
                                        r.width() - used - 12));
}

void SortStrips::mousePressEvent(QMouseEvent* event) {
  const Place at = placeAt(event->pos());
  pressed_ = at.file >= 0;
  pressedAt_ = event->pos();
  if (pressed_) setCurrent(at);
}

void SortStrips::mouseMoveEvent(QMouseEvent* event) {
  if (!pressed_ || currentIsAside() || (event->pos() - pressedAt_).manhattanLength() < kDragFrom) return;
  const int row = placeAt(event->pos()).row;
  dragTo_ = row >= 0 && row != current_.row ? row : -1;
  setCursor(Qt::ClosedHandCursor);
  viewport()->update();
}

void SortStrips::mouseReleaseEvent(QMouseEvent*) {
  pressed_ = false;
  unsetCursor();
  const int to = std::exchange(dragTo_, -1);
  viewport()->update();
  if (to < 0) return;
  if (to < int(sorting_.grouping().sets.size()))
    sorting_.move(current_.row, current_.file, to);
  else
    sorting_.putFileAside(current_.row, current_.file);
}

void SortStrips::keyPressEvent(QKeyEvent* event) {
  const FileGroup* g = group(current_.row);
  if (!g) return;
  const int last = int(g->files.size()) - 1;
  switch (event->key()) {
  case Qt::Key_Left:
    return setCurrent(current_.file > 0 ? Place{current_.row, current_.file - 1} : Place{current_.row - 1, 1000000});
  case Qt::Key_Right:
    return setCurrent(current_.file < last ? Place{current_.row, current_.file + 1} : Place{current_.row + 1, 0});
  case Qt::Key_Up: return setCurrent({current_.row - 1, current_.file});
  case Qt::Key_Down: return setCurrent({current_.row + 1, current_.file});
  default: QAbstractScrollArea::keyPressEvent(event);
  }
}

SortSheet::SortSheet(Grouping grouping, const Theme& theme, QWidget* parent)
    : QDialog(parent), sorting_(std::move(grouping)) {
  setObjectName("sortSheet");
  setWindowTitle(tr("Sort the frames into sets"));
  resize(1080, 700);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(18, 14, 18, 14);
  column->setSpacing(10);
  summary_ = new QLabel;
  summary_->setObjectName("sortSummary");
  summary_->setWordWrap(true);
  summary_->setFont(uiFont(11));
  column->addWidget(summary_);
  strips_ = new SortStrips(sorting_, theme);
  column->addWidget(strips_, 1);
  auto* row = new QHBoxLayout;
  row->setSpacing(8);
  split_ = button("sortSplit", tr("Begin a set here"), Qt::Key_S, [this] {
    const auto at = strips_->current();
    if (sorting_.split(at.row, at.file)) strips_->setCurrent({at.row + 1, 0});
  });
  join_ = button("sortJoin", tr("Join with the next"), Qt::Key_J, [this] { sorting_.join(strips_->current().row); });
  position_ =
      button("sortPosition", tr("Own view"), Qt::Key_P, [this] { sorting_.togglePosition(strips_->current().row); });
  aside_ = button("sortAside", tr("Set aside"), Qt::Key_Delete, [this] {
    const auto at = strips_->current();
    if (strips_->currentIsAside())
      sorting_.takeBack(at.row - int(sorting_.grouping().sets.size()));
    else
      sorting_.putFileAside(at.row, at.file);
  });
  undo_ = button("sortUndo", tr("Undo"), QKeySequence::Undo, [this] { sorting_.undoStack().undo(); });
  auto* cancel = button("sortCancel", tr("Cancel"), {}, [this] { reject(); });
  make_ = button("sortMake", {}, Qt::CTRL | Qt::Key_Return, [this] { accept(); });
  make_->setProperty("role", "next");
  for (auto* b : {split_, join_, position_, aside_, undo_}) row->addWidget(b);
  row->addStretch();
  row->addWidget(cancel);
  row->addWidget(make_);
  column->addLayout(row);
  connect(&sorting_, &Sorting::changed, this, &SortSheet::refresh);
  connect(&sorting_.undoStack(), &QUndoStack::indexChanged, this, &SortSheet::refresh);
  connect(strips_, &SortStrips::currentChanged, this, &SortSheet::refresh);
  refresh();
  strips_->setFocus();
}

QPushButton* SortSheet::button(const QString& name, const QString& text, const QKeySequence& key,
                               const std::function<void()>& work) {
  auto* made = new QPushButton(text);
  made->setObjectName(name);
  made->setAutoDefault(false);
  made->setShortcut(key);
  if (!key.isEmpty()) made->setToolTip(key.toString(QKeySequence::NativeText));
  connect(made, &QPushButton::clicked, this, work);
  return made;
}

void SortSheet::refresh() {
  summary_->setText(sorting_.summary());
  const QSignalBlocker quiet(strips_);
  strips_->refresh();
  const bool aside = strips_->currentIsAside();
  const auto at = strips_->current();
  split_->setEnabled(!aside && at.file > 0);
  join_->setEnabled(!aside && at.row + 1 < int(sorting_.grouping().sets.size()));
  const FileGroup* set = aside || at.row < 0 ? nullptr : &sorting_.grouping().sets[std::size_t(at.row)];
  position_->setEnabled(set && at.row > 0);
  position_->setText(set && set->kind == GroupKind::Panorama ? tr("A view of its own")
                                                             : tr("Position of the view before"));
  aside_->setText(aside ? tr("Take back") : tr("Set aside"));
  undo_->setEnabled(sorting_.undoStack().canUndo());
  const int sets = sorting_.views();
  make_->setText(sets == 1 ? tr("Make one view") : tr("Make %1 views").arg(sets));
  make_->setEnabled(sets > 0);
}

} // namespace ml
