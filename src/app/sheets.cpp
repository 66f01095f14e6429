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

bool writeSheet(const QString& file, const QString& title, const std::vector<SheetPicture>& pictures) {
  const QString part = file + ".part";
  {
    QPdfWriter pdf(part);
    pdf.setResolution(kDpi);
    pdf.setPageSize(QPageSize(QPageSize::A4));
    pdf.setPageMargins(QMarginsF(12, 12, 12, 12), QPageLayout::Millimeter);
    pdf.setTitle(title);
    QPainter p;
    if (!p.begin(&pdf)) return false;
    const QRectF page(0, 0, pdf.width(), pdf.height());
    const double head = 60;
    const auto heading = [&](const QString& words) {
      p.setFont(uiFont(14, true));
      p.drawText(QRectF(0, 0, page.width(), head), Qt::AlignLeft | Qt::AlignVCenter, words);
    };
    const double w = page.width() / kColumns, h = (page.height() - head) / kRows;
    for (std::size_t i = 0; i < pictures.size(); ++i) {
      const int place = int(i) % (kColumns * kRows);
      if (place == 0) {
        if (i > 0) pdf.newPage();
        heading(title);
      }
      const QRectF box((place % kColumns) * w, head + (place / kColumns) * h, w, h);
      drawInto(p, box.adjusted(8, 8, -8, -44), pictures[i].after);
      p.setFont(uiFont(9));
      p.drawText(QRectF(box.left() + 8, box.bottom() - 40, w - 16, 32), Qt::AlignHCenter | Qt::AlignTop,
                 pictures[i].name);
    }
    for (const SheetPicture& picture : pictures) {
      pdf.newPage();
      heading(picture.name);
      const double half = (page.height() - head) / 2;
      p.setFont(uiFont(9));
      p.drawText(QRectF(0, head, page.width(), 30), QCoreApplication::translate("Sheet", "One exposure"));
      drawInto(p, QRectF(0, head + 34, page.width(), half - 60), picture.before);
      p.drawText(QRectF(0, head + half, page.width(), 30), QCoreApplication::translate("Sheet", "Finished"));
      drawInto(p, QRectF(0, head + half + 34, page.width(), half - 60), picture.after);
    }
    if (!p.end()) return false;
  }
  QFile::remove(file);
  return QFile::rename(part, file);
}

} // namespace ml
