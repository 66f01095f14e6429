// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "natural/natural_figures.h"

#include <filesystem>
#include <functional>
#include <string>

namespace ml::test {

/// A bracket, combined and finished by the product as it comes, and what the frames themselves and a general library
/// make of it.
struct NaturalSet {
  std::string name;
  std::vector<Picture> frames;
  Picture ours, theirs; ///< Theirs: exposure fusion of OpenCV, clamped to what codes hold.
  Image<float> light;
};

/// Views of the zoo from a tripod (JPEG), the real bracket, and the shipped worlds shot by the simulated camera.
/// `folder` for files.
void forEachNaturalSet(int zoo, bool worlds, const std::filesystem::path& folder,
                       const std::function<void(const NaturalSet&)>& use);

} // namespace ml::test
