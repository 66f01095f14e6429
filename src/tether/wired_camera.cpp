// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/wired_camera.h"

#include "base/phrase.h"
#include "codec/jpeg.h"
#include "exposure/marks.h"
#include "tether/firing.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <fstream>
#include <unistd.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr double kSixth = 1.0 / 6 + 0.01; ///< Stops that a value of another ladder may lie off.

Error notConnected() {
  return {ErrorCode::CameraGone,
          phrase("The camera is not connected; check cable, network and battery, and connect it.")};
}

bool tooFar(const std::vector<ListedValue>& list, double wanted, double stopsPerLog) {
  const ListedValue* nearest = nearestListed(list, wanted);
  return nearest && stopsPerLog * offFrom(*nearest, wanted) > kSixth;
}

/// A JPEG in memory as a picture.
Result<Image<std::uint8_t>> pictureOf(const std::vector<unsigned char>& jpeg) {
  std::string name = (fs::temp_directory_path() / "mellow-lantern-finder-XXXXXX").string();
  const int descriptor = ::mkstemp(name.data());
  if (descriptor < 0)
    return fail(ErrorCode::CannotWrite,
                phrase("`{}` cannot be written; make room in the folder for temporary files.", name));
  ::close(descriptor);
  std::ofstream(name, std::ios::binary).write(reinterpret_cast<const char*>(jpeg.data()), std::streamsize(jpeg.size()));
  auto decoded = readJpeg(name);
  std::error_code error;
  fs::remove(name, error);
  if (!decoded)
    return fail(ErrorCode::CameraRefused,
                phrase("The camera's finder sent a picture that cannot be read; take a test frame instead."));
  Image<std::uint8_t> picture(decoded->pixels.width(), decoded->pixels.height(), 3);
  for (int y = 0; y < picture.height(); ++y)
    for (int x = 0; x < picture.width(); ++x)
      for (int c = 0; c < 3; ++c) picture.at(x, y)[c] = std::uint8_t(decoded->pixels.at(x, y, c));
  return picture;
}

} // namespace

WiredCamera::WiredCamera(std::string address, CameraProfile profile)
    : address_(std::move(address)), profile_(std::move(profile)) {}

Result<std::shared_ptr<Wire>> WiredCamera::wire() const {
  const std::lock_guard lock(mutex_);
  if (!wire_ || wire_->lost()) return passOn(notConnected());
  return wire_;
}

CameraFacts WiredCamera::facts() const {
  const std::lock_guard lock(mutex_);
  return facts_;
}

void WiredCamera::note(const CameraFacts& facts) {
  const std::lock_guard lock(mutex_);
  facts_ = facts;
}

DeviceStatus WiredCamera::status() const {
  const std::lock_guard lock(mutex_);
  const std::chrono::duration<double> since = std::chrono::steady_clock::now() - born_;
  return {wire_ && !wire_->lost(), facts_.battery.value_or(1), facts_.freeMegabytes.value_or(1e6), 0, {since.count()}};
}

Result<void> WiredCamera::connect() {
  const std::lock_guard one(using_);
  if (const auto there = wire(); there) return {};
  return open();
}

Result<void> WiredCamera::open() {
  const auto port = portOf(address_);
  if (!port) return passOn(port.error());
  {
    const std::lock_guard lock(mutex_);
    wire_.reset(); // the old connection goes before the new one comes
  }
  auto opened = Wire::open(*port, "", giveUp_);
  if (!opened) return passOn(opened.error());
  auto facts = (*opened)->facts();
  if (!facts) return passOn(facts.error());
  const auto files = (*opened)->files();
  if (!files) return passOn(files.error());
  const std::lock_guard lock(mutex_);
  wire_ = *opened;
  facts_ = *facts;
  known_.clear();
  for (const auto& file : *files) known_.insert(file.whole());
  return {};
}

Result<std::map<std::string, WireSetting>> WiredCamera::settings() {
  const std::lock_guard one(using_);
  const auto there = wire();
  if (!there) return passOn(there.error());
  return (*there)->settings();
}

Result<void> WiredCamera::refresh() {
  const std::unique_lock one(using_, std::try_to_lock);
  if (!one.owns_lock()) return {}; // a set is being fired: that notices by itself
  const auto there = wire();
  if (!there) return passOn(there.error());
  const auto facts = (*there)->facts();
  if (!facts) return passOn(facts.error());
  note(*facts);
  return {};
}

Result<void> WiredCamera::accepts(const ExposureSettings& s, FrameFormat) const {
  const CameraFacts f = facts();
  const auto refuse = [](const std::string& what) {
    return fail(ErrorCode::CameraRefused, phrase("The camera refuses: {}.", what));
  };
  if (!f.timeName.empty() && tooFar(f.times, s.time.value, 1)) {
    const double longest =
        std::max_element(f.times.begin(), f.times.end(), [](auto& a, auto& b) { return a.value < b.value; })->value;
    if (s.time.value < longest || f.bulbWord.empty())
      return refuse(phrase("it has no {}; plan with the times it has", print(s.time)));
  }
  if (!f.apertureName.empty() && tooFar(f.apertures, s.aperture.value, 2))
    return refuse(phrase("its lens has no {}; plan with {}, its nearest", print(s.aperture),
                         print(FNumber{nearestListed(f.apertures, s.aperture.value)->value})));
  if (!f.isoName.empty() && tooFar(f.isos, s.iso.value, 1))
    return refuse(phrase("it has no {}; plan with {}, its nearest", print(s.iso),
                         print(Iso{nearestListed(f.isos, s.iso.value)->value})));
  return {};
}

std::vector<std::string> WiredCamera::handWork(const ExposureSettings& s) const {
  const CameraFacts f = facts();
  std::vector<std::string> work;
  const auto off = [](std::optional<double> now, double wanted, double stops) {
    return !now || stops * std::abs(std::log2(*now / wanted)) > kSixth;
  };
  if (f.timeName.empty()) work.push_back(phrase("Set the time to {} on the camera.", print(s.time)));
  if (f.apertureName.empty() && off(f.aperture, s.aperture.value, 2))
    work.push_back(phrase("Set the aperture to {}{}.", print(s.aperture),
                          f.aperture ? phrase(": it stands at {}", print(FNumber{*f.aperture})) : ""));
  if (f.isoName.empty() && off(f.iso, s.iso.value, 1))
    work.push_back(phrase("Set {}{}.", print(s.iso), f.iso ? phrase(": it stands at {}", print(Iso{*f.iso})) : ""));
  return work;
}

void WiredCamera::wait(Seconds time) {
  std::this_thread::sleep_for(std::chrono::duration<double>(time.value));
}

Result<void> WiredCamera::expose(const ExposureSettings& settings, FrameFormat format, const fs::path& file) {
  // The set's record would lie beside the file: a single frame goes through a folder of its own.
  std::error_code error;
  fs::create_directories(file.parent_path(), error);
  std::string name = (file.parent_path() / ".single-XXXXXX").string();
  if (!::mkdtemp(name.data()))
    return fail(ErrorCode::CannotWrite, phrase("`{}` cannot be written; choose another folder.", file.string()));
  const fs::path folder = name;
  ShootOrder order;
  order.frames = {settings};
  order.format = format;
  order.folder = folder;
  const auto shot = fire(order, {}, {});
  error.clear();
  if (shot) fs::rename(shot->front().file, file, error);
  std::error_code ignored;
  fs::remove_all(folder, ignored);
  if (!shot) return passOn(shot.error());
  if (error)
    return fail(ErrorCode::CannotWrite, phrase("`{}` cannot be written; choose another folder.", file.string()));
  return {};
}

Result<std::vector<ShotFrame>> WiredCamera::fire(const ShootOrder& order, const Progress& progress,
                                                 const std::function<void(const ShotFrame&)>& arrived) {
  const std::lock_guard one(using_);
  return Firing(*this, order).run(progress, arrived);
}

Result<Image<std::uint8_t>> WiredCamera::liveView(const ExposureSettings&) {
  const std::lock_guard one(using_);
  const auto there = wire();
  if (!there) return passOn(there.error());
  if (!facts().preview)
    return fail(ErrorCode::CameraRefused, phrase("This camera shows no finder over the wire; take a test frame."));
  const auto jpeg = (*there)->preview();
  if (!jpeg) {
    const std::lock_guard lock(mutex_);
    facts_.preview = false; // it said it could, and cannot
    return fail(ErrorCode::CameraRefused, phrase("This camera shows no finder over the wire; take a test frame."));
  }
  return pictureOf(*jpeg);
}

Result<SpotMeasure> WiredCamera::spotReading(double, double, double) {
  return fail(ErrorCode::CameraRefused,
              phrase("This camera measures no spots over the wire; take a test frame and read it there."));
}

} // namespace ml
