#include "base/large_memory.h"

#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <mutex>
#include <new>
#include <sys/mman.h>
#include <vector>

namespace ml {
namespace {
constexpr std::size_t kVector = 64, kLargePage = std::size_t{2} << 20, kLarge = 2 * kLargePage;
constexpr std::size_t kSpareShare = 4; ///< A kept block may be larger than what is asked for by this part of it.

std::size_t sizeFor(std::size_t bytes) {
  const std::size_t unit = bytes >= kLarge ? kLargePage : kVector;
  if (bytes > SIZE_MAX - unit) throw std::bad_alloc();
  return (std::max<std::size_t>(bytes, 1) + unit - 1) / unit * unit;
}

struct Block {
  void* memory;
  std::size_t size;
};

/// Freed blocks, oldest first.
class Kept {
public:
  void open() {
    const std::lock_guard lock(mutex_);
    ++users_;
  }
  void close() {
    const std::lock_guard lock(mutex_);
    if (--users_ == 0) shrinkTo(0);
  }
  /// The smallest that fits. None: makes room instead, so that the process holds no more than without keeping.
  void* take(std::size_t size) {
    const std::lock_guard lock(mutex_);
    auto best = blocks_.end();
    for (auto it = blocks_.begin(); it != blocks_.end(); ++it)
      if (it->size >= size && it->size - size <= size / kSpareShare && (best == blocks_.end() || it->size < best->size)) best = it;
    if (best == blocks_.end()) {
      shrinkTo(total_ > size ? total_ - size : 0);
      return nullptr;
    }
    void* memory = best->memory;
    total_ -= best->size;
    blocks_.erase(best);
    return memory;
  }
  bool keep(void* memory, std::size_t size) {
    const std::lock_guard lock(mutex_);
    if (users_ == 0) return false;
    blocks_.push_back({memory, size});
    total_ += size;
    return true;
  }
  std::size_t total() {
    const std::lock_guard lock(mutex_);
    return total_;
  }

private:
  void shrinkTo(std::size_t most) {
    while (total_ > most) {
      std::free(blocks_.front().memory);
      total_ -= blocks_.front().size;
      blocks_.erase(blocks_.begin());
    }
  }

  std::mutex mutex_;
  std::vector<Block> blocks_;
  std::size_t total_ = 0;
  int users_ = 0;
};

Kept& kept() {
  static Kept* const all = new Kept; // never destroyed: pictures may outlive everything
  return *all;
}

} // namespace

void* allocateLarge(std::size_t bytes) {
  const std::size_t size = sizeFor(bytes);
  if (bytes >= kLarge)
    if (void* again = kept().take(size)) return again;
  void* memory = std::aligned_alloc(bytes >= kLarge ? kLargePage : kVector, size);
  if (!memory) throw std::bad_alloc();
  if (bytes >= kLarge) (void)madvise(memory, size, MADV_HUGEPAGE); // only advice: without large pages it works as well
  return memory;
}

void FreeLarge::operator()(void* memory) const {
  if (bytes < kLarge || !kept().keep(memory, sizeFor(bytes))) std::free(memory);
}

MemoryReuse::MemoryReuse() { kept().open(); }
MemoryReuse::~MemoryReuse() { kept().close(); }
std::size_t MemoryReuse::keptBytes() { return kept().total(); }

} // namespace ml
