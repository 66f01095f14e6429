// SPDX-License-Identifier: GPL-3.0-or-later
// What a stranger may send over a wire: packets to the stand-in, and to us what a camera calls its values, an address,
// a set's record.
#include "ptp/codes.h"
#include "standin/stand_in.h"
#include "tether/camera_values.h"
#include "tether/connection.h"
#include "tether/set_record.h"

#include <sstream>

namespace {

/// A small camera whose card lies in a folder of its own.
ml::StandIn& camera() {
  static const auto standIn = [] {
    ml::Image<float> grey(48, 40, 3);
    for (std::size_t i = 0; i < grey.size(); ++i) grey.data()[i] = 0.2f;
    ml::StandInOptions options;
    options.profile = ml::shippedProfiles().front();
    options.card = std::filesystem::temp_directory_path() / "mellow-lantern-fuzz-card";
    options.haste = 0;
    return std::make_unique<ml::StandIn>(std::make_shared<ml::World>(ml::World::still(std::move(grey), 100)), options);
  }();
  return *standIn;
}

void asRequests(std::span<const std::uint8_t> bytes) {
  ml::ptp::PacketReader reader;
  ml::ptp::RequestReader requests;
  for (std::size_t at = 0; at < bytes.size(); at += 7) { // in pieces
    reader.feed(bytes.subspan(at, std::min<std::size_t>(7, bytes.size() - at)));
    while (const auto packet = reader.next()) {
      const auto request = requests.take(*packet);
      if (!request || request->operation == ml::ptp::operation::kInitiateCapture ||
          request->operation == ml::ptp::operation::kInitiateOpenCapture) // exposing takes long and fills the card
        continue;
      (void)ml::ptp::encode(camera().answer(*request).answer, request->transaction, 64);
    }
  }
}

void asWords(const std::string& text) {
  std::vector<std::string> lines;
  std::istringstream in(text);
  for (std::string line; std::getline(in, line);) lines.push_back(line);
  for (const auto& list : {ml::listedTimes(lines), ml::listedApertures(lines), ml::listedIsos(lines)})
    for (const auto& v : list)
      if (!(v.value > 0) || !(v.least <= v.most)) __builtin_trap();
  (void)ml::bulbWord(lines);
  (void)ml::portOf(text);
  if (const auto record = ml::setRecordFrom(text)) (void)ml::setRecordFrom(ml::toText(*record)).value();
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
  asRequests({data, size});
  asWords(std::string(reinterpret_cast<const char*>(data), size));
  return 0;
}
