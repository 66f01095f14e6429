// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_profile.h"
#include "base/phrase.h"

#include <algorithm>

#include <cmath>

namespace ml {

double CameraProfile::readNoiseAt(Iso iso) const {
  if (readNoiseHigh <= 0 || readNoiseHigh >= readNoise) return readNoise;
  const double late = (readNoise * readNoise - readNoiseHigh * readNoiseHigh) * std::pow(baseIso.value / iso.value, 2);
  return std::sqrt(readNoiseHigh * readNoiseHigh + late);
}

std::optional<std::string> CameraProfile::invalidReason() const {
  if (!(shortest.value > 0 && longest > shortest)) return phrase("its longest time must be longer than its shortest");
  if (!(fullWell > 100)) return phrase("its full well must be more than 100 electrons");
  if (!(readNoise >= 0 && readNoise < fullWell / 10))
    return phrase("its read noise must be below a tenth of the full well");
  if (bits < 8 || bits > 16) return phrase("its bit depth must be 8 to 16");
  if (!(baseIso.value > 0)) return phrase("its base ISO must be above 0");
  if (!(highestIso >= baseIso)) return phrase("its highest ISO must not lie below its base ISO");
  if (readNoiseHigh < 0) return phrase("its read noise at high ISO must not be negative");
  if (width < 32 || height < 32 || width > 100000 || height > 100000)
    return phrase("its picture size must be 32 to 100000 pixels");
  if (!(pixelPitchUm > 0.3 && pixelPitchUm < 100)) return phrase("its pixel pitch must be 0.3 to 100 micrometres");
  if (!(sensorWidthMm > 1 && sensorWidthMm < 300)) return phrase("its sensor must be 1 to 300 mm wide");
  if (!(fileMegabytes > 0 && fileMegabytes < 10000)) return phrase("its file size must be above 0 MB");
  if (!(frameGap.value >= 0 && writeTime.value >= 0 && bufferFrames >= 1))
    return phrase("its gaps must not be negative, and its buffer hold a frame");
  if (!(headroom().value > 0)) return phrase("its highlight headroom must be above 0 stops");
  if (std::any_of(counts.begin(), counts.end(), [](int n) { return n < 1 || n > 99; }))
    return phrase("its frame counts must be 1 to 99");
  if (std::any_of(steps.begin(), steps.end(), [](Stops s) { return !(s.value > 0 && s.value <= 6); }))
    return phrase("its bracket steps must be above 0 and at most 6 stops");
  return {};
}

const std::vector<CameraProfile>& shippedProfiles() {
  static const std::vector<CameraProfile> profiles = [] {
    const double third = 1.0 / 3;
    std::vector<CameraProfile> list;
    CameraProfile full;
    full.id = "full-frame-24";
    full.name = "Full frame, 24 MP, 14-bit";
    full.counts = {2, 3, 5, 7, 9};
    full.steps = {{third}, {2 * third}, {1}, {1 + third}, {1 + 2 * third}, {2}, {2 + third}, {2 + 2 * third}, {3}};
    full.fullWell = 62000;
    full.readNoise = 3.2;
    full.readNoiseHigh = 1.6;
    full.highestIso = {51200};
    full.stabiliserStops = 4;
    list.push_back(full);

    CameraProfile crop = full;
    crop.id = "crop-20";
    crop.name = "Crop sensor, 20 MP, 14-bit";
    crop.counts = {3, 5, 7};
    crop.steps = {{third}, {2 * third}, {1}, {2}};
    crop.fullWell = 31000;
    crop.readNoise = 2.6;
    crop.readNoiseHigh = 1.4;
    crop.highestIso = {25600};
    crop.sensorWidthMm = 23.5;
    crop.stabiliserStops = 3;
    crop.bufferFrames = 16;
    crop.width = 5472;
    crop.height = 3648;
    crop.pixelPitchUm = 4.3;
    crop.shortest = {1.0 / 4096};
    crop.fileMegabytes = 22;
    list.push_back(crop);

    CameraProfile pocket;
    pocket.id = "pocket-jpeg";
    pocket.name = "Pocket, JPEG only, three frames up to one stop";
    pocket.hasRaw = false;
    pocket.counts = {3};
    pocket.steps = {{third}, {2 * third}, {1}};
    pocket.shortest = {1.0 / 2048};
    pocket.longest = {16};
    pocket.fullWell = 9000;
    pocket.readNoise = 4;
    pocket.readNoiseHigh = 2.5;
    pocket.highestIso = {3200};
    pocket.sensorWidthMm = 6.4;
    pocket.stabiliserStops = 2;
    pocket.frameGap = {0.35};
    pocket.bufferFrames = 6;
    pocket.compensation = {3};
    pocket.bits = 10;
    pocket.width = 4000;
    pocket.height = 3000;
    pocket.pixelPitchUm = 1.6;
    pocket.fileMegabytes = 5;
    list.push_back(pocket);

    CameraProfile medium = full;
    medium.id = "medium-50";
    medium.name = "Medium format, 50 MP, 16-bit";
    medium.counts = {3, 5, 7, 9};
    medium.fullWell = 72000;
    medium.readNoise = 3.5;
    medium.readNoiseHigh = 2.0;
    medium.highestIso = {25600};
    medium.sensorWidthMm = 43.8;
    medium.stabiliserStops = 0;
    medium.frameGap = {0.5};
    medium.bufferFrames = 14;
    medium.writeTime = {0.8};
    medium.bits = 16;
    medium.shortest = {1.0 / 4096};
    medium.width = 8192;
    medium.height = 6144;
    medium.pixelPitchUm = 5.3;
    medium.fileMegabytes = 65;
    list.push_back(medium);

    CameraProfile sphere = pocket;
    sphere.id = "sphere-two-lens";
    sphere.name = "Spherical, two lenses";
    sphere.counts = {3, 5, 9};
    sphere.steps = {{1}, {2}};
    sphere.width = 7296;
    sphere.height = 3648;
    sphere.pixelPitchUm = 2.4;
    sphere.fullWell = 12000;
    sphere.sensorWidthMm = 13.2;
    sphere.stabiliserStops = 0;
    sphere.frameGap = {0.8};
    sphere.bits = 12;
    list.push_back(sphere);
    return list;
  }();
  return profiles;
}

const CameraProfile* findProfile(const std::string& id) {
  const auto& all = shippedProfiles();
  const auto found = std::find_if(all.begin(), all.end(), [&](const auto& p) { return p.id == id; });
  return found == all.end() ? nullptr : &*found;
}

} // namespace ml
