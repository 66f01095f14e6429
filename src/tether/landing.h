// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/camera.h"
#include "tether/connection.h"
#include "tether/set_record.h"

namespace ml {

/// Where the files of a set come down: which frame each is, under which name it lies on the disk, and what is still
/// missing. Every step is on the disk before the next, so that a program that dies leaves a set that goes on.
class Landing {
public:
  explicit Landing(const ShootOrder& order) : order_(order) {}

  /// Takes up what an earlier program left in the folder. `known`: the files on the camera now. Errors: CannotWrite.
  Result<void> begin(const std::set<std::string>& known);
  /// Of the order's frames, those that are not on the disk.
  [[nodiscard]] std::vector<std::size_t> missing() const;
  /// Pictures on the camera that may be of this set and are not on the disk, of those `known`.
  [[nodiscard]] std::vector<CameraFileName> left(const std::set<std::string>& known) const;
  /// A picture that is not of this set: it was there before.
  void passOver(const CameraFileName& file) { record_.before.insert(file.whole()); }

  /// Where a file is brought to before it is known which frame it is. Errors: CannotWrite.
  Result<std::filesystem::path> room(const CameraFileName& file) const;
  struct Brought {
    CameraFileName name;
    std::filesystem::path file;
  };
  /// Finds which frame the files of one exposure are, by what they say of it; `expected`: which it should be when they
  /// do not. Gives the frame that is on the disk now; nothing: they belong to one that was, or to none.
  Result<std::optional<ShotFrame>> land(std::vector<Brought> files, const std::vector<std::size_t>& expected);
  /// Takes away what was on its way.
  void tidy() const;

private:
  [[nodiscard]] std::optional<std::size_t> frameOf(const Brought& file, const std::vector<std::size_t>& expected) const;
  [[nodiscard]] std::optional<std::size_t> companionOf(const Brought& file) const;
  [[nodiscard]] bool onDisk(std::size_t frame) const;
  [[nodiscard]] SetRecord::Entry& entry(std::size_t frame) { return record_.entries[entries_[frame]]; }
  [[nodiscard]] const SetRecord::Entry& entry(std::size_t frame) const { return record_.entries[entries_[frame]]; }
  Result<std::filesystem::path> settle(const Brought& file, const std::string& stem) const;

  const ShootOrder& order_;
  SetRecord record_;
  std::vector<std::size_t> entries_; ///< Of each frame of the order.
};

/// Takes away what was on its way into `folder` when a program died.
void tidyArriving(const std::filesystem::path& folder);

/// Lower case, with the point: ".dng".
[[nodiscard]] std::string endingOf(const std::string& name);
/// Not what lies beside frames on a card: movies, sidecars, sound.
[[nodiscard]] bool isPicture(const std::string& name);
[[nodiscard]] bool isRawName(const std::string& name);

} // namespace ml
