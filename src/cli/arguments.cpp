// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/arguments.h"

#include "base/atomic_file.h"
#include "pipeline/combine_json.h"
#include "pipeline/report.h"
#include "session/locations.h"

#include <nlohmann/json.hpp>

namespace ml::cli {
namespace fs = std::filesystem;

int exitCodeFor(const Error& error) {
  switch (error.code) {
  case ErrorCode::InvalidArgument:
  case ErrorCode::CameraRefused: return kWrongUse;
  case ErrorCode::FileMissing:
  case ErrorCode::FileUnreadable:
  case ErrorCode::UnsupportedFormat:
  case ErrorCode::MissingExposure: return kUnreadable;
  case ErrorCode::SizeMismatch:
  case ErrorCode::TooFewFrames:
  case ErrorCode::Contradiction:
  case ErrorCode::OutOfMemory:
  case ErrorCode::CannotAlign: return kCannotCombine;
  case ErrorCode::CameraGone: return kSetLeftOut;
  case ErrorCode::CardFull:
  case ErrorCode::CannotWrite: return kCannotWrite;
  case ErrorCode::Stopped: return kStopped;
  }
  return kWrongUse;
}

Result<AlignMode> alignMode(const std::string& name) {
  if (const auto mode = alignNamed(name)) return *mode;
  return fail(ErrorCode::InvalidArgument,
              "--align takes off, shift, rigid, similarity, perspective or auto, not \"" + name + "\".");
}

Result<CombineMethod> combineMethod(const std::string& name) {
  for (const auto method :
       {CombineMethod::Radiance, CombineMethod::Fusion, CombineMethod::ToneRange, CombineMethod::Single})
    if (name == methodName(method)) return method;
  return fail(ErrorCode::InvalidArgument,
              "--method takes radiance, fusion, tone-range or single, not \"" + name + "\".");
}

Result<MotionMode> motionMode(const std::string& name) {
  if (const auto mode = motionNamed(name)) return *mode;
  return fail(ErrorCode::InvalidArgument,
              "--motion takes ignore, obvious, usual, close or auto, not \"" + name + "\".");
}

Result<CropMode> cropMode(const std::string& name) {
  if (name == "reference") return CropMode::Reference;
  if (name == "overlap") return CropMode::Overlap;
  return fail(ErrorCode::InvalidArgument, "--crop takes reference or overlap, not \"" + name + "\".");
}

Result<std::optional<int>> referenceFrame(const std::string& text) {
  if (text == "auto") return std::optional<int>{};
  const bool digits = !text.empty() && text.size() < 6 && text.find_first_not_of("0123456789") == std::string::npos;
  if (!digits)
    return fail(ErrorCode::InvalidArgument,
                "--reference takes auto or the number of a frame counted from 0, not \"" + text + "\".");
  return std::optional<int>{std::stoi(text)};
}

Result<CameraProfile> cameraNamed(const std::string& idOrFile) {
  if (const auto* profile = findProfile(idOrFile)) return *profile;
  std::error_code error;
  if (fs::exists(idOrFile, error)) {
    auto text = readText(idOrFile);
    if (!text) return passOn(text.error());
    const auto document = nlohmann::json::parse(*text, nullptr, false);
    if (document.is_discarded())
      return fail(ErrorCode::FileUnreadable, "`" + idOrFile + "` is not JSON; write the camera profile again.");
    return profileFromJson(document);
  }
  std::string ids;
  for (const auto& profile : shippedProfiles()) ids += (ids.empty() ? "" : ", ") + profile.id;
  return fail(ErrorCode::InvalidArgument,
              "There is no camera \"" + idOrFile + "\"; name a profile file or one of " + ids + ".");
}

Result<Recipe> recipeFrom(const std::string& look, const std::string& file) {
  if (!file.empty()) {
    auto text = readText(file);
    if (!text) return passOn(text.error());
    return recipeFromJson(*text);
  }
  if (const auto* found = findLook(look)) return found->recipe;
  std::string ids;
  for (const auto& l : looks()) ids += (ids.empty() ? "" : ", ") + l.id;
  return fail(ErrorCode::InvalidArgument, "There is no look \"" + look + "\"; use one of " + ids + ".");
}

Result<fs::path> worldFolder(const std::string& id) {
  if (const auto folder = findWorld(id)) return *folder;
  return fail(ErrorCode::InvalidArgument,
              "There is no world \"" + id +
                  "\"; reading_room, boat_hall, jetty_dusk and net_loft ship with the program.");
}

std::filesystem::path jobsIn(const std::string& folder) {
  return folder.empty() ? jobsFolder() : std::filesystem::path(folder);
}

} // namespace ml::cli
