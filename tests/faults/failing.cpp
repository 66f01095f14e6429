// SPDX-License-Identifier: GPL-3.0-or-later
// Preloaded into a program (LD_PRELOAD): one call of a kind fails, as a full disk, a pulled drive or a lack of memory
// makes it fail. Knows nothing of the product.
//   FAIL_KIND   write, flush, rename, open or memory
//   FAIL_AT     which call of that kind, from 1; 0: none
//   FAIL_STAYS  1: so do all after it
//   FAIL_COUNT  a file: how many calls of that kind there were
#include <atomic>
#include <cerrno>
#include <cstdarg>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <dlfcn.h>
#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/uio.h>
#include <unistd.h>

namespace {

std::atomic<long> calls{0};
constexpr std::size_t kLargeMemory = 200 * 1024; // what pictures take, not what a library's tables do

long number(const char* name) {
  const char* value = std::getenv(name);
  return value ? std::atol(value) : 0;
}

bool is(const char* kind) {
  static const char* const wanted = std::getenv("FAIL_KIND");
  return wanted && std::strcmp(wanted, kind) == 0;
}

bool fails() {
  static const long at = number("FAIL_AT"), stays = number("FAIL_STAYS");
  const long now = ++calls;
  return at > 0 && (now == at || (stays && now > at));
}

bool isFile(int file) {
  struct stat facts {};
  return ::fstat(file, &facts) == 0 && S_ISREG(facts.st_mode);
}

template <class F> F next(const char* name) {
  return reinterpret_cast<F>(::dlsym(RTLD_NEXT, name));
}

struct AtTheEnd {
  ~AtTheEnd() {
    const char* file = std::getenv("FAIL_COUNT");
    if (!file) return;
    char text[32];
    const int size = std::snprintf(text, sizeof text, "%ld", calls.load());
    const int out = static_cast<int>(::syscall(SYS_openat, AT_FDCWD, file, O_WRONLY | O_CREAT | O_TRUNC, 0644));
    if (out >= 0 && ::syscall(SYS_write, out, text, size) == size) ::close(out);
  }
} atTheEnd;

} // namespace

extern "C" {

ssize_t write(int file, const void* data, size_t size) {
  static const auto real = next<ssize_t (*)(int, const void*, size_t)>("write");
  if (is("write") && isFile(file) && fails()) return errno = ENOSPC, -1;
  return real(file, data, size);
}

ssize_t writev(int file, const struct iovec* data, int count) {
  static const auto real = next<ssize_t (*)(int, const struct iovec*, int)>("writev");
  if (is("write") && isFile(file) && fails()) return errno = ENOSPC, -1;
  return real(file, data, count);
}

size_t fwrite(const void* data, size_t size, size_t count, FILE* file) {
  static const auto real = next<size_t (*)(const void*, size_t, size_t, FILE*)>("fwrite");
  if (is("write") && isFile(::fileno(file)) && fails()) return errno = ENOSPC, 0;
  return real(data, size, count, file);
}

int fsync(int file) {
  static const auto real = next<int (*)(int)>("fsync");
  if (is("flush") && fails()) return errno = EIO, -1;
  return real(file);
}

int rename(const char* from, const char* to) {
  static const auto real = next<int (*)(const char*, const char*)>("rename");
  if (is("rename") && fails()) return errno = EIO, -1;
  return real(from, to);
}

int open(const char* name, int how, ...) {
  static const auto real = next<int (*)(const char*, int, mode_t)>("open");
  va_list rest;
  va_start(rest, how);
  const mode_t mode = how & O_CREAT ? va_arg(rest, mode_t) : 0;
  va_end(rest);
  if (is("open") && (how & O_CREAT) && fails()) return errno = ENOSPC, -1;
  return real(name, how, mode);
}

FILE* fopen(const char* name, const char* how) {
  static const auto real = next<FILE* (*)(const char*, const char*)>("fopen");
  if (is("open") && *how != 'r' && fails()) return errno = ENOSPC, nullptr;
  return real(name, how);
}

FILE* fopen64(const char* name, const char* how) {
  return fopen(name, how);
}

void* mmap(void* at, size_t size, int protection, int flags, int file, off_t from) {
  static const auto real = next<void* (*)(void*, size_t, int, int, int, off_t)>("mmap");
  if (is("memory") && file < 0 && size >= kLargeMemory && fails()) return errno = ENOMEM, MAP_FAILED;
  return real(at, size, protection, flags, file, from);
}

void* malloc(size_t size) {
  static const auto real = next<void* (*)(size_t)>("malloc");
  if (size >= kLargeMemory && is("memory") && fails()) return errno = ENOMEM, nullptr;
  return real(size);
}

int posix_memalign(void** to, size_t alignment, size_t size) {
  static const auto real = next<int (*)(void**, size_t, size_t)>("posix_memalign");
  if (size >= kLargeMemory && is("memory") && fails()) return ENOMEM;
  return real(to, alignment, size);
}

void* aligned_alloc(size_t alignment, size_t size) {
  static const auto real = next<void* (*)(size_t, size_t)>("aligned_alloc");
  if (size >= kLargeMemory && is("memory") && fails()) return errno = ENOMEM, nullptr;
  return real(alignment, size);
}
}
