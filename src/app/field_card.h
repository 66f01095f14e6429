// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "plan/camera_settings.h"
#include "plan/shot_list.h"

#include <QImage>
#include <filesystem>
#include <string>

namespace ml {

/// What a photographer carries to the place: settings in order, the frames, a checklist, cautions.
struct FieldCard {
  std::string job, view;
  Plan plan;
  Situation situation;
  std::vector<std::pair<std::string, Stops>> readings;
};

/// One page A4, fonts embedded.
Result<void> writeFieldCardPdf(const FieldCard& card, const std::filesystem::path& file);
/// For a phone: 1080 x 2160, dark on light.
[[nodiscard]] QImage fieldCardImage(const FieldCard& card);
/// field-card.pdf, field-card.png, shot-list.csv, shot-list.json in `folder`; the files written.
Result<std::vector<std::filesystem::path>> writeFieldFiles(const FieldCard& card, const std::filesystem::path& folder);

} // namespace ml
