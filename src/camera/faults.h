// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// What goes wrong on location, to practise with and to test the judgement of frames.
enum class FaultKind {
  HandHeld,          ///< The camera sways from frame to frame.
  NudgedTripod,      ///< Shifted and turned a little, from this frame on.
  Gust,              ///< Shaken during this frame.
  PasserBy,          ///< A figure stands in this frame.
  CardFull,          ///< This frame finds no space.
  Disconnect,        ///< The camera is gone before this frame.
  IsoDrift,          ///< Automatic ISO doubles it, from this frame on.
  ApertureDrift,     ///< Closed by a stop, from this frame on.
  WhiteBalanceDrift, ///< Automatic white balance turns warmer, from this frame on.
  FocusDrift,        ///< Autofocus hunts in this frame.
  BracketingReset,   ///< The camera forgets its bracket: from this frame on the time stays.
  Cloud,             ///< The light falls by two fifths of a stop, from this frame on.
  TurnedTooFar       ///< A camera that can be pointed is turned 40 degrees too far, until it is pointed anew.
};

struct Fault {
  FaultKind kind = FaultKind::HandHeld;
  int frame = 1;   ///< The frame it begins with, counted from 0 since the camera was made.
  double size = 1; ///< Of its usual strength, where it has one: pixels, stops, the figure's height.
  friend bool operator==(const Fault&, const Fault&) = default;
};

struct FaultName {
  FaultKind kind;
  const char* id;
  const char* name;
};
[[nodiscard]] const std::vector<FaultName>& faultNames();
/// "gust", "gust@2", or half as strong "gust@2x0.5" (0.1 to 4).
[[nodiscard]] std::optional<Fault> parseFault(const std::string& text);
[[nodiscard]] const char* idOf(FaultKind kind);
/// Can be found by looking through the frames of one set.
[[nodiscard]] bool showsInFrames(FaultKind kind);

} // namespace ml
