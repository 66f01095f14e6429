// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/version.h"
#include "session/locations.h"
#include "standin/server.h"

#include <CLI/CLI.hpp>
#include <csignal>
#include <cstdio>
#include <thread>

namespace {

std::atomic<bool> stopping{false}, mending{false};
void onStop(int) {
  stopping = true;
}
void onMend(int) {
  mending = true;
}

struct Arguments {
  std::string world = "winter-garden", camera = "full-frame-24", address = "127.0.0.1", files = "raw", card;
  int port = 15740, shrink = 1;
  double times = 3, longest = 0;
  bool anywhere = false, apertureByHand = false, isoByHand = false, noBrackets = false;
  std::vector<std::string> faults;
};

int refuse(const std::string& sentence) {
  std::fprintf(stderr, "%s\n", sentence.c_str());
  return 2;
}

/// What cannot be is said; empty: all is well.
std::string apply(const Arguments& a, ml::StandInOptions& options) {
  const ml::CameraProfile* profile = ml::findProfile(a.camera);
  if (!profile) return "There is no camera \"" + a.camera + "\"; full-frame-24 is one.";
  options.profile = *profile;
  if (a.files == "jpeg")
    options.files = ml::FilesWritten::Jpeg;
  else if (a.files == "both")
    options.files = ml::FilesWritten::Both;
  else if (a.files != "raw")
    return "--files takes raw, jpeg or both, not \"" + a.files + "\".";
  if (a.times != 1 && a.times != 2 && a.times != 3) return "--times takes 3, 2 or 1 times a stop.";
  options.timesPerStop = a.times;
  if (a.longest > 0) options.profile.longest = {a.longest};
  options.card = a.card;
  options.setsAperture = !a.apertureByHand;
  options.setsIso = !a.isoByHand;
  options.brackets = !a.noBrackets;
  for (const auto& text : a.faults) {
    if (const auto wire = ml::parseWireFault(text))
      options.wireFaults.push_back(*wire);
    else if (const auto fault = ml::parseFault(text))
      options.faults.push_back(*fault);
    else {
      std::string ids;
      for (const auto& name : ml::faultNames()) ids += std::string(", ") + name.id;
      return "There is no fault \"" + text + "\"; use one of " + ml::wireFaultIds() + ids +
             ", with @N for the frame it begins with, counted from 1.";
    }
  }
  if (a.address != "127.0.0.1" && !a.anywhere)
    return "Only this machine is served unless --anywhere says that others may drive this camera too.";
  return {};
}

void describe(CLI::App& app, Arguments& a, ml::StandInOptions& o) {
  app.add_option("--world", a.world, "demo world in front of it")->capture_default_str();
  app.add_option("--camera", a.camera, "profile it is made after")->capture_default_str();
  app.add_option("--port", a.port, "0: any that is free; it is printed")->capture_default_str();
  app.add_option("--address", a.address, "to listen at")->capture_default_str();
  app.add_flag("--anywhere", a.anywhere, "serve other machines than this one");
  app.add_option("--card", a.card, "folder for its frames; empty: a new one that goes with the program");
  app.add_option("--card-megabytes", o.cardMegabytes, "size of the card")->capture_default_str();
  app.add_option("--battery", o.battery, "0 to 1")->capture_default_str()->check(CLI::Range(0.0, 1.0));
  app.add_option("--files", a.files, "raw, jpeg or both of each frame")->capture_default_str();
  app.add_option("--times", a.times, "times in its list: 3, 2 or 1 a stop")->capture_default_str();
  app.add_option("--longest", a.longest, "seconds of the longest time in its list; beyond it there is bulb");
  app.add_option("--write", o.writeTime.value, "seconds from the exposure to the file")
      ->capture_default_str()
      ->check(CLI::Range(0.0, 60.0));
  app.add_option("--haste", o.haste, "exposures take this many times less than they should; 0: no time")
      ->capture_default_str()
      ->check(CLI::Range(0.0, 1e6));
  app.add_option("--shrink", a.shrink, "the world at 1/N of its size")->capture_default_str()->check(CLI::Range(1, 64));
  app.add_option("--chunk", o.chunk, "bytes of a data packet")->capture_default_str()->check(CLI::Range(1, 1 << 20));
  app.add_option("--seed", o.seed)->capture_default_str();
  app.add_option("--fault", a.faults, "what goes wrong, NAME or NAME@FRAME; may be given again");
  app.add_flag("--aperture-by-hand", a.apertureByHand, "the aperture is a ring on the lens");
  app.add_flag("--iso-by-hand", a.isoByHand, "ISO is a dial");
  app.add_flag("--no-brackets", a.noBrackets, "it cannot fire a bracket by itself");
}

/// A folder that goes when the program does.
struct OwnCard {
  std::filesystem::path folder;
  ~OwnCard() {
    std::error_code error;
    if (!folder.empty()) std::filesystem::remove_all(folder, error);
  }
};

} // namespace

int main(int count, char** arguments) {
  std::signal(SIGINT, onStop);
  std::signal(SIGTERM, onStop);
  std::signal(SIGUSR1, onMend);
  CLI::App app{"A simulated camera at a network port, for practice and tests. USR1: an empty card and a full battery.",
               "mellow-lantern-camera"};
  app.set_version_flag("--version", ml::version());
  Arguments a;
  ml::StandInOptions options;
  describe(app, a, options);
  try {
    app.parse(count, arguments);
  } catch (const CLI::ParseError& error) {
    return app.exit(error) == 0 ? 0 : 2;
  }
  if (const auto wrong = apply(a, options); !wrong.empty()) return refuse(wrong);
  OwnCard own;
  if (options.card.empty()) {
    std::string name = (std::filesystem::temp_directory_path() / "mellow-lantern-card-XXXXXX").string();
    if (!::mkdtemp(name.data()))
      return refuse("No folder for the card can be made in " + name + "; name one with --card.");
    own.folder = options.card = name;
  }
  const auto folder = ml::findWorld(a.world);
  if (!folder) return refuse("There is no world \"" + a.world + "\"; see what lies in the worlds folder.");
  auto world = ml::World::load(*folder);
  if (!world) return refuse(world.error().message);
  auto shown = std::make_shared<ml::World>(a.shrink > 1 ? world->shrunk(a.shrink) : std::move(*world));
  ml::StandIn camera(shown, options);
  ml::StandInServer server(camera);
  const auto port = server.listen(a.address, a.port);
  if (!port) return refuse(port.error().message);
  std::printf("%s:%d\nConnect with the address ptpip:%s:%d:%d.\n", a.address.c_str(), *port, a.address.c_str(), *port,
              *port);
  std::fflush(stdout);
  std::jthread mender([&](const std::stop_token& stop) {
    constexpr auto kLook = std::chrono::milliseconds(50);
    for (; !stop.stop_requested(); std::this_thread::sleep_for(kLook))
      if (mending.exchange(false)) camera.mend();
  });
  server.serve(stopping);
  return 0;
}
