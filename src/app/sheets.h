// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/deliver_model.h"

class QPagedPaintDevice;

namespace ml {

/// The sheet on any paper; false when it cannot be begun or ended.
[[nodiscard]] bool drawSheet(QPagedPaintDevice& paper, const QString& title, const std::vector<SheetPicture>& pictures);
/// A PDF of A4 pages: an overview of all views, then each view before and after. False when it cannot be written.
[[nodiscard]] bool writeSheet(const QString& file, const QString& title, const std::vector<SheetPicture>& pictures);

} // namespace ml
