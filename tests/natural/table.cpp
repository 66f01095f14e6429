// SPDX-License-Identifier: GPL-3.0-or-later
// How natural the automatic finish is, beside the photographer's frames and a general library's fusion: a line a set,
// and pictures by hand.
//   ml_natural [ZOO_SETS] [FOLDER_FOR_PICTURES]
#include "natural/natural_sets.h"

#include <cstdio>
#include <cstdlib>
#include <opencv2/imgcodecs.hpp>

using namespace ml;
using namespace ml::test;

int main(int argc, char** argv) {
  const int zoo = argc > 1 ? std::atoi(argv[1]) : 18;
  const std::filesystem::path pictures = argc > 2 ? argv[2] : "",
                              work = std::filesystem::temp_directory_path() / "natural";
  std::filesystem::create_directories(work);
  std::printf("%-34s %28s   %28s\n", "", "ours", "fusion");
  std::printf("%-34s %6s %5s %5s %5s %5s %5s %5s\n", "set", "signed", "abs", "contr", "in", "white", "clip%", "dis%");
  NaturalFigures sums[2];
  int count = 0;
  forEachNaturalSet(zoo, zoo >= 18 || zoo == 1, work, [&](const NaturalSet& set) {
    const NaturalFigures f[2] = {figuresOf(set.ours, set.frames, set.light),
                                 figuresOf(set.theirs, set.frames, set.light)};
    std::printf("%-34s", set.name.c_str());
    for (int k = 0; k < 2; ++k) {
      std::printf(" %6.1f %5.1f %5.2f %5.2f %5.1f %5.2f %5.1f  |", f[k].signedL, f[k].absoluteL, f[k].contrast,
                  f[k].within, f[k].white, 100 * f[k].atWhite, 100 * f[k].disorder);
      sums[k].signedL += f[k].signedL, sums[k].absoluteL += f[k].absoluteL, sums[k].contrast += f[k].contrast,
          sums[k].within += f[k].within, sums[k].white += f[k].white;
      sums[k].atWhite += f[k].atWhite, sums[k].disorder += f[k].disorder;
    }
    std::printf("\n");
    std::fflush(stdout);
    ++count;
    if (pictures.empty()) return;
    const Picture* shown[] = {&set.frames[meteredOf(set.frames)], &set.ours, &set.theirs};
    cv::Mat sheet(set.ours.height(), 3 * set.ours.width(), CV_8UC3);
    for (int k = 0; k < 3; ++k)
      for (int y = 0; y < set.ours.height(); ++y)
        for (int x = 0; x < set.ours.width(); ++x)
          for (int c = 0; c < 3; ++c) sheet.at<cv::Vec3b>(y, k * set.ours.width() + x)[2 - c] = shown[k]->at(x, y)[c];
    std::filesystem::create_directories(pictures);
    cv::imwrite((pictures / (set.name + ".png")).string(), sheet);
  });
  std::printf("%-34s", "mean");
  for (const auto& s : sums)
    std::printf(" %6.1f %5.1f %5.2f %5.2f %5.1f %5.2f %5.1f  |", s.signedL / count, s.absoluteL / count,
                s.contrast / count, s.within / count, s.white / count, 100 * s.atWhite / count,
                100 * s.disorder / count);
  std::printf("\n");
  return 0;
}
