// SPDX-License-Identifier: GPL-3.0-or-later
// How demosaicing does beside every method of LibRaw, on scenes with the blur of a lens, at base and high ISO:
// ml_mosaic_table [BLUR]; and what merging by photosites gains for sets held in the hand: ml_mosaic_table hands
#include "mosaic/hands.h"
#include "mosaic/scenes.h"

#include <cstdio>
#include <cstdlib>
#include <cstring>

using namespace ml;
using namespace ml::test;

namespace {

int byHand() {
  struct Way {
    const char* name;
    std::vector<double> exposures;
    double fullWell, off;
  };
  const Way ways[] = {{"five equal", {1, 1, 1, 1, 1}, 40000, 0},
                      {"five equal, high ISO", {1, 1, 1, 1, 1}, 1500, 0},
                      {"three, 2 stops apart", {0.25, 1, 4}, 40000, 0},
                      {"five, 1 stop apart", {0.25, 0.5, 1, 2, 4}, 40000, 0},
                      {"the same, 0.15 px off", {0.25, 0.5, 1, 2, 4}, 40000, 0.15}};
  std::printf(
      "\nby hand: CPSNR dB / CIEDE2000 at edges of one developed frame, developed frames merged, photosites merged\n");
  for (const char* scene : kHandScenes) {
    HandSet set(scene, 480, 320, 0.55);
    for (const Way& way : ways) {
      set.shoot(way.exposures, way.fullWell, way.off);
      const Quality single = set.single(), photosites = set.merged();
      set.forgetPattern();
      const Quality developed = set.merged();
      std::printf("%-10s %-21s", scene, way.name);
      for (const Quality& q : {single, developed, photosites}) std::printf(" %6.2f %5.2f", q.cpsnr, q.edges);
      std::printf("\n");
    }
  }
  return 0;
}

} // namespace

int main(int argc, char** argv) {
  if (argc > 1 && std::strcmp(argv[1], "hands") == 0) return byHand();
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
