// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/camera.h"
#include "base/phrase.h"

#include <algorithm>

namespace ml {

std::optional<FrameFormat> frameFormat(const std::string& name) {
  if (name == "dng") return FrameFormat::Dng;
  if (name == "jpeg" || name == "jpg") return FrameFormat::Jpeg;
  if (name == "tiff" || name == "tif") return FrameFormat::Tiff;
  return {};
}

std::string extensionOf(FrameFormat format) {
  return format == FrameFormat::Dng ? ".dng" : format == FrameFormat::Jpeg ? ".jpg" : ".tif";
}

std::string nameOf(FrameFormat format) {
  return format == FrameFormat::Dng ? "dng" : format == FrameFormat::Jpeg ? "jpeg" : "tiff";
}

std::vector<ExposureSettings> inOrder(std::vector<ExposureSettings> frames, BracketOrder order) {
  if (order == BracketOrder::BrightFirst) std::reverse(frames.begin(), frames.end());
  if (order == BracketOrder::MiddleFirst && !frames.empty()) {
    const auto middle = frames.begin() + long(frames.size() / 2);
    std::rotate(frames.begin(), middle, middle + 1);
  }
  return frames;
}

Result<std::vector<ShotFrame>> Camera::fire(const ShootOrder& order, const Progress& progress,
                                            const std::function<void(const ShotFrame&)>& arrived) {
  std::vector<ShotFrame> shot;
  for (std::size_t i = 0; i < order.frames.size(); ++i) {
    if (progress.stopRequested()) return stopped();
    progress.at(phrase("Frame {} of {}", i + 1, order.frames.size()), double(i) / double(order.frames.size()));
    const auto file = order.folder / (order.prefix + std::to_string(order.numberOf(i)) + extensionOf(order.format));
    if (auto exposed = expose(order.frames[i], order.format, file); !exposed) return passOn(exposed.error());
    shot.push_back({int(i), file, order.frames[i]});
    if (arrived) arrived(shot.back());
  }
  progress.at(phrase("Frames"), 1);
  return shot;
}

Result<std::vector<ShotFrame>> shootBracket(Camera& camera, const ShootOrder& order, const Progress& progress,
                                            const std::function<void(const ShotFrame&)>& arrived) {
  for (const auto& settings : order.frames)
    if (auto taken = camera.accepts(settings, order.format); !taken) return passOn(taken.error());
  constexpr double kLook = 0.25; // seconds after which a stop is looked for
  for (double left = order.timer.value; left > 0; left -= kLook) {
    if (progress.stopRequested()) return stopped();
    camera.wait({std::min(left, kLook)});
  }
  camera.useFlash(order.flash);
  auto shot = camera.fire(order, progress, arrived);
  camera.useFlash(false);
  return shot;
}

} // namespace ml
