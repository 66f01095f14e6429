// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <filesystem>
#include <memory>
#include <string>

namespace ml {

/// Who writes into a job's folder: one program at a time. `.in-use` there is locked (flock) as long as one of these
/// lives, and says by whom; a program that dies lets go of it.
class JobLock {
public:
  enum class State {
    Held,       ///< By this program.
    Elsewhere,  ///< By another, on this machine or on one that shares the folder.
    NotWritable ///< The folder cannot be written by this user.
  };
  explicit JobLock(const std::filesystem::path& folder);
  ~JobLock();
  JobLock(const JobLock&) = delete;
  JobLock& operator=(const JobLock&) = delete;

  /// Where the file system knows no locks, the job counts as held: nobody can be told there.
  [[nodiscard]] State state() const { return state_; }
  [[nodiscard]] const std::filesystem::path& folder() const { return folder_; }
  /// Machine and process that hold it; empty when it is held here, or when they did not say.
  [[nodiscard]] const std::string& holder() const { return holder_; }

private:
  std::filesystem::path folder_;
  int file_ = -1;
  State state_ = State::Held;
  std::string holder_;
};

/// Why the job can only be looked at, and what to do. Of a lock that is not held.
[[nodiscard]] std::string whyOnlyReading(const JobLock& lock);

} // namespace ml
