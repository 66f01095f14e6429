// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/material.h"

#include "base/phrase.h"
#include "camera/simulated_camera.h"
#include "codec/jpeg.h"
#include "exposure/ev.h"
#include "exposure/marks.h"
#include "finish/finish.h"
#include "image/bytes.h"
#include "practice/card.h"
#include "practice/exercise_world.h"
#include "practice/light_range.h"
#include "practice/scoring.h"
#include "practice/settings_list.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <random>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr double kSpotRadius = 0.02;

/// 0..1 and whole numbers that are the same on every machine.
class Dice {
public:
  explicit Dice(std::uint64_t seed) : random_(seed) {}
  double share() { return double(random_() >> 11) / 9007199254740992.0; }
  double between(double low, double high) { return low + (high - low) * share(); }
  int upTo(int count) { return std::min(count - 1, int(share() * count)); }

private:
  std::mt19937_64 random_;
};

Result<std::shared_ptr<const World>> worldOf(const Exercise& exercise, int shrunk) {
  auto world = exerciseWorld(exercise.world, shrunk);
  if (!world) return passOn(world.error());
  return std::make_shared<const World>(std::move(*world));
}

LightRange rangeOf(const World& world) {
  return rangeOf(world.radiance({0}, {0.01}).view(), world.candelasPerUnit());
}

PlanRequest requestFor(const Exercise& exercise, double low, double high) {
  PlanRequest request;
  request.low = {std::round((exercise.low.value_or(low)) * 3) / 3};
  request.high = {std::round((exercise.high.value_or(high)) * 3) / 3};
  return request;
}

std::string readingsWords(const PlanRequest& request) {
  return phrase("Darkest that must keep texture: EV {:.1f}. Brightest: EV {:.1f} (at ISO 100).", request.low.value,
                request.high.value);
}

std::string requestWords(const PlanRequest& request, Iso iso) {
  return phrase("{}, {}; the shadows shall have a signal {:.0f} times their noise.", print(request.aperture),
                print(iso), request.snrTarget);
}

Result<ExerciseMaterial> readSpot(const Exercise& exercise, const Progress&) {
  auto world = worldOf(exercise, 2);
  if (!world) return passOn(world.error());
  const CameraProfile& profile = *findProfile(exercise.camera);
  SimulationOptions options;
  options.seed = exercise.seed;
  SimulatedCamera camera(*world, profile, options);
  const auto [low, high] = rangeOf(**world);
  const ExposureSettings settings{timeAtThirds(nearestThirds(timeFor({(low + high) / 2}, {8}, {100}))), {8}, {100}};
  auto finder = camera.liveView(settings);
  if (!finder) return passOn(finder.error());
  ExerciseMaterial out;
  out.task = phrase(
      "Read the marked spots by eye, as EV at ISO 100, from how bright they stand in a picture of known exposure.");
  out.facts = {phrase("The picture is exposed at {} {} {}: what is EV {:.1f} is a middle grey in it; a stop darker or "
                      "brighter is half or twice its light.",
                      print(settings.time), print(settings.aperture), print(settings.iso), ev100(settings).value)};
  Dice dice(exercise.seed);
  const int spots = exercise.level == 1 ? 3 : 4;
  SpotTruth truth;
  constexpr int kTries = 4000;
  const double evenness = exercise.level == 1 ? 0.25 : 0.5;
  for (int tried = 0; tried < kTries && int(truth.spots.size()) < spots; ++tried) {
    const double x = dice.between(0.06, 0.94), y = dice.between(0.06, 0.94);
    const auto measured = camera.spotReading(x, y, kSpotRadius);
    if (!measured || measured->uncertainty > evenness) continue;
    const double off = measured->ev100.value - ev100(settings).value;
    if (off > 2.2 || off < -4.5) continue; // it must be visible
    const auto near = [&](const SpotTruth::Spot& s) {
      return std::hypot(s.x - x, s.y - y) < 0.15 || std::abs(s.ev100.value - measured->ev100.value) < 0.5;
    };
    if (std::none_of(truth.spots.begin(), truth.spots.end(), near)) truth.spots.push_back({x, y, measured->ev100});
  }
  for (std::size_t i = 0; i < truth.spots.size(); ++i)
    out.facts.push_back(phrase("Spot {} lies {:.0f} % from the left and {:.0f} % from the top.", i + 1,
                               100 * truth.spots[i].x, 100 * truth.spots[i].y));
  out.pictures.push_back({phrase("finder"), std::move(*finder)});
  out.truth = std::move(truth);
  return out;
}

Result<ExerciseMaterial> chooseBracket(const Exercise& exercise, const Progress&) {
  Dice dice(exercise.seed);
  BracketTruth truth;
  truth.camera = *findProfile(exercise.camera);
  if (exercise.level == 2 && exercise.camera == Exercise().camera) truth.camera = *findProfile("pocket-jpeg");
  const double low = dice.between(1, 5), span = dice.between(9, exercise.level == 1 ? 12 : 14);
  constexpr double kNarrowest = 4;
  for (double range = span; range >= kNarrowest; range -= 0.5) { // one that this camera can cover
    truth.request = requestFor(exercise, low, low + range);
    truth.request.secondRun = false;
    auto best = planBracket(truth.camera, truth.request);
    if (!best) return passOn(best.error());
    truth.best = std::move(*best);
    if (truth.best.covers) break;
  }
  ExerciseMaterial out;
  out.task = phrase("Choose the smallest bracket that covers this light: how many frames, how many stops apart, and "
                    "the time of the middle one.");
  out.facts = {readingsWords(truth.request), requestWords(truth.request, truth.best.iso())};
  std::string counts = "1", steps;
  for (const int count : truth.camera.counts) counts += fmt::format(", {}", count);
  for (const Stops step : truth.camera.steps) steps += (steps.empty() ? "" : ", ") + print(step).substr(1);
  out.facts.push_back(phrase("Camera: {}. It brackets {} frames, {} stops apart.", truth.camera.name, counts, steps));
  out.truth = std::move(truth);
  return out;
}

/// A plan for the world as a careful photographer would make it.
Result<Plan> planFor(const Exercise& exercise, const World& world, const char* school) {
  const auto [low, high] = rangeOf(world);
  PlanRequest request = requestFor(exercise, low, high);
  request.school = school;
  return planBracket(*findProfile(exercise.camera), request);
}

/// Nothing, or what the level has in store.
std::vector<Fault> drawnFaults(const Exercise& exercise, int frames, Dice& dice) {
  using enum FaultKind;
  static const std::vector<std::vector<FaultKind>> byLevel{{BracketingReset, PasserBy, Gust},
                                                           {Gust, NudgedTripod, IsoDrift, FocusDrift},
                                                           {Cloud, WhiteBalanceDrift, ApertureDrift, NudgedTripod}};
  if (exercise.faults) {
    std::vector<Fault> out;
    for (const auto& text : *exercise.faults) out.push_back(*parseFault(text));
    return out;
  }
  constexpr double kSound = 0.25;
  if (dice.share() < kSound) return {};
  const auto& kinds = byLevel[std::size_t(exercise.level - 1)];
  static constexpr double kSizes[] = {1.5, 1, 0.6}; // of the usual strength: plain, as it happens, subtle
  const int count = exercise.level == 1 ? 1 : 1 + dice.upTo(2);
  std::vector<Fault> out;
  for (int i = 0; i < count; ++i) {
    const Fault fault{kinds[std::size_t(dice.upTo(int(kinds.size())))], 1 + dice.upTo(std::max(1, frames - 1)),
                      kSizes[exercise.level - 1]};
    const auto same = [&](const Fault& f) { return f.kind == fault.kind; };
    if (std::none_of(out.begin(), out.end(), same)) out.push_back(fault);
  }
  return out;
}

Image<std::uint8_t> bytesOf(const Codes& codes) {
  return codes.visit([](auto view) {
    using Code = std::remove_cv_t<std::remove_pointer_t<decltype(view.data)>>;
    if constexpr (sizeof(Code) == 2) {
      return ml::bytesOf(view);
    } else {
      Image<std::uint8_t> out(view.width, view.height, view.channels);
      for (int y = 0; y < out.height(); ++y) std::copy_n(view.row(y), out.width() * out.channels(), out.row(y));
      return out;
    }
  });
}

/// A folder of its own for as long as it is needed.
class ScratchFolder {
public:
  ScratchFolder() {
    std::string name = (fs::temp_directory_path() / "mellow-lantern-practice-XXXXXX").string();
    if (mkdtemp(name.data())) path_ = name;
  }
  ~ScratchFolder() {
    std::error_code ignored;
    if (!path_.empty()) fs::remove_all(path_, ignored);
  }
  ScratchFolder(const ScratchFolder&) = delete;
  ScratchFolder& operator=(const ScratchFolder&) = delete;
  [[nodiscard]] const fs::path& path() const { return path_; }

private:
  fs::path path_;
};

Result<ExerciseMaterial> findFaults(const Exercise& exercise, const Progress& progress) {
  auto world = worldOf(exercise, 2);
  if (!world) return passOn(world.error());
  const auto plan = planFor(exercise, **world, "five-by-two");
  if (!plan) return passOn(plan.error());
  Dice dice(exercise.seed);
  FaultTruth truth;
  truth.frames = int(plan->frames.size());
  truth.faults = drawnFaults(exercise, truth.frames, dice);
  SimulationOptions options;
  options.seed = exercise.seed;
  options.faults = truth.faults;
  SimulatedCamera camera(*world, *findProfile(exercise.camera), options);
  const ScratchFolder scratch;
  ExerciseMaterial out;
  out.task = phrase("Look through the frames of this set: which faults are in it, and with which frame does each "
                    "begin? It may be sound.");
  std::string may;
  for (const auto& name : faultNames())
    if (showsInFrames(name.kind)) may += (may.empty() ? "" : ", ") + std::string(name.id);
  out.facts = {phrase("Planned: {}", verdict(*plan)), phrase("Faults there may be: {}.", may)};
  constexpr int kShownEdge = 1000;
  for (std::size_t i = 0; i < plan->frames.size(); ++i) {
    if (progress.stopRequested()) return stopped();
    progress.at(phrase("Frames"), double(i) / double(plan->frames.size()));
    const auto file = scratch.path() / fmt::format("{}.jpg", i + 1);
    if (auto shot = camera.expose(plan->frames[i], FrameFormat::Jpeg, file); !shot) return passOn(shot.error());
    auto picture = readSmallJpeg(file, kShownEdge);
    if (!picture) return passOn(picture.error());
    out.pictures.push_back({fmt::format("{}: {}", i + 1, print(plan->frames[i].time)), bytesOf(picture->pixels)});
  }
  out.truth = std::move(truth);
  return out;
}

Result<ExerciseMaterial> leaveOut(const Exercise& exercise, const Progress&) {
  Dice dice(exercise.seed);
  LeaveOutTruth truth;
  truth.camera = *findProfile(exercise.camera);
  const double low = dice.between(2, 5);
  truth.request = requestFor(exercise, low, low + dice.between(9, 12));
  auto best = planBracket(truth.camera, truth.request);
  if (!best) return passOn(best.error());
  // About the light there is, closer together and further out than it needs.
  const int count = exercise.level == 1 ? 7 : 9;
  const double first = std::log2(best->frames.front().time.value) - dice.between(0, 2),
               last = std::log2(best->frames.back().time.value) + dice.between(0, 1.5);
  for (int i = 0; i < count; ++i)
    truth.frames.push_back({timeAtThirds(nearestThirds({std::exp2(first + (last - first) * i / (count - 1))})),
                            truth.request.aperture, best->iso()});
  truth.most = int(std::get<LeaveOutAnswer>(rightAnswer(truth)).frames.size());
  ExerciseMaterial out;
  out.task = phrase("Which of these frames can be left out, and the scene is still covered? As many as possible.");
  out.facts = {readingsWords(truth.request), requestWords(truth.request, best->iso()),
               phrase("Camera: {}.", truth.camera.name)};
  const SensorModel sensor(truth.camera);
  for (std::size_t i = 0; i < truth.frames.size(); ++i)
    out.facts.push_back(phrase("Frame {}: {}, records EV {:.1f} to {:.1f}.", i + 1, print(truth.frames[i].time),
                               sensor.floorAt(truth.frames[i], truth.request.snrTarget).value,
                               sensor.clipsAt(truth.frames[i]).value - truth.request.highlightMargin.value));
  out.truth = std::move(truth);
  return out;
}

Result<ExerciseMaterial> putSettingsRight(const Exercise& exercise, const Progress&) {
  Dice dice(exercise.seed);
  const bool inTheHand = exercise.level == 3;
  SettingsTruth truth{settingsFor(inTheHand)};
  const int wrong = 2 + exercise.level;
  for (int made = 0; made < wrong;) {
    auto& item = truth.items[std::size_t(dice.upTo(int(truth.items.size())))];
    if (item.now != item.right) continue;
    item.now = item.choices[std::size_t(dice.upTo(int(item.choices.size())))];
    made += item.now != item.right;
  }
  ExerciseMaterial out;
  out.task = inTheHand ? phrase("A bracket from the hand, indoors. Put right what stands wrong on the camera.")
                       : phrase("A bracket from the tripod, indoors. Put right what stands wrong on the camera.");
  for (const auto& item : truth.items) {
    std::string choices;
    for (const auto& choice : item.choices) choices += (choices.empty() ? "" : ", ") + phrase(choice);
    out.facts.push_back(phrase("{} ({}): {}. Choices: {}.", phrase(item.name), item.id, phrase(item.now), choices));
  }
  out.truth = std::move(truth);
  return out;
}

Result<ExerciseMaterial> keepTheLight(const Exercise& exercise, const Progress&) {
  Dice dice(exercise.seed);
  DuskTruth truth;
  truth.lamps = exercise.low.value_or(std::round(dice.between(3, 6) * 3) / 3);
  truth.fadePerMinute = dice.between(0.2, 0.4); // dusk (common practice, no source)
  truth.skyAtStart = exercise.high.value_or(std::round((truth.lamps + dice.between(2, 3)) * 3) / 3);
  truth.sets = exercise.level == 1 ? 2 : 3;
  truth.from = std::max(0.0, (truth.skyAtStart - truth.lamps - 1) / truth.fadePerMinute);
  truth.to = (truth.skyAtStart - truth.lamps + 1) / truth.fadePerMinute;
  truth.apart = std::min(1.5, (truth.to - truth.from) / truth.sets);
  ExerciseMaterial out;
  out.task = phrase("The sky fades, the lamps stay. Shoot {} sets while sky and lamps are within a stop of each other, "
                    "each with its middle frame midway between them.",
                    truth.sets);
  out.facts = {phrase("At minute 0 the sky reads EV {:.1f}; it loses {:.2f} stop a minute. What the lamps light reads "
                      "EV {:.1f}.",
                      truth.skyAtStart, truth.fadePerMinute, truth.lamps),
               phrase("{}, {}. A set takes {:.1f} minutes.", print(truth.aperture), print(truth.iso), truth.apart)};
  out.truth = truth;
  return out;
}

Recipe flawed(FinishFlaw flaw, int level) {
  const double much = level == 1 ? 1 : 0.55;
  Recipe recipe;
  switch (flaw) {
  case FinishFlaw::Natural: break;
  case FinishFlaw::TooMuchTexture:
    recipe.tone.detail = 1 + 2 * much;
    recipe.tone.form = 1 + 1.4 * much;
    break;
  case FinishFlaw::TooColourful: recipe.tone.saturation = 1 + 0.9 * much; break;
  case FinishFlaw::TooFlat:
    recipe.tone.balance = 1 + 0.5 * much;
    recipe.tone.form = 1 - 0.45 * much;
    recipe.tone.detail = 1 - 0.3 * much;
    break;
  case FinishFlaw::Grey:
    recipe.tone.exposure = -1.3 * much;
    recipe.tone.saturation = 1 - 0.45 * much;
    break;
  }
  return recipe;
}

constexpr double kReaches[] = {0.4, 0.3, 0.22}; ///< Of a flaw, by level; shares of the longer side.

/// `flawed` where the flaw is, fading into `picture` around it.
void layOver(Image<std::uint8_t>& picture, const Image<std::uint8_t>& flawed, const FinishTruth::Picture& truth) {
  const int w = picture.width(), h = picture.height(), side = std::max(w, h);
  constexpr double kWhole = 0.6; // of its reach
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const double off = std::hypot(x - truth.place.x * w, y - truth.place.y * h) / (truth.reach * side);
      const double t = std::clamp((1 - off) / (1 - kWhole), 0.0, 1.0), share = t * t * (3 - 2 * t);
      for (int c = 0; c < 3; ++c) {
        const double was = picture.at(x, y)[c];
        picture.at(x, y)[c] = std::uint8_t(std::lround(was + share * (flawed.at(x, y)[c] - was)));
      }
    }
}

Result<ExerciseMaterial> judgeFinishes(const Exercise& exercise, const Progress& progress) {
  auto world = worldOf(exercise, 2);
  if (!world) return passOn(world.error());
  const Image<float> light = (*world)->radiance({0}, {0.01});
  Dice dice(exercise.seed);
  ExerciseMaterial out;
  out.task = phrase("Judge each finish: natural, or overdone, and then how and in which part of the picture.");
  std::string may;
  for (const FinishFlaw flaw : finishFlaws())
    may += flaw == FinishFlaw::Natural ? idOf(flaw) : fmt::format("; {} ({})", idOf(flaw), wordsOf(flaw));
  out.facts = {phrase("Words for it: {}.", may)};
  FinishTruth truth;
  const int count = 4;
  const int natural = dice.upTo(count); // at least one is
  const double ev100OfUnit = ev100Of((*world)->candelasPerUnit()).value;
  const auto finished = [&](FinishFlaw flaw) -> Result<Image<std::uint8_t>> {
    auto made = finishRadiance(light.view(), flawed(flaw, exercise.level), SceneFacts(ev100OfUnit), nullptr, progress);
    if (!made) return passOn(made.error());
    return bytesOf(made->picture.view());
  };
  const auto sound = finished(FinishFlaw::Natural);
  if (!sound) return passOn(sound.error());
  truth.aspect = double(sound->width()) / sound->height();
  for (int i = 0; i < count; ++i) {
    progress.at(phrase("Finishes"), double(i) / count);
    const bool asItShould = i == natural || dice.share() < 0.25;
    FinishTruth::Picture picture{asItShould ? FinishFlaw::Natural : finishFlaws()[std::size_t(1 + dice.upTo(4))],
                                 {dice.between(0.2, 0.8), dice.between(0.25, 0.75)},
                                 kReaches[exercise.level - 1]};
    Image<std::uint8_t> shown = sound->clone();
    if (!asItShould) {
      const auto flaw = finished(picture.flaw);
      if (!flaw) return passOn(flaw.error());
      layOver(shown, *flaw, picture);
    }
    truth.pictures.push_back(picture);
    out.pictures.push_back({phrase("picture {}", i + 1), std::move(shown)});
  }
  out.truth = std::move(truth);
  return out;
}

Result<ExerciseMaterial> sortCard(const Exercise& exercise, const Progress& progress) {
  const auto scenes = cardScenes();
  if (!scenes) return passOn(scenes.error());
  ExerciseMaterial out;
  SortTruth truth = messyCard(*scenes, exercise.seed, exercise.level);
  out.task = phrase("Which frames belong together? Put them into sets; thumbs and stray frames belong to none.");
  for (std::size_t i = 0; i < truth.frames.size(); ++i) {
    if (progress.stopRequested()) return stopped();
    const auto& frame = truth.frames[i];
    out.facts.push_back(phrase("{}: {} at {}, {} {} {}.", i + 1, frame.name, frame.clock, print(frame.settings.time),
                               print(frame.settings.aperture), print(frame.settings.iso)));
    out.pictures.push_back({fmt::format("{}: {}", i + 1, frame.name), cardPicture(*scenes, frame, exercise.seed + i)});
  }
  out.truth = std::move(truth);
  return out;
}

} // namespace

Result<ExerciseMaterial> prepare(const Exercise& exercise, const Progress& progress) {
  if (!findProfile(exercise.camera))
    return fail(ErrorCode::InvalidArgument,
                phrase("There is no camera \"{}\" among those that ship.", exercise.camera));
  using Maker = Result<ExerciseMaterial> (*)(const Exercise&, const Progress&);
  static constexpr Maker kMakers[] = {readSpot,         chooseBracket, findFaults,    leaveOut,
                                      putSettingsRight, keepTheLight,  judgeFinishes, sortCard};
  auto made = kMakers[std::size_t(exercise.kind)](exercise, progress);
  if (made && !exercise.note.empty()) made->facts.insert(made->facts.begin(), exercise.note);
  return made;
}

Result<std::vector<fs::path>> writePictures(const ExerciseMaterial& material, const fs::path& folder) {
  std::error_code error;
  fs::create_directories(folder, error);
  std::vector<fs::path> out;
  for (const auto& picture : material.pictures) {
    const auto file = folder / fmt::format("{:02d}.jpg", out.size() + 1);
    if (auto written = writeJpeg(file, picture.rgb.view(), {}); !written) return passOn(written.error());
    out.push_back(file);
  }
  return out;
}

} // namespace ml
