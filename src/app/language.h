// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>
#include <string>
#include <vector>

namespace ml {

/// A language that the program speaks: "de", and its name in itself.
struct SpokenLanguage {
  QString id, name;
};
/// English first.
[[nodiscard]] const std::vector<SpokenLanguage>& spokenLanguages();

/// Speaks `id` from here on (empty: what the system asks for, English where that is none of ours): words, sentences of
/// the core, figures and dates, Qt's own dialogs. Once, before the first window.
void speakLanguage(const QString& id);

/// How a day is written: as the language does, in English by ISO 8601.
[[nodiscard]] QString dateFormat();
/// A day of a file ("2026-06-21") as it is shown; anything else as it is.
[[nodiscard]] QString shownDate(const std::string& iso);

} // namespace ml
