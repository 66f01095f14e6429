// SPDX-License-Identifier: GPL-3.0-or-later
#include "exposure/reading.h"
#include "base/phrase.h"

#include "exposure/marks.h"

#include <charconv>
#include <cmath>
#include <string>

namespace ml {
namespace {

bool isDigit(char c) {
  return c >= '0' && c <= '9';
}

/// The comma of "EV 2,3"; that of "f/8,1/125" parts two figures.
bool isDecimalMark(std::string_view text, std::size_t comma) {
  if (comma == 0 || comma + 1 == text.size() || !isDigit(text[comma - 1]) || !isDigit(text[comma + 1])) return false;
  std::size_t after = comma + 1;
  while (after < text.size() && isDigit(text[after])) ++after;
  constexpr std::size_t kThousands = 3;
  return after - comma - 1 != kThousands && (after == text.size() || text[after] != '/');
}

std::vector<std::string> words(std::string_view text) {
  std::vector<std::string> out;
  std::string word;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == ' ' || c == '\t' || (c == ',' && !isDecimalMark(text, i))) {
      if (!word.empty()) out.push_back(std::move(word));
      word.clear();
    } else {
      word += c;
    }
  }
  if (!word.empty()) out.push_back(std::move(word));
  return out;
}

std::string joined(const std::vector<std::string>& parts) {
  std::string out;
  for (const auto& part : parts) out += (out.empty() ? "" : " ") + part;
  return out;
}

std::optional<Stops> asLuminance(std::string_view text) {
  for (const std::string_view unit : {"cd/m2", "cd/m^2", "cd/m\u00b2", "nit", "nits"}) {
    if (!text.ends_with(unit)) continue;
    std::string_view typed = text.substr(0, text.size() - unit.size());
    while (!typed.empty() && typed.back() == ' ') typed.remove_suffix(1);
    const std::string figure = pointed(typed);
    double value = 0;
    const auto [end, error] = std::from_chars(figure.data(), figure.data() + figure.size(), value);
    if (error != std::errc{} || end != figure.data() + figure.size() || !(value > 0) || !std::isfinite(value))
      return {};
    return ev100Of(value);
  }
  return {};
}

/// Takes "f/4" and "ISO 200" out of `parts`; false when one of them is not understood.
bool takeSettings(std::vector<std::string>& parts, FNumber& aperture, Iso& iso) {
  for (std::size_t i = 0; i < parts.size();) {
    const std::string& word = parts[i];
    if (word.size() > 2 && (word[0] == 'f' || word[0] == 'F') && word[1] == '/') {
      const auto n = parseFNumber(word);
      if (!n) return false;
      aperture = *n;
      parts.erase(parts.begin() + long(i));
    } else if (word.starts_with("ISO") || word.starts_with("iso")) {
      const bool apart = word.size() == 3 && i + 1 < parts.size();
      const auto s = parseIso(apart ? parts[i + 1] : word);
      if (!s) return false;
      iso = *s;
      parts.erase(parts.begin() + long(i), parts.begin() + long(i) + (apart ? 2 : 1));
    } else {
      ++i;
    }
  }
  return true;
}

bool looksLikeTime(const std::string& text, bool settingsGiven) {
  const bool fractionAlone = text.find('/') != std::string::npos && text.find(' ') == std::string::npos &&
                             text.front() != '+' && text.front() != '-';
  const bool unit = text.ends_with("s") || text.ends_with("sec") || text.ends_with("\"");
  return (fractionAlone || unit || settingsGiven) && !text.ends_with("stops");
}

std::optional<Stops> withinReach(std::optional<Stops> ev) {
  if (!ev || !(ev->value >= kDarkestReading && ev->value <= kBrightestReading)) return {};
  return ev;
}

} // namespace

std::optional<Stops> parseReading(std::string_view text, FNumber aperture, Iso iso) {
  auto parts = words(text);
  if (parts.empty()) return {};
  if (const std::string whole = joined(parts);
      whole.find("cd") != std::string::npos || whole.find("nit") != std::string::npos)
    return withinReach(asLuminance(whole));
  const std::size_t before = parts.size();
  if (!takeSettings(parts, aperture, iso) || parts.empty()) return {};
  const std::string rest = joined(parts);
  if (looksLikeTime(rest, parts.size() != before)) {
    const auto time = parseTime(rest);
    return time ? withinReach(ev100(aperture, *time, iso)) : std::nullopt;
  }
  if (parts.front() == "EV" || parts.front() == "ev") parts.erase(parts.begin());
  return parts.empty() ? std::nullopt : withinReach(parseStops(joined(parts)));
}

const std::vector<LightLevel>& everydayLight() {
  static const std::vector<LightLevel> levels{
      {{16}, wording("snow in full sun")},
      {{15}, wording("front-lit, full sun")},
      {{14}, wording("hazy sun")},
      {{13}, wording("bright cloud")},
      {{12}, wording("overcast, shade")},
      {{10}, wording("just after sunset")},
      {{9}, wording("bright signs")},
      {{8}, wording("bright street")},
      {{7}, wording("office")},
      {{6}, wording("rooms at home")},
      {{4}, wording("floodlit walls")},
      {{2}, wording("lit skyline, far")},
      {{-2.5}, wording("full moon landscape")},
  };
  return levels;
}

} // namespace ml
