// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/simulated_camera.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "camera/disturbances.h"
#include "codec/exif.h"
#include "codec/icc.h"
#include "codec/jpeg.h"
#include "codec/tiff_file.h"
#include "exposure/marks.h"
#include "image/colour.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <random>

namespace ml {
namespace {

Image<std::uint8_t> toBytes(const Image<std::uint16_t>& codes) {
  Image<std::uint8_t> bytes(codes.width(), codes.height(), 3);
  for (std::size_t i = 0; i < codes.size(); ++i) bytes.data()[i] = std::uint8_t(codes.data()[i]);
  return bytes;
}

MosaicDescription describeMosaic(const CameraProfile& camera, const std::array<double, 3>& balance) {
  MosaicDescription d;
  d.blackLevel = kSensorBlack;
  d.whiteLevel = (1 << camera.bits) - 1;
  d.neutral = kSensorNeutral;
  for (std::size_t c = 0; c < 3; ++c) d.neutral[c] /= balance[c];
  d.camera = "Simulated " + camera.id;
  // XYZ -> raw: back to Rec. 709, then to the sensor's balanced colour, then the unbalanced channel gains.
  d.xyzToCamera = multiply(kRec709ToSensor, inverse(kRec709ToXyz));
  for (int r = 0; r < 3; ++r)
    for (int c = 0; c < 3; ++c) d.xyzToCamera[3 * r + c] *= kSensorNeutral[r];
  return d;
}

/// The simulated visit starts on an invented morning; frames count from there.
std::string timeOfDay(double seconds) {
  const int whole = 10 * 3600 + int(seconds);
  return fmt::format("2026:05:14 {:02d}:{:02d}:{:02d}", whole / 3600 % 24, whole / 60 % 60, whole % 60);
}

} // namespace

SimulatedCamera::SimulatedCamera(std::shared_ptr<const World> world, CameraProfile profile, SimulationOptions options)
    : world_(std::move(world)), profile_(std::move(profile)), options_(std::move(options)), clock_(options_.startClock),
      battery_(options_.battery), freeMegabytes_(options_.freeMegabytes) {}

DeviceStatus SimulatedCamera::status() const {
  return {connected_, battery_, freeMegabytes_, int(std::ceil(buffered_)), clock_};
}

Result<void> SimulatedCamera::connect() {
  std::erase_if(options_.faults,
                [&](const Fault& f) { return f.kind == FaultKind::Disconnect && f.frame <= frameNumber_; });
  if (battery_ <= 0.02) return fail(ErrorCode::CameraRefused, phrase("The camera's battery is empty; change it."));
  connected_ = true;
  return {};
}

void SimulatedCamera::changeCard() {
  std::erase_if(options_.faults,
                [&](const Fault& f) { return f.kind == FaultKind::CardFull && f.frame <= frameNumber_; });
  freeMegabytes_ = std::max(64000.0, options_.freeMegabytes);
}

void SimulatedCamera::setHandHeld(bool handHeld) {
  options_.shakePixels = handHeld ? 3 : 0;
  options_.shakeDegrees = handHeld ? 0.1 : 0;
}

Result<void> SimulatedCamera::point(const Aim& aim, double focalMm) {
  if (!world_->hasAllDirections())
    return fail(ErrorCode::CameraRefused,
                phrase("This view is known from one side only; the camera can be turned in the net loft."));
  constexpr double kShortest = 8, kLongest = 100;
  const std::lock_guard lock(pointingMutex_);
  wanted_ = {aim, std::clamp(focalMm, kShortest, kLongest)};
  ++pointings_;
  return {};
}

/// The world as the camera is pointed at it, drawn when it is needed.
void SimulatedCamera::lookThrough(FNumber aperture, bool exposing) {
  std::optional<Pointing> wanted;
  int pointing = 0;
  {
    const std::lock_guard lock(pointingMutex_);
    wanted = wanted_, pointing = pointings_;
  }
  if (wanted && touching(FaultKind::TurnedTooFar)) {
    if (turnedIn_ == 0 && exposing) turnedIn_ = pointing;
    if (turnedIn_ == pointing) {
      wanted->aim.yaw += 40 * lasting(FaultKind::TurnedTooFar);
    } else if (turnedIn_ != 0) {
      turnedIn_ = 0;
      std::erase_if(options_.faults,
                    [&](const Fault& f) { return f.kind == FaultKind::TurnedTooFar && f.frame <= frameNumber_; });
    }
  }
  const bool sameDepth = !wanted || wanted->aim.focusMetres <= 0 || drawnAt_.value == aperture.value;
  if (!wanted || (wanted == drawn_ && sameDepth)) return;
  world_ = std::make_shared<const World>(world_->through(wanted->aim, wanted->focalMm, aperture));
  drawn_ = wanted;
  drawnAt_ = aperture;
  finder_ = {};
}

Result<void> SimulatedCamera::accepts(const ExposureSettings& s, FrameFormat format) const {
  const auto refuse = [](const std::string& why) {
    return fail(ErrorCode::CameraRefused, phrase("The camera refuses: {}.", why));
  };
  if (s.time.value < profile_.shortest.value * 0.99 || s.time.value > profile_.longest.value * 1.01)
    return refuse(phrase("{} is outside {} to {}", print(s.time), print(profile_.shortest), print(profile_.longest)));
  if (format == FrameFormat::Dng && !profile_.hasRaw)
    return refuse(phrase("this camera writes no raw files; shoot JPEG"));
  if (s.iso.value < profile_.baseIso.value * 0.99)
    return refuse(phrase("its lowest ISO is {:.0f}", profile_.baseIso.value));
  if (s.iso.value > profile_.highestIso.value * 1.01)
    return refuse(phrase("its highest ISO is {:.0f}", profile_.highestIso.value));
  if (!(s.aperture.value >= 0.9 && s.aperture.value <= 46)) return refuse(phrase("its lens has no such aperture"));
  return {};
}

void SimulatedCamera::wait(Seconds time) {
  clock_.value += time.value;
  buffered_ = std::max(0.0, buffered_ - time.value / std::max(1e-3, profile_.writeTime.value));
  finder_ = {};
}

const Fault* SimulatedCamera::touching(FaultKind kind) const {
  for (const auto& fault : options_.faults)
    if (fault.kind == kind && fault.frame <= frameNumber_) return &fault;
  return nullptr;
}

double SimulatedCamera::lasting(FaultKind kind) const {
  const Fault* fault = touching(kind);
  return fault ? fault->size : 0;
}

double SimulatedCamera::passing(FaultKind kind) const {
  for (const auto& fault : options_.faults)
    if (fault.kind == kind && fault.frame == frameNumber_) return fault.size;
  return 0;
}

ExposureSettings SimulatedCamera::driftedFrom(ExposureSettings s) const {
  s.iso.value = std::min(s.iso.value * std::exp2(lasting(FaultKind::IsoDrift)), profile_.highestIso.value);
  s.aperture.value *= std::exp2(lasting(FaultKind::ApertureDrift) / 2);
  if (touching(FaultKind::BracketingReset) && last_) s.time = last_->time;
  return s;
}

void SimulatedCamera::takeStand() {
  std::mt19937_64 random(options_.seed * 1000003 + std::uint64_t(frameNumber_));
  std::normal_distribution<double> unit;
  const double sways = lasting(FaultKind::HandHeld);
  const double pixels = std::max(options_.shakePixels, 4.0 * sways),
               degrees = std::max(options_.shakeDegrees, 0.15 * sways);
  pose_.dx = pixels * unit(random);
  pose_.dy = pixels * unit(random);
  pose_.angle = degrees * unit(random) * std::numbers::pi / 180;
  if (const Fault* nudge = touching(FaultKind::NudgedTripod)) {
    std::mt19937_64 push(options_.seed * 7577 + std::uint64_t(nudge->frame));
    const double direction = std::uniform_real_distribution<double>(0, 2 * std::numbers::pi)(push),
                 size = nudge->size * std::uniform_real_distribution<double>(3, 12)(push);
    pose_.dx += size * std::cos(direction);
    pose_.dy += size * std::sin(direction);
    pose_.angle += nudge->size * std::uniform_real_distribution<double>(-0.12, 0.12)(push) * std::numbers::pi / 180;
  }
}

Image<float> SimulatedCamera::sceneNow(Seconds duration) const {
  Seconds moment = clock_;
  if (options_.lulls) { // things age only while the wind blows
    constexpr double kBlow = 5, kCycle = 8;
    const double cycle = std::floor(clock_.value / kCycle);
    moment.value = cycle * kBlow + std::min(kBlow, clock_.value - cycle * kCycle);
    if (moment.value >= (cycle + 1) * kBlow) duration = {0};
  }
  const double daylight = std::exp2(-0.4 * lasting(FaultKind::Cloud));
  Image<float> light = world_->radiance(moment, duration, daylight);
  if (flash_) world_->addFlash(light);
  Image<float> scene = seenBy(light, pose_);
  const float scale = float(world_->candelasPerUnit());
  for (std::size_t i = 0; i < scene.size(); ++i) scene.data()[i] *= scale;
  return scene;
}

void SimulatedCamera::disturb(Image<float>& scene) const {
  const std::uint64_t seed = options_.seed * 104729 + std::uint64_t(frameNumber_);
  if (const double size = passing(FaultKind::PasserBy); size > 0) placeFigure(scene, size, seed);
  if (const double size = passing(FaultKind::FocusDrift); size > 0) defocus(scene, 2.2 * size);
  if (const double size = passing(FaultKind::Gust); size > 0) shake(scene, 9 * size, seed);
}

ShotMetadata SimulatedCamera::describe(const ExposureSettings& settings) const {
  ShotMetadata m;
  m.time = settings.time;
  m.aperture = settings.aperture;
  m.iso = settings.iso;
  m.flash = flash_;
  m.camera = "Simulated " + profile_.id;
  m.takenAt = timeOfDay(clock_.value);
  m.subSecond = int(std::fmod(clock_.value, 1) * 1000);
  m.focalLengthMm = world_->focalMm() * profile_.sensorWidthMm / 36;
  return m;
}

Result<void> SimulatedCamera::write(const Image<float>& scene, const ExposureSettings& settings, FrameFormat format,
                                    const std::filesystem::path& temporary) const {
  const std::uint64_t seed = options_.seed * 7919 + std::uint64_t(frameNumber_);
  std::array<double, 3> balance;
  for (std::size_t c = 0; c < 3; ++c)
    balance[c] = std::pow(kWarmerBalance[c], lasting(FaultKind::WhiteBalanceDrift)); // 1 without the fault
  Result<void> pixels;
  if (format == FrameFormat::Dng) {
    pixels =
        writeDng(temporary, exposeMosaic(scene, profile_, settings, seed).view(), describeMosaic(profile_, balance));
  } else {
    Image<float> balanced;
    const bool drifted = balance[0] != 1;
    if (drifted) {
      balanced = scene.clone();
      for (std::size_t i = 0; i < balanced.size(); ++i) balanced.data()[i] *= float(balance[i % 3]);
    }
    const Image<float>& light = drifted ? balanced : scene;
    pixels = format == FrameFormat::Jpeg
                 ? writeJpeg(temporary, toBytes(exposeRendered(light, profile_, settings, seed, 255)).view(),
                             {95, true, srgbProfile(), false})
                 : writeTiff16(temporary, exposeRendered(light, profile_, settings, seed, 65535).view(), srgbProfile());
  }
  return pixels ? writeExif(temporary, describe(settings)) : pixels;
}

void SimulatedCamera::spend(Seconds exposure, double megabytes) {
  freeMegabytes_ -= megabytes;
  battery_ = std::max(0.0, battery_ - 0.0004 - exposure.value * 2e-5);
  const double gap = profile_.frameGap.value;
  clock_.value += exposure.value + gap;
  buffered_ = std::max(0.0, buffered_ + 1 - (exposure.value + gap) / std::max(1e-3, profile_.writeTime.value));
  if (buffered_ > profile_.bufferFrames) { // the next frame waits until there is room
    clock_.value += (buffered_ - profile_.bufferFrames) * profile_.writeTime.value;
    buffered_ = profile_.bufferFrames;
  }
}

Result<void> SimulatedCamera::expose(const ExposureSettings& ordered, FrameFormat format,
                                     const std::filesystem::path& file) {
  return exposeTo(ordered, {{format, file}});
}

Result<void> SimulatedCamera::exposeTo(const ExposureSettings& ordered, const std::vector<Output>& outputs) {
  if (passing(FaultKind::Disconnect) > 0) connected_ = false;
  if (!connected_)
    return fail(
        ErrorCode::CameraGone,
        phrase("The camera is gone; check cable and battery, connect it again and go on. What was shot is kept."));
  if (battery_ <= 0.02) return fail(ErrorCode::CameraRefused, phrase("The camera's battery is empty; change it."));
  for (const Output& output : outputs)
    if (auto taken = accepts(ordered, output.format); !taken) return taken;
  if (passing(FaultKind::CardFull) > 0 || freeMegabytes_ < profile_.fileMegabytes)
    return fail(ErrorCode::CardFull,
                phrase("The camera's card is full; put in another and go on. What was shot is kept."));
  const ExposureSettings settings = driftedFrom(ordered);
  lookThrough(settings.aperture, true);
  takeStand();
  Image<float> scene = sceneNow(settings.time);
  disturb(scene);
  for (const Output& output : outputs) {
    const auto written = writeAtomically(output.file, [&](const std::filesystem::path& temporary) {
      return write(scene, settings, output.format, temporary);
    });
    if (!written) return written;
  }
  ++frameNumber_;
  last_ = settings;
  finder_ = {};
  spend(settings.time, profile_.fileMegabytes);
  return {};
}

const Image<float>& SimulatedCamera::finderScene() {
  lookThrough(drawnAt_, false);
  if (finder_.empty()) {
    pose_ = {};
    finder_ = sceneNow({1.0 / 60});
  }
  return finder_;
}

Result<Image<std::uint8_t>> SimulatedCamera::liveView(const ExposureSettings& settings) {
  if (!connected_)
    return fail(ErrorCode::CameraGone, phrase("The camera is gone; check cable and battery, and connect it again."));
  // A finder refreshes sixty times a second: longer times are made up by gain, and show its noise.
  ExposureSettings fast = settings;
  if (fast.time.value > 1.0 / 64) {
    fast.iso.value *= fast.time.value * 64;
    fast.time = {1.0 / 64};
  }
  return toBytes(exposeRendered(finderScene(), profile_, fast, options_.seed + 31 * ++liveFrames_, 255));
}

Result<SpotMeasure> SimulatedCamera::spotReading(double x, double y, double radius) {
  const Image<float>& scene = finderScene();
  const double r = std::max(1.0, radius * scene.width()), cx = x * scene.width(), cy = y * scene.height();
  double sum = 0, squares = 0;
  int count = 0;
  for (int v = std::max(0, int(cy - r)); v <= std::min(scene.height() - 1, int(cy + r)); ++v)
    for (int u = std::max(0, int(cx - r)); u <= std::min(scene.width() - 1, int(cx + r)); ++u) {
      if (std::hypot(u + 0.5 - cx, v + 0.5 - cy) > r) continue;
      const double light = luminance(scene.at(u, v));
      sum += light;
      squares += light * light;
      ++count;
    }
  if (count == 0 || !(sum > 0)) return fail(ErrorCode::InvalidArgument, phrase("That spot lies outside the picture."));
  const double mean = sum / count, spread = std::sqrt(std::max(0.0, squares / count - mean * mean)) / mean;
  return SpotMeasure{ev100Of(mean), std::log2(1 + spread), false};
}

} // namespace ml
