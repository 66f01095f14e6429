// SPDX-License-Identifier: GPL-3.0-or-later
#include "standin/card.h"

#include "ptp/codes.h"

#include <algorithm>
#include <chrono>
#include <ctime>
#include <fmt/format.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr std::uint32_t kTop = 1, kFolder = 2;
constexpr double kMega = 1e6;

std::uint16_t formatOf(const fs::path& file) {
  if (file.extension() == ".JPG") return ptp::format::kJpeg;
  if (file.extension() == ".DNG") return ptp::format::kDng;
  return ptp::format::kUndefined;
}

/// "20260514T101500", local.
std::string stampOf(const fs::path& file) {
  std::error_code error;
  const auto changed = fs::last_write_time(file, error);
  if (error) return {};
  const auto system = std::chrono::time_point_cast<std::chrono::seconds>(changed - fs::file_time_type::clock::now() +
                                                                         std::chrono::system_clock::now());
  const std::time_t seconds = std::chrono::system_clock::to_time_t(system);
  std::tm parts{};
  localtime_r(&seconds, &parts);
  return fmt::format("{:04d}{:02d}{:02d}T{:02d}{:02d}{:02d}", parts.tm_year + 1900, parts.tm_mon + 1, parts.tm_mday,
                     parts.tm_hour, parts.tm_min, parts.tm_sec);
}

ptp::Bytes objectInfo(std::uint16_t format, std::uint64_t size, std::uint32_t parent, const std::string& name,
                      const std::string& stamp) {
  ptp::ByteWriter out;
  out.u32(CardFiles::kStorage).u16(format).u16(0).u32(size).u16(0).u32(0).u32(0).u32(0);
  out.u32(0).u32(0).u32(0).u32(parent).u16(format == ptp::format::kFolder ? 1 : 0).u32(0).u32(0);
  return out.text(name).text(stamp).text(stamp).text("").take();
}

} // namespace

CardFiles::CardFiles(fs::path folder, double megabytes) : folder_(std::move(folder)), megabytes_(megabytes) {
  std::error_code error;
  fs::create_directories(folder_, error);
  std::vector<fs::path> there;
  for (const auto& entry : fs::directory_iterator(folder_, error))
    if (formatOf(entry.path()) != ptp::format::kUndefined) there.push_back(entry.path());
  std::sort(there.begin(), there.end());
  for (const auto& file : there) {
    add(file);
    int number = 0;
    if (std::sscanf(file.stem().c_str(), "LNT_%d", &number) == 1) frames_ = std::max(frames_, number);
  }
}

std::string CardFiles::nextName() {
  return fmt::format("LNT_{:04d}", ++frames_);
}

std::uint32_t CardFiles::add(const fs::path& file) {
  files_[nextHandle_] = file;
  return nextHandle_++;
}

void CardFiles::remove(std::uint32_t handle) {
  std::error_code error;
  if (const fs::path* there = file(handle)) fs::remove(*there, error);
  files_.erase(handle);
}

void CardFiles::empty() {
  while (!files_.empty()) remove(files_.begin()->first);
}

std::vector<std::uint32_t> CardFiles::handles(std::uint32_t parent) const {
  if (parent == 0xFFFFFFFF) return {kTop};
  if (parent == kTop) return {kFolder};
  std::vector<std::uint32_t> all;
  if (parent == 0) all = {kTop, kFolder};
  if (parent == 0 || parent == kFolder)
    for (const auto& [handle, path] : files_) all.push_back(handle);
  return all;
}

ptp::Bytes CardFiles::info(std::uint32_t handle) const {
  if (handle == kTop) return objectInfo(ptp::format::kFolder, 0, 0, "DCIM", "");
  if (handle == kFolder) return objectInfo(ptp::format::kFolder, 0, kTop, "100LNTRN", "");
  const fs::path* path = file(handle);
  if (!path) return {};
  std::error_code error;
  const auto size = fs::file_size(*path, error);
  return error ? ptp::Bytes{} : objectInfo(formatOf(*path), size, kFolder, path->filename().string(), stampOf(*path));
}

ptp::Bytes CardFiles::storageInfo() const {
  constexpr double kTypicalFrame = 25;
  const double left = freeMegabytes();
  ptp::ByteWriter out;
  out.u16(4).u16(3).u16(0); // removable memory, camera file system, read and write
  out.u64(std::uint64_t(megabytes_ * kMega)).u64(std::uint64_t(left * kMega)).u32(std::uint32_t(left / kTypicalFrame));
  return out.text("Card").text("").take();
}

const fs::path* CardFiles::file(std::uint32_t handle) const {
  const auto found = files_.find(handle);
  return found == files_.end() ? nullptr : &found->second;
}

double CardFiles::freeMegabytes() const {
  double used = 0;
  for (const auto& [handle, path] : files_) {
    std::error_code error;
    const auto size = fs::file_size(path, error);
    if (!error) used += double(size);
  }
  return std::max(0.0, megabytes_ - used / kMega);
}

} // namespace ml
