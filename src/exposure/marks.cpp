// SPDX-License-Identifier: GPL-3.0-or-later
#include "exposure/marks.h"
#include "base/phrase.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

constexpr std::array<const char*, 55> kTimeMarks{
    "1/8000", "1/6400", "1/5000", "1/4000", "1/3200", "1/2500", "1/2000", "1/1600", "1/1250", "1/1000", "1/800",
    "1/640",  "1/500",  "1/400",  "1/320",  "1/250",  "1/200",  "1/160",  "1/125",  "1/100",  "1/80",   "1/60",
    "1/50",   "1/40",   "1/30",   "1/25",   "1/20",   "1/15",   "1/13",   "1/10",   "1/8",    "1/6",    "1/5",
    "1/4",    "0.3",    "0.4",    "0.5",    "0.6",    "0.8",    "1",      "1.3",    "1.6",    "2",      "2.5",
    "3.2",    "4",      "5",      "6",      "8",      "10",     "13",     "15",     "20",     "25",     "30"};

constexpr std::array<double, 31> kApertureMarks{1,   1.1, 1.2, 1.4, 1.6, 1.8, 2,   2.2, 2.5, 2.8, 3.2,
                                                3.5, 4,   4.5, 5,   5.6, 6.3, 7.1, 8,   9,   10,  11,
                                                13,  14,  16,  18,  20,  22,  25,  29,  32};

constexpr std::array<double, 31> kIsoMarks{50,   64,    80,    100,   125,   160,   200,   250,   320,  400,  500,
                                           640,  800,   1000,  1250,  1600,  2000,  2500,  3200,  4000, 5000, 6400,
                                           8000, 10000, 12800, 16000, 20000, 25600, 32000, 40000, 51200};
constexpr int kIsoMarkOf100 = 3;

/// A printed figure and a stored one are the same mark when they agree to this share (Exif keeps 0.3 or 0.3333).
constexpr double kSameFigure = 0.012;

std::string_view trimmed(std::string_view s) {
  const auto space = [](char c) { return c == ' ' || c == '\t'; };
  while (!s.empty() && space(s.front())) s.remove_prefix(1);
  while (!s.empty() && space(s.back())) s.remove_suffix(1);
  return s;
}

bool dropSuffix(std::string_view& s, std::string_view suffix) {
  if (!s.ends_with(suffix)) return false;
  s = trimmed(s.substr(0, s.size() - suffix.size()));
  return true;
}

std::optional<double> number(std::string_view text) {
  const std::string s = pointed(trimmed(text));
  double value = 0;
  const auto [end, error] = std::from_chars(s.data(), s.data() + s.size(), value);
  if (s.empty() || error != std::errc{} || end != s.data() + s.size() || !std::isfinite(value)) return {};
  return value;
}

/// "3", "0.5" or "1/3"; no sign.
std::optional<double> fraction(std::string_view s) {
  s = trimmed(s);
  if (s.empty() || s.front() == '-' || s.front() == '+') return {};
  const auto slash = s.find('/');
  if (slash == std::string_view::npos) return number(s);
  const auto above = number(s.substr(0, slash)), below = number(s.substr(slash + 1));
  if (!above || !below || *below <= 0 || *above < 0) return {};
  return *above / *below;
}

double markFigure(const char* mark) {
  return *fraction(mark);
}

std::string figure(double value) {
  return fmt::format("{:g}", std::round(value * 1000) / 1000);
}

} // namespace

std::string pointed(std::string_view figure) {
  constexpr std::size_t kThousands = 3;
  std::string out(figure);
  const auto comma = out.find(',');
  if (comma != std::string::npos && out.size() - comma - 1 != kThousands &&
      out.find(',', comma + 1) == std::string::npos)
    out[comma] = '.';
  return out;
}

Seconds timeAtThirds(int thirds) {
  return {std::exp2(-thirds / 3.0)};
}
int nearestThirds(Seconds t) {
  return int(std::lround(-3 * std::log2(t.value)));
}

std::vector<Seconds> shutterMarks() {
  std::vector<Seconds> marks;
  for (int k = kShortestMarkThirds; k >= kLongestMarkThirds; --k) marks.push_back(timeAtThirds(k));
  return marks;
}

std::string markOf(Seconds t) {
  const int thirds = nearestThirds(t);
  const bool onLadder = std::abs(-3 * std::log2(t.value) - thirds) < 0.06;
  if (onLadder && thirds <= kShortestMarkThirds && thirds >= kLongestMarkThirds) {
    const std::string mark = kTimeMarks[kShortestMarkThirds - thirds];
    return mark.find('/') == std::string::npos ? mark + " s" : mark;
  }
  if (t.value > 33) return fmt::format("bulb {:.0f} s", t.value);
  if (t.value < 0.3) return fmt::format("1/{:.0f}", 1 / t.value);
  return figure(t.value) + " s";
}

std::string markOf(FNumber n) {
  const double thirds = 6 * std::log2(n.value);
  const long k = std::lround(thirds);
  if (std::abs(thirds - double(k)) < 0.06 && k >= 0 && k < long(kApertureMarks.size()))
    return fmt::format("f/{:g}", kApertureMarks[k]);
  return fmt::format("f/{:.1f}", n.value);
}

std::string print(Seconds t) {
  return withDecimalMark(markOf(t));
}

std::string print(FNumber n) {
  return withDecimalMark(markOf(n));
}

std::string print(Iso s) {
  const double thirds = 3 * std::log2(s.value / 100) + kIsoMarkOf100;
  const long k = std::lround(thirds);
  if (std::abs(thirds - double(k)) < 0.06 && k >= 0 && k < long(kIsoMarks.size()))
    return fmt::format("ISO {:g}", kIsoMarks[k]);
  return fmt::format("ISO {:.0f}", s.value);
}

std::string print(Stops s) {
  const double thirds = s.value * 3;
  const long k = std::lround(thirds);
  const char* sign = s.value < 0 ? "-" : "+";
  if (std::abs(thirds - double(k)) > 0.02) {
    const std::string amount = fmt::format("{:.1f}", std::abs(s.value));
    return amount == "0.0" ? "0" : sign + withDecimalMark(amount);
  }
  if (k == 0) return "0";
  const long whole = std::labs(k) / 3, rest = std::labs(k) % 3;
  if (rest == 0) return fmt::format("{}{}", sign, whole);
  return whole == 0 ? fmt::format("{}{}/3", sign, rest) : fmt::format("{}{} {}/3", sign, whole, rest);
}

std::string printAmount(Stops s) {
  const double rounded = std::round(s.value * 10) / 10;
  const double amount = rounded == 0 ? 0.0 : rounded;
  return std::abs(rounded) <= 1 ? phrase("{:g} stop", amount) : phrase("{:g} stops", amount);
}

std::optional<Seconds> parseTime(std::string_view text) {
  std::string_view s = trimmed(text);
  if (!dropSuffix(s, "sec") && !dropSuffix(s, "s")) dropSuffix(s, "\"");
  const auto value = fraction(s);
  if (!value || *value <= 0) return {};
  return exact(Seconds{*value});
}

std::optional<FNumber> parseFNumber(std::string_view text) {
  std::string_view s = trimmed(text);
  if (s.starts_with('f') || s.starts_with('F')) s.remove_prefix(1);
  if (s.starts_with('/')) s.remove_prefix(1);
  const auto value = number(s);
  if (!value || *value <= 0) return {};
  return exact(FNumber{*value});
}

std::optional<Iso> parseIso(std::string_view text) {
  std::string_view s = trimmed(text);
  if (s.starts_with("ISO") || s.starts_with("iso")) s.remove_prefix(3);
  const auto value = number(s);
  if (!value || *value <= 0) return {};
  return exact(Iso{*value});
}

std::optional<Stops> parseStops(std::string_view text) {
  static constexpr std::string_view kTrueMinus = "\u2212";
  std::string_view s = trimmed(text);
  for (const auto unit : {"stops", "stop", "EV", "ev"})
    if (dropSuffix(s, unit)) break;
  double sign = 1;
  if (s.starts_with('+')) {
    s.remove_prefix(1);
  } else if (s.starts_with('-')) {
    sign = -1;
    s.remove_prefix(1);
  } else if (s.starts_with(kTrueMinus)) {
    sign = -1;
    s.remove_prefix(kTrueMinus.size());
  }
  s = trimmed(s);
  const auto gap = s.find(' ');
  if (gap == std::string_view::npos) {
    const auto value = fraction(s);
    return value ? std::optional(Stops{sign * *value}) : std::nullopt;
  }
  const auto whole = fraction(s.substr(0, gap)), part = fraction(s.substr(gap + 1));
  if (!whole || !part || *whole != std::floor(*whole) || *part >= 1) return {};
  return Stops{sign * (*whole + *part)};
}

Seconds exact(Seconds printed) {
  for (std::size_t i = 0; i < kTimeMarks.size(); ++i)
    if (std::abs(printed.value / markFigure(kTimeMarks[i]) - 1) < kSameFigure)
      return timeAtThirds(kShortestMarkThirds - int(i));
  return printed;
}

FNumber exact(FNumber printed) {
  for (std::size_t i = 0; i < kApertureMarks.size(); ++i)
    if (std::abs(printed.value / kApertureMarks[i] - 1) < kSameFigure) return {std::exp2(double(i) / 6)};
  return printed;
}

Iso exact(Iso printed) {
  for (std::size_t i = 0; i < kIsoMarks.size(); ++i)
    if (std::abs(printed.value / kIsoMarks[i] - 1) < kSameFigure)
      return {100 * std::exp2((double(i) - kIsoMarkOf100) / 3)};
  return printed;
}

PrintedEnds printedEnds(const ExposureSettings& first, const ExposureSettings& last) {
  const auto differ = [](double a, double b) { return std::abs(std::log2(a / b)) > 0.1; };
  if (!differ(first.time.value, last.time.value)) {
    if (differ(first.iso.value, last.iso.value)) return {print(first.iso), print(last.iso)};
    if (differ(first.aperture.value, last.aperture.value)) return {print(first.aperture), print(last.aperture)};
  }
  return {print(first.time), print(last.time)};
}

} // namespace ml
