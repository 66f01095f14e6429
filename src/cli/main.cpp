// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/version.h"
#include "cli/camera_commands.h"
#include "cli/commands.h"
#include "cli/farm_commands.h"
#include "cli/more_commands.h"
#include "cli/say.h"

#include <CLI/CLI.hpp>
#include <QCoreApplication>
#include <csignal>
#include <cstdio>
#include <functional>
#include <new>
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
  command->add_option("--logbook", a.logbook,
                      "logbook that knows your own hand, for --handheld; empty: the window's, none: 1 / focal length");
  command->add_flag("--json", a.json, "print JSON");
  return command;
}

CLI::App* addShoot(CLI::App& app, ShootArguments& a) {
  auto* command = app.add_subcommand("shoot", "Shoot a plan with the simulated camera, or with a real one");
  command->add_option("--world", a.world, "world id, for the simulated camera");
  command->add_option("--on", a.on, "address of a camera, as `cameras` lists it: usb:001,004 or 192.168.1.20:15740");
  command->add_option("--patience", a.patience, "seconds that a camera which is gone is waited for")
      ->capture_default_str();
  command->add_option("--plan", a.plan, "file made by plan --json")->required();
  command->add_option("--out", a.out, "folder for the frames")->required();
  command->add_option("--format", a.format, "dng, jpeg or tiff")->capture_default_str();
  command->add_option("--seed", a.seed, "of noise and movement")->capture_default_str();
  command->add_option("--fault", a.faults,
                      "something that goes wrong, such as gust or gust@2; a wrong name lists them all");
  const auto whole = CLI::Range(-360.0, 360.0);
  command->add_option("--yaw", a.aim.yaw, "degrees to the right, where a world has all directions")->check(whole);
  command->add_option("--pitch", a.aim.pitch, "degrees up")->check(CLI::Range(-90.0, 90.0));
  command->add_option("--roll", a.aim.roll, "degrees, the camera's right side down")->check(whole);
  command->add_option("--shift", a.aim.shiftY, "of the lens, upwards, in heights of the frame")
      ->check(CLI::Range(-1.0, 1.0));
  command->add_option("--focus", a.aim.focusMetres, "distance in metres; 0: all is sharp")->check(CLI::Range(0.0, 1e4));
  command->add_option("--focal", a.focal, "focal length in mm on a sensor 36 mm wide")
      ->check(CLI::Range(8.0, 100.0))
      ->capture_default_str();
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
  command->add_option("--keep", a.keep,
                      "folder for positions that were combined: what was stopped goes on from there, and joining again "
                      "combines nothing");
  command->add_option("--turn", a.turned,
                      "FILE=YAW,PITCH,ROLL: the position of that file looks so many degrees further right, up and "
                      "rolled than it was found to");
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

/// What every set of a run is made by.
void addRunOptions(CLI::App& command, RunArguments& a) {
  command.add_option("--look", a.look, "starting point")->capture_default_str();
  command.add_option("--recipe", a.recipe, "JSON file, instead of a look");
  command.add_option("--deliver", a.targets, "of jpeg, web, print, archive, hdr-avif, hdr-jxl, hdr-jpeg")
      ->capture_default_str();
  command.add_option("--creator", a.creator, "written into each picture");
  command.add_option("--rights", a.rights, "written into each picture");
  command.add_flag("--remove-location", a.removeLocation, "no place in the metadata");
  command.add_flag("!--no-join", a.joinPositions, "positions of one view stay pictures of their own");
  addCombineOptions(command, a.combine);
}

CLI::App* addRun(CLI::App& app, RunArguments& a) {
  auto* command = app.add_subcommand("run", "Group, combine, finish and deliver every set");
  command->add_option("paths", a.combine.paths, "files and folders")->required();
  command->add_option("--out", a.combine.out, "folder")->required();
  addRunOptions(*command, a);
  command->add_option("--jobs", a.jobs, "sets worked on at once; 0: as many as memory allows")
      ->capture_default_str()
      ->check(CLI::Range(0, 64));
  return command;
}

/// A command and what it does once the arguments are read.
using Work = std::function<int(const ml::Progress&)>;
using Works = std::vector<std::pair<CLI::App*, Work>>;

void addFarm(CLI::App& app, FarmArguments& a, Works& works) {
  auto* farm = app.add_subcommand("farm", "A run that many machines make, or this one");
  farm->add_option("paths", a.run.combine.paths, "cards, folders and files");
  farm->add_option("--out", a.run.combine.out, "folder for the pictures, where every machine finds it");
  farm->add_option("--engine", a.engine, "slurm or local")->capture_default_str();
  addRunOptions(*farm, a.run);
  farm->require_subcommand(0, 1);
  const auto command = [&](const char* name, const char* words) {
    auto* made = farm->add_subcommand(name, words);
    made->add_option("folder", a.folder, "that was given with --out")->required();
    return made;
  };
  auto* status = command("status", "How far it is");
  status->add_flag("--json", a.json, "print JSON");
  works.emplace_back(status, [&a](const ml::Progress&) { return runFarmStatus(a); });
  auto* resume = command("resume", "Make what is missing");
  static std::string engine; // empty: as it was begun
  resume->add_option("--engine", engine, "slurm or local; empty: as it was begun");
  works.emplace_back(resume, [&a](const ml::Progress& p) {
    a.engine = engine;
    return runFarmResume(a, p);
  });
  auto* task = command("task", "Make one set (called by the workload manager)");
  task->add_option("set", a.set, "its number in the manifest, from 0")->required();
  works.emplace_back(task, [&a](const ml::Progress& p) { return runFarmTask(a, p); });
  auto* join = command("join", "Join the reports (called by the workload manager)");
  works.emplace_back(join, [&a](const ml::Progress&) { return runFarmJoin(a); });
  works.emplace_back(farm, [&a](const ml::Progress& p) { return runFarm(a, p); });
}

void addCameras(CLI::App& app, CamerasArguments& a, Works& works) {
  auto* command = app.add_subcommand("cameras", "What is connected, and what it can be set to");
  command->add_option("addresses", a.addresses, "of cameras in the network; empty: those connected by USB");
  command->add_option("--log", a.log, "file for a report of a camera that does not work; it names no owner");
  command->add_flag("--json", a.json, "print JSON");
  works.emplace_back(command, [&a](const ml::Progress&) { return runCameras(a); });
}

void addVisit(CLI::App& app, VisitPlanArguments& a, Works& works) {
  auto* visit = app.add_subcommand("visit", "Plan a visit by the sun and your own pace");
  visit->require_subcommand(1);
  auto* plan = visit->add_subcommand("plan", "Views into the windows of light they want");
  plan->add_option("file", a.file, "JSON file: place, date and views")->required();
  plan->add_option("--ics", a.ics, "also write an iCalendar file");
  plan->add_option("--logbook", a.logbook, "whose pace; empty: the window's");
  plan->add_option("--now", a.now, "what is still to do at this time of the day");
  plan->add_flag("--json", a.json, "print JSON");
  works.emplace_back(plan, [&a](const ml::Progress&) { return runVisitPlan(a); });
}

void addLog(CLI::App& app, LogArguments& a, Works& works) {
  auto* log = app.add_subcommand("log", "The logbook of all visits");
  log->require_subcommand(1);
  const auto command = [&](const char* name, const char* words, int (*work)(const LogArguments&, const ml::Progress&)) {
    auto* made = log->add_subcommand(name, words);
    made->add_option("--logbook", a.logbook, "file; empty: the window's");
    made->add_option("--jobs", a.jobs, "folder of jobs; empty: the window's");
    works.emplace_back(made, [&a, work](const ml::Progress& progress) { return work(a, progress); });
    return made;
  };
  const auto chosen = [&](CLI::App* made) {
    made->add_option("--words", a.words, "that stand in it");
    made->add_option("--tag", a.tag);
    made->add_option("--kind", a.kind, "kind of a view");
    made->add_option("--year", a.year);
    made->add_flag("--faults", a.withFaults, "only visits in which something was wrong");
    made->add_option("--limit", a.limit, "most visits")->capture_default_str();
  };
  auto* list = command("list", "Visits, newest first", runLogList);
  chosen(list);
  list->add_flag("--json", a.json, "print JSON");
  auto* show = command("show", "All that is known of one visit", runLogShow);
  show->add_option("visit", a.visit, "its number or folder")->required();
  show->add_flag("--json", a.json, "print JSON");
  command("stats", "What the logbook has learnt", runLogStats)->add_flag("--json", a.json, "print JSON");
  auto* exported = command("export", "Visits as a file", runLogExport);
  chosen(exported);
  exported->add_option("--format", a.format, "csv, json or markdown")->capture_default_str();
  exported->add_option("--out", a.out, "file; empty: standard output");
  command("rebuild", "Read all jobs again", runLogRebuild)->add_option("folders", a.folders, "further folders of jobs");
}

void addPractice(CLI::App& app, PracticeArguments& a, Works& works) {
  auto* practice = app.add_subcommand("practice", "Exercises with the simulated camera");
  practice->require_subcommand(1);
  auto* list = practice->add_subcommand("list", "All exercises");
  list->add_flag("--json", a.json, "print JSON");
  auto* run = practice->add_subcommand("run", "Show one, or score answers to it");
  run->add_option("exercise", a.exercise, "id or JSON file")->required();
  run->add_option("--answers", a.answers, "JSON file");
  run->add_option("--out", a.out, "folder for its task and pictures");
  run->add_flag("--solution", a.solution, "with --out: also a right answer");
  run->add_flag("--json", a.json, "print JSON");
  for (auto* command : {list, run}) command->add_option("--jobs", a.jobs, "folder of jobs; empty: the window's");
  works.emplace_back(list, [&a](const ml::Progress&) { return runPracticeList(a); });
  works.emplace_back(run, [&a](const ml::Progress& progress) { return runPractice(a, progress); });
}

} // namespace

int main(int count, char** arguments) {
  const QCoreApplication core(count, arguments); // finds the logbook's driver
  std::signal(SIGINT, onInterrupt);
  std::signal(SIGTERM, onInterrupt);
  CLI::App app{"Plans, shoots, combines and finishes exposure brackets.", "mellow-lantern-cli"};
  app.require_subcommand(1);
  app.set_version_flag("--version", ml::version());
  Works works;
  PlanArguments plan;
  works.emplace_back(addPlan(app, plan), [&](const ml::Progress&) { return runPlan(plan); });
  ShootArguments shoot;
  works.emplace_back(addShoot(app, shoot), [&](const ml::Progress& p) { return runShoot(shoot, p); });
  InspectArguments inspect;
  works.emplace_back(addInspect(app, inspect), [&](const ml::Progress& p) { return runInspect(inspect, p); });
  CombineArguments combine;
  works.emplace_back(addCombine(app, combine), [&](const ml::Progress& p) { return runCombine(combine, p); });
  AssembleArguments assemble;
  works.emplace_back(addAssemble(app, assemble), [&](const ml::Progress& p) { return runAssemble(assemble, p); });
  FinishArguments finish;
  works.emplace_back(addFinish(app, finish), [&](const ml::Progress& p) { return runFinish(finish, p); });
  RunArguments run;
  works.emplace_back(addRun(app, run), [&](const ml::Progress& p) { return runRun(run, p); });
  FarmArguments farm;
  addFarm(app, farm, works);
  CamerasArguments cameras;
  addCameras(app, cameras, works);
  VisitPlanArguments visit;
  addVisit(app, visit, works);
  LogArguments log;
  addLog(app, log, works);
  PracticeArguments practice;
  addPractice(app, practice, works);

  try {
    app.parse(count, arguments);
  } catch (const CLI::ParseError& error) {
    const int code = app.exit(error);
    return code == 0 ? kDone : kWrongUse;
  }
  const ml::Progress progress = terminalProgress();
  try {
    for (const auto& [command, work] : works)
      if (*command) return work(progress);
  } catch (const std::bad_alloc&) {
    return refuse(ml::outOfMemory("This"));
  } catch (const std::exception& error) {
    return refuse(
        {ml::ErrorCode::CannotWrite, "This could not be done (" + std::string(error.what()) + "); try again."});
  }
  return kWrongUse;
}
