// SPDX-License-Identifier: GPL-3.0-or-later
#include "deliver/row_spool.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "codec/exr.h"
#include "deliver/deliver.h"
#include "image/half.h"
#include "image/mend_light.h"

#include <algorithm>
#include <cerrno>
#include <fcntl.h>
#include <stdexcept>
#include <stdlib.h>
#include <string>
#include <system_error>
#include <unistd.h>
#include <vector>

namespace ml {
namespace fs = std::filesystem;
namespace {

std::size_t bytesOfRow(int width) {
  return 3 * sizeof(std::uint16_t) * std::size_t(width);
}

/// A file that no folder lists. -1: none.
int namelessFile(const fs::path& folder) {
  const int file = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0600);
  if (file >= 0) return file;
  // Not every file system knows such files.
  std::string name = (folder / "mellow-lantern-XXXXXX").string();
  const int named = ::mkostemp(name.data(), O_CLOEXEC);
  if (named >= 0) ::unlink(name.c_str());
  return named;
}

tl::unexpected<Error> noRoom(const fs::path& folder, double bytes, int why) {
  return fail(ErrorCode::CannotWrite,
              phrase("`{}` cannot take the {:.1f} GB that are needed while so large a picture is finished ({}); make "
                     "room there, or deliver to another folder.",
                     folder.string(), bytes / 1e9, std::generic_category().message(why)));
}

/// All of `bytes` at `offset`, in as many turns as the system wants.
template <class Turn> bool inTurns(std::size_t bytes, std::size_t offset, const Turn& turn) {
  for (std::size_t done = 0; done < bytes;) {
    const ::ssize_t now = turn(done, bytes - done, ::off_t(offset + done));
    if (now < 0 && errno == EINTR) continue;
    if (now <= 0) return false;
    done += std::size_t(now);
  }
  return true;
}

} // namespace

Result<std::unique_ptr<RowSpool>> RowSpool::in(const fs::path& folder, int width, int height) {
  const double bytes = double(bytesOfRow(width)) * height;
  std::error_code error;
  fs::create_directories(folder, error);
  if (const auto space = fs::space(folder, error); !error && double(space.available) < bytes)
    return noRoom(folder, bytes, ENOSPC);
  const int file = namelessFile(folder);
  if (file < 0) return noRoom(folder, bytes, errno);
  return std::unique_ptr<RowSpool>(new RowSpool(folder, file, width, height));
}

RowSpool::~RowSpool() {
  ::close(file_);
}

Result<void> RowSpool::append(ImageView<const float> rows) {
  const int count = std::min(rows.height, height_ - written_);
  if (count <= 0) return {};
  std::vector<std::uint16_t> halves(std::size_t(count) * 3 * std::size_t(width_));
  forEachBand(count, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      toHalf(rows.row(y), 3 * width_, halves.data() + std::size_t(y) * 3 * std::size_t(width_));
  });
  const auto* bytes = reinterpret_cast<const char*>(halves.data());
  const std::size_t row = bytesOfRow(width_);
  if (!inTurns(std::size_t(count) * row, std::size_t(written_) * row,
               [&](std::size_t at, std::size_t n, ::off_t to) { return ::pwrite(file_, bytes + at, n, to); }))
    return noRoom(folder_, double(row) * height_, errno);
  written_ += count;
  return {};
}

void RowSpool::read(int begin, ImageView<float> rows) const {
  const std::size_t row = bytesOfRow(width_);
  std::vector<std::uint16_t> halves(std::size_t(rows.height) * 3 * std::size_t(width_));
  auto* bytes = reinterpret_cast<char*>(halves.data());
  if (!inTurns(std::size_t(rows.height) * row, std::size_t(begin) * row,
               [&](std::size_t at, std::size_t n, ::off_t from) { return ::pread(file_, bytes + at, n, from); }))
    throw std::runtime_error(
        phrase("what was kept in `{}` while the picture is finished cannot be read", folder_.string()));
  for (int y = 0; y < rows.height; ++y)
    fromHalf(halves.data() + std::size_t(y) * 3 * std::size_t(width_), 3 * width_, rows.row(y));
}

namespace {

/// OpenEXR of three channels, band by band; what is infinite becomes the brightest of its band.
Result<std::unique_ptr<RowSpool>> spooled(const fs::path& file, const ExrSize& size, const StopFlag& stop) {
  auto spool = RowSpool::in(file.has_parent_path() ? file.parent_path() : fs::path("."), size.width, size.height);
  if (std::error_code error; !spool) spool = RowSpool::in(fs::temp_directory_path(error), size.width, size.height);
  if (!spool) return spool;
  Result<void> written;
  const auto read = readExrInBands(
      file,
      [&](int, ImageView<const float> rows) {
        if (!written) return;
        Image<float> light(rows.width, rows.height, 3);
        for (int y = 0; y < rows.height; ++y) std::copy_n(rows.row(y), 3 * rows.width, light.row(y));
        mendLight(light);
        written = (*spool)->append(light.view());
      },
      stop);
  if (!read) return passOn(read.error());
  if (!written) return passOn(written.error());
  return spool;
}

} // namespace

Result<OpenRadiance> openRadiance(const fs::path& file, const StopFlag& stop, double spooledFrom) {
  const auto kind = sniff(file);
  if (kind && *kind == FileKind::OpenExr)
    if (const auto size = exrSize(file);
        size && size->channels == 3 && double(size->width) * size->height >= spooledFrom) {
      auto spool = spooled(file, *size, stop);
      if (!spool) return passOn(spool.error());
      return OpenRadiance(std::move(*spool));
    }
  auto whole = readRadiance(file, stop);
  if (!whole) return passOn(whole.error());
  return OpenRadiance(std::move(*whole));
}

} // namespace ml
