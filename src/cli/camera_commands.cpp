// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/camera_commands.h"

#include "base/atomic_file.h"
#include "cli/say.h"
#include "exposure/marks.h"
#include "ingest/grouping.h"
#include "pipeline/inspect.h"
#include "plan/fit_times.h"
#include "plan/shot_list.h"
#include "session/read_plan.h"
#include "tether/landing.h"
#include "tether/wired_camera.h"

#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml::cli {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

json wordsOf(const std::vector<ListedValue>& list) {
  json words = json::array();
  for (const auto& v : list) words.push_back(v.word);
  return words;
}

json toJson(const std::string& address, const CameraFacts& f) {
  json j{{"address", address},
         {"model", f.model},
         {"lens", f.lens},
         {"times", wordsOf(f.times)},
         {"apertures", wordsOf(f.apertures)},
         {"isos", wordsOf(f.isos)},
         {"sets_time", !f.timeName.empty()},
         {"sets_aperture", !f.apertureName.empty()},
         {"sets_iso", !f.isoName.empty()},
         {"bulb", !f.bulbWord.empty()},
         {"bracket_counts", f.bracketCounts},
         {"finder", f.preview}};
  j["battery"] = f.battery ? json(*f.battery) : json();
  j["free_megabytes"] = f.freeMegabytes ? json(*f.freeMegabytes) : json();
  return j;
}

std::string describe(const std::string& address, const CameraFacts& f) {
  std::string line = fmt::format("{}  {}", address, f.model);
  if (!f.lens.empty()) line += ", " + f.lens;
  if (f.battery) line += fmt::format(", battery {:.0f} %", *f.battery * 100);
  if (f.freeMegabytes) line += fmt::format(", {:.0f} MB free", *f.freeMegabytes);
  std::string byHand;
  const auto add = [&](const std::string& name, const char* what) {
    if (name.empty()) byHand += (byHand.empty() ? "" : ", ") + std::string(what);
  };
  add(f.timeName, "time");
  add(f.apertureName, "aperture");
  add(f.isoName, "ISO");
  line += byHand.empty() ? "; time, aperture and ISO are set by wire" : "; set by hand: " + byHand;
  if (!f.times.empty())
    line += fmt::format("; {} to {}", print(Seconds{f.times.front().value}), print(Seconds{f.times.back().value}));
  return line + (f.bulbWord.empty() ? "." : ", and bulb.");
}

/// Everything a camera offers, for a report: nothing that tells whose it is.
std::string logOf(const std::string& address, const std::map<std::string, WireSetting>& settings) {
  static const char* const kPrivate[]{"serial", "owner", "artist", "copyright", "name", "gps", "wifi", "ssid"};
  std::string log = "address " + address.substr(0, address.find(':')) + "\n";
  for (const auto& entry : settings) {
    const std::string& name = entry.first; // clang 14 takes no structured binding into a lambda
    const WireSetting& setting = entry.second;
    const bool hidden = std::any_of(std::begin(kPrivate), std::end(kPrivate), [&](const char* word) {
      return name.find(word) != std::string::npos && name != "lensname";
    });
    log += fmt::format("{} | {} | {} | {}", name, setting.label, hidden ? "(left out)" : setting.value,
                       setting.readOnly ? "read only" : "can be set");
    for (const auto& choice : hidden ? std::vector<std::string>{} : setting.choices) log += " | " + choice;
    log += "\n";
  }
  return log;
}

/// Sentences are told also where no terminal shows how far it is.
Progress telling(const Progress& progress) {
  return {progress.stop, [progress, last = std::make_shared<std::string>()](const std::string& stage, double fraction) {
            progress.at(stage, fraction);
            if (stage.ends_with('.') && stage != *last) std::fprintf(stderr, "%s\n", stage.c_str());
            *last = stage;
          }};
}

/// The frames that are not in the folder yet, each under its own number.
ShootOrder orderFor(const ShootArguments& a, const std::vector<ExposureSettings>& fired) {
  ShootOrder order;
  order.folder = a.out;
  order.format = frameFormat(a.format).value_or(FrameFormat::Dng);
  const auto record = SetRecord::load(order.folder);
  for (std::size_t i = 0; i < fired.size(); ++i) {
    const std::string stem = order.prefix + std::to_string(i + 1);
    const bool there =
        record && frameAt(order.folder, stem) &&
        std::any_of(record->entries.begin(), record->entries.end(), [&](const SetRecord::Entry& e) {
          return e.file == stem && std::abs(std::log2(e.settings.time.value / fired[i].time.value)) < 0.1;
        });
    if (there) continue;
    order.frames.push_back(fired[i]);
    order.numbers.push_back(int(i) + 1);
  }
  return order;
}

} // namespace

int runCameras(const CamerasArguments& a) {
  json list = json::array();
  std::string log;
  std::vector<std::string> addresses = a.addresses;
  if (addresses.empty()) {
    const auto found = findCameras();
    if (!found) return refuse(found.error());
    for (const auto& camera : *found) addresses.push_back(camera.port);
  }
  for (const auto& address : addresses) {
    WiredCamera camera(address, shippedProfiles().front());
    if (auto connected = camera.connect(); !connected) return refuse(connected.error());
    list.push_back(toJson(address, camera.facts()));
    if (!a.json) say(describe(address, camera.facts()));
    if (a.log.empty()) continue;
    const auto settings = camera.settings();
    if (!settings) return refuse(settings.error());
    log += logOf(address, *settings);
  }
  if (a.json)
    say(list.dump(2));
  else if (addresses.empty())
    say("No camera is connected by USB. A camera in the network has an address: `mellow-lantern-cli cameras "
        "192.168.1.20`.");
  if (!a.log.empty())
    if (auto written = writeTextAtomically(a.log, log); !written) return refuse(written.error());
  return kDone;
}

int runShootByWire(const ShootArguments& a, const Progress& quiet) {
  const Progress progress = telling(quiet);
  const auto plan = readPlan(a.plan);
  if (!plan) return refuse(plan.error());
  WiredCamera camera(a.on, plan->camera);
  camera.setPatience({a.patience});
  if (auto connected = camera.connect(); !connected) return refuse(connected.error());
  const CameraFacts facts = camera.facts();
  say(describe(a.on, facts));
  const FittedPlan fitted = fitToTimes(*plan, facts.timesFor(plan->frames));
  if (fitted.changed)
    say(std::string(fitted.again ? "With this camera's times the plan is another: " : "With this camera's times: ") +
        verdict(fitted.plan));
  std::vector<ExposureSettings> fired;
  for (const auto& run : runsOf(fitted.plan)) fired.insert(fired.end(), run.begin(), run.end());
  const ShootOrder order = orderFor(a, fired);
  if (order.frames.size() < fired.size())
    say(fmt::format("{} of {} frames are in {} already.", fired.size() - order.frames.size(), fired.size(), a.out));
  if (order.frames.empty()) {
    tidyArriving(a.out);
    say("Name another folder to shoot the set again.");
    return kDone;
  }
  const auto shot = shootBracket(camera, order, progress, [](const ShotFrame& frame) {
    std::printf("%s  %s\n", print(frame.settings.time).c_str(), frame.file.c_str());
    std::fflush(stdout);
  });
  if (!shot) return refuse(shot.error());
  std::vector<LeftOut> leftOut;
  const auto sets = inspectSets(groupFiles(collectFiles({a.out}, leftOut, Subfolders::PassOver)), quiet);
  for (const auto& set : sets) say(set.verdict.sentence);
  if (fitted.plan.flashFrames() > 0)
    say(fmt::format("The plan has one frame more, with flash: switch it on, aim it straight at the window, fire at {} "
                    "and copy the file to {}. Flash can harm photosensitive people and animals; ask first.",
                    print(fitted.plan.frames.front().time), a.out));
  return kDone;
}

} // namespace ml::cli
