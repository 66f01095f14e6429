// SPDX-License-Identifier: GPL-3.0-or-later
// Runs a fuzz target over files, without a fuzzer: the kept corpus is part of the tests.
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <string>
#include <vector>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size);

int main(int count, char** arguments) {
  std::size_t runs = 0;
  for (int i = 1; i < count; ++i) {
    std::vector<std::filesystem::path> files;
    if (std::filesystem::is_directory(arguments[i]))
      for (const auto& entry : std::filesystem::directory_iterator(arguments[i])) files.push_back(entry.path());
    for (const auto& file : files) {
      std::ifstream in(file, std::ios::binary);
      const std::string bytes((std::istreambuf_iterator<char>(in)), {});
      // Each file whole, and cut at every eighth: parsers meet an early end at many places.
      for (int part = 8; part >= 0; --part, ++runs)
        LLVMFuzzerTestOneInput(reinterpret_cast<const unsigned char*>(bytes.data()),
                               bytes.size() * std::size_t(part) / 8);
    }
  }
  std::printf("%zu runs\n", runs);
  return runs > 0 ? 0 : 1;
}
