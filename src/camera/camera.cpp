#include "camera/camera.h"

#include <fmt/format.h>

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

Result<std::vector<ShotFrame>> shootBracket(Camera& camera, const std::vector<ExposureSettings>& frames, FrameFormat format,
                                            const std::filesystem::path& folder, const std::string& prefix,
                                            const Progress& progress, const std::function<void(const ShotFrame&)>& arrived) {
  std::vector<ShotFrame> shot;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (progress.stopRequested()) return stopped();
    progress.at(fmt::format("Frame {} of {}", i + 1, frames.size()), double(i) / double(frames.size()));
    const auto file = folder / (prefix + std::to_string(i + 1) + extensionOf(format));
    if (auto exposed = camera.expose(frames[i], format, file); !exposed) return passOn(exposed.error());
    shot.push_back({int(i), file, frames[i]});
    if (arrived) arrived(shot.back());
  }
  progress.at("Frames", 1);
  return shot;
}

} // namespace ml
