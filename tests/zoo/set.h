// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "zoo/files.h"
#include "zoo/scene.h"

#include <filesystem>
#include <memory>
#include <optional>
#include <vector>

namespace ml::zoo {

/// What spoils a set: each leaves marks in the files, or leaves files out.
enum class Spoil {
  None,
  Nudged,
  Gust,
  PasserBy,
  CardFull,
  Disconnected,
  AutoIso,
  Aperture,
  WhiteBalance,
  Focus,
  BracketReset,
  Cloud
};
inline constexpr int kSpoils = 11; ///< Besides none.
[[nodiscard]] const char* nameOf(Spoil spoil);

struct SetOptions {
  std::uint64_t seed = 1;
  FileType type = FileType::Jpeg;
  Spoil spoil = Spoil::None;
  bool handHeld = false, walker = false, leaves = false, flicker = false;
  bool timesTrue = false; ///< No error of the shutter.
  int width = 768, height = 512;
};

struct MadeFrame {
  std::filesystem::path file;
  Pose pose;
  std::vector<Mover> movers;
  double exposure = 1; ///< True; white of value 1 / exposure is at saturation.
  Shot shot;           ///< What the file says.
};

/// A bracket of one view as files, and the truth it was made from.
struct MadeSet {
  MadeSet(std::shared_ptr<const Scene> scene, const SetOptions& options, const std::filesystem::path& folder);

  std::shared_ptr<const Scene> scene;
  Camera camera;
  std::vector<MadeFrame> frames; ///< Darkest first.
  std::vector<int> fired;        ///< Frames in the order they were taken.
  std::vector<Shot> planned;     ///< In that order; more than frames when some are missing.
  int reference = 0;             ///< A frame near the middle.

  /// What a perfect merge finds with frame `reference` as the reference, on its grid.
  [[nodiscard]] Image<float> truth() const;
  /// Share of pixels of a frame in which a sensor channel is at saturation, or all channels are below `dark` of it.
  [[nodiscard]] double clippedShare(int frame) const;
  [[nodiscard]] double darkShare(int frame, double dark = 0.004) const;
  /// 1 where a mover stands in any frame, on the reference's grid, and a frame tells what the reference should show
  /// there: the reference itself where it records well (neither clipped nor below a signal to noise ratio of 30), else
  /// two in which nobody stands there. 2 where a mover stands and nobody can tell.
  [[nodiscard]] Image<std::uint8_t> walked() const;
  /// The moment of frame `i` on the reference's grid: everybody stands where that frame saw them.
  struct Moment {
    Image<float> light;
    Image<std::uint8_t> walked; ///< As above, for this moment. Where nobody stands in it, one other frame tells.
    Image<std::int16_t> teller; ///< The lightest frame that tells a place of it well; -1: none.
    double told = 1;            ///< Share of what is walked over that can be told, at a signal to noise ratio of 5.
  };
  /// Of every frame.
  [[nodiscard]] std::vector<Moment> moments() const;

private:
  /// `without`: with nobody there; `seen`: what each frame saw, both on the reference's grid.
  [[nodiscard]] Moment momentOf(std::size_t i, const Image<float>& without,
                                const std::vector<Image<float>>& seen) const;
  [[nodiscard]] Image<float> sensorLight(const Pose& pose, const std::vector<Mover>& movers) const;
};

/// Scene `index` of the zoo's list: panorama, direction and things; the same for a seed and size.
[[nodiscard]] std::shared_ptr<const Scene> sceneOf(std::uint64_t index, int width, int height);

} // namespace ml::zoo
