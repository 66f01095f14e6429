// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/printing.h"

#include <QGraphicsView>
#include <QPrintPreviewDialog>
#include <QPrinter>

namespace ml {

void preview(QWidget* parent, const std::function<void(QPrinter&)>& draw) {
  QPrinter printer(QPrinter::HighResolution);
  printer.setPageSize(QPageSize(QPageSize::A4));
  QPrintPreviewDialog dialog(&printer, parent);
  dialog.setObjectName("printPreview");
  dialog.resize(940, 760);
  dialog.setStyleSheet("QToolButton { padding: 3px; min-height: 0; } QLineEdit { max-width: 40px; }");
  for (auto* ground : dialog.findChildren<QGraphicsView*>()) ground->setBackgroundBrush(QColor(0x6a, 0x6a, 0x6a));
  QObject::connect(&dialog, &QPrintPreviewDialog::paintRequested, parent, [&](QPrinter* paper) { draw(*paper); });
  dialog.exec();
}

} // namespace ml
