// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "base/atomic_file.h"
#include "camera/simulated_camera.h"
#include "cli/camera_commands.h"
#include "cli/farm_commands.h"
#include "cli/say.h"
#include "deliver/deliver.h"
#include "deliver/row_spool.h"
#include "exposure/marks.h"
#include "finish/finish.h"
#include "logbook/store.h"
#include "pipeline/assemble_json.h"
#include "pipeline/combine_report.h"
#include "pipeline/deliver_view.h"
#include "pipeline/inspect.h"
#include "pipeline/report.h"
#include "pipeline/run.h"
#include "plan/shot_list.h"
#include "session/read_plan.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <nlohmann/json.hpp>

namespace ml::cli {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

std::vector<fs::path> toPaths(const std::vector<std::string>& names) {
  return {names.begin(), names.end()};
}

int sayLeftOut(const std::vector<LeftOut>& leftOut) {
  const auto missed = withoutCompanions(leftOut);
  for (const auto& entry : missed) std::fprintf(stderr, "%s\n", entry.reason.message.c_str());
  return missed.empty() ? kDone : kSetLeftOut;
}

Result<CombineOptions> combineOptions(const CombineArguments& a) {
  const auto method = combineMethod(a.method);
  if (!method) return passOn(method.error());
  const auto align = alignMode(a.align);
  if (!align) return passOn(align.error());
  const auto motion = motionMode(a.motion);
  if (!motion) return passOn(motion.error());
  const auto crop = cropMode(a.crop);
  if (!crop) return passOn(crop.error());
  const auto reference = referenceFrame(a.reference);
  if (!reference) return passOn(reference.error());
  CombineOptions options;
  options.align = *align;
  options.motion = *motion;
  options.reference = *reference;
  options.crop = *crop;
  options.method = *method;
  options.emptyScene = a.empty;
  options.evenSo = a.evenSo;
  options.unused = a.leave;
  options.curves = a.curves;
  return options;
}

/// What the logbook has learnt of this hand; said, because the plan then differs from one without it. Errors: of the
/// logbook that was named.
Result<double> ownHandStops(const PlanArguments& a) {
  const fs::path file = a.logbook.empty() ? logbookFile(jobsIn({})) : fs::path(a.logbook);
  if (a.logbook == "none" || (a.logbook.empty() && !fs::exists(file))) return 0.0;
  if (!fs::exists(file))
    return fail(ErrorCode::FileMissing, "`" + a.logbook + "` is not there; name a logbook, or leave --logbook out.");
  const auto cases = Logbook::open(file).and_then([](const Logbook& book) { return book.cases(); });
  if (!cases && a.logbook.empty()) return 0.0; // busy or damaged: the usual hand will do
  if (!cases) return passOn(cases.error());
  const auto curve = handCurve(*cases);
  if (!curve) return 0.0;
  std::fprintf(stderr, "Your own hand holds %s at %.0f mm (%d hand-held frames of the logbook).\n",
               print(Seconds{std::exp2(curve->stops) / a.focal}).c_str(), a.focal, curve->cases);
  return curve->stops;
}

/// 1 / focal length seconds, the classic limit for a full frame (common practice, no source), or what this hand holds.
Result<std::optional<Seconds>> handheldLimit(const PlanArguments& a) {
  if (!a.handheld) return std::optional<Seconds>{};
  if (!(a.focal >= 1 && a.focal <= 5000))
    return fail(ErrorCode::InvalidArgument,
                "--handheld needs --focal with the focal length in mm, for instance --focal 28.");
  const auto stops = ownHandStops(a);
  if (!stops) return passOn(stops.error());
  return std::optional<Seconds>{{std::exp2(std::floor((std::log2(1 / a.focal) + *stops) * 3 + 1e-9) / 3)}};
}

/// Every school on one scene, a line each.
int compare(const CameraProfile& camera, const PlanRequest& request, bool asJson) {
  const auto comparison = compareSchools(camera, request, {});
  if (!comparison) return refuse(comparison.error());
  if (asJson) {
    say(toJson(*comparison).dump(2));
    return kDone;
  }
  say(verdict(comparison->recommended.plan));
  say(comparison->reason);
  for (const auto& other : comparison->alternatives)
    std::printf("  %-14s %s\n", other.school.id.c_str(), other.difference.c_str());
  say(comparison->oneRaw);
  say(comparison->extraFrames);
  return kDone;
}

/// Ids between commas.
Result<std::vector<Target>> targetsNamed(const std::string& list) {
  std::vector<Target> out;
  for (std::size_t begin = 0; begin <= list.size();) {
    const std::size_t end = std::min(list.find(',', begin), list.size());
    const std::string id = list.substr(begin, end - begin);
    const Target* target = findTarget(id);
    if (!target)
      return fail(ErrorCode::InvalidArgument,
                  "There is no target \"" + id +
                      "\"; use of jpeg, web, print, archive, hdr-avif, hdr-jxl and hdr-jpeg.");
    out.push_back(*target);
    begin = end + 1;
  }
  return out;
}

Result<void> nameWishes(const std::string& kind, const std::string& projection, AssembleOptions& out) {
  if (kind == "turned")
    out.kind = PositionWish::Turned;
  else if (kind == "shifted")
    out.kind = PositionWish::Shifted;
  else if (kind == "sphere")
    out.kind = PositionWish::Sphere;
  else if (kind != "auto")
    return fail(ErrorCode::InvalidArgument, "--kind takes auto, turned, shifted or sphere, not \"" + kind + "\".");
  for (const Projection p :
       {Projection::Auto, Projection::Perspective, Projection::Cylindrical, Projection::Equirectangular})
    if (projection == nameOf(p)) {
      out.combine.joining.projection = p;
      return {};
    }
  return fail(ErrorCode::InvalidArgument,
              "--projection takes auto, perspective, cylindrical or equirectangular, not \"" + projection + "\".");
}

} // namespace

int runPlan(const PlanArguments& a) {
  const auto low = parseStops(a.low), high = parseStops(a.high);
  const auto aperture = parseFNumber(a.aperture);
  if (!low || !high) return wrongUse("--low and --high take readings in EV, for instance --low 3 --high \"13 1/3\".");
  if (!aperture) return wrongUse("--aperture takes an f-number, for instance 8 or f/5.6.");
  const auto camera = cameraNamed(a.camera);
  if (!camera) return refuse(camera.error());
  PlanRequest request;
  request.low = *low;
  request.high = *high;
  request.unsureLow = request.unsureHigh = kReadingStep;
  request.aperture = *aperture;
  request.school = a.school;
  if (!a.iso.empty()) {
    request.iso = parseIso(a.iso);
    if (!request.iso) return wrongUse("--iso takes a number, for instance 100.");
  }
  if (!a.isoCap.empty()) {
    request.isoCap = parseIso(a.isoCap);
    if (!request.isoCap) return wrongUse("--iso-cap takes the highest ISO you allow, for instance 800.");
  }
  if (!a.snr.empty()) {
    const auto target = parseStops(a.snr);
    if (!target || !(target->value > 0))
      return wrongUse("--snr takes the least signal-to-noise ratio, for instance 10 or 40.");
    request.snrTarget = target->value;
  }
  const auto limit = handheldLimit(a);
  if (!limit) return refuse(limit.error());
  request.longest = *limit;
  if (a.compare) return compare(*camera, request, a.json);
  const auto plan = planBracket(*camera, request);
  if (!plan) return refuse(plan.error());
  if (a.json) {
    say(toJson(*plan).dump(2));
    return kDone;
  }
  say(verdict(*plan));
  for (const auto& frame : plan->frames)
    std::printf("  %-8s %s  %s\n", print(frame.time).c_str(), print(frame.aperture).c_str(), print(frame.iso).c_str());
  return kDone;
}

int runShoot(const ShootArguments& a, const Progress& progress) {
  if (a.world.empty() == a.on.empty())
    return wrongUse("Name either --world for the simulated camera or --on with the address of a real one.");
  if (!a.on.empty()) return runShootByWire(a, progress);
  const auto format = frameFormat(a.format);
  if (!format) return wrongUse("--format takes dng, jpeg or tiff, not \"" + a.format + "\".");
  SimulationOptions simulation;
  simulation.seed = a.seed;
  for (const auto& text : a.faults) {
    const auto fault = parseFault(text);
    if (!fault) {
      std::string ids;
      for (const auto& name : faultNames()) ids += std::string(ids.empty() ? "" : ", ") + name.id;
      return wrongUse("There is no fault \"" + text + "\"; use one of " + ids +
                      ", with @N for the frame it begins with, counted from 1.");
    }
    // A hand sways from the first frame on, whatever frame is named.
    simulation.faults.push_back(fault->kind == FaultKind::HandHeld ? Fault{fault->kind, 0} : *fault);
  }
  const auto folder = worldFolder(a.world);
  if (!folder) return refuse(folder.error());
  const auto plan = readPlan(a.plan);
  if (!plan) return refuse(plan.error());
  auto world = World::load(*folder);
  if (!world) return refuse(world.error());
  SimulatedCamera camera(std::make_shared<World>(std::move(*world)), plan->camera, simulation);
  if (!(a.aim == Aim{}) || a.focal != ShootArguments{}.focal)
    if (auto pointed = camera.point(a.aim, a.focal); !pointed) return refuse(pointed.error());
  std::vector<ExposureSettings> fired;
  for (const auto& run : runsOf(*plan)) fired.insert(fired.end(), run.begin(), run.end());
  const auto arrived = [](const ShotFrame& frame) {
    std::printf("%s  %s\n", print(frame.settings.time).c_str(), frame.file.c_str());
    std::fflush(stdout);
  };
  const auto shot = shootBracket(camera, {fired, *format, a.out, "frame-", 1, {0}}, progress, arrived);
  if (!shot) return refuse(shot.error());
  if (plan->flashFrames() == 0) return kDone;
  const ShootOrder window{{plan->frames.front()}, *format, a.out, "frame-", int(fired.size()) + 1, {0}, true};
  const auto lit = shootBracket(camera, window, progress, arrived);
  return lit ? kDone : refuse(lit.error());
}

int runInspect(const InspectArguments& a, const Progress& progress) {
  Grouping missing;
  const auto files = collectFiles(toPaths(a.paths), missing.leftOut);
  Grouping grouping = groupFiles(files);
  grouping.leftOut.insert(grouping.leftOut.end(), missing.leftOut.begin(), missing.leftOut.end());
  const auto sets = inspectSets(grouping, progress);
  if (progress.stopRequested()) return refuse({ErrorCode::Stopped, "Stopped."});
  if (a.json) {
    say(toJson(sets, grouping.leftOut).dump(2));
  } else {
    for (const auto& set : sets) {
      std::printf("%s: %zu %s\n", set.group.name.c_str(), set.group.files.size(),
                  set.group.files.size() == 1 ? "frame" : "frames");
      for (std::size_t i = 0; i < set.group.files.size(); ++i) {
        const auto& file = set.group.files[i];
        const std::string time = file.exposureKnown ? print(file.settings.time) : "not said",
                          aperture = file.exposureKnown ? print(file.settings.aperture) : "",
                          iso = file.exposureKnown ? print(file.settings.iso) : "";
        std::printf("  %-8s %-6s %-8s %s%s%s\n", time.c_str(), aperture.c_str(), iso.c_str(),
                    file.path.filename().c_str(), i < set.frames.size() ? "  " : "",
                    i < set.frames.size() ? set.frames[i].sentence.c_str() : "");
      }
      std::printf("  %s\n", set.verdict.sentence.c_str());
    }
  }
  const int code = sayLeftOut(grouping.leftOut);
  if (grouping.sets.empty())
    return withoutCompanions(grouping.leftOut).empty()
               ? refuse({ErrorCode::FileMissing, "There is no frame in what was named."})
               : kUnreadable;
  return code;
}

int runCombine(const CombineArguments& a, const Progress& progress) {
  const auto options = combineOptions(a);
  if (!options) return refuse(options.error());
  std::vector<LeftOut> missing;
  const auto files = collectFiles(toPaths(a.paths), missing, Subfolders::PassOver);
  if (const auto missed = withoutCompanions(missing); !missed.empty()) return refuse(missed.front().reason);
  const auto combined = combineFiles(files, *options, progress);
  if (!combined) return refuse(combined.error());
  RadianceOptions radiance;
  radiance.notes = notesOf(*combined);
  radiance.metadataFrom = combined->frames[combined->reference].path;
  if (auto written = deliverRadiance(combined->radiance.view(), a.out, radiance); !written)
    return written.error().code == ErrorCode::UnsupportedFormat ? wrongUse(written.error().message)
                                                                : refuse(written.error());
  if (!a.report.empty())
    if (auto written = writeTextAtomically(a.report, toJson(combineReport(*combined)).dump(2)); !written)
      return refuse(written.error());
  say(verdict(*combined));
  return combined->leftOut.empty() ? kDone : kSetLeftOut;
}

namespace {

/// "FILE=YAW,PITCH,ROLL".
bool readTurn(const std::string& words, std::map<std::string, Angles>& into) {
  const auto equals = words.rfind('=');
  if (equals == std::string::npos || equals == 0) return false;
  double values[3];
  std::size_t at = equals + 1;
  for (int i = 0; i < 3; ++i) {
    const char* begin = words.data() + at;
    const auto read = std::from_chars(begin, words.data() + words.size(), values[i]);
    if (read.ec != std::errc() || !(std::abs(values[i]) <= 180)) return false;
    at += std::size_t(read.ptr - begin);
    if (i < 2 && (at >= words.size() || words[at++] != ',')) return false;
  }
  if (at != words.size()) return false;
  into[words.substr(0, equals)] = {values[0], values[1], values[2]};
  return true;
}

} // namespace

int runAssemble(const AssembleArguments& a, const Progress& progress) {
  AssembleOptions options;
  const auto combine = combineOptions(a.combine);
  if (!combine) return refuse(combine.error());
  options.combine = *combine;
  if (auto named = nameWishes(a.kind, a.projection, options); !named) return wrongUse(named.error().message);
  options.keep = a.keep;
  for (const auto& words : a.turned)
    if (!readTurn(words, options.turnedNamed))
      return wrongUse("`" + words + "` is no turn; write FILE=YAW,PITCH,ROLL in degrees.");
  const auto assembled = assembleFiles(toPaths(a.combine.paths), options, progress.part(0, 0.8));
  if (!assembled) return refuse(assembled.error());
  if (auto written = writeAssembly(*assembled, a.combine.out, progress.part(0.8, 1)); !written)
    return written.error().code == ErrorCode::UnsupportedFormat ? wrongUse(written.error().message)
                                                                : refuse(written.error());
  if (!a.combine.report.empty())
    if (auto written = writeTextAtomically(a.combine.report, toJson(*assembled).dump(2)); !written)
      return refuse(written.error());
  say(verdict(*assembled));
  return sayLeftOut(assembled->leftOut);
}

int runFinish(const FinishArguments& a, const Progress& progress) {
  const auto recipe = recipeFrom(a.look, a.recipe);
  if (!recipe) return refuse(recipe.error());
  const auto radiance = openRadiance(a.file, progress.stop);
  if (!radiance) return refuse(radiance.error());
  const SceneFacts facts = factsOfRadiance(a.file);
  const auto finished = finishRadiance(radiance->rows(), *recipe, facts, nullptr, progress);
  if (!finished) return refuse(finished.error());
  const auto judged = judgeRadiance(radiance->rows(), *recipe, facts, progress);
  if (!judged) return refuse(judged.error());
  DeliverOptions delivering;
  delivering.sphere = facts.sphere;
  if (auto written = deliverPicture(finished->picture.view(), a.out, delivering); !written)
    return written.error().code == ErrorCode::UnsupportedFormat ? wrongUse(written.error().message)
                                                                : refuse(written.error());
  if (!a.report.empty()) {
    json report = toJson(finished->report);
    report["judgement"] = toJson(*judged);
    if (auto written = writeTextAtomically(a.report, report.dump(2)); !written) return refuse(written.error());
  }
  say("Finished to " + a.out +
      (facts.metered.empty() ? ". The file names no metered frame: the exposure is metered from the scene."
                             : ", placed by the frame that was metered, as the file tells."));
  for (const Finding& f : judged->findings)
    if (f.tooMuch) say(sentence(f, judged->scene));
  return kDone;
}

Result<RunOptions> runOptions(const RunArguments& a) {
  const auto combine = combineOptions(a.combine);
  if (!combine) return passOn(combine.error());
  const auto recipe = recipeFrom(a.look, a.recipe);
  if (!recipe) return passOn(recipe.error());
  RunOptions options;
  options.combine = *combine;
  options.recipe = *recipe;
  options.out = a.combine.out;
  options.jobs = a.jobs;
  options.joinPositions = a.joinPositions;
  options.wishes.keepLocation = !a.removeLocation;
  options.wishes.creator = a.creator;
  options.wishes.rights = a.rights;
  const auto wanted = targetsNamed(a.targets);
  if (!wanted) return passOn(wanted.error());
  options.targets = *wanted;
  return options;
}

int runRun(const RunArguments& a, const Progress& progress) {
  const auto options = runOptions(a);
  if (!options) return refuse(options.error());
  std::size_t failed = 0;
  const auto summary = runAll(toPaths(a.combine.paths), *options, progress, [&](const SetOutcome& set) {
    failed += set.failure ? 1 : 0;
    std::printf("%s (%zu): %s%s\n", set.name.c_str(), set.files, set.done ? "done before; " : "",
                set.failure ? set.failure->message.c_str() : set.verdict.c_str());
    std::fflush(stdout);
  });
  if (!summary) return refuse(summary.error());
  for (const auto& said : summary->lights) std::printf("%s\n", said.c_str());
  const int leftOut = sayLeftOut(summary->leftOut);
  std::printf("%zu of %zu sets done; %s\n", summary->sets.size() - failed, summary->sets.size(),
              summary->report.c_str());
  if (failed == summary->sets.size()) return kCannotCombine;
  return failed > 0 ? int(kSetLeftOut) : leftOut;
}

} // namespace ml::cli
