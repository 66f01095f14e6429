// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/cut.h"

#include <algorithm>
#include <array>
#include <deque>

namespace ml {
namespace {

enum Tree : std::uint8_t { Free, Source, Sink };
constexpr int kNone = -1, kTerminal = 4; ///< Parent directions: 0 right, 1 left, 2 down, 3 up.
constexpr int opposite(int d) {
  return d ^ 1;
}

/// Two trees grow from the terminals; where they touch, flow is pushed; nodes cut off look for new parents.
class Solver {
public:
  explicit Solver(const GridCut& g) : g_(g), n_(std::size_t(g.width) * std::size_t(g.height)) {
    for (auto& c : capacity_) c.assign(n_, 0);
    for (std::size_t i = 0; i < n_; ++i) {
      const int x = int(i) % g.width, y = int(i) / g.width;
      if (x + 1 < g.width || g.closed) {
        capacity_[0][i] = g.right[i];
        capacity_[1][std::size_t(neighbour(int(i), 0))] = g.right[i];
      }
      if (y + 1 < g.height) {
        capacity_[2][i] = g.down[i];
        capacity_[3][i + std::size_t(g.width)] = g.down[i];
      }
    }
    tree_.assign(n_, Free);
    parent_.assign(n_, kNone);
    active_.assign(n_, 0);
    terminal_.resize(n_);
    for (std::size_t i = 0; i < n_; ++i) {
      terminal_[i] = g.source[i] - g.sink[i];
      if (terminal_[i] == 0) continue;
      tree_[i] = terminal_[i] > 0 ? Source : Sink;
      parent_[i] = kTerminal;
      activate(int(i));
    }
  }

  std::vector<std::uint8_t> run() {
    for (;;) {
      int from = 0, direction = 0;
      if (!grow(from, direction)) break;
      augment(from, direction);
      adopt();
    }
    std::vector<std::uint8_t> out(n_);
    for (std::size_t i = 0; i < n_; ++i) out[i] = tree_[i] == Source;
    return out;
  }

private:
  [[nodiscard]] int neighbour(int i, int d) const {
    const int x = i % g_.width;
    switch (d) {
    case 0: return x + 1 < g_.width ? i + 1 : g_.closed ? i - x : kNone;
    case 1: return x > 0 ? i - 1 : g_.closed ? i + g_.width - 1 : kNone;
    case 2: return i + g_.width < int(n_) ? i + g_.width : kNone;
    default: return i >= g_.width ? i - g_.width : kNone;
    }
  }
  void activate(int i) {
    if (active_[std::size_t(i)]) return;
    active_[std::size_t(i)] = 1;
    queue_.push_back(i);
  }
  /// What may still flow between i and its neighbour j in direction d, away from the tree's root.
  [[nodiscard]] float outward(int i, int j, int d) const {
    return tree_[std::size_t(i)] == Source ? capacity_[std::size_t(d)][std::size_t(i)]
                                           : capacity_[std::size_t(opposite(d))][std::size_t(j)];
  }

  /// True: the trees touch; `from` is in the source's, its neighbour in `direction` in the sink's.
  bool grow(int& from, int& direction) {
    while (!queue_.empty()) {
      const int i = queue_.front();
      if (tree_[std::size_t(i)] != Free)
        for (int d = 0; d < 4; ++d) {
          const int j = neighbour(i, d);
          if (j == kNone || !(outward(i, j, d) > 0)) continue;
          if (tree_[std::size_t(j)] == Free) {
            tree_[std::size_t(j)] = tree_[std::size_t(i)];
            parent_[std::size_t(j)] = std::int8_t(opposite(d));
            activate(j);
          } else if (tree_[std::size_t(j)] != tree_[std::size_t(i)]) {
            const bool source = tree_[std::size_t(i)] == Source;
            from = source ? i : j;
            direction = source ? d : opposite(d);
            return true;
          }
        }
      queue_.pop_front();
      active_[std::size_t(i)] = 0;
    }
    return false;
  }

  void augment(int from, int direction) {
    const int to = neighbour(from, direction);
    float flow = capacity_[std::size_t(direction)][std::size_t(from)];
    for (int i = from; parent_[std::size_t(i)] != kTerminal; i = neighbour(i, parent_[std::size_t(i)])) {
      const int d = parent_[std::size_t(i)];
      flow = std::min(flow, capacity_[std::size_t(opposite(d))][std::size_t(neighbour(i, d))]);
    }
    for (int i = to; parent_[std::size_t(i)] != kTerminal; i = neighbour(i, parent_[std::size_t(i)]))
      flow = std::min(flow, capacity_[std::size_t(parent_[std::size_t(i)])][std::size_t(i)]);
    flow = std::min({flow, terminal_[std::size_t(rootOf(from))], -terminal_[std::size_t(rootOf(to))]});
    capacity_[std::size_t(direction)][std::size_t(from)] -= flow;
    capacity_[std::size_t(opposite(direction))][std::size_t(to)] += flow;
    int i = from;
    while (parent_[std::size_t(i)] != kTerminal) {
      const int d = parent_[std::size_t(i)], j = neighbour(i, d);
      capacity_[std::size_t(opposite(d))][std::size_t(j)] -= flow;
      capacity_[std::size_t(d)][std::size_t(i)] += flow;
      if (!(capacity_[std::size_t(opposite(d))][std::size_t(j)] > 0)) orphan(i);
      i = j;
    }
    terminal_[std::size_t(i)] -= flow;
    if (!(terminal_[std::size_t(i)] > 0)) orphan(i);
    i = to;
    while (parent_[std::size_t(i)] != kTerminal) {
      const int d = parent_[std::size_t(i)], j = neighbour(i, d);
      capacity_[std::size_t(d)][std::size_t(i)] -= flow;
      capacity_[std::size_t(opposite(d))][std::size_t(j)] += flow;
      if (!(capacity_[std::size_t(d)][std::size_t(i)] > 0)) orphan(i);
      i = j;
    }
    terminal_[std::size_t(i)] += flow;
    if (!(terminal_[std::size_t(i)] < 0)) orphan(i);
  }
  [[nodiscard]] int rootOf(int i) const {
    while (parent_[std::size_t(i)] != kTerminal) i = neighbour(i, parent_[std::size_t(i)]);
    return i;
  }
  void orphan(int i) {
    // The path above still needs the parent's direction while it is walked, so it is taken away only in adopt().
    orphans_.push_back(i);
  }
  [[nodiscard]] bool rooted(int i) const {
    while (i != kNone) {
      const int p = parent_[std::size_t(i)];
      if (p == kTerminal) return true;
      if (p == kNone) return false;
      i = neighbour(i, p);
    }
    return false;
  }

  void adopt() {
    for (const int i : orphans_) parent_[std::size_t(i)] = kNone;
    while (!orphans_.empty()) {
      const int i = orphans_.front();
      orphans_.pop_front();
      const Tree mine = Tree(tree_[std::size_t(i)]);
      for (int d = 0; d < 4 && parent_[std::size_t(i)] == kNone; ++d) {
        const int j = neighbour(i, d);
        // From the parent to the child in the source's tree, from the child to the parent in the sink's.
        if (j != kNone && tree_[std::size_t(j)] == mine && outward(j, i, opposite(d)) > 0 && rooted(j))
          parent_[std::size_t(i)] = std::int8_t(d);
      }
      if (parent_[std::size_t(i)] != kNone) continue;
      for (int d = 0; d < 4; ++d) {
        const int j = neighbour(i, d);
        if (j == kNone || tree_[std::size_t(j)] != mine) continue;
        if (outward(j, i, opposite(d)) > 0) activate(j);
        if (parent_[std::size_t(j)] == opposite(d)) {
          parent_[std::size_t(j)] = kNone;
          orphans_.push_back(j);
        }
      }
      tree_[std::size_t(i)] = Free;
    }
  }

  const GridCut& g_;
  std::size_t n_;
  std::array<std::vector<float>, 4> capacity_;
  std::vector<float> terminal_; ///< Over 0 to the source, below to the sink.
  std::vector<std::uint8_t> tree_, active_;
  std::vector<std::int8_t> parent_;
  std::deque<int> queue_, orphans_;
};

} // namespace

GridCut::GridCut(int w, int h) : width(w), height(h) {
  const std::size_t n = std::size_t(w) * std::size_t(h);
  right.assign(n, 0), down.assign(n, 0), source.assign(n, 0), sink.assign(n, 0);
}

std::vector<std::uint8_t> GridCut::solve() const {
  return Solver(*this).run();
}

} // namespace ml
