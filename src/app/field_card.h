// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "model/frames_model.h"
#include "plan/camera_settings.h"

#include <QImage>
#include <filesystem>
#include <string>

class QPainter;

namespace ml {

/// What a photographer carries to the place: settings in order, the frames, a checklist, cautions.
struct FieldCard {
  std::string job, view;
  Plan plan;
  Situation situation;
  std::vector<SpotReading> readings;
  QImage picture;    ///< What the finder saw, or a frame; null: none. Readings are marked on it.
  LadderData ladder; ///< The readings and the planned frames.
  bool feet = false;
};

/// Of the view in hand; it has a plan.
[[nodiscard]] FieldCard fieldCardOf(const FramesModel& frames);
/// On any page; it is made for paper as tall as A4, or taller.
void drawFieldCard(QPainter& painter, const FieldCard& card, const QRectF& page);
/// One page A4, fonts embedded.
Result<void> writeFieldCardPdf(const FieldCard& card, const std::filesystem::path& file);
/// For a phone: 1080 x 2160, dark on light.
[[nodiscard]] QImage fieldCardImage(const FieldCard& card);
/// field-card.pdf, field-card.png, shot-list.csv, shot-list.json in `folder`; the files written.
Result<std::vector<std::filesystem::path>> writeFieldFiles(const FieldCard& card, const std::filesystem::path& folder);

} // namespace ml
