#include "camera/simulated_camera.h"

#include "base/atomic_file.h"
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

MosaicDescription describeMosaic(const CameraProfile& camera) {
  MosaicDescription d;
  d.blackLevel = kSensorBlack;
  d.whiteLevel = (1 << camera.bits) - 1;
  d.neutral = kSensorNeutral;
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
    : world_(std::move(world)), profile_(std::move(profile)), options_(options) {}

std::optional<std::string> SimulatedCamera::refusal(const ExposureSettings& s, FrameFormat format) const {
  if (s.time.value < profile_.shortest.value * 0.99 || s.time.value > profile_.longest.value * 1.01)
    return fmt::format("{} is outside {} to {}", print(s.time), print(profile_.shortest), print(profile_.longest));
  if (format == FrameFormat::Dng && !profile_.hasRaw) return "this camera writes no raw files; shoot JPEG";
  if (s.iso.value < profile_.baseIso.value * 0.99) return fmt::format("its lowest ISO is {:.0f}", profile_.baseIso.value);
  return {};
}

void SimulatedCamera::takeStand() {
  std::mt19937_64 random(options_.seed * 1000003 + std::uint64_t(frameNumber_));
  std::normal_distribution<double> unit;
  pose_.dx = options_.shakePixels * unit(random);
  pose_.dy = options_.shakePixels * unit(random);
  pose_.angle = options_.shakeDegrees * unit(random) * std::numbers::pi / 180;
}

Image<float> SimulatedCamera::sceneNow(Seconds duration) const {
  Image<float> scene = seenBy(world_->radiance(clock_, duration), pose_);
  const float scale = float(world_->candelasPerUnit());
  for (std::size_t i = 0; i < scene.size(); ++i) scene.data()[i] *= scale;
  return scene;
}

ShotMetadata SimulatedCamera::describe(const ExposureSettings& settings) const {
  ShotMetadata m;
  m.time = settings.time;
  m.aperture = settings.aperture;
  m.iso = settings.iso;
  m.camera = "Simulated " + profile_.id;
  m.takenAt = timeOfDay(clock_.value);
  m.subSecond = int(std::fmod(clock_.value, 1) * 1000);
  m.focalLengthMm = 28;
  return m;
}

Result<void> SimulatedCamera::expose(const ExposureSettings& settings, FrameFormat format, const std::filesystem::path& file) {
  if (const auto why = refusal(settings, format)) return fail(ErrorCode::CameraRefused, "The camera refuses: " + *why + ".");
  takeStand();
  const Image<float> scene = sceneNow(settings.time);
  const std::uint64_t seed = options_.seed * 7919 + std::uint64_t(frameNumber_);
  const auto written = writeAtomically(file, [&](const std::filesystem::path& temporary) -> Result<void> {
    Result<void> pixels;
    if (format == FrameFormat::Dng)
      pixels = writeDng(temporary, exposeMosaic(scene, profile_, settings, seed).view(), describeMosaic(profile_));
    else if (format == FrameFormat::Jpeg)
      pixels = writeJpeg(temporary, toBytes(exposeRendered(scene, profile_, settings, seed, 255)).view(), {95, true, srgbProfile()});
    else
      pixels = writeTiff16(temporary, exposeRendered(scene, profile_, settings, seed, 65535).view(), srgbProfile());
    return pixels ? writeExif(temporary, describe(settings)) : pixels;
  });
  if (!written) return written;
  ++frameNumber_;
  finder_ = {};
  clock_.value += settings.time.value + options_.gap.value;
  return {};
}

const Image<float>& SimulatedCamera::finderScene() {
  if (finder_.empty()) {
    pose_ = {};
    finder_ = sceneNow({1.0 / 60});
  }
  return finder_;
}

Result<Image<std::uint8_t>> SimulatedCamera::liveView(const ExposureSettings& settings) {
  return toBytes(exposeRendered(finderScene(), profile_, settings, options_.seed, 255));
}

Result<Stops> SimulatedCamera::spotReading(double x, double y, double radius) {
  const Image<float>& scene = finderScene();
  const double r = std::max(1.0, radius * scene.width()), cx = x * scene.width(), cy = y * scene.height();
  double sum = 0;
  int count = 0;
  for (int v = std::max(0, int(cy - r)); v <= std::min(scene.height() - 1, int(cy + r)); ++v)
    for (int u = std::max(0, int(cx - r)); u <= std::min(scene.width() - 1, int(cx + r)); ++u) {
      if (std::hypot(u + 0.5 - cx, v + 0.5 - cy) > r) continue;
      sum += luminance(scene.at(u, v));
      ++count;
    }
  if (count == 0 || !(sum > 0)) return fail(ErrorCode::InvalidArgument, "That spot lies outside the picture.");
  return ev100Of(sum / count);
}

} // namespace ml
