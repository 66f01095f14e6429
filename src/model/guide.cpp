// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/guide.h"

#include "session/locations.h"

#include <QRegularExpression>
#include <QStringList>
#include <algorithm>

namespace ml {

std::vector<GuideSection> guideSections(const QString& markdown) {
  static const QRegularExpression comment(R"(<!--\s*(?:station:\s*([a-z-]+))?[^>]*-->)");
  std::vector<GuideSection> out;
  for (const QString& line : markdown.split('\n')) {
    if (line.startsWith("## ")) {
      out.push_back({line.mid(3).trimmed(), {}, line + '\n'});
    } else if (out.empty()) {
      continue; // what stands before the first task is for who reads the file
    } else if (const auto found = comment.match(line); found.hasMatch()) {
      if (!found.captured(1).isEmpty()) out.back().station = found.captured(1);
      out.back().text += '\n';
    } else {
      out.back().text += line + '\n';
    }
  }
  return out;
}

bool says(const GuideSection& section, const QString& words) {
  const QStringList wanted = words.simplified().split(' ', Qt::SkipEmptyParts);
  return std::all_of(wanted.begin(), wanted.end(),
                     [&](const QString& w) { return section.text.contains(w, Qt::CaseInsensitive); });
}

std::filesystem::path guideFile(const QString& language) {
  const std::string own = "guide." + language.toStdString() + ".md";
  std::error_code error;
  if (const auto file = sharedFile("guide/" + own, "docs/" + own); std::filesystem::exists(file, error)) return file;
  return sharedFile("guide/guide.md", "docs/guide.md");
}

} // namespace ml
