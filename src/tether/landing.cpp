// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/landing.h"

#include "base/phrase.h"
#include "codec/exif.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr double kSame = 0.1;          ///< Stops: the same exposure.
constexpr double kBetween = 0.4;       ///< Stops: printed and rounded times lie this far off at most,
constexpr double kBetweenShort = 0.75; ///< and short ones, which the protocol counts in tenths of a millisecond.
constexpr Seconds kShort{0.002};
constexpr const char* kArriving = ".arriving";

std::string stemOf(const std::string& name) {
  return name.substr(0, name.rfind('.'));
}

double timeOff(Seconds a, Seconds b) {
  return std::abs(std::log2(a.value / b.value));
}

bool same(const ExposureSettings& a, const ExposureSettings& b) {
  return timeOff(a.time, b.time) < kSame && std::abs(std::log2(a.aperture.value / b.aperture.value)) < kSame / 2 &&
         std::abs(std::log2(a.iso.value / b.iso.value)) < kSame;
}

std::optional<Seconds> saidTime(const fs::path& file) {
  const auto said = readExif(file);
  if (!said || !said->time || !(said->time->value > 0)) return {};
  return exact(*said->time);
}

Error cannotWrite(const fs::path& file) {
  return {ErrorCode::CannotWrite, phrase("`{}` cannot be written; choose another folder.", file.string())};
}

} // namespace

std::string endingOf(const std::string& name) {
  const auto point = name.rfind('.');
  std::string ending = point == std::string::npos ? "" : name.substr(point);
  std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return ending;
}

bool isPicture(const std::string& name) {
  static const std::set<std::string> others{".mov", ".mp4", ".avi", ".mts", ".thm", ".xmp",  ".txt",  ".wav", ".xml",
                                            ".lrv", ".ctg", ".ind", ".log", ".gpx", ".nmea", ".html", ""};
  return !others.contains(endingOf(name)) && name.front() != '.';
}

bool isRawName(const std::string& name) {
  static const std::set<std::string> rendered{".jpg", ".jpeg", ".heif", ".heic", ".hif", ".tif", ".tiff", ".png"};
  return isPicture(name) && !rendered.contains(endingOf(name));
}

Result<void> Landing::begin(const std::set<std::string>& known) {
  std::error_code error;
  fs::create_directories(order_.folder, error);
  tidy(); // half of something, from a program that died
  SetRecord earlier = SetRecord::load(order_.folder).value_or(SetRecord{});
  std::vector<bool> taken(earlier.entries.size());
  bool takenUp = false;
  for (std::size_t i = 0; i < order_.frames.size(); ++i) {
    std::size_t at = 0;
    while (at < earlier.entries.size() && (taken[at] || !same(earlier.entries[at].settings, order_.frames[i]) ||
                                           frameAt(order_.folder, earlier.entries[at].file)))
      ++at;
    if (at == earlier.entries.size()) {
      earlier.entries.push_back({order_.frames[i], order_.prefix + std::to_string(order_.numberOf(i)), ""});
      taken.push_back(true);
    } else {
      taken[at] = takenUp = true;
    }
    entries_.push_back(at);
  }
  record_ = std::move(earlier);
  // Where nothing is taken up, all that is on the camera now was there before.
  if (!takenUp) record_.before = known;
  return record_.save(order_.folder);
}

bool Landing::onDisk(std::size_t frame) const {
  return frameAt(order_.folder, entry(frame).file).has_value();
}

std::vector<std::size_t> Landing::missing() const {
  std::vector<std::size_t> out;
  for (std::size_t i = 0; i < entries_.size(); ++i)
    if (!onDisk(i)) out.push_back(i);
  return out;
}

std::vector<CameraFileName> Landing::left(const std::set<std::string>& known) const {
  std::vector<CameraFileName> out;
  for (const auto& whole : known) {
    const auto slash = whole.rfind('/');
    const CameraFileName name{whole.substr(0, slash), whole.substr(slash + 1)};
    const bool have = std::any_of(record_.entries.begin(), record_.entries.end(), [&](const SetRecord::Entry& e) {
      return e.onCamera == whole && frameAt(order_.folder, e.file);
    });
    if (!have && !record_.before.contains(whole) && isPicture(name.name)) out.push_back(name);
  }
  return out;
}

Result<fs::path> Landing::room(const CameraFileName& file) const {
  const fs::path folder = order_.folder / kArriving;
  std::error_code error;
  fs::create_directories(folder, error);
  std::string name = file.name;
  std::replace(name.begin(), name.end(), '/', '_');
  if (error || name.empty() || name == "." || name == "..") return passOn(cannotWrite(folder / name));
  return folder / name;
}

/// The frame whose files these belong beside: the same name on the camera, or the same exposure in another format.
std::optional<std::size_t> Landing::companionOf(const Brought& file) const {
  const auto time = saidTime(file.file);
  for (std::size_t i = 0; i < entries_.size(); ++i) {
    const auto there = frameAt(order_.folder, entry(i).file);
    if (!there || endingOf(there->filename()) == endingOf(file.name.name)) continue;
    if (stemOf(entry(i).onCamera) == stemOf(file.name.whole())) return i;
    if (time && timeOff(*time, entry(i).settings.time) < kSame &&
        isRawName(there->filename()) != isRawName(file.name.name))
      return i;
  }
  return {};
}

std::optional<std::size_t> Landing::frameOf(const Brought& file, const std::vector<std::size_t>& expected) const {
  const auto open = missing();
  const auto isOpen = [&](std::size_t i) { return std::find(open.begin(), open.end(), i) != open.end(); };
  const auto first = std::find_if(expected.begin(), expected.end(), isOpen);
  const auto time = saidTime(file.file);
  if (time && !open.empty()) {
    const auto off = [&](std::size_t i) { return timeOff(*time, entry(i).settings.time); };
    if (first != expected.end() && off(*first) < kSame) return *first;
    const auto nearest = std::min_element(open.begin(), open.end(), [&](auto a, auto b) { return off(a) < off(b); });
    if (off(*nearest) < (*time < kShort ? kBetweenShort : kBetween)) return *nearest;
  }
  return first == expected.end() ? std::nullopt : std::optional(*first);
}

Result<fs::path> Landing::settle(const Brought& file, const std::string& stem) const {
  const fs::path target = order_.folder / (stem + endingOf(file.name.name));
  std::error_code error;
  fs::rename(file.file, target, error);
  if (error) return passOn(cannotWrite(target));
  return target;
}

Result<std::optional<ShotFrame>> Landing::land(std::vector<Brought> files, const std::vector<std::size_t>& expected) {
  std::stable_sort(files.begin(), files.end(),
                   [](const Brought& a, const Brought& b) { return isRawName(a.name.name) > isRawName(b.name.name); });
  std::optional<ShotFrame> landed;
  for (const Brought& file : files) {
    if (const auto beside = companionOf(file)) {
      if (auto settled = settle(file, entry(*beside).file); !settled) return passOn(settled.error());
      passOver(file.name); // it is here, and need not be looked at again
      continue;
    }
    const auto frame = frameOf(file, expected);
    if (!frame) {
      std::error_code error;
      fs::remove(file.file, error); // it stays on the camera
      passOver(file.name);
      continue;
    }
    entry(*frame).onCamera = file.name.whole();
    if (auto saved = record_.save(order_.folder); !saved) return passOn(saved.error());
    const auto settled = settle(file, entry(*frame).file);
    if (!settled) return passOn(settled.error());
    landed = ShotFrame{int(*frame), *settled, entry(*frame).settings};
    landed->settings.time = saidTime(*settled).value_or(landed->settings.time);
  }
  return landed;
}

void tidyArriving(const fs::path& folder) {
  std::error_code error;
  fs::remove_all(folder / kArriving, error);
}

void Landing::tidy() const {
  tidyArriving(order_.folder);
}

} // namespace ml
