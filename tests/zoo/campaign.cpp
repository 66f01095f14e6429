// SPDX-License-Identifier: GPL-3.0-or-later
// The full campaign: thousands of sets by hand. One line of JSON a set on standard output, the rates on standard error.
//   ml_zoo judge|align|passed|stood|merge|walkers|look|draw COUNT [FIRST_SEED] [dng|jpeg|heif|mixed] [--keep FOLDER]
//          [--fault NAME] [--larger TIMES]
// passed: hand-held frames that somebody walks through, aligned; stood: the same on a stand.
#include "zoo/figures.h"

#include "base/parallel.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <mutex>
#include <thread>

using namespace ml;
using namespace ml::zoo;
namespace fs = std::filesystem;

namespace {

struct Order {
  std::string what;
  int count = 100;
  std::uint64_t first = 1;
  std::string type = "mixed";
  fs::path keep;
  int larger = 1;            ///< Times the usual size.
  Spoil fault = Spoil::None; ///< Of every second set; none: each fault in its turn.
};

FileType typeOf(const Order& order, std::uint64_t seed) {
  if (order.type == "dng") return FileType::Dng;
  if (order.type == "jpeg") return FileType::Jpeg;
  if (order.type == "heif") return FileType::Heif;
  Random random(seed, 31);
  return random.chance(0.45) ? FileType::Dng : random.chance(0.85) ? FileType::Jpeg : FileType::Heif;
}

SetOptions drawn(const Order& order, std::uint64_t seed) {
  Random random(seed, 32);
  SetOptions o;
  o.seed = seed;
  o.type = typeOf(order, seed);
  static constexpr int kSizes[][2] = {{768, 512}, {900, 600}, {640, 480}, {1080, 720}};
  const auto& size = kSizes[(seed / 8) % 4];
  o.width = order.larger * size[0], o.height = order.larger * size[1];
  o.flicker = random.chance(1 / 6.0);
  o.leaves = random.chance(0.2);
  o.handHeld = random.chance(0.35);
  return o;
}

void spoil(SetOptions& o, const Order& order) {
  if (o.seed % 2) o.spoil = order.fault != Spoil::None ? order.fault : Spoil(1 + int(o.seed / 2) % kSpoils);
  if (o.spoil != Spoil::None && o.spoil != Spoil::PasserBy) o.leaves = false;
  if (o.spoil == Spoil::Nudged) o.handHeld = false;
}

std::string jsonText(std::string s) {
  std::string out;
  for (const char c : s) {
    if (c == '"' || c == '\\') out += '\\';
    out += c == '\n' ? ' ' : c;
  }
  return out;
}

struct Line {
  std::string json;
  std::vector<double> values;
};

std::string head(const MadeSet& set, const SetOptions& o) {
  char text[400];
  std::snprintf(text, sizeof text,
                "{\"seed\":%llu,\"type\":\"%s\",\"curve\":\"%s\",\"frames\":%zu,\"step\":%.2f,\"hand\":%d,\"flicker\":%"
                "d,\"leaves\":%d,\"spoil\":\"%s\"",
                (unsigned long long)o.seed,
                o.type == FileType::Dng    ? "dng"
                : o.type == FileType::Jpeg ? "jpeg"
                                           : "heif",
                o.type == FileType::Dng ? "" : kCurveNames[set.camera.curve.family], set.frames.size(),
                set.frames.size() > 1 ? std::log2(set.frames[1].shot.seconds / set.frames[0].shot.seconds) : 0.0,
                o.handHeld, o.flicker, o.leaves, nameOf(o.spoil));
  return text;
}

double quantileOf(std::vector<double> values, double q) {
  if (values.empty()) return 0;
  std::sort(values.begin(), values.end());
  return values[std::min(values.size() - 1, std::size_t(q * double(values.size())))];
}

/// Sets of eight seeds share a scene, so that drawing it costs little.
void forEachSet(const Order& order,
                const std::function<void(std::uint64_t, const std::shared_ptr<const Scene>&, const fs::path&)>& work) {
  const OnThisThread single;
  std::atomic<std::uint64_t> next{order.first / 8};
  const std::uint64_t last = order.first + std::uint64_t(order.count);
  const auto worker = [&] {
    const OnThisThread enough;
    for (std::uint64_t group = next++; group * 8 < last; group = next++) {
      std::shared_ptr<const Scene> scene;
      for (std::uint64_t seed = std::max(order.first, group * 8); seed < std::min(last, group * 8 + 8); ++seed) {
        const SetOptions o = drawn(order, seed);
        if (!scene) scene = sceneOf(group, o.width, o.height);
        const fs::path folder =
            (order.keep.empty() ? fs::temp_directory_path() : order.keep) / ("zoo-" + std::to_string(seed));
        fs::create_directories(folder);
        work(seed, scene, folder);
        if (order.keep.empty()) fs::remove_all(folder);
      }
    }
  };
  std::vector<std::thread> threads;
  for (unsigned k = 0; k < std::max(1u, std::thread::hardware_concurrency()); ++k) threads.emplace_back(worker);
  for (auto& t : threads) t.join();
}

std::mutex telling;
void tell(const std::string& line) {
  const std::lock_guard lock(telling);
  std::printf("%s\n", line.c_str());
  std::fflush(stdout);
}

const char* saidName(Said said) {
  return said == Said::Holds ? "holds" : said == Said::Not ? "not" : "cannot";
}

void judgeAll(const Order& order) {
  struct Count {
    int sound = 0, spoiled = 0, alarms = 0, misses = 0, cannot = 0;
  };
  Count landed[2], card[2]; // raw, rendered
  forEachSet(order, [&](std::uint64_t seed, const auto& scene, const fs::path& folder) {
    SetOptions o = drawn(order, seed);
    spoil(o, order);
    const MadeSet set(scene, o, folder);
    const Judged a = judgedAsItLands(set, o.handHeld), b = inspected(set);
    const auto count = [&](Count& c, Said said, bool spoiled) {
      (spoiled ? c.spoiled : c.sound) += 1;
      c.cannot += said == Said::CannotTell;
      if (spoiled)
        c.misses += said == Said::Holds;
      else
        c.alarms += said == Said::Not;
    };
    const bool spoiled = o.spoil != Spoil::None, unseen = o.spoil == Spoil::CardFull || o.spoil == Spoil::Disconnected;
    {
      const std::lock_guard lock(telling);
      count(landed[o.type != FileType::Dng], a.said, spoiled);
      if (!unseen) count(card[o.type != FileType::Dng], b.said, spoiled);
    }
    const bool wrong = spoiled ? a.said == Said::Holds || (b.said == Said::Holds && !unseen)
                               : a.said == Said::Not || b.said == Said::Not;
    tell(head(set, o) + ",\"landed\":\"" + saidName(a.said) + "\",\"card\":\"" + saidName(b.said) +
         "\",\"wrong\":" + (wrong ? "1" : "0") + ",\"words\":\"" + jsonText(a.sentence) + "\",\"cardWords\":\"" +
         jsonText(b.sentence) + "\"}");
  });
  for (int r = 0; r < 2; ++r)
    for (int path = 0; path < 2; ++path) {
      const Count& c = path ? card[r] : landed[r];
      std::fprintf(stderr, "%s, %s: alarms %d of %d sound, misses %d of %d spoiled, cannot tell %d of %d\n",
                   r ? "rendered" : "raw", path ? "on the card" : "as it lands", c.alarms, c.sound, c.misses, c.spoiled,
                   c.cannot, c.sound + c.spoiled);
    }
}

void alignAll(const Order& order) {
  std::vector<double> held;
  int tripod = 0, exact = 0, left = 0, assumed = 0;
  std::vector<double> off;
  forEachSet(order, [&](std::uint64_t seed, const auto& scene, const fs::path& folder) {
    SetOptions o = drawn(order, seed);
    o.walker = order.what == "passed" || order.what == "stood";
    o.handHeld = order.what != "stood" && (o.walker || seed % 2);
    const MadeSet set(scene, o, folder);
    for (const PlacedFigure& f : placedFrames(set)) {
      {
        const std::lock_guard lock(telling);
        left += f.leftOut;
        assumed += f.assumed;
        if (o.handHeld) {
          if (!f.leftOut && !f.assumed) held.push_back(f.error);
        } else {
          ++tripod;
          exact += f.exact;
          if (!f.exact) off.push_back(f.error);
        }
      }
      char text[400];
      std::snprintf(text, sizeof text,
                    ",\"frame\":%d,\"error\":%.4f,\"exact\":%d,\"left\":%d,\"assumed\":%d,\"clipped\":%.3f,\"dark\":%."
                    "3f,\"stops\":%.2f,\"residual\":%.3f,\"correlation\":%.3f,\"informative\":%.4f,\"shift\":%.2f}",
                    f.frame, f.error, f.exact, f.leftOut, f.assumed, f.clipped, f.dark, f.stops, f.residual,
                    f.correlation, f.informative, f.shift);
      tell(head(set, o) + text);
    }
  });
  std::fprintf(stderr, "tripod: %d of %d exactly in place (%.1f %%), others off by %.2f at the median, %.2f at most\n",
               exact, tripod, 100.0 * exact / std::max(1, tripod), quantileOf(off, 0.5), quantileOf(off, 1));
  int within3 = 0, within6 = 0;
  for (const double e : held) within3 += e <= 0.3, within6 += e <= 0.6;
  std::fprintf(stderr,
               "hand-held: %zu frames, %.1f %% within 0.3 px, %.1f %% within 0.6 px, median %.3f, most %.2f; left out "
               "%d, assumed %d\n",
               held.size(), 100.0 * within3 / std::max<std::size_t>(1, held.size()),
               100.0 * within6 / std::max<std::size_t>(1, held.size()), quantileOf(held, 0.5), quantileOf(held, 1),
               left, assumed);
}

void mergeAll(const Order& order) {
  std::vector<double> ratios, walked, whole, atBorders, elsewhere;
  int still = 0, moved = 0, failed = 0;
  forEachSet(order, [&](std::uint64_t seed, const auto& scene, const fs::path& folder) {
    SetOptions o = drawn(order, seed);
    o.walker = seed % 3 == 0;
    if (order.what == "walkers" && !o.walker) return;
    o.leaves = false;
    if (!o.walker) o.handHeld = seed % 3 == 2;
    const MadeSet set(scene, o, folder);
    const auto figure = mergedFigure(set, !o.walker && !o.handHeld, true);
    {
      const std::lock_guard lock(telling);
      if (!figure)
        ++failed;
      else if (o.walker)
        walked.push_back(figure->walked), whole.push_back(figure->whole);
      else
        ++still, moved += figure->regions > 0;
      if (figure) {
        const BorderSteps& s = figure->steps;
        atBorders.insert(atBorders.end(), s.atBorders.begin(), s.atBorders.end());
        elsewhere.insert(elsewhere.end(), s.elsewhere.begin(), s.elsewhere.end());
      }
      if (figure && figure->bound > 0) ratios.push_back(figure->error / figure->bound);
    }
    if (!figure) return;
    char text[420];
    std::snprintf(
        text, sizeof text,
        ",\"walker\":%d,\"error\":%.4f,\"bound\":%.4f,\"walked\":%.4f,\"whole\":%.4f,\"floor\":%.4f,\"moment\":%d,"
        "\"regions\":%d,\"left\":%d,\"noise\":%.4f,\"step95\":%.2f,\"step95_elsewhere\":%.2f,\"step\":%.2f,\"step_at\":"
        "[%d,%d]",
        o.walker, figure->error, figure->bound, figure->walked, figure->whole, figure->floor, figure->moment,
        figure->regions, figure->leftOut, figure->noise, quantileOf(figure->steps.atBorders, 0.95),
        quantileOf(figure->steps.elsewhere, 0.95), quantileOf(figure->steps.atBorders, 1), figure->steps.worstX,
        figure->steps.worstY);
    std::string curve;
    for (const double off : figure->curve) {
      char number[24];
      std::snprintf(number, sizeof number, "%s%.3f", curve.empty() ? "" : ",", off);
      curve += number;
    }
    tell(head(set, o) + text + ",\"curve_off\":[" + curve + "],\"words\":\"" + jsonText(figure->verdict) + "\"}");
  });
  std::fprintf(stderr, "tripod over bound: %zu sets, median %.2f, 95 %% %.2f, worst %.2f\n", ratios.size(),
               quantileOf(ratios, 0.5), quantileOf(ratios, 0.95), quantileOf(ratios, 1));
  std::fprintf(stderr, "static sets with a moved place: %d of %d; failed %d\n", moved, still, failed);
  for (const auto& [errors, name] : {std::pair{&walked, "the reference's moment"}, {&whole, "any one moment"}}) {
    const auto within = std::count_if(errors->begin(), errors->end(), [](double e) { return e <= 0.10; });
    std::fprintf(stderr, "walkers against %s: %zu sets, %.1f %% within 0.10 EV, median %.3f, worst %.3f\n", name,
                 errors->size(), 100.0 * double(within) / double(std::max<std::size_t>(1, errors->size())),
                 quantileOf(*errors, 0.5), quantileOf(*errors, 1));
  }
  for (const auto& [steps, name] : {std::pair{&atBorders, "at borders of places"}, {&elsewhere, "elsewhere"}}) {
    const auto seen = std::count_if(steps->begin(), steps->end(), [](double s) { return s > 2; });
    std::fprintf(stderr, "steps that the truth has not, %s: %zu, %.2f %% above 2 CIEDE2000, median %.2f, 99 %% %.2f\n",
                 name, steps->size(), 100.0 * double(seen) / double(std::max<std::size_t>(1, steps->size())),
                 quantileOf(*steps, 0.5), quantileOf(*steps, 0.99));
  }
}

/// Everything that is measured of one set, to find out why.
void look(const Order& order) {
  SetOptions o = drawn(order, order.first);
  spoil(o, order);
  const fs::path folder =
      (order.keep.empty() ? fs::temp_directory_path() : order.keep) / ("zoo-" + std::to_string(order.first));
  fs::create_directories(folder);
  const MadeSet set(sceneOf(order.first / 8, o.width, o.height), o, folder);
  std::printf("%s}\n%s", head(set, o).c_str(), described(set, o.handHeld).c_str());
}

void draw(const Order& order) {
  SetOptions o = drawn(order, order.first);
  o.walker = order.first % 3 == 0;
  o.leaves = false;
  if (!o.walker) o.handHeld = order.first % 3 == 2;
  const fs::path folder =
      (order.keep.empty() ? fs::temp_directory_path() : order.keep) / ("zoo-" + std::to_string(order.first));
  fs::create_directories(folder);
  const MadeSet set(sceneOf(order.first / 8, o.width, o.height), o, folder);
  drawMerge(set, folder / "merge.png");
}

} // namespace

int main(int argc, char** argv) {
  Order order;
  std::vector<std::string> words;
  for (int i = 1; i < argc; ++i) {
    if (!std::strcmp(argv[i], "--keep") && i + 1 < argc)
      order.keep = argv[++i];
    else if (!std::strcmp(argv[i], "--larger") && i + 1 < argc)
      order.larger = std::max(1, std::atoi(argv[++i]));
    else if (!std::strcmp(argv[i], "--fault") && i + 1 < argc) {
      for (int k = 1, name = ++i; k <= kSpoils; ++k)
        if (!std::strcmp(argv[name], nameOf(Spoil(k)))) order.fault = Spoil(k);
    } else
      words.emplace_back(argv[i]);
  }
  if (words.empty()) {
    std::fprintf(stderr,
                 "ml_zoo judge|align|passed|stood|merge|walkers COUNT [FIRST_SEED] [dng|jpeg|heif|mixed] [--keep "
                 "FOLDER] [--fault NAME] [--larger TIMES]\n");
    return 2;
  }
  order.what = words[0];
  if (words.size() > 1) order.count = std::atoi(words[1].c_str());
  if (words.size() > 2) order.first = std::strtoull(words[2].c_str(), nullptr, 10);
  if (words.size() > 3) order.type = words[3];
  if (order.what == "look")
    look(order);
  else if (order.what == "draw")
    draw(order);
  else if (order.what == "judge")
    judgeAll(order);
  else if (order.what == "align" || order.what == "passed" || order.what == "stood")
    alignAll(order);
  else
    mergeAll(order);
  return 0;
}
