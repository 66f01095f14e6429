// SPDX-License-Identifier: GPL-3.0-or-later
#include "ptp/packet.h"

#include "ptp/codes.h"

#include <algorithm>
#include <utility>

namespace ml::ptp {
namespace {

constexpr std::size_t kHead = 8;
constexpr std::size_t kLargestPacket = 1 << 20; ///< Nobody sends a camera more at once.
constexpr std::size_t kLargestData = 1 << 20;
constexpr std::size_t kReleaseFrom = 1 << 16; ///< Read bytes are let go from here on.

bool bringsData(std::uint16_t op) {
  return op == operation::kSetPropValue || op == operation::kSendObjectInfo || op == operation::kSendObject;
}

} // namespace

Bytes packed(PacketType type, std::span<const std::uint8_t> payload) {
  return ByteWriter().u32(kHead + payload.size()).u32(std::uint32_t(type)).raw(payload).take();
}

void PacketReader::feed(std::span<const std::uint8_t> bytes) {
  if (!broken_) waiting_.insert(waiting_.end(), bytes.begin(), bytes.end());
}

std::optional<Packet> PacketReader::next() {
  if (broken_ || waiting_.size() < kHead) return {};
  ByteReader head(waiting_);
  const std::size_t length = head.u32();
  const auto type = PacketType(head.u32());
  if (length < kHead || length > kLargestPacket) {
    broken_ = true;
    waiting_ = {};
    return {};
  }
  if (waiting_.size() < length) return {};
  Packet packet{type, Bytes(waiting_.begin() + kHead, waiting_.begin() + std::ptrdiff_t(length))};
  waiting_.erase(waiting_.begin(), waiting_.begin() + std::ptrdiff_t(length));
  if (waiting_.empty() && waiting_.capacity() > kReleaseFrom) waiting_ = {};
  return packet;
}

std::optional<Request> RequestReader::take(const Packet& packet) {
  ByteReader in(packet.payload);
  if (packet.type == PacketType::Request) {
    waiting_.reset();
    (void)in.u32(); // in which direction data go: known from the operation
    Request request;
    request.operation = in.u16();
    request.transaction = in.u32();
    if (!in.ok()) return {};
    for (auto& p : request.parameters)
      if (in.left() >= 4) p = in.u32();
    if (!bringsData(request.operation)) return request;
    waiting_ = request;
    return {};
  }
  const bool last = packet.type == PacketType::EndData;
  if (packet.type == PacketType::Cancel) waiting_.reset();
  if (!waiting_ || !(last || packet.type == PacketType::Data)) return {};
  (void)in.u32(); // the transaction
  const auto more = in.rest();
  if (waiting_->data.size() + more.size() > kLargestData) {
    waiting_.reset();
    return {};
  }
  waiting_->data.insert(waiting_->data.end(), more.begin(), more.end());
  return last ? std::exchange(waiting_, std::nullopt) : std::nullopt;
}

Bytes encode(const Answer& answer, std::uint32_t transaction, std::size_t chunk) {
  ByteWriter out;
  if (answer.data) {
    const Bytes& data = *answer.data;
    out.raw(packed(PacketType::StartData, ByteWriter().u32(transaction).u64(data.size()).take()));
    for (std::size_t at = 0, size = 0; at == 0 || at < data.size(); at += size) {
      size = std::max<std::size_t>(1, std::min(chunk, data.size() - at));
      const bool last = at + size >= data.size();
      const std::span<const std::uint8_t> part(data.data() + at, std::min(size, data.size() - at));
      out.raw(packed(last ? PacketType::EndData : PacketType::Data, ByteWriter().u32(transaction).raw(part).take()));
    }
  }
  ByteWriter said;
  said.u16(answer.code).u32(transaction);
  for (const auto p : answer.parameters) said.u32(p);
  return out.raw(packed(PacketType::Response, said.take())).take();
}

Bytes encodeEvent(std::uint16_t code, std::uint32_t parameter) {
  return packed(PacketType::Event, ByteWriter().u16(code).u32(0).u32(parameter).take());
}

} // namespace ml::ptp
