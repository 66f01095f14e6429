// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <arpa/inet.h>
#include <atomic>
#include <deque>
#include <mutex>
#include <poll.h>
#include <sys/socket.h>
#include <thread>
#include <unistd.h>
#include <vector>

namespace ml::test {

/// A port that passes everything on to another, and cuts all its connections when so many bytes have come from there.
class CuttingProxy {
public:
  /// `cuts`: bytes after which the first, the second... time of connecting ends; after the last nothing is cut.
  CuttingProxy(int to, std::deque<long> cuts) : to_(to), cuts_(std::move(cuts)) {
    listening_ = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
    sockaddr_in where{};
    where.sin_family = AF_INET;
    where.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    socklen_t size = sizeof where;
    ::bind(listening_, reinterpret_cast<sockaddr*>(&where), size);
    ::listen(listening_, 8);
    ::getsockname(listening_, reinterpret_cast<sockaddr*>(&where), &size);
    port_ = ntohs(where.sin_port);
    thread_ = std::thread([this] { run(); });
  }
  ~CuttingProxy() {
    ending_ = true;
    thread_.join();
    ::close(listening_);
  }
  CuttingProxy(const CuttingProxy&) = delete;
  CuttingProxy& operator=(const CuttingProxy&) = delete;
  [[nodiscard]] int port() const { return port_; }
  [[nodiscard]] int cut() const { return cut_; }

private:
  struct Pair {
    int near, far;
  };

  void run() {
    std::vector<Pair> pairs;
    long bytes = 0;
    while (!ending_) {
      std::vector<pollfd> wait{{listening_, POLLIN, 0}};
      for (const Pair& p : pairs) wait.push_back({p.near, POLLIN, 0}), wait.push_back({p.far, POLLIN, 0});
      if (::poll(wait.data(), wait.size(), 20) <= 0) continue;
      bool over = false;
      for (std::size_t i = 0; i < pairs.size(); ++i) {
        if (wait[1 + 2 * i].revents) over = !pass(pairs[i].near, pairs[i].far, nullptr) || over;
        if (wait[2 + 2 * i].revents) over = !pass(pairs[i].far, pairs[i].near, &bytes) || over;
      }
      if (over) {
        for (const Pair& p : pairs) ::close(p.near), ::close(p.far);
        pairs.clear();
        bytes = 0;
      }
      if (wait[0].revents) {
        const int near = ::accept(listening_, nullptr, nullptr), far = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
        sockaddr_in where{};
        where.sin_family = AF_INET;
        where.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        where.sin_port = htons(std::uint16_t(to_));
        if (::connect(far, reinterpret_cast<sockaddr*>(&where), sizeof where) == 0)
          pairs.push_back({near, far});
        else
          ::close(near), ::close(far);
      }
    }
    for (const Pair& p : pairs) ::close(p.near), ::close(p.far);
  }

  /// False: the connections end here.
  bool pass(int from, int to, long* counted) {
    char buffer[4096];
    auto got = ::recv(from, buffer, sizeof buffer, 0);
    if (got <= 0) return false;
    bool cut = false;
    if (counted) {
      if (!cuts_.empty() && *counted + got >= cuts_.front()) {
        got = std::max<ssize_t>(0, cuts_.front() - *counted);
        cuts_.pop_front();
        cut = true;
        ++cut_;
      }
      *counted += got;
    }
    for (ssize_t at = 0; at < got;) {
      const auto sent = ::send(to, buffer + at, std::size_t(got - at), MSG_NOSIGNAL);
      if (sent <= 0) return false;
      at += sent;
    }
    return !cut;
  }

  int to_, listening_ = -1, port_ = 0;
  std::deque<long> cuts_;
  std::atomic<int> cut_{0};
  std::atomic<bool> ending_{false};
  std::thread thread_;
};

} // namespace ml::test
