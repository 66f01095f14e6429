// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/printing.h"

#include <QPrintPreviewDialog>
#include <QPrinter>

namespace ml {

void preview(QWidget* parent, const std::function<void(QPrinter&)>& draw) {
  QPrinter printer(QPrinter::HighResolution);
  printer.setPageSize(QPageSize(QPageSize::A4));
  QPrintPreviewDialog dialog(&printer, parent);
  dialog.setObjectName("printPreview");
  dialog.resize(820, 760);
  QObject::connect(&dialog, &QPrintPreviewDialog::paintRequested, parent, [&](QPrinter* paper) { draw(*paper); });
  dialog.exec();
}

} // namespace ml
