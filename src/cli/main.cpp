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
  command.add_option("--motion", a.motion, "how closely movement is looked for: ignore, obvious, usual, close or auto")
      ->capture_default_str();
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

using namespace ml::cli;

CLI::App* addPlan(CLI::App& app, PlanArguments& a) {
  auto* command = app.add_subcommand("plan", "The smallest bracket that covers two readings");
  command->add_option("--low", a.low, "darkest reading that must keep texture, EV at ISO 100")->required();
  command->add_option("--high", a.high, "brightest reading that must keep texture, EV at ISO 100")->required();
  command->add_option("--camera", a.camera, "profile id or JSON file")->capture_default_str();
  command->add_option("--aperture", a.aperture, "f-number")->capture_default_str();
  command->add_option("--iso", a.iso, "empty: the camera's base ISO");
  command->add_option("--school", a.school, "auto or a way to bracket")->capture_default_str();
  command->add_option("--iso-cap", a.isoCap, "ISO may rise to this in full stops");
  command->add_option("--snr", a.snr, "least SNR of what must keep texture; 10 acceptable, 40 excellent");
  command->add_flag("--compare", a.compare, "all ways to bracket this scene, with what each loses or gains");
  command->add_flag("--handheld", a.handheld, "limit the time to what can be held");
  command->add_option("--focal", a.focal, "focal length in mm, for --handheld");
  command->add_flag("--json", a.json, "print JSON");
  return command;
}

CLI::App* addShoot(CLI::App& app, ShootArguments& a) {
  auto* command = app.add_subcommand("shoot", "Shoot a plan with the simulated camera");
  command->add_option("--world", a.world, "world id")->required();
  command->add_option("--plan", a.plan, "file made by plan --json")->required();
  command->add_option("--out", a.out, "folder for the frames")->required();
  command->add_option("--format", a.format, "dng, jpeg or tiff")->capture_default_str();
  command->add_option("--seed", a.seed, "of noise and movement")->capture_default_str();
  command->add_option("--fault", a.faults,
                      "something that goes wrong, such as gust or gust@2; a wrong name lists them all");
  return command;
}

CLI::App* addInspect(CLI::App& app, InspectArguments& a) {
  auto* command = app.add_subcommand("inspect", "Group frames into sets and say what is wrong with each");
  command->add_option("paths", a.paths, "files and folders")->required();
  command->add_flag("--json", a.json, "print JSON");
  return command;
}

CLI::App* addCombine(CLI::App& app, CombineArguments& a) {
  auto* command = app.add_subcommand("combine", "Frames of one view to a radiance picture");
  command->add_option("paths", a.paths, "files and folders")->required();
  command->add_option("--out", a.out, ".exr, .hdr or .tif")->required();
  command->add_option("--method", a.method, "radiance, fusion, tone-range or single")->capture_default_str();
  command->add_option("--report", a.report, "JSON file");
  addCombineOptions(*command, a);
  return command;
}

CLI::App* addAssemble(CLI::App& app, AssembleArguments& a) {
  auto* command = app.add_subcommand("assemble", "Frames of several positions to one radiance picture");
  command->add_option("paths", a.combine.paths, "files and folders")->required();
  command->add_option("--out", a.combine.out, ".exr or .tif")->required();
  command->add_option("--kind", a.kind, "auto, turned, shifted or sphere")->capture_default_str();
  command->add_option("--projection", a.projection, "auto, perspective, cylindrical or equirectangular")
      ->capture_default_str();
  command->add_option("--report", a.combine.report, "JSON file");
  addCombineOptions(*command, a.combine);
  return command;
}

CLI::App* addFinish(CLI::App& app, FinishArguments& a) {
  auto* command = app.add_subcommand("finish", "A radiance picture to a finished one");
  command->add_option("file", a.file, ".exr, .hdr or float .tif")->required();
  command->add_option("--out", a.out, ".jpg, .tif or .png")->required();
  command->add_option("--look", a.look, "starting point")->capture_default_str();
  command->add_option("--recipe", a.recipe, "JSON file");
  command->add_option("--report", a.report, "JSON file");
  return command;
}

CLI::App* addRun(CLI::App& app, RunArguments& a) {
  auto* command = app.add_subcommand("run", "Group, combine, finish and deliver every set");
  command->add_option("paths", a.combine.paths, "files and folders")->required();
  command->add_option("--out", a.combine.out, "folder")->required();
  command->add_option("--look", a.look, "starting point")->capture_default_str();
  command->add_option("--recipe", a.recipe, "JSON file, instead of a look");
  command->add_option("--deliver", a.targets, "of jpeg, web, print, archive, hdr-avif, hdr-jxl")->capture_default_str();
  command->add_option("--creator", a.creator, "written into each picture");
  command->add_option("--rights", a.rights, "written into each picture");
  command->add_flag("--remove-location", a.removeLocation, "no place in the metadata");
  command->add_flag("!--no-join", a.joinPositions, "positions of one view stay pictures of their own");
  command->add_option("--jobs", a.jobs, "sets worked on at once; 0: as many as memory allows")
      ->capture_default_str()
      ->check(CLI::Range(0, 64));
  addCombineOptions(*command, a.combine);
  return command;
}

} // namespace

int main(int count, char** arguments) {
  std::signal(SIGINT, onInterrupt);
  std::signal(SIGTERM, onInterrupt);
  CLI::App app{"Plans, shoots, combines and finishes exposure brackets.", "mellow-lantern-cli"};
  app.require_subcommand(1);
  app.set_version_flag("--version", ml::version());

  PlanArguments plan;
  auto* planCommand = addPlan(app, plan);

  ShootArguments shoot;
  auto* shootCommand = addShoot(app, shoot);

  InspectArguments inspect;
  auto* inspectCommand = addInspect(app, inspect);

  CombineArguments combine;
  auto* combineCommand = addCombine(app, combine);

  AssembleArguments assemble;
  auto* assembleCommand = addAssemble(app, assemble);

  FinishArguments finish;
  auto* finishCommand = addFinish(app, finish);

  RunArguments run;
  addRun(app, run);

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
  if (*assembleCommand) return runAssemble(assemble, progress);
  if (*finishCommand) return runFinish(finish, progress);
  return runRun(run, progress);
}
