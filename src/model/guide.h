// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>
#include <filesystem>
#include <vector>

namespace ml {

/// One task of the photographer's guide.
struct GuideSection {
  QString title;
  QString station; ///< Where in the window it belongs: a station's id, or a page's name.
  QString text;    ///< Markdown, with its heading.
};

/// Sections begin at headings of the second level; the line after one may name its station in a comment.
[[nodiscard]] std::vector<GuideSection> guideSections(const QString& markdown);

/// Every word, wherever it stands and however it is written. No words: it does.
[[nodiscard]] bool says(const GuideSection& section, const QString& words);

/// The guide in a language ("de"), in English where it has none: as it is installed, else as it lies in the source
/// tree. Empty: neither is there.
[[nodiscard]] std::filesystem::path guideFile(const QString& language = "en");

} // namespace ml
