// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/job_lock.h"
#include "base/phrase.h"

#include <array>
#include <cerrno>
#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <unistd.h>

namespace ml {
namespace {

std::string thisProgram() {
  std::array<char, 256> host{};
  ::gethostname(host.data(), host.size() - 1);
  return fmt::format("{}, process {}", host.data(), ::getpid());
}

} // namespace

JobLock::JobLock(const std::filesystem::path& folder) : folder_(folder) {
  file_ = ::open((folder / ".in-use").c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0644);
  if (file_ < 0) {
    state_ = State::NotWritable;
    return;
  }
  if (::flock(file_, LOCK_EX | LOCK_NB) == 0) {
    const std::string self = thisProgram();
    // What stands there is for people; that it could not be written harms nobody.
    if (::ftruncate(file_, 0) != 0 || ::pwrite(file_, self.data(), self.size(), 0) < 0) holder_.clear();
  } else if (errno == EWOULDBLOCK) {
    state_ = State::Elsewhere;
    std::array<char, 300> said{};
    if (const auto read = ::pread(file_, said.data(), said.size() - 1, 0); read > 0) holder_.assign(said.data());
  }
}

JobLock::~JobLock() {
  if (file_ >= 0) ::close(file_);
}

std::string whyOnlyReading(const JobLock& lock) {
  if (lock.state() == JobLock::State::NotWritable)
    return phrase("`{}` cannot be written, so this job can only be looked at; copy it to a folder of your own to "
                  "work on it.",
                  lock.folder().string());
  return phrase("Another window works on this job{}, so it can only be looked at here; close the other one and "
                "this one goes on by itself.",
                lock.holder().empty() ? "" : fmt::format(" ({})", lock.holder()));
}

} // namespace ml
