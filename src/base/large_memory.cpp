// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/large_memory.h"

#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <mutex>
#include <new>
#include <sys/mman.h>
#include <unordered_map>
#include <vector>

namespace ml {
namespace {
constexpr std::size_t kVector = 64, kLargePage = std::size_t{2} << 20, kLarge = 2 * kLargePage;
constexpr std::size_t kWorthKeeping = std::size_t{256}
                                      << 10; ///< Below, what is freed goes back at once: it costs little.
constexpr std::size_t kSpareShare = 4;       ///< A kept block may be larger than what is asked for by this part of it.

std::size_t sizeFor(std::size_t bytes) {
  const std::size_t unit = bytes >= kLarge ? kLargePage : kVector;
  if (bytes > SIZE_MAX - unit) throw std::bad_alloc();
  return (std::max<std::size_t>(bytes, 1) + unit - 1) / unit * unit;
}

struct Block {
  void* memory;
  std::size_t size;
};

/// Freed blocks, oldest first, and how much is in use.
class Kept {
public:
  void open() {
    const std::lock_guard lock(mutex_);
    if (users_++ == 0) most_ = inUse_;
  }
  void close() {
    const std::lock_guard lock(mutex_);
    if (--users_ == 0) shrinkTo(0);
  }
  /// The smallest that fits. None: makes room for a new one, so that in use and kept are never more than was once in
  /// use.
  void* take(std::size_t size) {
    const std::lock_guard lock(mutex_);
    auto best = blocks_.end();
    for (auto it = blocks_.begin(); it != blocks_.end(); ++it)
      if (it->size >= size && it->size - size <= size / kSpareShare && (best == blocks_.end() || it->size < best->size))
        best = it;
    if (best == blocks_.end()) {
      most_ = std::max(most_, inUse_ + size);
      shrinkTo(most_ - inUse_ - size);
      return nullptr;
    }
    void* memory = best->memory;
    total_ -= best->size;
    lend(*best);
    blocks_.erase(best);
    return memory;
  }
  void lend(void* memory, std::size_t size) {
    const std::lock_guard lock(mutex_);
    lend({memory, size});
  }
  /// Takes back what was lent; false: it is to be freed.
  bool keep(void* memory) {
    const std::lock_guard lock(mutex_);
    const auto found = lent_.find(memory);
    const Block block{memory, found->second};
    lent_.erase(found);
    inUse_ -= block.size;
    if (users_ == 0) return false;
    blocks_.push_back(block);
    total_ += block.size;
    return true;
  }
  std::size_t total() {
    const std::lock_guard lock(mutex_);
    return total_;
  }

private:
  void lend(const Block& block) {
    inUse_ += block.size;
    most_ = std::max(most_, inUse_);
    lent_.emplace(block.memory, block.size);
  }
  void shrinkTo(std::size_t most) {
    while (total_ > most) {
      std::free(blocks_.front().memory);
      total_ -= blocks_.front().size;
      blocks_.erase(blocks_.begin());
    }
  }

  std::mutex mutex_;
  std::vector<Block> blocks_;
  std::unordered_map<void*, std::size_t> lent_; ///< In use, with their true sizes.
  std::size_t total_ = 0, inUse_ = 0,
              most_ = 0; ///< Bytes kept, in use, and the most that was in use since the first user came.
  int users_ = 0;
};

Kept& kept() {
  static Kept* const all = new Kept; // never destroyed: pictures may outlive everything
  return *all;
}

} // namespace

void* allocateLarge(std::size_t bytes) {
  const std::size_t size = sizeFor(bytes);
  if (bytes >= kWorthKeeping)
    if (void* again = kept().take(size)) return again;
  void* memory = std::aligned_alloc(bytes >= kLarge ? kLargePage : kVector, size);
  if (!memory) throw std::bad_alloc();
  if (bytes >= kLarge) (void)madvise(memory, size, MADV_HUGEPAGE); // only advice: without large pages it works as well
  if (bytes >= kWorthKeeping) kept().lend(memory, size);
  return memory;
}

void FreeLarge::operator()(void* memory) const {
  if (bytes < kWorthKeeping || !kept().keep(memory)) std::free(memory);
}

MemoryReuse::MemoryReuse() {
  kept().open();
}
MemoryReuse::~MemoryReuse() {
  kept().close();
}
std::size_t MemoryReuse::keptBytes() {
  return kept().total();
}

} // namespace ml
