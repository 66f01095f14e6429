// SPDX-License-Identifier: GPL-3.0-or-later
// Runs seeds of one kind of set and prints how far each is from the truth:
//   ml_positions_table turned|shifted|focus FIRST COUNT [columns rows width overlap bend focal type]
//   ml_positions_table fisheyes FIRST COUNT [width largest-bend]
#include "figures.h"
#include "ingest/load_frame.h"
#include "pipeline/sphere_frames.h"
#include "sphere_sets.h"

#include <cstdio>
#include <cstdlib>
#include <random>
#include <string>

using namespace ml;
using namespace ml::test;

namespace {

std::filesystem::path freshFolder(int seed) {
  auto out = std::filesystem::temp_directory_path() / ("ml-positions-" + std::to_string(seed));
  std::filesystem::remove_all(out);
  return out;
}

void printFisheyes(int seed, int width, double bend) {
  const TwoLenses made = twoLenses(std::uint32_t(seed), width, bend);
  const auto folder = freshFolder(seed);
  shootTwoLenses(RoundRoom(std::uint32_t(seed)), made, folder, width);
  const auto frame = loadFrame(folder / "s1.tif");
  const auto found = frame ? fisheyePairOf(*frame) : std::nullopt;
  std::printf("seed %d: %.1f degrees, bend %.3f, roll %.1f: ", seed, made.degrees, made.bend, made.roll);
  if (found) {
    const LensesOff off = lensesOff(made, *found, width);
    std::printf("%.1f degrees, %.2f px left; between the lenses %.3f, there %.2f, within %.2f\n",
                2 * found->widest / kDegree, found->residual, off.between, off.ring, off.within);
  } else {
    std::printf("not found\n");
  }
  std::fflush(stdout);
  std::filesystem::remove_all(folder);
}

} // namespace

int main(int count, char** given) {
  if (count < 4) return 2;
  const std::string kind = given[1];
  const auto number = [&](int i, double usual) { return count > i ? std::atof(given[i]) : usual; };
  for (int seed = std::atoi(given[2]); seed < std::atoi(given[2]) + std::atoi(given[3]); ++seed) {
    if (kind == "fisheyes") {
      printFisheyes(seed, int(number(4, 1536)), number(5, 0));
      continue;
    }
    std::mt19937 random{std::uint32_t(seed) * 77u};
    SetPlan plan;
    plan.seed = std::uint64_t(seed);
    plan.rays = 3;
    plan.kind = kind == "shifted" ? SetKind::Shifted : kind == "focus" ? SetKind::Focus : SetKind::Turned;
    plan.columns = int(number(4, plan.kind == SetKind::Focus ? 1 : 3));
    plan.rows = int(number(5, 1));
    plan.width = int(number(6, 720));
    plan.height = plan.width * 2 / 3;
    plan.overlap = number(7, 0.4);
    plan.bend = number(8, std::uniform_real_distribution<double>(-0.05, 0.05)(random));
    plan.focal = number(9, std::uniform_real_distribution<double>(0.65, 1.6)(random));
    if (plan.kind == SetKind::Focus) plan.planes = 2, plan.bend = 0;
    if (plan.kind == SetKind::Shifted) plan.bend = 0;
    if (count > 10 && std::string(given[10]) == "dng") plan.type = zoo::FileType::Dng;
    plan.parallax = number(11, 0);
    const auto folder = freshFolder(seed);
    const PositionSet set(plan, folder);
    const auto assembly = assembleFiles({folder}, {}, {});
    if (!assembly) {
      std::printf("seed %d: f %.2f bend %.3f: %s\n", seed, plan.focal, plan.bend, assembly.error().message.c_str());
    } else {
      const Figures f = figuresOf(set, *assembly);
      std::printf("seed %d: f %.2f bend %.3f %s %s %dx%d: %.4f deg, focal %.2f %%, shift %.2f px, residual %.2f, light "
                  "%.3f, within %.4f, covered %.2f, gauge %.1f %.1f %.1f, planes",
                  seed, plan.focal, plan.bend,
                  assembly->arrangement.kind == PositionKind::Shifted ? "shifted" : "turned",
                  nameOf(assembly->canvas.projection), assembly->canvas.width, assembly->canvas.height, f.degrees,
                  100 * f.focal, f.shift, f.residual, f.light, f.within, f.covered, f.gauge[0], f.gauge[1], f.gauge[2]);
      for (const auto& p : assembly->positions) std::printf(" %d", p.plane);
      std::printf("\n");
    }
    std::fflush(stdout);
    if (!std::getenv("KEEP")) std::filesystem::remove_all(folder);
  }
}
