// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/day_chart.h"
#include "base/result.h"

#include <QImage>
#include <filesystem>

namespace ml {

/// What one takes along: times, sun, views in order with their light and cautions, checklist. On any page that is
/// taller than wide.
void drawVisitSheet(QPainter& painter, const DayPicture& day, const QRectF& page);
/// One page A4, fonts embedded.
Result<void> writeVisitPdf(const DayPicture& day, const std::filesystem::path& file);
/// For a phone: 1080 x 2160, dark on light.
[[nodiscard]] QImage visitImage(const DayPicture& day);

} // namespace ml
