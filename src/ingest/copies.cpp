// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/copies.h"

#include <algorithm>
#include <cctype>
#include <fstream>
#include <set>
#include <string>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr std::size_t kPiece = 1 << 20;

bool sameBytes(const fs::path& a, const fs::path& b) {
  std::error_code error;
  if (fs::file_size(a, error) != fs::file_size(b, error) || error) return false;
  std::ifstream one(a, std::ios::binary), other(b, std::ios::binary);
  std::string p(kPiece, '\0'), q(kPiece, '\0');
  while (one && other) {
    one.read(p.data(), kPiece), other.read(q.data(), kPiece);
    if (one.gcount() != other.gcount() || !std::equal(p.begin(), p.begin() + one.gcount(), q.begin())) return false;
  }
  return one.eof() && other.eof();
}

} // namespace

std::map<fs::path, fs::path> copiesAmong(const std::vector<fs::path>& files, const StopFlag& stop) {
  const std::set<fs::path> all(files.begin(), files.end());
  std::map<fs::path, fs::path> out;
  for (const auto& file : files) {
    if (stop.requested()) return out;
    const std::string stem = file.stem().string();
    for (std::size_t n = 1; n < stem.size(); ++n) {
      if (std::isalnum(static_cast<unsigned char>(stem[n]))) continue; // what is added begins with a space or a sign
      const fs::path original = file.parent_path() / (stem.substr(0, n) + file.extension().string());
      if (all.count(original) && sameBytes(original, file)) {
        out[file] = original;
        break;
      }
    }
  }
  return out;
}

} // namespace ml
