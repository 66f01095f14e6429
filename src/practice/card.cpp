// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/card.h"

#include "exposure/marks.h"

#include <fmt/format.h>
#include <random>

namespace ml {
namespace {

struct Clock {
  double seconds = 9 * 3600 + 12 * 60;
  [[nodiscard]] std::string words() const {
    const int at = int(seconds);
    return fmt::format("{:02d}:{:02d}:{:02d}", at / 3600, at / 60 % 60, at % 60);
  }
};

} // namespace

SortTruth messyCard(std::uint64_t seed, int level) {
  std::mt19937_64 random(seed);
  const auto upTo = [&](int count) { return int(random() % std::uint64_t(count)); };
  static const std::vector<std::string> views{"the reading room, window left", "the boat hall, doors open",
                                              "the stair from below",          "the net loft under its beams",
                                              "the kitchen with the stove",    "the jetty from the shore"};
  SortTruth out;
  Clock clock;
  int number = 1 + upTo(900), set = 0;
  const auto add = [&](const ExposureSettings& settings, const std::string& seen, int of) {
    out.frames.push_back({fmt::format("FRAME{:04d}", number++), clock.words(), settings, seen, of});
  };
  const int sets = level == 1 ? 2 : level == 2 ? 4 : 6;
  for (int i = 0; i < sets; ++i) {
    const bool again = level > 1 && i > 0 && upTo(3) == 0; // the same view once more
    const std::string& view = views[std::size_t((again ? i - 1 : i) % int(views.size()))];
    const int count = 3 + 2 * upTo(2), step = level == 3 && upTo(2) ? 3 : 6, first = 12 + upTo(12);
    for (int k = 0; k < count; ++k) {
      const int place = k == 0 ? count / 2 : k <= count / 2 ? k - 1 : k; // the middle first
      const ExposureSettings settings{timeAtThirds(first - step * place), {8}, {100}};
      add(settings, view, set);
      clock.seconds += 0.5 + settings.time.value;
    }
    ++set;
    clock.seconds += level == 3 ? 6 + upTo(10) : 25 + upTo(60);
    if (level > 1 && upTo(2)) {
      add({timeAtThirds(first), {8}, {100}}, "a thumb", -1);
      clock.seconds += 8;
    }
    if (level == 3 && upTo(3) == 0) {
      add({timeAtThirds(18), {5.6}, {400}}, "somebody's shoes", -1);
      clock.seconds += 12;
    }
  }
  return out;
}

} // namespace ml
