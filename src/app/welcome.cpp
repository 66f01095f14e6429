// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/welcome.h"

#include <QDir>
#include <QFileInfo>
#include <QIcon>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QStyle>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr int kMostRecent = 6;

bool isJob(const QString& folder) {
  return QFileInfo::exists(folder + "/job.json");
}

QLabel* words(const QString& text, double size, bool bold, bool quiet) {
  auto* label = new QLabel(text);
  label->setFont(uiFont(size, bold));
  label->setWordWrap(true);
  label->setAlignment(Qt::AlignCenter);
  if (quiet) label->setProperty("role", "quiet");
  return label;
}

/// The finished picture of the job's first view that has one.
QIcon pictureOf(const QString& folder) {
  const QDir views(folder + "/views");
  for (const QString& view : views.entryList(QDir::Dirs | QDir::NoDotAndDotDot, QDir::Name))
    if (const QPixmap small(views.filePath(view + "/small.jpg")); !small.isNull())
      return QIcon(small.scaled(96, 64, Qt::KeepAspectRatio, Qt::SmoothTransformation));
  return {};
}

} // namespace

std::vector<RecentJobs::Entry> RecentJobs::all() {
  std::vector<Entry> entries;
  for (const QString& line : QSettings().value("recentJobs").toStringList()) {
    const qsizetype cut = line.indexOf('\n');
    if (const QString folder = line.left(cut); cut > 0 && isJob(folder)) entries.push_back({folder, line.mid(cut + 1)});
  }
  return entries;
}

void RecentJobs::add(const QString& folder, const QString& name) {
  QStringList lines{folder + '\n' + name};
  for (const Entry& e : all())
    if (e.folder != folder && lines.size() < kMostRecent) lines << e.folder + '\n' + e.name;
  QSettings().setValue("recentJobs", lines);
}

Welcome::Welcome(QWidget* parent) : QFrame(parent) {
  setObjectName("welcome");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(60, 40, 60, 40);
  column->setSpacing(10);
  column->addStretch(2);
  column->addWidget(words(tr("Bracket the light, combine it, keep it natural."), 20, true, false));
  column->addWidget(words(tr("Drop a folder of bracketed frames here, or a whole card."), 12, false, true));
  column->addSpacing(18);
  auto* row = new QHBoxLayout;
  row->setSpacing(12);
  const auto button = [&](const char* name, const QString& text) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    row->addWidget(made);
    return made;
  };
  row->addStretch();
  goOn_ = button("goOn", {});
  demo_ = button("openDemo", tr("Practise in the ferry house"));
  demo_->setToolTip(tr("A dark room, a bright lake, and a camera that costs nothing"));
  auto* frames = button("chooseFrames", tr("Choose frames of your own..."));
  row->addStretch();
  column->addLayout(row);
  column->addSpacing(26);
  recent_ = new QVBoxLayout;
  recent_->setSpacing(6);
  column->addLayout(recent_);
  column->addStretch(3);
  connect(demo_, &QPushButton::clicked, this, &Welcome::demoWanted);
  connect(frames, &QPushButton::clicked, this, &Welcome::framesWanted);
  connect(goOn_, &QPushButton::clicked, this, [this] { emit jobWanted(goOn_->property("folder").toString()); });
  refresh();
}

void Welcome::refresh() {
  const auto jobs = RecentJobs::all();
  goOn_->setVisible(!jobs.empty());
  if (!jobs.empty()) {
    goOn_->setText(tr("Go on with %1").arg(jobs.front().name));
    goOn_->setProperty("folder", jobs.front().folder);
  }
  goOn_->setProperty("role", jobs.empty() ? "" : "next");
  demo_->setProperty("role", jobs.empty() ? "next" : "");
  (jobs.empty() ? demo_ : goOn_)->setFocus();
  for (QPushButton* b : {goOn_, demo_}) b->style()->unpolish(b), b->style()->polish(b);
  while (auto* item = recent_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  if (jobs.size() < 2) return;
  recent_->addWidget(words(tr("Open lately"), 9, false, true));
  for (const auto& job : jobs) {
    if (&job == &jobs.front()) continue;
    auto* open = new QPushButton(job.name);
    open->setObjectName("recentJob");
    open->setProperty("role", "plain");
    open->setToolTip(job.folder);
    open->setIcon(pictureOf(job.folder));
    open->setIconSize(QSize(60, 40));
    recent_->addWidget(open, 0, Qt::AlignHCenter);
    connect(
        open, &QPushButton::clicked, this, [this, folder = job.folder] { emit jobWanted(folder); },
        Qt::QueuedConnection);
  }
}

/// The mark of the program, large and faint, so that an empty window has a face.
void Welcome::paintEvent(QPaintEvent* event) {
  QFrame::paintEvent(event);
  QPainter p(this);
  const int size = std::min(width(), height()) / 7;
  QIcon(":/icon.svg").paint(&p, QRect((width() - size) / 2, height() / 2 - 2 * size - 60, size, size));
}

} // namespace ml
