// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ptp/bytes.h"

#include <array>
#include <optional>

/// The protocol over a network (CIPA DC-005): each packet begins with its length and its type, four bytes each.
namespace ml::ptp {

enum class PacketType : std::uint32_t {
  InitCommand = 1,
  InitCommandAck = 2,
  InitEvent = 3,
  InitEventAck = 4,
  InitFail = 5,
  Request = 6,
  Response = 7,
  Event = 8,
  StartData = 9,
  Data = 10,
  Cancel = 11,
  EndData = 12,
  Probe = 13,
  ProbeAnswer = 14
};

struct Packet {
  PacketType type = PacketType::Probe;
  Bytes payload;
};

/// The whole packet as it goes over the wire.
[[nodiscard]] Bytes packed(PacketType type, std::span<const std::uint8_t> payload);

/// Finds packets in a stream that comes in pieces of any size.
class PacketReader {
public:
  void feed(std::span<const std::uint8_t> bytes);
  /// The next whole packet; nothing: more bytes are needed, or the stream is broken.
  std::optional<Packet> next();
  /// A length that cannot be: nothing after it can be understood.
  [[nodiscard]] bool broken() const { return broken_; }

private:
  Bytes waiting_;
  bool broken_ = false;
};

/// What the other side wants done.
struct Request {
  std::uint16_t operation = 0;
  std::uint32_t transaction = 0;
  std::array<std::uint32_t, 5> parameters{};
  Bytes data; ///< What came with it.
};

struct Answer {
  std::uint16_t code = 0;
  std::vector<std::uint32_t> parameters;
  std::optional<Bytes> data; ///< Sent before the answer.
};

/// Requests out of packets. Data that belong to one are waited for.
class RequestReader {
public:
  /// A request that is complete with this packet.
  std::optional<Request> take(const Packet& packet);

private:
  std::optional<Request> waiting_; ///< For its data.
};

/// Data in packets of at most `chunk` bytes, then the answer.
[[nodiscard]] Bytes encode(const Answer& answer, std::uint32_t transaction, std::size_t chunk);
[[nodiscard]] Bytes encodeEvent(std::uint16_t code, std::uint32_t parameter);

} // namespace ml::ptp
