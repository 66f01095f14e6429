// SPDX-License-Identifier: GPL-3.0-or-later
// How demosaicing does beside every method of LibRaw, on scenes with the blur of a lens, at base and high ISO:
// ml_mosaic_table [BLUR]
#include "mosaic/scenes.h"

#include <cstdio>
#include <cstdlib>

using namespace ml;
using namespace ml::test;

int main(int argc, char** argv) {
  const double blur = argc > 1 ? std::atof(argv[1]) : 0.55;
  const std::filesystem::path file = std::filesystem::temp_directory_path() / "ml-mosaic.dng";
  struct Method {
    const char* name;
    int quality;
  };
  constexpr Method kMethods[] = {{"ours", -1}, {"linear", 0}, {"VNG", 1},  {"PPG", 2},
                                 {"AHD", 3},   {"DCB", 4},    {"DHT", 11}, {"AAHD", 12}};
  for (const auto& [well, noise, what] :
       {std::tuple{0.0, 0.0, "no noise"}, {50000.0, 3.0, "base ISO"}, {3000.0, 3.0, "high ISO"}}) {
    std::printf("\n%s: CPSNR dB / CIEDE2000 at edges / coloured %%\n%-10s", what, "");
    for (const Method& m : kMethods) std::printf(" %18s", m.name);
    std::printf("\n");
    std::vector<Quality> sums(std::size(kMethods));
    int count = 0;
    for (const MosaicScene& scene : mosaicScenes(480, 320, blur)) {
      writeMosaicDng(file, mosaicked(scene.truth, well, noise, 0, 0, 1), 0, 0);
      std::printf("%-10s", scene.name.c_str());
      for (std::size_t k = 0; k < std::size(kMethods); ++k) {
        const Quality q = qualityOf(
            kMethods[k].quality < 0 ? developedByUs(file) : developedByLibrary(file, kMethods[k].quality), scene.truth);
        std::printf(" %6.2f %5.2f %5.2f", q.cpsnr, q.edges, 100 * q.coloured);
        sums[k].cpsnr += q.cpsnr, sums[k].edges += q.edges, sums[k].coloured += q.coloured;
      }
      std::printf("\n");
      ++count;
    }
    std::printf("%-10s", "mean");
    for (const Quality& s : sums)
      std::printf(" %6.2f %5.2f %5.2f", s.cpsnr / count, s.edges / count, 100 * s.coloured / count);
    std::printf("\n");
  }
}
