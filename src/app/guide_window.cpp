// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/guide_window.h"

#include "app/theme.h"

#include <QFile>
#include <QHBoxLayout>
#include <QImage>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QLocale>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextTable>
#include <QUrl>
#include <algorithm>

namespace ml {

/// Pictures fit the width of the page.
class GuidePage : public QTextBrowser {
public:
  explicit GuidePage(const QString& folder) : folder_(folder) {
    setObjectName("guidePage");
    setAccessibleName(GuideWindow::tr("The task"));
    setFrameShape(QFrame::NoFrame);
    setOpenLinks(false);
    document()->setDocumentMargin(18);
    document()->setIndentWidth(22);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn); // pictures are drawn to the width that is left
  }

  QVariant loadResource(int type, const QUrl& name) override {
    if (type != QTextDocument::ImageResource || !name.isRelative() || name.path().contains("..")) return {};
    const QImage picture(folder_ + "/" + name.path());
    const double dense = devicePixelRatioF();
    const int width = int(std::max(100, viewport()->width() - 2 * int(document()->documentMargin())) * dense);
    QImage fitting = picture.width() > width ? picture.scaledToWidth(width, Qt::SmoothTransformation) : picture;
    fitting.setDevicePixelRatio(dense);
    return fitting;
  }

  void show(const QString& markdown, const QString& searched) {
    clear();
    document()->setMarkdown(markdown, QTextDocument::MarkdownDialectGitHub);
    for (QTextBlock block = document()->begin(); block.isValid(); block = block.next()) {
      QTextCursor cursor(block);
      QTextBlockFormat format = block.blockFormat();
      format.setLineHeight(125, QTextBlockFormat::ProportionalHeight);
      if (!block.text().isEmpty() && block.text().front() != QChar::ObjectReplacementCharacter)
        cursor.setBlockFormat(format);
    }
    for (QTextFrame* frame : document()->rootFrame()->childFrames())
      if (auto* table = qobject_cast<QTextTable*>(frame)) rule(*table);
    mark(searched);
    verticalScrollBar()->setValue(0);
  }

private:
  /// Rows apart by their distance, not by lines.
  static void rule(QTextTable& table) {
    QTextTableFormat format = table.format();
    format.setBorder(0);
    format.setCellSpacing(0);
    format.setCellPadding(4);
    format.setTopMargin(8);
    table.setFormat(format);
    for (int row = 0; row < table.rows(); ++row) {
      QTextTableCellFormat cell = table.cellAt(row, 0).format().toTableCellFormat();
      cell.setRightPadding(28);
      table.cellAt(row, 0).setFormat(cell);
    }
  }

  void mark(const QString& searched) {
    QList<QTextEdit::ExtraSelection> found;
    for (const QString& word : searched.simplified().split(' ', Qt::SkipEmptyParts))
      for (QTextCursor at = document()->find(word); !at.isNull(); at = document()->find(word, at)) {
        QTextEdit::ExtraSelection selection;
        selection.cursor = at;
        selection.format.setBackground(palette().color(QPalette::Highlight));
        selection.format.setForeground(palette().color(QPalette::HighlightedText));
        found.push_back(selection);
      }
    setExtraSelections(found);
  }

  QString folder_;
};

GuideWindow::GuideWindow(QWidget* parent) : QDialog(parent) {
  setObjectName("guide");
  setWindowTitle(tr("Guide"));
  resize(980, 700);
  const QString file = QString::fromStdString(guideFile(QLocale().name().section('_', 0, 0)).string());
  if (QFile read(file); read.open(QIODevice::ReadOnly)) sections_ = guideSections(QString::fromUtf8(read.readAll()));
  if (sections_.empty())
    sections_.push_back({tr("The guide is not installed"),
                         {},
                         tr("## The guide is not installed\nThe program looked for `share/mellow-lantern/guide` beside "
                            "its own folder; install it again. Ctrl+K finds every command.")});
  search_ = new QLineEdit;
  search_->setObjectName("guideSearch");
  search_->setPlaceholderText(tr("Search the guide"));
  search_->setAccessibleName(tr("Search the guide"));
  search_->installEventFilter(this);
  tasks_ = new QListWidget;
  tasks_->setObjectName("guideTasks");
  tasks_->setAccessibleName(tr("Tasks"));
  tasks_->setWordWrap(true);
  page_ = new GuidePage(file.section('/', 0, -2));
  auto* left = new QVBoxLayout;
  left->setSpacing(8);
  left->addWidget(search_);
  left->addWidget(tasks_, 1);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(14, 14, 14, 14);
  row->setSpacing(12);
  row->addLayout(left, 2);
  row->addWidget(page_, 5);
  connect(search_, &QLineEdit::textChanged, this, &GuideWindow::narrow);
  connect(tasks_, &QListWidget::currentRowChanged, this, &GuideWindow::showChosen);
  narrow();
}

void GuideWindow::showFor(const QString& station) {
  show(); // pictures are drawn to its width
  search_->clear();
  for (int i = 0; i < int(sections_.size()); ++i)
    if (sections_[std::size_t(i)].station == station) tasks_->setCurrentRow(i);
  showChosen();
  raise();
  activateWindow();
  search_->setFocus();
}

void GuideWindow::narrow() {
  const int before = tasks_->currentItem() ? tasks_->currentItem()->data(Qt::UserRole).toInt() : 0;
  const QSignalBlocker quiet(tasks_);
  tasks_->clear();
  for (int i = 0; i < int(sections_.size()); ++i) {
    if (!says(sections_[std::size_t(i)], search_->text())) continue;
    auto* item = new QListWidgetItem(sections_[std::size_t(i)].title, tasks_);
    item->setData(Qt::UserRole, i);
    if (i == before) tasks_->setCurrentItem(item);
  }
  if (!tasks_->currentItem()) tasks_->setCurrentRow(0);
  showChosen();
}

void GuideWindow::showChosen() {
  const auto* chosen = tasks_->currentItem();
  page_->show(chosen ? sections_[std::size_t(chosen->data(Qt::UserRole).toInt())].text
                     : tr("Nothing in the guide has these words. Ctrl+K in the window searches the commands."),
              search_->text());
}

/// Up and down choose a task, page keys turn it, while words are typed.
bool GuideWindow::eventFilter(QObject* watched, QEvent* event) {
  if (watched != search_ || event->type() != QEvent::KeyPress) return QDialog::eventFilter(watched, event);
  const int key = static_cast<QKeyEvent*>(event)->key();
  const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
  const int page = key == Qt::Key_PageDown ? 1 : key == Qt::Key_PageUp ? -1 : 0;
  if (step) tasks_->setCurrentRow(std::clamp(tasks_->currentRow() + step, 0, std::max(0, tasks_->count() - 1)));
  QScrollBar* bar = page_->verticalScrollBar();
  if (page) bar->setValue(bar->value() + page * bar->pageStep());
  return step || page;
}

} // namespace ml
