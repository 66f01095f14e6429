#include "base/large_memory.h"

#include <cstdint>
#include <cstdlib>
#include <new>
#include <sys/mman.h>

namespace ml {
namespace {
constexpr std::size_t kVector = 64, kLargePage = std::size_t{2} << 20, kLarge = 2 * kLargePage;

std::size_t roundedUp(std::size_t bytes, std::size_t unit) { return (bytes + unit - 1) / unit * unit; }
} // namespace

void* allocateLarge(std::size_t bytes) {
  const std::size_t unit = bytes >= kLarge ? kLargePage : kVector;
  if (bytes > SIZE_MAX - unit) throw std::bad_alloc();
  const std::size_t size = roundedUp(bytes > 0 ? bytes : 1, unit);
  void* memory = std::aligned_alloc(unit, size);
  if (!memory) throw std::bad_alloc();
  if (unit == kLargePage) (void)madvise(memory, size, MADV_HUGEPAGE); // only advice: without large pages it works as well
  return memory;
}

void FreeLarge::operator()(void* memory) const { std::free(memory); }

} // namespace ml
