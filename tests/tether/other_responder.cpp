// SPDX-License-Identifier: GPL-3.0-or-later
// A camera in the network that shares no code with the product or its stand-in, written from ISO 15740 and CIPA DC-005
// (from memory), and different on purpose: end of capture told before its files, the JPEG before the raw, each under a
// name of its own, two stores, an aperture ring, few times, answers that come late and in odd pieces, events nobody
// knows.
//   other_responder LIST [FINDER]   prints its port. LIST: lines "TENTHS_OF_A_MILLISECOND RAW JPEG". FINDER: a JPEG
//   that its finder shows, by operations of a maker that the library knows (number 10; they are in no standard).
#include <arpa/inet.h>
#include <chrono>
#include <cstdint>
#include <cstdio>
#include <cstring>
#include <fstream>
#include <map>
#include <mutex>
#include <netinet/tcp.h>
#include <string>
#include <sys/socket.h>
#include <thread>
#include <unistd.h>
#include <utility>
#include <vector>

namespace {

using Blob = std::string;

struct Line {
  unsigned tenths;
  std::string raw, jpeg;
};
struct Thing {
  std::string name;
  Blob bytes;
  std::uint16_t kind;
};

std::vector<Line> lines;
std::map<unsigned, Thing> things;
std::mutex guard, eventGuard;
unsigned now = 0, iso = 100, next = 0x501, shots = 0;
bool exposing = false;
int eventSocket = -1;
unsigned answers = 0, finderAsked = 0;
std::string finder;
bool finderOn = false;

void put(Blob& out, std::uint64_t value, int bytes) {
  while (bytes--) out.push_back(char(value & 255)), value >>= 8;
}
std::uint32_t get(const Blob& in, std::size_t at, int bytes) {
  std::uint32_t value = 0;
  for (int i = bytes - 1; i >= 0; --i) value = value << 8 | std::uint8_t(at + i < in.size() ? in[at + i] : 0);
  return value;
}
void putText(Blob& out, const std::string& text) {
  out.push_back(text.empty() ? 0 : char(text.size() + 1));
  for (char c : text) put(out, std::uint8_t(c), 2);
  if (!text.empty()) put(out, 0, 2);
}
void putList(Blob& out, std::initializer_list<unsigned> values, int bytes) {
  put(out, values.size(), 4);
  for (unsigned v : values) put(out, v, bytes);
}

/// In pieces that no boundary of a packet falls together with.
void say(int socket, const Blob& bytes) {
  static const std::size_t kPieces[] = {3, 1, 4096, 17, 65521, 8};
  static unsigned turn = 0;
  for (std::size_t at = 0; at < bytes.size();) {
    const std::size_t piece = std::min(kPieces[turn++ % 6], bytes.size() - at);
    const auto sent = send(socket, bytes.data() + at, piece, MSG_NOSIGNAL);
    if (sent <= 0) return;
    at += std::size_t(sent);
  }
}
void sayPacket(int socket, unsigned type, const Blob& body) {
  Blob packet;
  put(packet, body.size() + 8, 4);
  put(packet, type, 4);
  say(socket, packet + body);
}
bool hear(int socket, unsigned& type, Blob& body) {
  const auto read = [&](Blob& into, std::size_t count) {
    into.resize(count);
    std::size_t have = 0;
    while (have < count) {
      const auto got = recv(socket, into.data() + have, count - have, 0);
      if (got <= 0) return false;
      have += std::size_t(got);
    }
    return true;
  };
  Blob head;
  if (!read(head, 8)) return false;
  const unsigned length = get(head, 0, 4);
  type = get(head, 4, 4);
  return length >= 8 && length < 100000 && read(body, length - 8);
}
void event(unsigned code, unsigned parameter) {
  Blob body;
  put(body, code, 2);
  put(body, 0xFFFFFFFF, 4);
  put(body, parameter, 4);
  const std::lock_guard lock(eventGuard);
  if (eventSocket >= 0) sayPacket(eventSocket, 8, body);
}

Blob contents(const std::string& file) {
  std::ifstream in(file, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}
unsigned keep(const std::string& name, const std::string& file, std::uint16_t kind) {
  const std::lock_guard lock(guard);
  things[next] = {name, contents(file), kind};
  return next++;
}

void expose() {
  const Line* line = &lines.front();
  for (const Line& l : lines)
    if (l.tenths == now) line = &l;
  std::this_thread::sleep_for(std::chrono::milliseconds(line->tenths / 10 + 40));
  char raw[32], jpeg[32];
  std::snprintf(raw, sizeof raw, "Q%05u.DNG", 7 * ++shots);
  std::snprintf(jpeg, sizeof jpeg, "small%03u.JPEG", 500 - shots);
  event(0xC17A, 3); // a maker's own
  event(0x400D, 0); // complete, before anything is there
  event(0x4002, keep(jpeg, line->jpeg, 0x3801));
  std::this_thread::sleep_for(std::chrono::milliseconds(180));
  event(0x4002, keep(raw, line->raw, 0x3811));
  exposing = false;
}

Blob describe(unsigned code) {
  Blob out;
  put(out, code, 2);
  if (code == 0x500D) {
    put(out, 6, 2), put(out, 1, 1), put(out, lines[0].tenths, 4), put(out, now, 4), put(out, 2, 1),
        put(out, lines.size(), 2);
    for (const Line& l : lines) put(out, l.tenths, 4);
  } else if (code == 0x5007) { // a ring
    put(out, 4, 2), put(out, 0, 1), put(out, 800, 2), put(out, 800, 2), put(out, 2, 1), put(out, 1, 2),
        put(out, 800, 2);
  } else if (code == 0x500F) {
    put(out, 4, 2), put(out, 1, 1), put(out, 100, 2), put(out, iso, 2), put(out, 2, 1), put(out, 4, 2);
    for (unsigned s : {0xFFFFu, 50u, 100u, 200u}) put(out, s, 2);
  } else {
    return {};
  }
  return out;
}

Blob objectInfo(unsigned handle) {
  const bool folder = handle == 0x500;
  if (!folder && !things.count(handle)) return {};
  const Thing thing = folder ? Thing{"PICS", {}, 0x3001} : things[handle];
  Blob out;
  put(out, 0x00020001, 4), put(out, thing.kind, 2), put(out, 0, 2), put(out, thing.bytes.size(), 4);
  put(out, 0, 2);
  for (int i = 0; i < 3; ++i) put(out, 0, 4);
  for (int i = 0; i < 3; ++i) put(out, 0, 4);
  put(out, folder ? 0 : 0x500, 4), put(out, folder, 2), put(out, 0, 4), put(out, 0, 4);
  putText(out, thing.name), putText(out, "20260514T100000"), putText(out, ""), putText(out, "");
  return out;
}

void answer(int socket, unsigned operation, unsigned transaction, const unsigned p[5], const Blob& data) {
  unsigned code = 0x2001;
  Blob out;
  bool sends = true;
  const std::lock_guard lock(guard);
  switch (operation) {
  case 0x1001:
    put(out, 100, 2), put(out, finder.empty() ? 0 : 10, 4), put(out, 0, 2), putText(out, "other"), put(out, 0, 2);
    if (finder.empty())
      putList(out, {0x1001, 0x1002, 0x1003, 0x1004, 0x1005, 0x1007, 0x1008, 0x1009, 0x100E, 0x1014, 0x1015, 0x1016}, 2);
    else
      putList(out,
              {0x1001, 0x1002, 0x1003, 0x1004, 0x1005, 0x1007, 0x1008, 0x1009, 0x100E, 0x1014, 0x1015, 0x1016, 0x90C8,
               0x9201, 0x9202, 0x9203},
              2);
    putList(out, {0x4002, 0x400D}, 2), putList(out, {0x500D, 0x5007, 0x500F}, 2), putList(out, {0x3801}, 2),
        putList(out, {0x3801}, 2);
    putText(out, "Nobody"), putText(out, "Other box"), putText(out, "9"), putText(out, "77");
    break;
  case 0x1004: putList(out, {0x00010000, 0x00020001}, 4); break;
  case 0x1005:
    put(out, 3, 2), put(out, 2, 2), put(out, 0, 2), put(out, 1000000000, 8), put(out, 900000000, 8),
        put(out, 0xFFFFFFFF, 4);
    putText(out, ""), putText(out, "B");
    break;
  case 0x1007: {
    std::vector<unsigned> all;
    if (p[0] != 0x00010000) { // the first store is an empty slot
      if (p[2] == 0xFFFFFFFF || p[2] == 0) all.push_back(0x500);
      if (p[2] == 0x500 || p[2] == 0)
        for (const auto& [handle, thing] : things) all.push_back(handle);
    }
    put(out, all.size(), 4);
    for (unsigned h : all) put(out, h, 4);
    break;
  }
  case 0x1008: out = objectInfo(p[0]); break;
  case 0x1009: out = things.count(p[0]) ? things[p[0]].bytes : Blob(); break;
  case 0x1014: out = describe(p[0]); break;
  case 0x1015: p[0] == 0x500D ? put(out, now, 4) : put(out, p[0] == 0x500F ? iso : 800, 2); break;
  case 0x9203: // the picture lies behind a head of the maker's own
    if (!finderOn) {
      sends = false, code = 0x2002;
      break;
    }
    out = Blob(128, '\1') + contents(finder);
    break;
  default: sends = false;
  }
  if (operation == 0x9201 || operation == 0x9202) finderOn = operation == 0x9201 && !finder.empty(), finderAsked = 0;
  if (operation == 0x90C8 && ++finderAsked < 3) code = 0x2019; // the shutter takes its time to open
  if (sends && out.empty()) sends = false, code = 0x2009;
  if (operation == 0x1016) {
    if (exposing)
      code = 0x2019;
    else if (p[0] == 0x500D)
      now = get(data, 0, 4);
    else if (p[0] == 0x500F)
      iso = get(data, 0, 2);
    else
      code = 0x200F;
  }
  if (operation == 0x100E) {
    if (std::exchange(exposing, true))
      code = 0x2019;
    else
      std::thread(expose).detach();
  }
  // Slow sometimes, within what the library waits for.
  std::this_thread::sleep_for(std::chrono::milliseconds(++answers % 23 == 0 ? 900 : answers % 3 * 4));
  if (sends) {
    Blob start;
    put(start, transaction, 4), put(start, out.size(), 8);
    sayPacket(socket, 9, start);
    const std::size_t sizes[] = {1, 777, 30011};
    for (std::size_t at = 0, turn = 0; at < out.size(); ++turn) {
      const std::size_t size = std::min(sizes[turn % 3], out.size() - at);
      Blob part;
      put(part, transaction, 4);
      part += out.substr(at, size);
      at += size;
      sayPacket(socket, at == out.size() ? 12 : 10, part);
    }
  }
  Blob said;
  put(said, code, 2), put(said, transaction, 4);
  sayPacket(socket, 7, said);
}

void serve(int socket) {
  unsigned type = 0;
  Blob body;
  if (!hear(socket, type, body)) return void(close(socket));
  if (type == 3) {
    {
      const std::lock_guard lock(eventGuard);
      eventSocket = socket;
      sayPacket(socket, 4, {});
    }
    while (hear(socket, type, body)) {
    }
    const std::lock_guard lock(eventGuard);
    if (eventSocket == socket) eventSocket = -1;
    return void(close(socket));
  }
  Blob ack;
  put(ack, 42, 4);
  ack += Blob(16, 'x');
  for (char c : std::string("box")) put(ack, std::uint8_t(c), 2);
  put(ack, 0, 2), put(ack, 0x00010000, 4);
  sayPacket(socket, 2, ack);
  unsigned operation = 0, transaction = 0, p[5] = {};
  while (hear(socket, type, body)) {
    if (type == 6) {
      operation = get(body, 4, 2), transaction = get(body, 6, 4);
      for (int i = 0; i < 5; ++i) p[i] = get(body, 10 + 4 * i, 4);
      if (operation != 0x1016) answer(socket, operation, transaction, p, {});
    } else if (type == 12) {
      answer(socket, operation, transaction, p, body.substr(4));
    }
  }
  close(socket);
}

} // namespace

int main(int count, char** arguments) {
  if (count < 2) return 2;
  if (count > 2) finder = arguments[2];
  std::ifstream list(arguments[1]);
  for (Line line; list >> line.tenths >> line.raw >> line.jpeg;) lines.push_back(line);
  if (lines.empty()) return 2;
  now = lines.front().tenths;
  const int listening = socket(AF_INET, SOCK_STREAM, 0);
  sockaddr_in where{};
  where.sin_family = AF_INET;
  where.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  socklen_t size = sizeof where;
  if (bind(listening, reinterpret_cast<sockaddr*>(&where), size) || listen(listening, 4) ||
      getsockname(listening, reinterpret_cast<sockaddr*>(&where), &size))
    return 1;
  std::printf("%d\n", ntohs(where.sin_port));
  std::fflush(stdout);
  for (;;) {
    const int guest = accept(listening, nullptr, nullptr);
    if (guest < 0) continue;
    const int on = 1;
    setsockopt(guest, IPPROTO_TCP, TCP_NODELAY, &on, sizeof on);
    std::thread(serve, guest).detach();
  }
}
