// SPDX-License-Identifier: GPL-3.0-or-later
// How long a dragged control takes to redraw the preview, the visible part at 100 %, and the whole picture.
#include "base/parallel.h"
#include "finish/finish.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <functional>

using namespace ml;

namespace {

double now() {
  return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

Image<float> scene(int width, int height) {
  Image<float> out(width, height, 3);
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < 3; ++c) {
          const float u = float(x) / float(width), v = float(y) / float(height);
          const float log = 4 * std::sin(7 * u) * std::cos(5 * v) + 0.5f * std::sin(90 * u + 60 * v + float(c) * 0.4f) +
                            (u > 0.4f && u < 0.6f && v > 0.3f && v < 0.6f ? 4.f : 0.f);
          out.at(x, y)[c] = 0.1f * std::exp2(log);
        }
  });
  return out;
}

struct Timing {
  double median, worst;
};
Timing timed(int runs, const std::function<void(int)>& work) {
  std::vector<double> times;
  for (int i = 0; i < runs; ++i) {
    const double start = now();
    work(i);
    times.push_back(now() - start);
  }
  std::sort(times.begin(), times.end());
  return {times[times.size() / 2], times.back()};
}

} // namespace

int main(int count, char**) {
  const Image<float> preview = scene(1536, 1024);
  const ToneAnalysis analysis = analyseTone(preview.view());
  std::vector<std::uint8_t> screen(std::size_t(3) * 1536 * 1024);
  Recipe rich; // areas, hues and pulls in place, as late in the work
  rich.hues = {{45, 40, -0.2, 0.1}, {220, 40, -0.2, 0}};
  Area oval, window;
  oval.exposure = 0.4, oval.warmth = 0.1;
  window.shape = AreaShape::Windows, window.exposure = -0.4, window.saturation = 0.1;
  rich.areas = {oval, window};
  rich.tone.pulls = {{analysis.histogram.below(0.5), -2.2}};
  struct Control {
    const char* name;
    std::function<void(Recipe&, double)> move; ///< 0..1
  };
  const Control controls[] = {
      {"brightness", [](Recipe& r, double t) { r.tone.exposure = t; }},
      {"window with room", [](Recipe& r, double t) { r.tone.balance = t; }},
      {"texture", [](Recipe& r, double t) { r.tone.detail = 1 + t; }},
      {"form", [](Recipe& r, double t) { r.tone.form = 1 + t; }},
      {"warmth", [](Recipe& r, double t) { r.tone.warmth = t; }},
      {"depth of colour", [](Recipe& r, double t) { r.tone.saturation = 1 + t / 2; }},
      {"pale colours", [](Recipe& r, double t) { r.tone.vivid = t; }},
      {"veil", [](Recipe& r, double t) { r.tone.veil = t; }},
      {"a tie of the Ladder",
       [&](Recipe& r, double t) {
         r.tone.pulls = {{analysis.histogram.below(0.5), -3 + t}};
       }},
      {"one hue",
       [](Recipe& r, double t) {
         r.hues = {{45, 40, -t, 0}};
       }},
      {"an area's brightness",
       [&](Recipe& r, double t) {
         r.areas = {oval, window}, r.areas[0].exposure = t;
       }},
  };
  std::printf("%-24s %12s %10s   %s\n", "1536 x 1024 preview", "median ms", "worst ms", "with areas and hues in place");
  if (count > 1) { // for a profiler: one control, often
    Finisher finisher(analysis);
    for (int i = 0; i < 200; ++i) {
      Recipe r = rich;
      r.tone.exposure = i / 200.0;
      if (!finisher.finishBytes(preview.view(), r, {}, screen.data(), 3 * 1536, {})) std::abort();
    }
    return 0;
  }
  for (const Recipe& start : {Recipe{}, rich})
    for (const Control& c : controls) {
      Finisher finisher(analysis);
      Recipe recipe = start;
      const auto draw = [&](int i) {
        c.move(recipe, i / 40.0);
        if (!finisher.finishBytes(preview.view(), recipe, {}, screen.data(), 3 * 1536, {})) std::abort();
      };
      draw(0);
      const Timing t = timed(40, draw);
      std::printf("%-24s %12.1f %10.1f   %s\n", c.name, t.median, t.worst, start.areas.empty() ? "" : "yes");
    }
  const Image<float> full = scene(6000, 4000);
  Finisher finisher(analysis);
  std::vector<std::uint8_t> part(std::size_t(3) * 1280 * 800);
  const Timing visible = timed(15, [&](int i) {
    Recipe recipe;
    recipe.tone.exposure = i / 15.0;
    if (!finisher.finishBytes(full.view(), recipe, {2000, 1500, 1280, 800}, part.data(), 3 * 1280, {})) std::abort();
  });
  std::printf("%-24s %12.1f %10.1f\n", "100 %, 1280 x 800", visible.median, visible.worst);
  const Timing whole = timed(5, [&](int) {
    if (!finishRadiance(full.view(), {}, 0, nullptr, {})) std::abort();
  });
  std::printf("%-24s %12.1f %10.1f\n", "6000 x 4000, all", whole.median, whole.worst);
  const Timing wholeRich = timed(3, [&](int) {
    Recipe r = rich;
    r.geometry.pitch = 4, r.geometry.roll = 1;
    if (!finishRadiance(full.view(), r, 0, nullptr, {})) std::abort();
  });
  std::printf("%-24s %12.1f %10.1f   straightened too\n", "6000 x 4000, rich", wholeRich.median, wholeRich.worst);
}
