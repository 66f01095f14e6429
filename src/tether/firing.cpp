// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/firing.h"

#include "base/phrase.h"
#include "codec/exif.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

using namespace std::chrono_literals;
using Span = std::chrono::duration<double>;
constexpr Span kBusy{30};        ///< A camera that writes its card may be busy this long.
constexpr Span kNothing{10};     ///< After the exposure should be over, until it is looked for what came of it.
constexpr Span kQuietFirst{0.6}; ///< After a camera's first exposure: how many files does it write?
constexpr Span kQuiet{1.5};      ///< Where a file or the end is never told.
constexpr auto kLook = 20ms;
constexpr auto kBracketEnds =
    60s; ///< That a bracket which the camera fires by itself may go on after the wire was lost.
constexpr auto kRemembered = 2500ms; ///< That the library gives an earlier answer for.
constexpr double kEmpty = 0.04;      ///< Of the battery: cameras refuse.
constexpr double kNoRoom = 5;        ///< Megabytes.
constexpr double kHandOff = 0.34;    ///< Stops: what a hand was to set was not set.
constexpr Span kHand{120};           ///< That a hand has to set what is asked for.

Error cardFull() {
  return {ErrorCode::CardFull, phrase("The camera's card is full; put in another and go on. What was shot is kept.")};
}

Seconds total(const ShootOrder& order, const std::vector<std::size_t>& frames) {
  Seconds sum{0};
  for (const std::size_t i : frames) sum.value += order.frames[i].time.value;
  return sum;
}

} // namespace

Result<std::vector<ShotFrame>> Firing::run(const Progress& progress,
                                           const std::function<void(const ShotFrame&)>& arrived) {
  Result<void> result;
  std::jthread shooter([&] {
    result = shootAll(progress);
    const std::lock_guard lock(mutex_);
    over_ = true;
    told_.notify_one();
  });
  std::vector<ShotFrame> shot;
  for (std::unique_lock lock(mutex_);;) {
    told_.wait(lock, [&] { return over_ || !arrived_.empty(); });
    if (arrived_.empty()) break;
    shot.push_back(arrived_.front());
    arrived_.pop_front();
    lock.unlock();
    if (arrived) arrived(shot.back());
    lock.lock();
  }
  shooter.join();
  if (!result) return passOn(result.error());
  progress.at(phrase("Frames"), 1);
  return shot;
}

Result<void> Firing::shootAll(const Progress& progress) {
  for (;;) {
    auto result = attempt(progress);
    if (result) landing_.tidy();
    if (result || result.error().code != ErrorCode::CameraGone) return result;
    waiting_.clear(); // what is on the camera is looked for there
    nowAt_.clear();
    wire_.reset(); // the lost connection is closed before another is opened
    if (auto back = reconnect(result.error(), progress); !back) return back;
  }
}

Result<void> Firing::reconnect(const Error& why, const Progress& progress) {
  const auto until = Clock::now() + Span(camera_.patience_.load().value);
  while (Clock::now() < until) {
    progress.at(why.message, 0);
    if (progress.stopRequested() || camera_.giveUp_.requested()) return stopped();
    if (camera_.open()) return {};
    std::this_thread::sleep_for(250ms);
  }
  return passOn(why);
}

Result<void> Firing::attempt(const Progress& progress) {
  auto wire = camera_.wire();
  if (!wire) return passOn(wire.error());
  wire_ = std::move(*wire); // nobody else keeps it: it is closed when this lets go
  facts_ = camera_.facts();
  if (!begun_) {
    if (auto heard = hearEarlier(); !heard) return heard;
    const std::lock_guard lock(camera_.mutex_);
    if (auto begun = landing_.begin(camera_.known_); !begun) return begun;
    begun_ = true;
  }
  if (auto fetched = fetchLeft(progress); !fetched) return fetched;
  auto missing = landing_.missing();
  if (missing.empty()) return {};
  if (auto set = askHand(progress); !set) return set;
  if (const auto step = ownStep(missing)) {
    if (auto shot = fireBracket(missing, *step, progress); !shot) return shot;
    missing = landing_.missing();
  }
  for (const std::size_t frame : missing)
    if (auto shot = fireFrame(frame, progress); !shot) return shot;
  if (auto fetched = fetchWaiting(true); !fetched) return fetched;
  if (auto heard = hearEarlier(); !heard) return heard;
  if (const auto facts = wire_->facts(); facts) camera_.note(*facts);
  if (const auto still = landing_.missing(); !still.empty())
    return fail(ErrorCode::CameraRefused,
                phrase("Of frame {} nothing came from the camera; look at its screen, and shoot what is missing.",
                       still.front() + 1));
  return {};
}

// ---- What a hand sets

Result<void> Firing::askHand(const Progress& progress) const {
  if (facts_.timeName.empty())
    return fail(ErrorCode::CameraRefused,
                phrase("This camera does not let its times be set by wire in the mode it is in; set its dial to manual "
                       "(M), or let it fire the bracket by itself and watch the folder of its program."));
  const ExposureSettings& wanted = order_.frames.front();
  const auto until = Clock::now() + kHand;
  for (;;) {
    const auto work = camera_.handWork(wanted);
    if (work.empty()) return {};
    const bool told = (!facts_.apertureName.empty() || facts_.aperture) && (!facts_.isoName.empty() || facts_.iso);
    progress.at(work.front(), 0);
    if (!told) return {}; // the camera does not say how it stands: its first frame will
    if (progress.stopRequested()) return stopped();
    if (Clock::now() > until) return fail(ErrorCode::CameraRefused, phrase("{} Then go on.", work.front()));
    std::this_thread::sleep_for(500ms);
    const auto facts = wire_->facts();
    if (!facts) return passOn(facts.error());
    camera_.note(*facts);
  }
}

/// What only a hand sets is what the frame says, or the set ends before more are shot in vain.
Result<void> Firing::checkHand(const ShotFrame& frame) const {
  const auto said = readExif(frame.file);
  if (!said) return {};
  const auto& wanted = frame.settings;
  if (facts_.apertureName.empty() && said->aperture &&
      2 * std::abs(std::log2(exact(*said->aperture).value / wanted.aperture.value)) > kHandOff)
    return fail(ErrorCode::CameraRefused,
                phrase("`{}` was made at {} where {} was asked for; set the aperture to {} and shoot again.",
                       frame.file.filename().string(), print(*said->aperture), print(wanted.aperture),
                       print(wanted.aperture)));
  if (facts_.isoName.empty() && said->iso && std::abs(std::log2(exact(*said->iso).value / wanted.iso.value)) > kHandOff)
    return fail(ErrorCode::CameraRefused,
                phrase("`{}` was made at {} where {} was asked for; set {} and shoot again.",
                       frame.file.filename().string(), print(*said->iso), print(wanted.iso), print(wanted.iso)));
  return {};
}

// ---- The shutter

Result<void> Firing::setTo(const std::string& name, const std::vector<ListedValue>& list, double wanted,
                           const Progress& progress) {
  const ListedValue* value = nearestListed(list, wanted);
  if (name.empty() || !value || nowAt_[name] == value->word) return {};
  if (auto taken = wire_->set(name, value->word, progress); !taken) return taken;
  nowAt_[name] = value->word;
  return {};
}

/// Also when a set before was cut off in the middle: single frames are fired one by one.
Result<void> Firing::bracketOf(std::size_t frames, const Progress& progress) {
  const std::string count = std::to_string(frames);
  if (facts_.bracketCounts.empty() || nowAt_["d101"] == count) return {};
  if (auto set = wire_->set("d101", count, progress, kBracketEnds); !set) return set;
  nowAt_["d101"] = count;
  return {};
}

Result<void> Firing::apply(const ExposureSettings& s, const Progress& progress) {
  if (auto taken = setTo(facts_.apertureName, facts_.apertures, s.aperture.value, progress); !taken) return taken;
  if (auto taken = setTo(facts_.isoName, facts_.isos, s.iso.value, progress); !taken) return taken;
  return setTo(facts_.timeName, facts_.times, s.time.value, progress);
}

/// The step, when the camera can fire all these by itself: an odd count that it offers, evenly spaced, dark first.
std::optional<double> Firing::ownStep(const std::vector<std::size_t>& frames) const {
  const int count = int(frames.size());
  const bool offered =
      std::find(facts_.bracketCounts.begin(), facts_.bracketCounts.end(), count) != facts_.bracketCounts.end();
  if (!offered || count % 2 == 0 || count != int(order_.frames.size())) return {};
  const auto at = [&](int i) -> const ExposureSettings& { return order_.frames[frames[std::size_t(i)]]; };
  const double step = std::log2(at(1).time.value / at(0).time.value);
  constexpr double kOff = 0.02;
  for (int i = 1; i < count; ++i)
    if (std::abs(std::log2(at(i).time.value / at(i - 1).time.value) - step) > kOff ||
        at(i).aperture != at(0).aperture || at(i).iso != at(0).iso)
      return {};
  const ListedValue* middle = nearestListed(facts_.times, at(count / 2).time.value);
  if (!middle || offFrom(*middle, at(count / 2).time.value) > kOff) return {};
  for (const double offered2 : facts_.bracketSteps)
    if (std::abs(offered2 - step) < kOff) return offered2;
  return {};
}

Result<void> Firing::fireBracket(const std::vector<std::size_t>& frames, double step, const Progress& progress) {
  const std::size_t count = frames.size();
  progress.at(phrase("{} frames, as the camera brackets by itself", count), 0);
  if (auto set = apply(order_.frames[frames[count / 2]], progress); !set) return set;
  if (auto set = wire_->set("d102", std::to_string(std::lround(step * 1000)), progress); !set) return set;
  if (auto set = bracketOf(count, progress); !set) return set;
  Exposure exposure{frames, {}, 0, false, {}, {}};
  auto shot = release(progress);
  exposure.ends = exposure.lastNews =
      Clock::now() + std::chrono::duration_cast<Clock::duration>(
                         Span(total(order_, frames).value + double(count) * camera_.profile().frameGap.value));
  if (shot) shot = await(exposure, progress);
  if (shot) shot = fetchAll(exposure);
  const auto off = bracketOf(1, {});
  return shot ? off : shot;
}

Result<void> Firing::fireFrame(std::size_t frame, const Progress& progress) {
  if (progress.stopRequested()) return stopped();
  const ExposureSettings& settings = order_.frames[frame];
  progress.at(phrase("Frame {} of {}: {}", frame + 1, order_.frames.size(), print(settings.time)),
              double(frame) / double(order_.frames.size()));
  if (auto set = bracketOf(1, progress); !set) return set;
  if (auto set = apply(settings, progress); !set) return set;
  if (auto heard = hearEarlier(); !heard) return heard;
  const auto missing = landing_.missing();
  if (std::find(missing.begin(), missing.end(), frame) == missing.end()) return {}; // it has just been heard of
  Exposure exposure{{frame}, {}, 0, false, {}, {}};
  const ListedValue* listed = nearestListed(facts_.times, settings.time.value);
  if (!facts_.bulbWord.empty() && listed && offFrom(*listed, settings.time.value) > 0.2) {
    if (auto shot = fireBulb(exposure, progress); !shot) return shot;
  } else if (auto shot = release(progress); !shot) {
    return shot;
  } else {
    exposure.ends = exposure.lastNews =
        Clock::now() + std::chrono::duration_cast<Clock::duration>(Span(settings.time.value));
  }
  if (auto over = await(exposure, progress); !over) return over;
  waiting_.push_back(std::move(exposure));
  // The first is fetched at once: is what comes what was asked for?
  return std::exchange(fired_, true) ? Result<void>{} : fetchWaiting(true);
}

/// Longer than the longest time of the list: opened and closed by hand, as it were.
Result<void> Firing::fireBulb(Exposure& exposure, const Progress& progress) {
  const Seconds time = order_.frames[exposure.frames.front()].time;
  if (auto set = wire_->set(facts_.timeName, facts_.bulbWord, progress); !set) return set;
  nowAt_[facts_.timeName] = facts_.bulbWord;
  if (auto opened = wire_->turn(facts_.bulbSwitch, true); !opened) return opened;
  const auto until = Clock::now() + Span(time.value);
  while (Clock::now() < until && !progress.stopRequested())
    std::this_thread::sleep_for(std::min<Span>(kLook, until - Clock::now()));
  if (auto closed = wire_->turn(facts_.bulbSwitch, false); !closed) return closed;
  exposure.ends = exposure.lastNews = Clock::now();
  return progress.stopRequested() ? Result<void>(stopped()) : Result<void>{};
}

/// Releases the shutter. Why a camera refuses it seldom says: an empty battery and a full card are looked for.
Result<void> Firing::release(const Progress& progress) {
  auto released = wire_->trigger(std::chrono::duration_cast<std::chrono::milliseconds>(kBusy), progress);
  if (released || released.error().code != ErrorCode::CameraRefused) return released;
  for (const auto pause : {0ms, kRemembered}) {
    std::this_thread::sleep_for(pause);
    const auto facts = wire_->facts();
    if (!facts) return passOn(facts.error());
    camera_.note(*facts);
    if (facts->battery && *facts->battery < kEmpty)
      return fail(ErrorCode::CameraRefused,
                  phrase("The camera's battery is empty; change it and go on. What was shot is kept."));
    if (facts->freeMegabytes && *facts->freeMegabytes < kNoRoom) return passOn(cardFull());
  }
  return released;
}

// ---- What the camera tells

bool Firing::done(const Exposure& e) const {
  const auto quiet = Clock::now() - e.lastNews;
  const std::size_t each = std::size_t(camera_.filesEach_), expected = std::max<std::size_t>(1, each) * e.frames.size();
  if (e.announced < e.frames.size()) return e.complete && e.announced > 0 && quiet > kQuiet;
  if (e.complete && each > 0 && e.announced >= expected) return true;
  return quiet > (e.complete && each == 0 ? kQuietFirst : kQuiet);
}

/// One thing that happened; false: nothing did.
Result<bool> Firing::hear(Exposure& e) {
  const auto event = wire_->event();
  if (!event) return passOn(event.error());
  if (event->kind == CameraEvent::Kind::None) return false;
  if (event->kind == CameraEvent::Kind::CaptureComplete) e.complete = true;
  if (event->kind == CameraEvent::Kind::CardFull) return passOn(cardFull());
  if (event->kind == CameraEvent::Kind::FileAdded) {
    const std::lock_guard lock(camera_.mutex_);
    const bool isNew = camera_.known_.insert(event->file.whole()).second;
    if (isNew && isPicture(event->file.name)) {
      e.files.push_back(event->file);
      ++e.announced;
    }
  }
  if (event->kind != CameraEvent::Kind::Other) e.lastNews = Clock::now();
  return true;
}

/// What was not heard yet: files of the frame before that came late, or frames that a hand has made.
Result<void> Firing::hearEarlier() {
  Exposure late;
  for (;;) {
    const auto heard = hear(late);
    if (!heard) return passOn(heard.error());
    if (!*heard) break;
  }
  if (late.files.empty() || !begun_) return {};
  if (waiting_.empty()) return fetchAll(late);
  auto& files = waiting_.back().files;
  files.insert(files.end(), late.files.begin(), late.files.end());
  return {};
}

Result<void> Firing::await(Exposure& e, const Progress& progress) {
  while (!done(e)) {
    const auto heard = hear(e);
    if (!heard) return passOn(heard.error());
    if (progress.stopRequested()) return stopped();
    if (*heard) continue;
    if (Clock::now() - std::max(e.ends, e.lastNews) > kNothing && e.announced < e.frames.size())
      return lookForSilent(progress);
    // While the shutter is open there is time for what came before.
    const Span left = e.ends - Clock::now();
    if (!waiting_.empty() && left.count() > fetchSeconds_ / 2) {
      if (auto fetched = fetchWaiting(false); !fetched) return fetched;
    } else {
      std::this_thread::sleep_for(kLook);
    }
  }
  if (camera_.filesEach_ == 0 && e.complete) camera_.filesEach_ = int(e.announced / e.frames.size());
  return {};
}

/// The camera told of nothing: what is on it that was not there before? Its lists are fresh only when it is opened
/// anew.
Result<void> Firing::lookForSilent(const Progress& progress) {
  if (auto fetched = fetchWaiting(true); !fetched) return fetched;
  wire_.reset(); // closed before it is opened again
  if (auto opened = camera_.open(); !opened) return opened;
  auto wire = camera_.wire();
  if (!wire) return passOn(wire.error());
  wire_ = std::move(*wire);
  nowAt_.clear();
  return fetchLeft(progress);
}

// ---- From the camera to the disk

Result<Landing::Brought> Firing::bring(const CameraFileName& file) {
  const auto room = landing_.room(file);
  if (!room) return passOn(room.error());
  if (auto fetched = wire_->fetch(file, *room); !fetched) return passOn(fetched.error());
  return Landing::Brought{file, *room};
}

Result<void> Firing::land(std::vector<Landing::Brought> files, const std::vector<std::size_t>& expected) {
  const auto landed = landing_.land(std::move(files), expected);
  if (!landed) return passOn(landed.error());
  if (!*landed) return {};
  {
    const std::lock_guard lock(mutex_);
    arrived_.push_back(**landed);
    told_.notify_one();
  }
  return checkHand(**landed);
}

Result<void> Firing::fetchAll(Exposure& e) {
  const auto began = Clock::now();
  // Of a bracket that was fired by the camera each file is a frame, or lies beside one.
  const bool apart = e.frames.size() > 1 || e.frames.empty();
  std::vector<Landing::Brought> files;
  for (const auto& name : std::exchange(e.files, {})) {
    auto brought = bring(name);
    if (!brought) return passOn(brought.error());
    if (apart) {
      if (auto landed = land({*brought}, e.frames); !landed) return landed;
    } else {
      files.push_back(*brought);
    }
  }
  if (!apart && !files.empty()) {
    fetchSeconds_ = Span(Clock::now() - began).count();
    return land(std::move(files), e.frames);
  }
  return {};
}

Result<void> Firing::fetchWaiting(bool all) {
  while (!waiting_.empty()) {
    Exposure next = std::move(waiting_.front());
    waiting_.pop_front();
    if (auto fetched = fetchAll(next); !fetched) return fetched;
    if (!all) break;
  }
  return {};
}

Result<void> Firing::fetchLeft(const Progress& progress) {
  if (landing_.missing().empty()) return {};
  std::set<std::string> known;
  {
    const std::lock_guard lock(camera_.mutex_);
    known = camera_.known_;
  }
  for (const auto& name : landing_.left(known)) {
    if (progress.stopRequested()) return stopped();
    progress.at(phrase("Fetching what stayed on the camera: {}", name.name), 0);
    auto brought = bring(name);
    if (!brought) return passOn(brought.error());
    if (auto landed = land({*brought}, {}); !landed) return landed;
  }
  return {};
}

} // namespace ml
