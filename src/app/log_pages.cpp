// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/log_pages.h"

#include "app/theme.h"
#include "base/atomic_file.h"
#include "base/phrase.h"

#include <QCoreApplication>
#include <QPdfWriter>
#include <QTextDocument>
#include <QUrl>

namespace ml {
namespace {

QString tr(const char* words) {
  return QCoreApplication::translate("LogPages", words);
}

QString escaped(const std::string& words) {
  return QString::fromStdString(words).toHtmlEscaped();
}

void line(QString& html, const QString& what, const QString& words) {
  if (!words.isEmpty()) html += QString("<p style='margin:2px 0'><b>%1</b> %2</p>").arg(what, words);
}

QString listed(const std::vector<std::string>& words) {
  QStringList out;
  for (const auto& word : words) out << escaped(word);
  return out.join(", ");
}

QString shotWords(const LogView& view) {
  QString out = view.sets == 1 ? tr("%1 frames in one set").arg(view.fired)
                               : tr("%1 frames in %2 sets").arg(view.fired).arg(view.sets);
  if (view.repeats > 0) out += tr(", %1 shot again").arg(view.repeats);
  return out;
}

QString viewHtml(const LogEntry& entry, const LogView& view) {
  QString html = QString("<h3>%1 <small>(%2)</small></h3>")
                     .arg(escaped(view.name), view.practice ? tr("practice") : escaped(view.kind));
  const std::filesystem::path small = std::filesystem::path(entry.folder) / "views" / view.folder / "small.jpg";
  if (std::error_code error; std::filesystem::exists(small, error))
    html += QString("<p><img src='%1' height='150'></p>")
                .arg(QUrl::fromLocalFile(QString::fromStdString(small.string())).toString());
  if (view.hasRange)
    line(html, tr("Light"),
         tr("EV %1 to %2, %3 stops")
             .arg(view.darkest, 0, 'f', 1)
             .arg(view.brightest, 0, 'f', 1)
             .arg(view.range(), 0, 'f', 1));
  line(html, tr("Plan"), escaped(view.plan));
  if (view.fired > 0) line(html, tr("Shot"), shotWords(view));
  line(html, tr("Field check"), escaped(view.verdict));
  line(html, tr("Combined"), escaped(view.combined));
  if (view.combinedOf > 0)
    line(html, tr("Frames that said anything"), tr("%1 of %2").arg(view.spoke).arg(view.combinedOf));
  line(html, tr("Finish"), listed(view.finish));
  line(html, tr("Judgement"), escaped(view.judgement));
  line(html, tr("Delivered"), listed(view.delivered));
  if (view.siteSeconds() + view.deskSeconds() > 0)
    line(html, tr("Time"),
         tr("%1 minutes on site, %2 at the desk")
             .arg(view.siteSeconds() / 60, 0, 'f', 1)
             .arg(view.deskSeconds() / 60, 0, 'f', 1));
  line(html, tr("Notes"), escaped(view.notes));
  return html;
}

} // namespace

QString logPageHtml(const LogEntry& entry) {
  QString html = QString("<h2>%1</h2>").arg(escaped(entry.name));
  QStringList head;
  for (const auto* words : {&entry.date, &entry.place})
    if (!words->empty()) head << escaped(*words);
  if (!entry.tags.empty()) head << listed(entry.tags);
  html += "<p>" + head.join(" · ") + "</p>";
  line(html, tr("Learnt"), escaped(entry.lesson));
  for (const auto& view : entry.views) html += viewHtml(entry, view);
  return html;
}

Result<void> writeLogPdf(const std::vector<LogEntry>& entries, const std::vector<Learnt>& lessons,
                         const std::filesystem::path& file) {
  QString html = "<h1>" + tr("Logbook") + "</h1>";
  for (const auto& lesson : lessons) html += "<p>" + escaped(lesson.sentence) + "</p>";
  for (const auto& entry : entries) html += "<div style='page-break-before:always'>" + logPageHtml(entry) + "</div>";
  return writeAtomically(file, [&](const std::filesystem::path& temporary) -> Result<void> {
    {
      QPdfWriter pdf(QString::fromStdString(temporary.string()));
      pdf.setPageSize(QPageSize(QPageSize::A4));
      pdf.setTitle(tr("Logbook"));
      QTextDocument document;
      document.setDefaultFont(uiFont(10));
      document.setHtml(html);
      document.print(&pdf);
    }
    std::error_code error;
    if (std::filesystem::file_size(temporary, error) == 0 || error)
      return fail(ErrorCode::CannotWrite,
                  phrase("`{}` cannot be written; free some space or choose another folder.", file.string()));
    return {};
  });
}

} // namespace ml
