// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/faults.h"
#include "base/phrase.h"

#include <cstdlib>

namespace ml {

const std::vector<FaultName>& faultNames() {
  using enum FaultKind;
  static const std::vector<FaultName> names{
      {HandHeld, "hand-held", wording("Hand-held: the camera sways")},
      {NudgedTripod, "nudged-tripod", wording("Tripod nudged")},
      {Gust, "gust", wording("Gust of wind")},
      {PasserBy, "passer-by", wording("Somebody walks through")},
      {CardFull, "card-full", wording("Card full")},
      {Disconnect, "disconnect", wording("Cable comes off")},
      {IsoDrift, "auto-iso", wording("Automatic ISO left on")},
      {ApertureDrift, "aperture-drift", wording("Aperture changes")},
      {WhiteBalanceDrift, "white-balance-drift", wording("Automatic white balance left on")},
      {FocusDrift, "focus-drift", wording("Autofocus left on")},
      {BracketingReset, "bracketing-reset", wording("Bracketing resets itself")},
      {Cloud, "cloud", wording("A cloud passes")},
      {TurnedTooFar, "turned-too-far", wording("The head is turned too far")},
  };
  return names;
}

namespace {
std::optional<double> sizeIn(const std::string& text) {
  if (text.empty() || text.size() > 5 || text.find_first_not_of("0123456789.") != std::string::npos) return {};
  const double size = std::strtod(text.c_str(), nullptr);
  if (size < 0.1 || size > 4) return {};
  return size;
}
} // namespace

std::optional<Fault> parseFault(const std::string& text) {
  const auto at = text.find('@');
  const std::string id = text.substr(0, at);
  Fault fault;
  if (at != std::string::npos) {
    const auto times = text.find('x', at);
    const std::string number = text.substr(at + 1, times == std::string::npos ? times : times - at - 1);
    if (number.empty() || number.size() > 4 || number.find_first_not_of("0123456789") != std::string::npos) return {};
    fault.frame = std::stoi(number) - 1;
    if (fault.frame < 0) return {};
    if (times != std::string::npos) {
      const auto size = sizeIn(text.substr(times + 1));
      if (!size) return {};
      fault.size = *size;
    }
  }
  for (const auto& name : faultNames())
    if (id == name.id) {
      fault.kind = name.kind;
      return fault;
    }
  return {};
}

bool showsInFrames(FaultKind kind) {
  using enum FaultKind;
  return kind != CardFull && kind != Disconnect && kind != HandHeld && kind != TurnedTooFar;
}

const char* idOf(FaultKind kind) {
  for (const auto& name : faultNames())
    if (name.kind == kind) return name.id;
  return "";
}

} // namespace ml
