// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/camera_values.h"

#include "exposure/marks.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdlib>

namespace ml {
namespace {

constexpr double kLongest = 1e5;
constexpr double kAutomaticIso = 0xFFFF;           ///< ISO 15740, exposure index.
constexpr const char* kAllBitsSet = "429496.7295"; ///< Seconds: what bulb is in tenths of a millisecond.

/// A positive figure at the beginning of `text`, a comma taken for a point; what follows it is left in `rest`.
std::optional<double> figure(std::string text, std::string& rest) {
  std::replace(text.begin(), text.end(), ',', '.');
  const auto digits = text.find_first_of("0123456789.");
  if (digits != 0) return {};
  const auto end = std::min(text.find_first_not_of("0123456789."), text.size());
  const std::string number = text.substr(0, end);
  if (number.size() > 12 || std::count(number.begin(), number.end(), '.') > 1) return {};
  rest = text.substr(end);
  const double value = std::strtod(number.c_str(), nullptr);
  return value > 0 ? std::optional(value) : std::nullopt;
}

std::string lower(std::string text) {
  std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return text;
}

std::string trimmed(const std::string& text) {
  const auto from = text.find_first_not_of(" \t"), to = text.find_last_not_of(" \t");
  return from == std::string::npos ? std::string() : text.substr(from, to - from + 1);
}

bool secondsFollow(const std::string& rest) {
  const std::string unit = trimmed(rest);
  return unit.empty() || unit == "s" || unit == "sec" || unit == "\"" || unit == "''";
}

/// The figure that a camera prints for a mark: 1/125 for 1/128 s.
double printedFigure(Seconds mark) {
  std::string rest;
  const std::string text = markOf(mark);
  return text.starts_with("1/") ? 1 / figure(text.substr(2), rest).value_or(1)
                                : figure(text, rest).value_or(mark.value);
}

/// "0.0040s" counts tenths of a millisecond, rounded: any mark that it may be rounded from, and of those the nearest.
ListedValue tenths(const std::string& word, double seconds) {
  constexpr double kHalf = 0.0000501;
  ListedValue v{word, seconds, seconds, seconds};
  double best = 1e9;
  for (const Seconds mark : shutterMarks()) {
    const double off = std::abs(printedFigure(mark) - seconds);
    if (off > kHalf) continue;
    v.least = std::min(v.least, mark.value), v.most = std::max(v.most, mark.value);
    if (off < best) best = off, v.value = mark.value;
  }
  return v;
}

/// "1/1.3" stands for 0.8 s: fractions are rounded, by no more than this.
double markNear(double seconds) {
  constexpr double kRounded = 0.055; // stops
  const double mark = timeAtThirds(nearestThirds({seconds})).value;
  return std::abs(std::log2(mark / seconds)) < kRounded ? mark : exact(Seconds{seconds}).value;
}

std::optional<ListedValue> listedTime(const std::string& word) {
  std::string rest;
  const std::string text = lower(trimmed(word));
  const auto first = figure(text, rest);
  if (!first) return {};
  if (rest.starts_with("/")) {
    const auto second = figure(rest.substr(1), rest);
    if (!second || !secondsFollow(rest) || *first / *second > kLongest) return {};
    const double t = markNear(*first / *second);
    return ListedValue{word, t, t, t};
  }
  if (!secondsFollow(rest) || *first > kLongest) return {};
  const auto point = text.find_first_of(".,");
  const bool fourDecimals = point != std::string::npos && text.find_first_not_of("0123456789", point + 1) == point + 5;
  if (fourDecimals) return tenths(word, *first);
  const double t = exact(Seconds{*first}).value;
  return ListedValue{word, t, t, t};
}

template <class Read> std::vector<ListedValue> listed(const std::vector<std::string>& words, Read read) {
  std::vector<ListedValue> list;
  for (const auto& word : words)
    if (const auto value = read(word)) list.push_back(*value);
  return list;
}

} // namespace

std::vector<ListedValue> listedTimes(const std::vector<std::string>& words) {
  return listed(words, listedTime);
}

std::vector<ListedValue> listedApertures(const std::vector<std::string>& words) {
  return listed(words, [](const std::string& word) -> std::optional<ListedValue> {
    std::string text = lower(trimmed(word)), rest;
    if (text.starts_with("f/"))
      text = text.substr(2);
    else if (text.starts_with("f"))
      text = trimmed(text.substr(1));
    const auto n = figure(text, rest);
    if (!n || !trimmed(rest).empty() || *n > 200) return {};
    const double value = exact(FNumber{*n}).value;
    return ListedValue{word, value, value, value};
  });
}

std::vector<ListedValue> listedIsos(const std::vector<std::string>& words) {
  return listed(words, [](const std::string& word) -> std::optional<ListedValue> {
    std::string text = lower(trimmed(word)), rest;
    if (text.starts_with("iso")) text = trimmed(text.substr(3));
    const auto s = figure(text, rest);
    if (!s || !trimmed(rest).empty() || *s < 1 || *s > 1e8 || *s == kAutomaticIso) return {};
    const double value = exact(Iso{*s}).value;
    return ListedValue{word, value, value, value};
  });
}

std::optional<std::string> bulbWord(const std::vector<std::string>& words) {
  for (const auto& word : words)
    if (lower(word).find("bulb") != std::string::npos || isOpenTime(word)) return word;
  return {};
}

bool isOpenTime(const std::string& word) {
  return word.starts_with(kAllBitsSet);
}

double offFrom(const ListedValue& listed, double wanted) {
  if (wanted < listed.least) return std::log2(listed.least / wanted);
  if (wanted > listed.most) return std::log2(wanted / listed.most);
  return 0;
}

const ListedValue* nearestListed(const std::vector<ListedValue>& list, double wanted) {
  // Of words that may all mean it, the one that can be least wrong.
  const auto worst = [&](const ListedValue& v) {
    return std::max(std::abs(std::log2(v.least / wanted)), std::abs(std::log2(v.most / wanted)));
  };
  const auto nearer = [&](const ListedValue& a, const ListedValue& b) {
    const double offA = offFrom(a, wanted), offB = offFrom(b, wanted);
    return offA != offB ? offA < offB : worst(a) < worst(b);
  };
  const auto found = std::min_element(list.begin(), list.end(), nearer);
  return found == list.end() ? nullptr : &*found;
}

} // namespace ml
