// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/exercise.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/slug.h"
#include "camera/faults.h"
#include "plan/camera_profile.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace fs = std::filesystem;
namespace {

struct Kind {
  const char *id, *name;
};
constexpr Kind kKinds[] = {
    {"read-spot", wording("Read a spot")},           {"choose-bracket", wording("Choose the bracket")},
    {"find-faults", wording("Find what is wrong")},  {"leave-out", wording("Leave frames out")},
    {"settings", wording("Put the settings right")}, {"dusk", wording("Keep the light at dusk")},
    {"judge-finish", wording("Judge finishes")},     {"sort", wording("Sort a messy card")}};

Exercise shipped(ExerciseKind kind, int level, const std::string& title, std::uint64_t seed, double limit,
                 const char* world) {
  Exercise out;
  out.id = std::string(idOf(kind)) + "-" + std::to_string(level);
  out.title = title;
  out.kind = kind;
  out.level = level;
  out.seed = seed;
  out.limitSeconds = limit;
  out.world = world;
  return out;
}

Error wrong(const std::string& source, const std::string& what) {
  return {ErrorCode::InvalidArgument, "`" + source + "`: " + what + "."};
}

/// Worlds and cameras are named by what ships: plain names, never paths.
bool isPlainName(const std::string& text) {
  return !text.empty() && text.size() < 60 &&
         std::all_of(text.begin(), text.end(), [](unsigned char c) { return std::isalnum(c) || c == '_' || c == '-'; });
}

} // namespace

const std::vector<ExerciseKind>& exerciseKinds() {
  using enum ExerciseKind;
  static const std::vector<ExerciseKind> all{ReadSpot, ChooseBracket, FindFaults,  LeaveOut,
                                             Settings, Dusk,          JudgeFinish, Sort};
  return all;
}

const char* idOf(ExerciseKind kind) {
  return kKinds[std::size_t(kind)].id;
}
std::string nameOf(ExerciseKind kind) {
  return phrase(kKinds[std::size_t(kind)].name);
}

std::optional<ExerciseKind> exerciseKind(const std::string& id) {
  for (const ExerciseKind kind : exerciseKinds())
    if (id == idOf(kind)) return kind;
  return {};
}

const std::vector<Exercise>& shippedExercises() {
  using enum ExerciseKind;
  static const std::vector<Exercise> all{
      shipped(Settings, 1, phrase("Before the first frame"), 11, 120, "reading_room"),
      shipped(ReadSpot, 1, phrase("Bright, middle, dark"), 3, 120, "reading_room"),
      shipped(ChooseBracket, 1, phrase("A plain room"), 5, 120, "reading_room"),
      shipped(FindFaults, 1, phrase("What happened here?"), 21, 180, "reading_room"),
      shipped(LeaveOut, 1, phrase("Seven frames"), 9, 120, "reading_room"),
      shipped(JudgeFinish, 1, phrase("Natural or overdone"), 4, 120, "reading_room"),
      shipped(Sort, 1, phrase("Two views on a card"), 6, 180, "reading_room"),
      shipped(Dusk, 1, phrase("Blue hour, lamps on"), 2, 300, "jetty_dusk"),
      shipped(ReadSpot, 2, phrase("Between light and shade"), 17, 90, "boat_hall"),
      shipped(ChooseBracket, 2, phrase("A pocket camera and a bright lake"), 8, 120, "boat_hall"),
      shipped(FindFaults, 2, phrase("One frame is not like the others"), 33, 180, "boat_hall"),
      shipped(LeaveOut, 2, phrase("Nine small steps"), 13, 120, "boat_hall"),
      shipped(Settings, 2, phrase("Somebody used the camera"), 29, 90, "reading_room"),
      shipped(JudgeFinish, 2, phrase("A little too much"), 19, 120, "boat_hall"),
      shipped(Sort, 2, phrase("Thumbs and repeats"), 14, 240, "reading_room"),
      shipped(Dusk, 2, phrase("Three sets before dark"), 5, 300, "jetty_dusk"),
      shipped(ReadSpot, 3, phrase("Dusk by eye"), 23, 60, "jetty_dusk"),
      shipped(ChooseBracket, 3, phrase("As few as possible"), 41, 90, "boat_hall"),
      shipped(FindFaults, 3, phrase("Sound, or only nearly"), 52, 240, "reading_room"),
      shipped(Settings, 3, phrase("In the hand, in a hurry"), 7, 60, "reading_room"),
      shipped(Sort, 3, phrase("A whole morning"), 31, 300, "reading_room"),
  };
  return all;
}

Result<Exercise> exerciseFromJson(const std::string& text, const std::string& source) {
  const json document = json::parse(text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(ErrorCode::FileUnreadable, phrase("`{}` is not an exercise: it must hold one JSON object.", source));
  if (document.contains("version") && document["version"] != 1)
    return fail(ErrorCode::FileUnreadable, phrase("`{}` was written by a newer version; use that one.", source));
  Exercise out;
  try {
    const auto kind = exerciseKind(document.value("kind", ""));
    if (!kind) return passOn(wrong(source, phrase("\"kind\" is none that is known, such as read-spot or find-faults")));
    out.kind = *kind;
    out.title = document.value("title", nameOf(*kind));
    out.id = slug(document.value("id", out.title), "exercise");
    out.level = document.value("level", 1);
    out.seed = document.value("seed", std::uint64_t(1));
    out.limitSeconds = document.value("limit_seconds", 0.0);
    out.world = document.value("world", out.world);
    out.camera = document.value("camera", out.camera);
    out.note = document.value("note", "");
    if (document.contains("low")) out.low = document["low"].get<double>();
    if (document.contains("high")) out.high = document["high"].get<double>();
    if (document.contains("faults")) out.faults = document["faults"].get<std::vector<std::string>>();
  } catch (const json::exception& error) {
    return passOn(wrong(source, phrase("a field is of the wrong type ({})", error.what())));
  }
  if (out.level < 1 || out.level > 3) return passOn(wrong(source, phrase("\"level\" is 1, 2 or 3")));
  if (!(out.limitSeconds >= 0 && out.limitSeconds <= 7200))
    return passOn(wrong(source, phrase("\"limit_seconds\" lies between 0 and 7200")));
  if (!isPlainName(out.world))
    return passOn(wrong(source, phrase("\"world\" is the name of a world that ships, not a path")));
  if (!findProfile(out.camera)) return passOn(wrong(source, phrase("\"camera\" is the id of a profile that ships")));
  for (const auto& reading : {out.low, out.high})
    if (reading && !(*reading >= -15 && *reading <= 30))
      return passOn(wrong(source, phrase("readings lie between EV -15 and 30")));
  if (out.low && out.high && *out.low >= *out.high)
    return passOn(wrong(source, phrase("\"low\" must lie below \"high\"")));
  if (out.faults && out.faults->size() > 5) return passOn(wrong(source, phrase("at most five faults in a set")));
  if (out.faults)
    for (const auto& fault : *out.faults)
      if (!parseFault(fault)) return passOn(wrong(source, phrase("there is no fault \"{}\"", fault)));
  return out;
}

std::string toJson(const Exercise& e) {
  json out{{"version", 1},
           {"id", e.id},
           {"title", e.title},
           {"kind", idOf(e.kind)},
           {"level", e.level},
           {"seed", e.seed},
           {"limit_seconds", e.limitSeconds},
           {"world", e.world},
           {"camera", e.camera},
           {"note", e.note}};
  if (e.low) out["low"] = *e.low;
  if (e.high) out["high"] = *e.high;
  if (e.faults) out["faults"] = *e.faults;
  return out.dump(2) + "\n";
}

std::vector<Exercise> allExercises(const fs::path& folder, std::vector<std::string>& problems) {
  std::vector<Exercise> out = shippedExercises();
  std::vector<fs::path> files;
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder, error))
    if (entry.path().extension() == ".json") files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  for (const auto& file : files) {
    const auto text = readText(file);
    auto exercise = text ? exerciseFromJson(*text, file.string()) : passOn(text.error());
    if (!exercise) {
      problems.push_back(exercise.error().message);
      continue;
    }
    const auto taken = [&](const Exercise& e) { return e.id == exercise->id; };
    for (int number = 2; std::any_of(out.begin(), out.end(), taken); ++number)
      exercise->id = slug(file.stem().string(), "exercise") + (number > 2 ? "-" + std::to_string(number) : "");
    out.push_back(std::move(*exercise));
  }
  return out;
}

Result<Exercise> findExercise(const std::string& idOrFile, const fs::path& folder) {
  std::vector<std::string> problems;
  for (const auto& exercise : allExercises(folder, problems))
    if (exercise.id == idOrFile) return exercise;
  std::error_code error;
  if (!fs::exists(idOrFile, error))
    return fail(ErrorCode::InvalidArgument,
                phrase("There is no exercise \"{}\"; `practice list` names them all, or give a file.", idOrFile));
  const auto text = readText(idOrFile);
  if (!text) return passOn(text.error());
  return exerciseFromJson(*text, idOrFile);
}

} // namespace ml
