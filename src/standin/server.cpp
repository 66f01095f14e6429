// SPDX-License-Identifier: GPL-3.0-or-later
#include "standin/server.h"

#include <arpa/inet.h>
#include <cerrno>
#include <cstring>
#include <netinet/in.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

namespace ml {
namespace {

constexpr int kLookMs = 100;
constexpr std::size_t kReadAtOnce = 65536;
constexpr int kMostGuests = 16;
constexpr std::uint32_t kVersion = 0x00010000;
constexpr std::uint32_t kFailBusy = 2;

bool sendAll(int socket, std::span<const std::uint8_t> bytes) {
  while (!bytes.empty()) {
    const auto sent = ::send(socket, bytes.data(), bytes.size(), MSG_NOSIGNAL);
    if (sent < 0 && errno == EINTR) continue;
    if (sent <= 0) return false;
    bytes = bytes.subspan(std::size_t(sent));
  }
  return true;
}

/// The next packet; nothing: the connection is over, or what came is no packet.
std::optional<ptp::Packet> receive(int socket, ptp::PacketReader& reader, const std::atomic<bool>& ending) {
  ptp::Bytes buffer(kReadAtOnce);
  while (!ending) {
    if (auto packet = reader.next()) return packet;
    if (reader.broken()) return {};
    pollfd wait{socket, POLLIN, 0};
    if (::poll(&wait, 1, kLookMs) == 0) continue;
    const auto got = ::recv(socket, buffer.data(), buffer.size(), 0);
    if (got < 0 && errno == EINTR) continue;
    if (got <= 0) return {};
    reader.feed({buffer.data(), std::size_t(got)});
  }
  return {};
}

ptp::Bytes greeting(std::uint32_t number, std::uint64_t seed) {
  ptp::ByteWriter out;
  out.u32(number).u64(0x4c4e5452'00000000).u64(seed);
  return ptp::packed(ptp::PacketType::InitCommandAck, out.openText("Mellow Lantern stand-in").u32(kVersion).take());
}

} // namespace

StandInServer::~StandInServer() {
  ending_ = true;
  dropAll();
  guests_.clear();
  if (listening_ >= 0) ::close(listening_);
}

Result<int> StandInServer::listen(const std::string& address, int port) {
  sockaddr_in where{};
  where.sin_family = AF_INET;
  where.sin_port = htons(std::uint16_t(port));
  if (port < 0 || port > 65535 || ::inet_pton(AF_INET, address.c_str(), &where.sin_addr) != 1)
    return fail(ErrorCode::InvalidArgument, "`" + address + "` port " + std::to_string(port) +
                                                " is no address to listen at; use for instance 127.0.0.1 and 15740.");
  listening_ = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
  const int on = 1;
  ::setsockopt(listening_, SOL_SOCKET, SO_REUSEADDR, &on, sizeof on);
  socklen_t size = sizeof where;
  if (listening_ < 0 || ::bind(listening_, reinterpret_cast<sockaddr*>(&where), size) != 0 ||
      ::listen(listening_, kMostGuests) != 0 ||
      ::getsockname(listening_, reinterpret_cast<sockaddr*>(&where), &size) != 0)
    return fail(ErrorCode::InvalidArgument, "Port " + std::to_string(port) + " of " + address + " cannot be used (" +
                                                std::strerror(errno) + "); choose another with --port, or 0 for any.");
  return int(ntohs(where.sin_port));
}

void StandInServer::serve(const std::atomic<bool>& stop) {
  while (!stop) {
    guests_.remove_if([](const Guest& g) { return g.gone.load(); });
    pollfd wait{listening_, POLLIN, 0};
    if (::poll(&wait, 1, kLookMs) <= 0) continue;
    const int socket = ::accept4(listening_, nullptr, nullptr, SOCK_CLOEXEC);
    if (socket < 0) continue;
    if (guests_.size() >= std::size_t(kMostGuests)) {
      ::close(socket);
      continue;
    }
    const int on = 1;
    ::setsockopt(socket, IPPROTO_TCP, TCP_NODELAY, &on, sizeof on);
    Guest& guest = guests_.emplace_back();
    guest.thread = std::jthread([this, socket, &guest] {
      greet(socket);
      ::close(socket);
      guest.gone = true;
    });
  }
}

void StandInServer::greet(int socket) {
  ptp::PacketReader reader;
  const auto first = receive(socket, reader, ending_);
  if (!first) return;
  if (first->type == ptp::PacketType::InitCommand) return commands(socket);
  if (first->type == ptp::PacketType::InitEvent && take(socket, ptp::ByteReader(first->payload).u32()))
    return events(socket);
}

bool StandInServer::take(int socket, std::uint32_t number) {
  const std::lock_guard lock(mutex_);
  if (number != number_ || command_ < 0 || event_ >= 0) return false;
  event_ = socket;
  return true;
}

void StandInServer::commands(int socket) {
  {
    const std::lock_guard lock(mutex_);
    if (command_ >= 0) { // another program has it
      sendAll(socket, ptp::packed(ptp::PacketType::InitFail, ptp::ByteWriter().u32(kFailBusy).take()));
      return;
    }
    command_ = socket;
    ++number_;
  }
  camera_.connected(
      {[this](std::uint16_t code, std::uint32_t parameter) { send(code, parameter); }, [this] { dropAll(); }});
  sendAll(socket, greeting(number_, camera_.options().seed));
  ptp::PacketReader reader;
  ptp::RequestReader requests;
  while (const auto packet = receive(socket, reader, ending_)) {
    if (packet->type == ptp::PacketType::Probe) sendAll(socket, ptp::packed(ptp::PacketType::ProbeAnswer, {}));
    const auto request = requests.take(*packet);
    if (request && !sendReply(socket, camera_.answer(*request), request->transaction)) break;
  }
  leave();
}

/// False: the connection is over.
bool StandInServer::sendReply(int socket, const StandIn::Reply& reply, std::uint32_t transaction) {
  using Mischief = StandIn::Mischief;
  if (reply.mischief == Mischief::Drop) return false;
  if (reply.mischief == Mischief::Hang) { // says nothing until the other side gives up
    char byte = 0;
    while (!ending_) {
      pollfd wait{socket, POLLIN, 0};
      if (::poll(&wait, 1, kLookMs) > 0 && ::recv(socket, &byte, 1, 0) <= 0) break;
    }
    return false;
  }
  const auto bytes = ptp::encode(reply.answer, transaction, camera_.options().chunk);
  if (reply.mischief == Mischief::CutInTheMiddle) {
    sendAll(socket, {bytes.data(), bytes.size() / 2});
    return false;
  }
  return sendAll(socket, bytes);
}

void StandInServer::events(int socket) {
  sendAll(socket, ptp::packed(ptp::PacketType::InitEventAck, {}));
  ptp::PacketReader reader;
  while (const auto packet = receive(socket, reader, ending_))
    if (packet->type == ptp::PacketType::Probe) {
      const std::lock_guard lock(sending_);
      sendAll(socket, ptp::packed(ptp::PacketType::ProbeAnswer, {}));
    }
  const std::lock_guard lock(mutex_);
  if (event_ == socket) event_ = -1;
}

void StandInServer::leave() {
  camera_.disconnected();
  const std::lock_guard lock(mutex_);
  if (event_ >= 0) ::shutdown(event_, SHUT_RDWR);
  command_ = event_ = -1;
}

void StandInServer::dropAll() {
  const std::lock_guard lock(mutex_);
  for (const int socket : {command_, event_})
    if (socket >= 0) ::shutdown(socket, SHUT_RDWR);
}

void StandInServer::send(std::uint16_t code, std::uint32_t parameter) {
  const std::lock_guard one(sending_);
  const std::lock_guard lock(mutex_);
  if (event_ >= 0) sendAll(event_, ptp::encodeEvent(code, parameter));
}

} // namespace ml
