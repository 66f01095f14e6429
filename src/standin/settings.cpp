// SPDX-License-Identifier: GPL-3.0-or-later
#include "standin/settings.h"

#include "exposure/marks.h"
#include "ptp/codes.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace ml {
namespace {

using namespace ptp;
constexpr std::int64_t kBulb = 0xFFFFFFFF;
constexpr int kManual = 1;

int widthOf(std::uint16_t type) {
  return type == type::kUint8 ? 1 : type == type::kUint32 ? 4 : 2;
}

/// Stops from 2^from to 2^to in `perStop` parts each.
std::vector<double> ladder(double from, double to, double perStop) {
  std::vector<double> values;
  for (int i = int(std::lround(from * perStop)); i <= int(std::lround(to * perStop)); ++i)
    values.push_back(std::exp2(i / perStop));
  return values;
}

/// The figure in "1/125", "0.4 s", "f/5.6", "ISO 125": what a camera prints and says.
double printedFigure(const std::string& text) {
  const auto digits = text.find_first_of("0123456789");
  const double figure = digits == std::string::npos ? 0 : std::atof(text.c_str() + digits);
  return text.starts_with("1/") ? 1 / std::atof(text.c_str() + 2) : figure;
}

} // namespace

SettingsTable::SettingsTable(const StandInOptions& options) {
  const CameraProfile& profile = options.profile;
  Property time{type::kUint32, true, 0, {}};
  for (const double t :
       ladder(std::log2(profile.shortest.value), std::log2(profile.longest.value), options.timesPerStop)) {
    // The protocol counts tenths of a millisecond, of the printed mark: 1/250 s is 40 of them.
    const auto tenths = std::max<std::int64_t>(1, std::llround(printedFigure(markOf(Seconds{t})) * 10000));
    if (times_.emplace(tenths, Seconds{t}).second) time.values.push_back(tenths);
  }
  time.now = time.values[time.values.size() / 2];
  if (options.hasBulb) time.values.push_back(kBulb);
  table_[property::kExposureTime] = time;

  Property aperture{type::kUint16, options.setsAperture, std::lround(options.apertureOfRing * 100), {}};
  if (options.setsAperture)
    for (const double n : ladder(0.5, 4.5, options.timesPerStop * 2))
      aperture.values.push_back(std::lround(printedFigure(markOf(FNumber{n})) * 100));
  else
    aperture.values = {aperture.now};
  if (options.setsAperture)
    aperture.now = *std::min_element(aperture.values.begin(), aperture.values.end(), [&](auto a, auto b) {
      return std::abs(a - aperture.now) < std::abs(b - aperture.now);
    });
  table_[property::kFNumber] = aperture;

  Property iso{type::kUint16, options.setsIso, std::lround(profile.baseIso.value), {}};
  if (options.setsIso)
    for (const double s : ladder(0, std::log2(profile.highestIso.value / profile.baseIso.value), 3))
      if (const auto mark = std::lround(printedFigure(print(Iso{s * profile.baseIso.value}))); mark < 0xFFFF)
        iso.values.push_back(mark);
  if (!options.setsIso) iso.values = {iso.now};
  table_[property::kExposureIndex] = iso;

  table_[property::kExposureProgram] = {type::kUint16, false, kManual, {kManual}};
  table_[property::kBattery] = {type::kUint8, false, std::lround(options.battery * 100), {}};
  if (options.brackets && !profile.counts.empty()) {
    Property frames{type::kUint16, true, 1, {1}}, step{type::kUint16, true, 1000, {}};
    for (const int n : profile.counts) frames.values.push_back(n);
    for (const Stops s : profile.steps) step.values.push_back(std::lround(s.value * 1000));
    step.now = step.values.front();
    table_[property::kBracketFrames] = frames;
    table_[property::kBracketStep] = step;
  }
}

const SettingsTable::Property* SettingsTable::find(std::uint16_t code) const {
  const auto found = table_.find(code);
  return found == table_.end() ? nullptr : &found->second;
}

std::vector<std::uint16_t> SettingsTable::codes() const {
  std::vector<std::uint16_t> all;
  for (const auto& [code, property] : table_) all.push_back(code);
  return all;
}

Bytes SettingsTable::description(std::uint16_t code) const {
  const Property* p = find(code);
  if (!p) return {};
  const int width = widthOf(p->type);
  ByteWriter out;
  out.u16(code)
      .u16(p->type)
      .u8(p->settable ? 1 : 0)
      .number(std::uint64_t(p->now), width)
      .number(std::uint64_t(p->now), width);
  if (p->values.empty()) return out.u8(1).number(0, width).number(100, width).number(1, width).take();
  out.u8(2).u16(p->values.size());
  for (const auto v : p->values) out.number(std::uint64_t(v), width);
  return out.take();
}

Bytes SettingsTable::value(std::uint16_t code) const {
  const Property* p = find(code);
  return p ? ByteWriter().number(std::uint64_t(p->now), widthOf(p->type)).take() : Bytes{};
}

std::uint16_t SettingsTable::set(std::uint16_t code, const Bytes& data) {
  const auto found = table_.find(code);
  if (found == table_.end()) return response::kPropNotSupported;
  Property& p = found->second;
  if (!p.settable) return response::kAccessDenied;
  const int width = widthOf(p.type);
  if (data.size() != std::size_t(width)) return response::kInvalidPropFormat;
  const auto wanted = std::int64_t(ByteReader(data).number(width));
  if (std::find(p.values.begin(), p.values.end(), wanted) == p.values.end()) return response::kInvalidPropValue;
  p.now = wanted;
  return response::kOk;
}

void SettingsTable::setBattery(double share) {
  table_[property::kBattery].now = std::lround(std::clamp(share, 0.0, 1.0) * 100);
}

ExposureSettings SettingsTable::exposure() const {
  ExposureSettings s;
  const auto time = times_.find(find(property::kExposureTime)->now);
  if (time != times_.end()) s.time = time->second;
  s.aperture = exact(FNumber{double(find(property::kFNumber)->now) / 100});
  s.iso = exact(Iso{double(find(property::kExposureIndex)->now)});
  return s;
}

bool SettingsTable::bulb() const {
  return find(property::kExposureTime)->now == kBulb;
}
int SettingsTable::bracketFrames() const {
  const Property* p = find(property::kBracketFrames);
  return p ? int(p->now) : 1;
}
Stops SettingsTable::bracketStep() const {
  const Property* p = find(property::kBracketStep);
  return {p ? double(p->now) / 1000 : 0};
}

} // namespace ml
