// SPDX-License-Identifier: GPL-3.0-or-later
#include "standin/options.h"

namespace ml {
namespace {

struct WireFaultName {
  WireFaultKind kind;
  const char* id;
};
constexpr WireFaultName kNames[]{
    {WireFaultKind::Unplugged, "unplugged"}, {WireFaultKind::HalfSent, "half-sent"},
    {WireFaultKind::Asleep, "asleep"},       {WireFaultKind::Busy, "busy"},
    {WireFaultKind::Silent, "silent"},       {WireFaultKind::BatteryEmpty, "battery-empty"},
};

} // namespace

std::optional<WireFault> parseWireFault(const std::string& text) {
  const auto at = text.find('@');
  WireFault fault;
  if (at != std::string::npos) {
    const std::string number = text.substr(at + 1);
    if (number.empty() || number.size() > 4 || number.find_first_not_of("0123456789") != std::string::npos) return {};
    fault.frame = std::stoi(number) - 1;
    if (fault.frame < 0) return {};
  }
  for (const auto& name : kNames)
    if (text.substr(0, at) == name.id) {
      fault.kind = name.kind;
      return fault;
    }
  return {};
}

std::string wireFaultIds() {
  std::string ids;
  for (const auto& name : kNames) ids += std::string(ids.empty() ? "" : ", ") + name.id;
  return ids;
}

} // namespace ml
