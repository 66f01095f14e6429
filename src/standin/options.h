// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/faults.h"
#include "plan/camera_profile.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// What goes wrong between the stand-in and who drives it.
enum class WireFaultKind {
  Unplugged,    ///< The connection is gone when this frame is exposed; the frame lies on the card.
  HalfSent,     ///< The connection is gone in the middle of sending this frame's first file.
  Asleep,       ///< Answers nothing any more, from this frame on, until it is connected again.
  Busy,         ///< Refuses this frame a few times.
  Silent,       ///< Exposes this frame and says nothing of it.
  BatteryEmpty, ///< Refuses from this frame on, until somebody mends it.
};

struct WireFault {
  WireFaultKind kind = WireFaultKind::Unplugged;
  int frame = 1; ///< Counted from 0 since the program began.
};

/// "asleep" or "asleep@3", frames counted from 1; without a number the second frame.
[[nodiscard]] std::optional<WireFault> parseWireFault(const std::string& text);
/// "unplugged, half-sent, ...".
[[nodiscard]] std::string wireFaultIds();

enum class FilesWritten { Raw, Jpeg, Both };

/// How the stand-in camera is made.
struct StandInOptions {
  CameraProfile profile;
  FilesWritten files = FilesWritten::Raw;
  std::filesystem::path card; ///< A folder; frames stay there when the program ends.
  double cardMegabytes = 32000;
  double battery = 1;        ///< 0..1
  double timesPerStop = 3;   ///< Times in the camera's list: 3, 2 or 1 a stop.
  bool setsAperture = true;  ///< False: a ring on the lens, which only a hand turns.
  bool setsIso = true;       ///< False: a dial.
  double apertureOfRing = 8; ///< Where the ring stands.
  bool brackets = true;      ///< It can fire a bracket by itself.
  bool hasBulb = true;
  Seconds writeTime{0.05};   ///< From the end of the exposure to the file on the card.
  double haste = 1;          ///< Exposures take this many times less; 0: no time at all.
  std::size_t chunk = 65536; ///< Bytes of a data packet.
  std::uint64_t seed = 1;
  std::vector<Fault> faults;
  std::vector<WireFault> wireFaults;
};

} // namespace ml
