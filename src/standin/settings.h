// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"
#include "ptp/bytes.h"
#include "standin/options.h"

#include <cstdint>
#include <map>
#include <optional>
#include <vector>

namespace ml {

/// What the stand-in lets itself be set to, as properties of the protocol.
class SettingsTable {
public:
  explicit SettingsTable(const StandInOptions& options);

  [[nodiscard]] std::vector<std::uint16_t> codes() const;
  /// Empty when there is no such property.
  [[nodiscard]] ptp::Bytes description(std::uint16_t code) const;
  [[nodiscard]] ptp::Bytes value(std::uint16_t code) const;
  /// The code of the protocol's answer.
  std::uint16_t set(std::uint16_t code, const ptp::Bytes& data);
  void setBattery(double share);

  [[nodiscard]] ExposureSettings exposure() const;
  [[nodiscard]] bool bulb() const;
  [[nodiscard]] int bracketFrames() const;
  [[nodiscard]] Stops bracketStep() const;

private:
  struct Property {
    std::uint16_t type = 0;
    bool settable = false;
    std::int64_t now = 0;
    std::vector<std::int64_t> values; ///< Empty: any, 0 to 100.
  };
  [[nodiscard]] const Property* find(std::uint16_t code) const;
  std::map<std::uint16_t, Property> table_;
  std::map<std::int64_t, Seconds> times_; ///< True times behind the protocol's tenths of a millisecond.
};

} // namespace ml
