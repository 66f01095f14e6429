// SPDX-License-Identifier: GPL-3.0-or-later
// Nine positions of three 24-megapixel JPEG frames (or as many as said) joined, with wall and processor seconds and the
// largest memory:  ml_positions_benchmark [columns rows width [look]]; look: the first look alone
#include "ingest/grouping.h"
#include "pipeline/assemble.h"
#include "position_sets.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <mutex>
#include <sys/resource.h>

using namespace ml;
using namespace ml::test;

namespace {

double wall() {
  return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}
double processor() {
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  return double(usage.ru_utime.tv_sec + usage.ru_stime.tv_sec) +
         1e-6 * double(usage.ru_utime.tv_usec + usage.ru_stime.tv_usec);
}
double gigabytes() {
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  return double(usage.ru_maxrss) / 1e6;
}

} // namespace

int main(int count, char** given) {
  SetPlan plan;
  plan.seed = 5;
  plan.columns = count > 1 ? std::atoi(given[1]) : 3;
  plan.rows = count > 2 ? std::atoi(given[2]) : 3;
  plan.width = count > 3 ? std::atoi(given[3]) : 6000;
  plan.height = plan.width * 2 / 3;
  plan.rays = 1;
  plan.focal = 1.1;
  plan.overlap = 0.33;
  const auto folder =
      std::filesystem::temp_directory_path() / "ml-positions-benchmark" /
      (std::to_string(plan.columns) + "x" + std::to_string(plan.rows) + "x" + std::to_string(plan.width));
  if (!std::filesystem::exists(folder / "done")) {
    // In a process of its own the memory of making is not measured; here the files are kept for the next run.
    const PositionSet set(plan, folder);
    std::filesystem::create_directory(folder / "done");
    std::printf("Frames are made; run again to measure.\n");
    return 0;
  }
  std::string stage;
  double begun = wall(), used = processor();
  const double start = begun;
  const auto tell = [&](const char* name) {
    std::printf("%-28s %6.1f s, %6.1f processor seconds, largest memory %.2f GB\n", name, wall() - begun,
                processor() - used, gigabytes());
    begun = wall(), used = processor();
  };
  std::mutex saying;
  const auto said = [&](const std::string& now, double) {
    const std::lock_guard lock(saying);
    if (now == stage) return;
    if (std::getenv("STAGES"))
      std::printf("  from %6.1f s, %6.1f processor seconds: %s\n", wall() - start, processor(), now.c_str());
    stage = now;
  };
  {
    AssembleOptions small;
    small.combine.edge = 700; // as the window's first look, at sets that are known
    std::vector<LeftOut> leftOut;
    Grouping known = groupFiles(collectFiles({folder}, leftOut), {});
    lookAtGroups(known, {});
    tell("sorted");
    const auto look = assembleGroups(known.sets, small, {{}, said});
    if (look) drawJoined(look->view(), [](int, ImageView<const float>) { return true; }, {});
    tell("first look");
  }
  if (count > 4) return 0;
  const double begunWhole = wall(), usedWhole = processor();
  auto assembly = assembleFiles({folder}, {}, {{}, said});
  if (!assembly) {
    std::printf("%s\n", assembly.error().message.c_str());
    return 1;
  }
  tell("combined and placed");
  drawJoined(assembly->view(), [](int, ImageView<const float>) { return true; }, {});
  tell("drawn alone");
  const auto file = folder.parent_path() / "whole.exr";
  if (auto written = writeAssembly(*assembly, file, {}); !written) std::printf("%s\n", written.error().message.c_str());
  tell("drawn and written");
  begun = begunWhole, used = usedWhole;
  tell("all");
  std::printf("%s\n", verdict(*assembly).c_str());
}
