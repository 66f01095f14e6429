// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/visit_sheet.h"

#include "app/language.h"
#include "base/atomic_file.h"
#include "base/phrase.h"
#include "model/text.h"
#include "visit/words.h"

#include <QPainter>
#include <QPdfWriter>

namespace ml {
namespace {

constexpr double kPageWidth = 560; ///< Units of the page's width; type sizes are in them.

/// Lines one below the other.
class Column {
public:
  Column(QPainter& p, double width, double bottom) : p_(p), width_(width), bottom_(bottom) {}
  void skip(double by) { y_ += by; }
  [[nodiscard]] double y() const { return y_; }
  /// False when there is no room left.
  bool say(const QString& words, double size, bool bold, const QColor& ink, double indent = 0) {
    p_.setFont(font(size, bold));
    p_.setPen(ink);
    const QRectF wide(indent, y_, width_ - indent, 10000);
    const QRectF needed = p_.boundingRect(wide, Qt::AlignLeft | Qt::TextWordWrap, words);
    if (y_ + needed.height() > bottom_) return false;
    p_.drawText(wide, Qt::AlignLeft | Qt::TextWordWrap, words);
    y_ += needed.height();
    return true;
  }
  static QFont font(double size, bool bold) {
    QFont font = paperFont(size, bold);
    font.setPixelSize(int(size));
    return font;
  }

private:
  QPainter& p_;
  double width_, bottom_, y_ = 0;
};

} // namespace

void drawVisitSheet(QPainter& p, const DayPicture& day, const QRectF& page) {
  Theme theme = Theme::paper();
  theme.ground = Qt::white;
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(page, Qt::white);
  constexpr double kMargin = 24;
  const double scale = page.width() / (kPageWidth + 2 * kMargin);
  p.translate(page.topLeft());
  p.scale(scale, scale);
  p.translate(kMargin, kMargin);
  const double bottom = page.height() / scale - 2 * kMargin;
  Column column(p, kPageWidth, bottom);
  const QColor ink(20, 20, 20), quiet(90, 90, 90);
  column.say(text(day.visit->name.empty() ? phrase("Visit") : day.visit->name), 22, true, ink);
  column.say(shownDate(print(day.visit->date)) +
                 (day.visit->place.name.empty() ? QString() : ", " + text(day.visit->place.name)),
             13, false, quiet);
  column.skip(4);
  column.say(text(verdict(*day.visit, *day.plan)), 13, true, ink);
  column.say(text(sunWords(*day.plan)), 11, false, quiet);
  column.skip(8);
  const double chart = 170;
  p.setFont(Column::font(10, false));
  paintDay(p, QRectF(0, column.y(), kPageWidth - 180, chart), day, theme);
  p.setFont(Column::font(10, false));
  paintCompass(p, QRectF(kPageWidth - 170, column.y(), 170, chart), day, theme);
  column.skip(chart + 10);
  for (const auto& entry : day.plan->order) {
    const auto& view = day.visit->views[std::size_t(entry.view)];
    if (!column.say(text(phrase("{} to {}", clockAt(day.plan->zone, entry.begin), clockAt(day.plan->zone, entry.end)) +
                         "   " + view.name),
                    13, true, ink))
      break;
    QString light = text(lightWords(view));
    if (!light.isEmpty()) light[0] = light[0].toUpper();
    column.say(light + ".", 11, false, quiet, 16);
    if (const auto fade = fadeWords(*day.visit, entry); !fade.empty()) column.say(text(fade), 11, false, quiet, 16);
    for (const auto& caution : cautionsFor(view, entry)) column.say("⚠ " + text(caution), 11, false, ink, 16);
    column.skip(4);
  }
  if (day.plan->leftOut.size() > 1) // one stands in the verdict
    for (const auto& left : day.plan->leftOut) column.say(text(left.reason + " " + left.change), 11, false, ink);
  column.skip(6);
  for (const auto& item : checklist()) column.say("☐ " + text(item), 11, false, ink);
  column.skip(6);
  column.say(text(generalCaution()), 10, false, quiet);
  p.restore();
}

Result<void> writeVisitPdf(const DayPicture& day, const std::filesystem::path& file) {
  return writeAtomically(file, [&](const std::filesystem::path& temporary) -> Result<void> {
    QPdfWriter pdf(QString::fromStdString(temporary.string()));
    constexpr int kResolution = 300;
    pdf.setPageSize(QPageSize(QPageSize::A4));
    pdf.setResolution(kResolution);
    pdf.setTitle(text(day.visit->name));
    pdf.setPageMargins(QMarginsF());
    QPainter p;
    if (!p.begin(&pdf))
      return fail(ErrorCode::CannotWrite, phrase("`{}` cannot be written; choose another folder.", file.string()));
    drawVisitSheet(p, day, QRectF(0, 0, pdf.width(), pdf.height()));
    if (!p.end())
      return fail(ErrorCode::CannotWrite, phrase("`{}` cannot be written; free some space.", file.string()));
    return {};
  });
}

QImage visitImage(const DayPicture& day) {
  QImage image(1080, 2160, QImage::Format_RGB32);
  QPainter p(&image);
  drawVisitSheet(p, day, image.rect());
  return image;
}

} // namespace ml
