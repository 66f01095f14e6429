// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/version.h"
#include "cli/commands.h"

#include <CLI/CLI.hpp>
#include <csignal>
#include <cstdio>
#include <unistd.h>

namespace {

ml::StopFlag stopFlag;
void onInterrupt(int) {
  stopFlag.request();
}

/// On a terminal the stage is shown and overwritten; elsewhere nothing.
ml::Progress terminalProgress() {
  ml::Progress progress{stopFlag, {}};
  if (::isatty(STDERR_FILENO))
    progress.report = [](const std::string& stage, double fraction) {
      std::fprintf(stderr, "\r\x1b[K%3.0f %%  %s%s", fraction * 100, stage.c_str(), fraction >= 1 ? "\r\x1b[K" : "");
    };
  return progress;
}

void addCombineOptions(CLI::App& command, ml::cli::CombineArguments& a) {
  command.add_option("--align", a.align, "off, shift, rigid, perspective or auto")->capture_default_str();
  command.add_option("--motion", a.motion, "off, low, medium, high or auto")->capture_default_str();
  command.add_option("--reference", a.reference, "frame that owns geometry and moving things, from 0 by name, or auto")
      ->capture_default_str();
  command.add_flag("--empty-scene", a.empty, "what most frames agree on: passers-by vanish");
  command.add_flag("--even-so", a.evenSo, "combine frames whose light contradicts their settings");
  command.add_option("--leave-out", a.leave, "names of files not to use");
  command.add_option(
      "--curves", a.curves,
      "folder of response curves by camera: used where a set says too little, added to where it says enough");
  command.add_option("--crop", a.crop, "reference or overlap")->capture_default_str();
}

} // namespace

int main(int count, char** arguments) {
  using namespace ml::cli;
  std::signal(SIGINT, onInterrupt);
  std::signal(SIGTERM, onInterrupt);
  CLI::App app{"Plans, shoots, combines and finishes exposure brackets.", "mellow-lantern-cli"};
  app.require_subcommand(1);
  app.set_version_flag("--version", ml::version());

  PlanArguments plan;
  auto* planCommand = app.add_subcommand("plan", "The smallest bracket that covers two readings");
  planCommand->add_option("--low", plan.low, "darkest reading that must keep texture, EV at ISO 100")->required();
  planCommand->add_option("--high", plan.high, "brightest reading that must keep texture, EV at ISO 100")->required();
  planCommand->add_option("--camera", plan.camera, "profile id or JSON file")->capture_default_str();
  planCommand->add_option("--aperture", plan.aperture, "f-number")->capture_default_str();
  planCommand->add_option("--iso", plan.iso, "empty: the camera's base ISO");
  planCommand->add_option("--school", plan.school, "auto or a way to bracket")->capture_default_str();
  planCommand->add_option("--iso-cap", plan.isoCap, "ISO may rise to this in full stops");
  planCommand->add_option("--snr", plan.snr, "least SNR of what must keep texture; 10 acceptable, 40 excellent");
  planCommand->add_flag("--compare", plan.compare, "all ways to bracket this scene, with what each loses or gains");
  planCommand->add_flag("--handheld", plan.handheld, "limit the time to what can be held");
  planCommand->add_option("--focal", plan.focal, "focal length in mm, for --handheld");
  planCommand->add_flag("--json", plan.json, "print JSON");

  ShootArguments shoot;
  auto* shootCommand = app.add_subcommand("shoot", "Shoot a plan with the simulated camera");
  shootCommand->add_option("--world", shoot.world, "world id")->required();
  shootCommand->add_option("--plan", shoot.plan, "file made by plan --json")->required();
  shootCommand->add_option("--out", shoot.out, "folder for the frames")->required();
  shootCommand->add_option("--format", shoot.format, "dng, jpeg or tiff")->capture_default_str();
  shootCommand->add_option("--seed", shoot.seed, "of noise and movement")->capture_default_str();
  shootCommand->add_option("--fault", shoot.faults,
                           "something that goes wrong, such as gust or gust@2; a wrong name lists them all");

  InspectArguments inspect;
  auto* inspectCommand = app.add_subcommand("inspect", "Group frames into sets and say what is wrong with each");
  inspectCommand->add_option("paths", inspect.paths, "files and folders")->required();
  inspectCommand->add_flag("--json", inspect.json, "print JSON");

  CombineArguments combine;
  auto* combineCommand = app.add_subcommand("combine", "Frames of one view to a radiance picture");
  combineCommand->add_option("paths", combine.paths, "files and folders")->required();
  combineCommand->add_option("--out", combine.out, ".exr, .hdr or .tif")->required();
  combineCommand->add_option("--method", combine.method, "radiance, fusion, tone-range or single")
      ->capture_default_str();
  combineCommand->add_option("--report", combine.report, "JSON file");
  addCombineOptions(*combineCommand, combine);

  FinishArguments finish;
  auto* finishCommand = app.add_subcommand("finish", "A radiance picture to a finished one");
  finishCommand->add_option("file", finish.file, ".exr, .hdr or float .tif")->required();
  finishCommand->add_option("--out", finish.out, ".jpg, .tif or .png")->required();
  finishCommand->add_option("--look", finish.look, "starting point")->capture_default_str();
  finishCommand->add_option("--recipe", finish.recipe, "JSON file");
  finishCommand->add_option("--report", finish.report, "JSON file");

  RunArguments run;
  auto* runCommand = app.add_subcommand("run", "Group, combine, finish and deliver every set");
  runCommand->add_option("paths", run.combine.paths, "files and folders")->required();
  runCommand->add_option("--out", run.combine.out, "folder")->required();
  runCommand->add_option("--look", run.look, "starting point")->capture_default_str();
  runCommand->add_option("--recipe", run.recipe, "JSON file, instead of a look");
  runCommand->add_option("--deliver", run.targets, "of jpeg, web, print, archive, hdr-avif, hdr-jxl")
      ->capture_default_str();
  runCommand->add_option("--creator", run.creator, "written into each picture");
  runCommand->add_option("--rights", run.rights, "written into each picture");
  runCommand->add_flag("--remove-location", run.removeLocation, "no place in the metadata");
  runCommand->add_option("--jobs", run.jobs, "sets worked on at once; 0: as many as memory allows")
      ->capture_default_str()
      ->check(CLI::Range(0, 64));
  addCombineOptions(*runCommand, run.combine);

  try {
    app.parse(count, arguments);
  } catch (const CLI::ParseError& error) {
    const int code = app.exit(error);
    return code == 0 ? kDone : kWrongUse;
  }
  const ml::Progress progress = terminalProgress();
  if (*planCommand) return runPlan(plan);
  if (*shootCommand) return runShoot(shoot, progress);
  if (*inspectCommand) return runInspect(inspect, progress);
  if (*combineCommand) return runCombine(combine, progress);
  if (*finishCommand) return runFinish(finish, progress);
  return runRun(run, progress);
}
