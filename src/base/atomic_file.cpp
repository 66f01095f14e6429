// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "base/phrase.h"

#include <cctype>
#include <cerrno>
#include <climits>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <iterator>
#include <unistd.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

tl::unexpected<Error> cannotWrite(const fs::path& target, const std::string& why) {
  return fail(ErrorCode::CannotWrite,
              phrase("`{}` cannot be written ({}); free some space or choose another folder.", target.string(), why));
}

/// A file, or a folder: the names in it.
bool flushToDisk(const fs::path& file) {
  const int handle = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
  if (handle < 0) return false;
  const bool done = ::fsync(handle) == 0;
  ::close(handle);
  return done;
}

constexpr const char* kMark = ".part-";

/// Of this machine: on a disk that many share, processes of others may have the same number.
const std::string& host() {
  static const std::string name = [] {
    char text[HOST_NAME_MAX + 1] = "";
    ::gethostname(text, HOST_NAME_MAX);
    std::string plain;
    for (const char* c = text; *c; ++c)
      if (std::isalnum(static_cast<unsigned char>(*c))) plain += *c;
    return plain;
  }();
  return name;
}

} // namespace

Result<void> writeAtomically(const fs::path& target, const std::function<Result<void>(const fs::path&)>& write) {
  std::error_code ignored;
  if (target.has_parent_path()) fs::create_directories(target.parent_path(), ignored);
  fs::path temporary = target;
  temporary.replace_filename("." + target.stem().string() + kMark + std::to_string(::getpid()) + "-" + host() +
                             target.extension().string());
  const auto writeOrClear = [&] {
    try {
      return write(temporary);
    } catch (...) { // no memory, say
      fs::remove(temporary, ignored);
      throw;
    }
  };
  auto written = writeOrClear();
  if (written && !flushToDisk(temporary)) written = cannotWrite(target, std::strerror(errno));
  if (written && ::rename(temporary.c_str(), target.c_str()) != 0) written = cannotWrite(target, std::strerror(errno));
  if (written) {
    // Some network folders cannot be flushed; the file is there all the same.
    flushToDisk(target.has_parent_path() ? target.parent_path() : fs::path("."));
    return {};
  }
  fs::remove(temporary, ignored);
  Error error = written.error(); // it names the user's file, whatever the writer was given
  for (std::size_t at; (at = error.message.find(temporary.string())) != std::string::npos;)
    error.message.replace(at, temporary.string().size(), target.string());
  return tl::unexpected(std::move(error));
}

void clearLeftovers(const fs::path& folder) {
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder, error)) {
    const std::string name = entry.path().filename().string();
    const auto at = name.find(kMark);
    if (name.front() != '.' || at == std::string::npos) continue;
    const std::string mark = name.substr(at + std::strlen(kMark));
    const int writer = std::atoi(mark.c_str());
    const auto where = mark.find('-');
    if (where != std::string::npos && !mark.substr(where + 1).starts_with(host())) continue; // another machine's
    const bool alive = writer > 0 && (::kill(writer, 0) == 0 || errno == EPERM);
    if (!alive) fs::remove(entry.path(), error);
  }
}

Result<void> writeTextAtomically(const fs::path& target, std::string_view text) {
  return writeAtomically(target, [&](const fs::path& temporary) -> Result<void> {
    std::ofstream out(temporary, std::ios::binary);
    out.write(text.data(), static_cast<std::streamsize>(text.size()));
    out.close();
    if (!out) return cannotWrite(target, std::strerror(errno));
    return {};
  });
}

Result<std::string> readText(const fs::path& file) {
  std::ifstream in(file, std::ios::binary);
  if (!in)
    return fail(ErrorCode::FileMissing, phrase("`{}` cannot be opened; check that it is still there.", file.string()));
  return std::string(std::istreambuf_iterator<char>(in), {});
}

} // namespace ml
