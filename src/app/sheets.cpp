// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheets.h"

#include "app/theme.h"

#include <QCoreApplication>
#include <QFile>
#include <QPainter>
#include <QPdfWriter>

namespace ml {
namespace {

constexpr int kDpi = 150;
constexpr int kColumns = 3, kRows = 4;

void drawInto(QPainter& p, const QRectF& box, const QImage& image) {
  const QSizeF size = QSizeF(image.size()).scaled(box.size(), Qt::KeepAspectRatio);
  p.drawImage(QRectF(box.center() - QPointF(size.width() / 2, size.height() / 2), size), image);
}

} // namespace

bool drawSheet(QPagedPaintDevice& paper, const QString& title, const std::vector<SheetPicture>& pictures) {
  QPainter p;
  if (!p.begin(&paper)) return false;
  const double dpi = paper.logicalDpiX(), unit = dpi / kDpi;
  const QRectF page(0, 0, paper.width(), paper.height());
  const double head = 60 * unit;
  const auto heading = [&](const QString& words) {
    p.setFont(paperFont(14, true));
    p.drawText(QRectF(0, 0, page.width(), head), Qt::AlignLeft | Qt::AlignVCenter, words);
  };
  const double w = page.width() / kColumns, h = (page.height() - head) / kRows, gap = 8 * unit;
  for (std::size_t i = 0; i < pictures.size(); ++i) {
    const int place = int(i) % (kColumns * kRows);
    if (place == 0) {
      if (i > 0) paper.newPage();
      heading(title);
    }
    const QRectF box((place % kColumns) * w, head + (place / kColumns) * h, w, h);
    drawInto(p, box.adjusted(gap, gap, -gap, -44 * unit), pictures[i].after);
    p.setFont(paperFont(9));
    p.drawText(QRectF(box.left() + gap, box.bottom() - 40 * unit, w - 2 * gap, 32 * unit),
               Qt::AlignHCenter | Qt::AlignTop, pictures[i].name);
  }
  for (const SheetPicture& picture : pictures) {
    paper.newPage();
    heading(picture.name);
    const double half = (page.height() - head) / 2, line = 34 * unit;
    p.setFont(paperFont(9));
    p.drawText(
        QRectF(0, head, page.width(), line),
        QCoreApplication::translate("Sheet", "As one exposure would show it, simulated from the combined light"));
    drawInto(p, QRectF(0, head + line, page.width(), half - 60 * unit), picture.before);
    p.drawText(QRectF(0, head + half, page.width(), line), QCoreApplication::translate("Sheet", "Finished"));
    drawInto(p, QRectF(0, head + half + line, page.width(), half - 60 * unit), picture.after);
  }
  return p.end();
}

bool writeSheet(const QString& file, const QString& title, const std::vector<SheetPicture>& pictures) {
  const QString part = file + ".part";
  {
    QPdfWriter pdf(part);
    pdf.setResolution(kDpi);
    pdf.setPageSize(QPageSize(QPageSize::A4));
    pdf.setPageMargins(QMarginsF(12, 12, 12, 12), QPageLayout::Millimeter);
    pdf.setTitle(title);
    if (!drawSheet(pdf, title, pictures)) return false;
  }
  QFile::remove(file);
  return QFile::rename(part, file);
}

} // namespace ml
