// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/phrase.h"

#include <algorithm>
#include <fmt/format.h>
#include <locale>

namespace ml {
namespace {

class DecimalMark : public std::numpunct<char> {
public:
  explicit DecimalMark(char mark) : mark_(mark) {}

private:
  char do_decimal_point() const override { return mark_; }
  std::string do_grouping() const override { return {}; }
  char mark_;
};

struct Spoken {
  Language language;
  std::locale numbers = std::locale::classic();
};

Spoken& spoken() {
  static Spoken one;
  return one;
}

} // namespace

void speak(Language language) {
  spoken().numbers = std::locale(std::locale::classic(), new DecimalMark(language.decimalMark));
  spoken().language = std::move(language);
}

std::string phrase(std::string_view words) {
  const auto& turn = spoken().language.words;
  std::string turned = turn ? turn(words) : std::string{};
  return turned.empty() ? std::string(words) : turned;
}

std::string withDecimalMark(std::string figure) {
  std::replace(figure.begin(), figure.end(), '.', spoken().language.decimalMark);
  return figure;
}

std::string detail::fillIn(std::string_view words, fmt::format_args values) {
  try {
    const std::string turned = phrase(words);
    return fmt::vformat(spoken().numbers, turned, values);
  } catch (const fmt::format_error&) {
    return fmt::vformat(std::locale::classic(), words, values);
  }
}

} // namespace ml
