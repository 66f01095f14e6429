// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "cli/more_commands.h"
#include "cli/say.h"
#include "practice/answers.h"
#include "practice/material.h"
#include "practice/progress.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml::cli {
using nlohmann::json;
namespace fs = std::filesystem;
namespace {

json taskJson(const Exercise& exercise, const ExerciseMaterial& material) {
  json out = json::parse(toJson(exercise));
  out["practice"] = true;
  out["task"] = material.task;
  out["facts"] = material.facts;
  json pictures = json::array();
  for (const auto& picture : material.pictures) pictures.push_back(picture.name);
  out["pictures"] = pictures;
  return out;
}

void sayTask(const Exercise& exercise, const ExerciseMaterial& material) {
  say(exercise.title + " (practice)");
  say(material.task);
  for (const auto& fact : material.facts) say("  " + fact);
  if (exercise.limitSeconds > 0) say(fmt::format("  Limit: {:.0f} s.", exercise.limitSeconds));
}

/// The task, and its pictures where they are wanted.
int showTask(const PracticeArguments& a, const Exercise& exercise, const ExerciseMaterial& material) {
  if (!a.out.empty()) {
    const auto files = writePictures(material, a.out);
    if (!files) return refuse(files.error());
    if (auto written =
            writeTextAtomically(fs::path(a.out) / "exercise.json", taskJson(exercise, material).dump(2) + "\n");
        !written)
      return refuse(written.error());
    if (a.solution)
      if (auto written = writeTextAtomically(fs::path(a.out) / "solution.json", toJson(rightAnswer(material.truth)));
          !written)
        return refuse(written.error());
  }
  if (a.json)
    say(taskJson(exercise, material).dump(2));
  else
    sayTask(exercise, material);
  return kDone;
}

} // namespace

int runPracticeList(const PracticeArguments& a) {
  std::vector<std::string> problems;
  const auto exercises = allExercises(exercisesFolder(jobsIn(a.jobs)), problems);
  for (const auto& problem : problems) std::fprintf(stderr, "%s\n", problem.c_str());
  if (a.json) {
    json list = json::array();
    for (const auto& exercise : exercises) list.push_back(json::parse(toJson(exercise)));
    say(json{{"version", 1}, {"exercises", list}}.dump(2));
  } else {
    for (const auto& exercise : exercises)
      std::printf("%-18s %d  %s: %s\n", exercise.id.c_str(), exercise.level, nameOf(exercise.kind).c_str(),
                  exercise.title.c_str());
  }
  return problems.empty() ? kDone : kSetLeftOut;
}

int runPractice(const PracticeArguments& a, const Progress& progress) {
  const auto exercise = findExercise(a.exercise, exercisesFolder(jobsIn(a.jobs)));
  if (!exercise) return refuse(exercise.error());
  const auto material = prepare(*exercise, progress);
  if (!material) return refuse(material.error());
  if (a.answers.empty()) return showTask(a, *exercise, *material);
  const auto text = readText(a.answers);
  if (!text) return refuse(text.error());
  const auto answer = answerFromJson(exercise->kind, *text, a.answers);
  if (!answer) return refuse(answer.error());
  const Score score = scoreOf(material->truth, *answer);
  if (a.json) {
    say(json{{"version", 1},
             {"practice", true},
             {"exercise", exercise->id},
             {"points", score.points},
             {"passed", score.passed()},
             {"explanation", score.explanation}}
            .dump(2));
    return kDone;
  }
  say(fmt::format("{:.0f} of 100 points{}.", score.points, score.passed() ? "" : ", not passed yet"));
  for (const auto& sentence : score.explanation) say("  " + sentence);
  return kDone;
}

} // namespace ml::cli
