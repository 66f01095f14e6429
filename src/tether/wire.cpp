// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/wire.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

using namespace std::chrono_literals;
constexpr auto kCallLimit = 15s, kFetchLimit = 180s, kListLimit = 60s, kOpenLimit = 30s, kCloseLimit = 8s;
constexpr std::chrono::milliseconds kAgain = 50ms;
constexpr auto kListen = 30ms;

tl::unexpected<Error> silent(std::chrono::milliseconds limit) {
  return fail(ErrorCode::CameraGone,
              phrase("The camera did not answer for {} seconds and was given up; switch it off and on, and connect "
                     "it again. What was shot is kept.",
                     limit.count() / 1000));
}

const WireSetting* firstOf(const std::map<std::string, WireSetting>& all, std::initializer_list<const char*> names) {
  for (const char* name : names)
    if (const auto found = all.find(name); found != all.end()) return &found->second;
  return nullptr;
}

std::optional<double> percent(const std::string& text) {
  std::size_t end = 0;
  try {
    const double value = std::stod(text, &end);
    if (value >= 0 && value <= 100 && (text.substr(end) == "%" || end == text.size())) return value / 100;
  } catch (const std::exception&) { // no figure: "Low"
  }
  return {};
}

bool canSet(const WireSetting* setting) {
  return setting && !setting->readOnly && setting->choices.size() > 1;
}

template <class Read> std::optional<double> now(const WireSetting* setting, Read read) {
  if (!setting) return {};
  const auto list = read({setting->value});
  return list.empty() ? std::nullopt : std::optional(list.front().value);
}

/// Brackets that a camera fires by itself when it is released once. Only our own stand-in is known to: other makers'
/// settings exist, but nobody has tried them with this program.
void readBrackets(const std::map<std::string, WireSetting>& all, CameraFacts& facts) {
  const auto *maker = firstOf(all, {"manufacturer"}), *frames = firstOf(all, {"d101"}), *steps = firstOf(all, {"d102"});
  if (!maker || maker->value != "Mellow Lantern" || !frames || !steps) return;
  for (const auto& word : frames->choices)
    if (const int n = std::atoi(word.c_str()); n > 1 && n < 100) facts.bracketCounts.push_back(n);
  for (const auto& word : steps->choices) facts.bracketSteps.push_back(std::atoi(word.c_str()) / 1000.0);
}

CameraFacts factsFrom(const std::map<std::string, WireSetting>& all) {
  CameraFacts facts;
  if (const auto* model = firstOf(all, {"cameramodel", "model"})) facts.model = model->value;
  if (const auto* lens = firstOf(all, {"lensname"})) facts.lens = lens->value;
  if (const auto* battery = firstOf(all, {"batterylevel"})) facts.battery = percent(battery->value);
  const auto* time = firstOf(all, {"shutterspeed", "shutterspeed2"});
  const auto* aperture = firstOf(all, {"f-number", "aperture"});
  const auto* iso = firstOf(all, {"iso"});
  if (time) {
    facts.times = listedTimes(time->choices);
    if (canSet(time) && !facts.times.empty()) facts.timeName = time->name;
    const std::string word = bulbWord(time->choices).value_or("");
    // The library calls the standard's open capture "movie", and shows it only where the camera has it.
    const auto* bulb = firstOf(all, {isOpenTime(word) ? "movie" : "bulb"});
    if (canSet(time) && !word.empty() && bulb && !bulb->readOnly) facts.bulbWord = word, facts.bulbSwitch = bulb->name;
  }
  if (aperture) {
    facts.apertures = listedApertures(aperture->choices);
    if (canSet(aperture) && !facts.apertures.empty()) facts.apertureName = aperture->name;
  }
  if (iso) {
    facts.isos = listedIsos(iso->choices);
    if (canSet(iso) && !facts.isos.empty()) facts.isoName = iso->name;
  }
  facts.aperture = now(aperture, listedApertures);
  facts.iso = now(iso, listedIsos);
  readBrackets(all, facts);
  return facts;
}

} // namespace

std::vector<Seconds> CameraFacts::timesFor(const std::vector<ExposureSettings>& frames) const {
  std::vector<Seconds> all;
  Seconds longest{0};
  for (const auto& t : times) {
    all.push_back({t.value});
    longest = std::max(longest, Seconds{t.value});
  }
  // A word that is rounded may mean several times.
  for (const auto& frame : frames)
    if (const ListedValue* near = nearestListed(times, frame.time.value); near && offFrom(*near, frame.time.value) == 0)
      all.push_back(frame.time);
  if (all.empty() || bulbWord.empty()) return all;
  for (const auto& frame : frames)
    if (frame.time > longest) all.push_back(frame.time);
  return all;
}

template <class Value>
Result<Value> Wire::ask(std::chrono::milliseconds limit, std::function<Result<Value>(Connection&)> work) {
  if (lost_)
    return fail(ErrorCode::CameraGone, phrase("The camera is gone; check cable, network and battery, connect it again "
                                              "and go on. What was shot is kept."));
  auto answer = thread_.call(limit, [held = connection_, work] { return work(**held); });
  if (!answer) {
    lost_ = true;
    return silent(limit);
  }
  if (!*answer && answer->error().code == ErrorCode::CameraGone) lost_ = true;
  return std::move(*answer);
}

Result<std::shared_ptr<Wire>> Wire::open(const std::string& port, const std::string& model, const StopFlag& giveUp) {
  std::shared_ptr<Wire> wire(new Wire(giveUp), [](Wire* w) {
    // The connection is closed where it was used, and before another is opened.
    const auto close = [held = w->connection_] {
      held->reset();
      return true;
    };
    if (w->thread_.hung())
      w->thread_.post(close);
    else
      (void)w->thread_.call(kCloseLimit, close);
    delete w;
  });
  const auto opened = wire->thread_.call(kOpenLimit, [held = wire->connection_, port, model]() -> Result<void> {
    auto made = Connection::open(port, model);
    if (!made) return passOn(made.error());
    *held = std::move(*made);
    return {};
  });
  if (!opened) return silent(kOpenLimit);
  if (!*opened) return passOn(opened->error());
  return wire;
}

Result<std::map<std::string, WireSetting>> Wire::settings() {
  return ask<std::map<std::string, WireSetting>>(kListLimit, [](Connection& c) { return c.settings(); });
}

Result<CameraFacts> Wire::facts() {
  using Read = std::pair<CameraFacts, bool>;
  auto read = ask<Read>(kListLimit, [](Connection& c) -> Result<Read> {
    const auto all = c.settings();
    if (!all) return passOn(all.error());
    CameraFacts facts = factsFrom(*all);
    if (facts.model.empty()) facts.model = c.model();
    facts.freeMegabytes = c.freeMegabytes();
    return Read{facts, c.hasPreview()};
  });
  if (!read) return passOn(read.error());
  read->first.preview = read->second;
  return read->first;
}

Result<void> Wire::set(const std::string& name, const std::string& value, const Progress& progress,
                       std::chrono::seconds patience) {
  const auto until = std::chrono::steady_clock::now() + patience;
  for (;;) {
    auto taken = ask<bool>(kCallLimit, [name, value](Connection& c) { return c.set(name, value); });
    if (!taken) return passOn(taken.error());
    WireSetting now;
    if (*taken) {
      // A value may snap to a neighbour, and a camera that exposes may take none, without a word.
      const auto read = ask<WireSetting>(kCallLimit, [name](Connection& c) { return c.setting(name); });
      if (!read) return passOn(read.error());
      if (read->value == value) return {};
      now = *read;
    }
    if (progress.stopRequested()) return stopped();
    if (std::chrono::steady_clock::now() > until)
      return fail(
          ErrorCode::CameraRefused,
          *taken ? phrase("The camera took {} for {} where {} was asked for; set its dial to manual (M) and go on.",
                          now.value, now.label, value)
                 : phrase("The camera did not take {} for {} within {} seconds; look at its screen, and at the mode "
                          "it is in.",
                          value, name, patience.count()));
    std::this_thread::sleep_for(kAgain);
  }
}

Result<void> Wire::turn(const std::string& name, bool on) {
  const auto taken = ask<bool>(kCallLimit, [name, on](Connection& c) { return c.set(name, on ? "1" : "0"); });
  if (!taken) return passOn(taken.error());
  return *taken ? Result<void>{}
                : fail(ErrorCode::CameraRefused, phrase("The camera is busy; look at its screen, then go on."));
}

Result<void> Wire::trigger(std::chrono::milliseconds patience, const Progress& progress) {
  const auto until = std::chrono::steady_clock::now() + patience;
  for (;;) {
    const auto released = ask<bool>(kCallLimit, [](Connection& c) { return c.trigger(); });
    if (!released) return passOn(released.error());
    if (*released) return {};
    if (progress.stopRequested()) return stopped();
    if (std::chrono::steady_clock::now() > until)
      return fail(ErrorCode::CameraRefused,
                  phrase("The camera stayed busy for {} seconds; look at its screen, then go on.",
                         std::chrono::duration_cast<std::chrono::seconds>(patience).count()));
    std::this_thread::sleep_for(kAgain);
  }
}

Result<CameraEvent> Wire::event() {
  return ask<CameraEvent>(kCallLimit, [](Connection& c) { return c.event(kListen); });
}

Result<void> Wire::fetch(const CameraFileName& file, const std::filesystem::path& target) {
  return ask<void>(kFetchLimit, [file, target](Connection& c) { return c.fetch(file, target); });
}

Result<std::vector<CameraFileName>> Wire::files() {
  return ask<std::vector<CameraFileName>>(kListLimit, [](Connection& c) { return c.files(); });
}

std::optional<double> Wire::freeMegabytes() {
  const auto free = ask<std::optional<double>>(
      kCallLimit, [](Connection& c) -> Result<std::optional<double>> { return c.freeMegabytes(); });
  return free ? *free : std::nullopt;
}

Result<std::vector<unsigned char>> Wire::preview() {
  return ask<std::vector<unsigned char>>(kCallLimit, [](Connection& c) { return c.preview(); });
}

} // namespace ml
