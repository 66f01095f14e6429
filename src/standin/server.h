// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "standin/stand_in.h"

#include <atomic>
#include <list>

namespace ml {

/// The stand-in at a port of this machine (CIPA DC-005): one connection for commands, one for events, one program at a
/// time.
class StandInServer {
public:
  explicit StandInServer(StandIn& camera) : camera_(camera) {}
  ~StandInServer();
  StandInServer(const StandInServer&) = delete;
  StandInServer& operator=(const StandInServer&) = delete;

  /// Takes the port, 0: any that is free. Gives the port. Errors: InvalidArgument with what to do.
  Result<int> listen(const std::string& address, int port);
  /// Serves until `stop` is set.
  void serve(const std::atomic<bool>& stop);

private:
  void greet(int socket);
  void commands(int socket);
  void events(int socket);
  [[nodiscard]] bool take(int socket, std::uint32_t number);
  void leave();
  void dropAll();
  void send(std::uint16_t code, std::uint32_t parameter);
  [[nodiscard]] bool sendReply(int socket, const StandIn::Reply& reply, std::uint32_t transaction);

  StandIn& camera_;
  int listening_ = -1;
  std::atomic<bool> ending_{false};
  std::mutex mutex_; ///< Of the sockets below.
  int command_ = -1, event_ = -1;
  std::uint32_t number_ = 0;
  std::mutex sending_; ///< One event at a time.
  struct Guest {
    std::atomic<bool> gone{false};
    std::jthread thread;
  };
  std::list<Guest> guests_;
};

} // namespace ml
