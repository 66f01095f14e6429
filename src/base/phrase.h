// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <fmt/core.h>
#include <functional>
#include <string>
#include <string_view>

namespace ml {

/// The user's language: a sentence as written here, its {} still open, to the same in that language; nothing where it
/// has none. It is asked from every thread.
struct Language {
  std::function<std::string(std::string_view)> words;
  char decimalMark = '.'; ///< What "{:L}" in its sentences writes.
};

/// Sets the language of `phrase`; once, before the first thread begins. Without it sentences stay as they are written.
void speak(Language language);

/// `words` in the user's language: names and sentences that hold no values.
[[nodiscard]] std::string phrase(std::string_view words);

/// A sentence with values, in the user's language. The values are counted: a translation may name them out of order
/// ("{1} ... {0}"). One that does not fit its values is passed over.
template <class First, class... Values>
[[nodiscard]] std::string phrase(fmt::format_string<const First&, const Values&...> words, const First& first,
                                 const Values&... values);

/// A figure written with a point ("0.8", "f/5.6") as the user's language writes it.
[[nodiscard]] std::string withDecimalMark(std::string figure);

/// Marks words for the translators where they stand in a table; `phrase` turns them when they are shown.
constexpr const char* wording(const char* english) {
  return english;
}

namespace detail {
[[nodiscard]] std::string fillIn(std::string_view words, fmt::format_args values);
}

template <class First, class... Values>
std::string phrase(fmt::format_string<const First&, const Values&...> words, const First& first,
                   const Values&... values) {
  const fmt::string_view english = words;
  return detail::fillIn({english.data(), english.size()}, fmt::make_format_args(first, values...));
}

} // namespace ml
