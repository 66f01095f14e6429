// SPDX-License-Identifier: GPL-3.0-or-later
#include "standin/stand_in.h"

#include "base/atomic_file.h"
#include "ptp/codes.h"

#include <algorithm>
#include <cmath>
#include <fstream>

namespace ml {
namespace fs = std::filesystem;
namespace op = ptp::operation;
namespace said = ptp::response;
namespace {

using Clock = std::chrono::steady_clock;
constexpr int kRefusalsWhenBusy = 3;

Clock::duration seconds(double s) {
  return std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>(s));
}

std::optional<ptp::Bytes> contents(const fs::path& file, std::uint64_t from, std::uint64_t most) {
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in) return {};
  const auto size = std::uint64_t(in.tellg());
  const std::uint64_t begin = std::min(from, size), count = std::min(most, size - begin);
  ptp::Bytes bytes(count);
  in.seekg(std::streamoff(begin));
  in.read(reinterpret_cast<char*>(bytes.data()), std::streamsize(count));
  return in ? std::optional(std::move(bytes)) : std::nullopt;
}

SimulationOptions simulationOf(const StandInOptions& o) {
  SimulationOptions s;
  s.seed = o.seed;
  s.faults = o.faults;
  s.lulls = true;
  s.battery = o.battery;
  s.freeMegabytes = 1e9; // the card is ours
  return s;
}

/// Bulb goes beyond the times of the list.
CameraProfile sensorOf(const StandInOptions& o) {
  constexpr double kLongestBulb = 3600;
  CameraProfile p = o.profile;
  if (o.hasBulb) p.longest = {std::max(p.longest.value, kLongestBulb)};
  return p;
}

} // namespace

StandIn::StandIn(std::shared_ptr<const World> world, StandInOptions options)
    : options_(std::move(options)), camera_(std::move(world), sensorOf(options_), simulationOf(options_)),
      card_(options_.card, options_.cardMegabytes), settings_(options_),
      thread_([this](const std::stop_token& stop) { work(stop); }) {
  clearLeftovers(options_.card);
}

StandIn::~StandIn() {
  thread_.request_stop();
  wake_.notify_all();
}

void StandIn::connected(Listener listener) {
  const std::lock_guard lock(mutex_);
  listener_ = std::move(listener);
  open_ = false;
  if (asleep_) mended_ = true; // who takes it up again wakes it
  asleep_ = false;
}

void StandIn::disconnected() {
  const std::lock_guard lock(mutex_);
  listener_ = {};
  open_ = false;
}

void StandIn::mend() {
  const std::lock_guard lock(mutex_);
  card_.empty();
  mended_ = changeCard_ = true;
  settings_.setBattery(1);
}

bool StandIn::strikes(WireFaultKind kind) const {
  return std::any_of(options_.wireFaults.begin(), options_.wireFaults.end(),
                     [&](const WireFault& f) { return f.kind == kind && f.frame == frame_; });
}

bool StandIn::touches(WireFaultKind kind) const {
  return !mended_ && std::any_of(options_.wireFaults.begin(), options_.wireFaults.end(),
                                 [&](const WireFault& f) { return f.kind == kind && f.frame <= frame_; });
}

ptp::Bytes StandIn::deviceInfo() const {
  const std::vector<int> operations{
      op::kGetDeviceInfo,       op::kOpenSession,         op::kCloseSession,  op::kGetStorageIds, op::kGetStorageInfo,
      op::kGetNumObjects,       op::kGetObjectHandles,    op::kGetObjectInfo, op::kGetObject,     op::kDeleteObject,
      op::kInitiateCapture,     op::kGetPropDescription,  op::kGetPropValue,  op::kSetPropValue,  op::kGetPartialObject,
      op::kInitiateOpenCapture, op::kTerminateOpenCapture};
  const std::vector<int> events{ptp::event::kObjectAdded, ptp::event::kDevicePropChanged, ptp::event::kStoreFull,
                                ptp::event::kCaptureComplete};
  const std::vector<int> formats{ptp::format::kDng, ptp::format::kJpeg};
  ptp::ByteWriter out;
  out.u16(100).u32(0).u16(100).text("").u16(0);
  out.list(operations, 2).list(events, 2).list(settings_.codes(), 2).list(formats, 2).list(formats, 2);
  return out.text("Mellow Lantern")
      .text("Stand-in " + options_.profile.id)
      .text("1.0")
      .text("LNT" + std::to_string(options_.seed))
      .take();
}

StandIn::Reply StandIn::sendFile(std::uint32_t handle) {
  const fs::path* file = card_.file(handle);
  auto bytes = file ? contents(*file, 0, ~std::uint64_t(0)) : std::nullopt;
  if (!bytes) return {{said::kInvalidHandle, {}, {}}};
  Reply reply{{said::kOk, {}, std::move(bytes)}};
  const int frame = frameOf_.contains(handle) ? frameOf_.at(handle) : -1;
  for (const WireFault& f : options_.wireFaults)
    if (f.kind == WireFaultKind::HalfSent && f.frame == frame &&
        std::find(halfSent_.begin(), halfSent_.end(), frame) == halfSent_.end()) {
      halfSent_.push_back(frame);
      reply.mischief = Mischief::CutInTheMiddle;
    }
  return reply;
}

StandIn::Reply StandIn::answer(const ptp::Request& r) {
  const std::lock_guard lock(mutex_);
  const auto p = r.parameters;
  const auto with = [](std::optional<ptp::Bytes> data) -> Reply { return {{said::kOk, {}, std::move(data)}}; };
  const auto orElse = [&](ptp::Bytes data, std::uint16_t code) -> Reply {
    return data.empty() ? Reply{{code, {}, {}}} : with(std::move(data));
  };
  const auto code = [](std::uint16_t c) -> Reply { return {{c, {}, {}}}; };
  if (asleep_) return {{}, Mischief::Hang};
  if (r.operation == op::kGetDeviceInfo) return with(deviceInfo());
  if (r.operation == op::kOpenSession) return code(std::exchange(open_, true) ? said::kSessionAlreadyOpen : said::kOk);
  if (!open_) return code(said::kSessionNotOpen);
  switch (r.operation) {
  case op::kCloseSession: open_ = false; return code(said::kOk);
  case op::kGetStorageIds: return with(ptp::ByteWriter().list(std::vector{CardFiles::kStorage}, 4).take());
  case op::kGetStorageInfo:
    return p[0] == CardFiles::kStorage ? with(card_.storageInfo()) : code(said::kInvalidStorage);
  case op::kGetNumObjects: return {{said::kOk, {std::uint32_t(card_.handles(p[2]).size())}, {}}};
  case op::kGetObjectHandles: return with(ptp::ByteWriter().list(card_.handles(p[2]), 4).take());
  case op::kGetObjectInfo: return orElse(card_.info(p[0]), said::kInvalidHandle);
  case op::kGetObject: return sendFile(p[0]);
  case op::kGetPartialObject: {
    const fs::path* file = card_.file(p[0]);
    auto bytes = file ? contents(*file, p[1], p[2]) : std::nullopt;
    if (!bytes) return code(said::kInvalidHandle);
    const auto sent = std::uint32_t(bytes->size());
    return {{said::kOk, {sent}, std::move(bytes)}};
  }
  case op::kDeleteObject: card_.remove(p[0]); return code(said::kOk);
  case op::kGetPropDescription: return orElse(settings_.description(std::uint16_t(p[0])), said::kPropNotSupported);
  case op::kGetPropValue: return orElse(settings_.value(std::uint16_t(p[0])), said::kPropNotSupported);
  case op::kSetPropValue: return code(busy_ ? said::kDeviceBusy : settings_.set(std::uint16_t(p[0]), r.data));
  case op::kInitiateCapture:
  case op::kInitiateOpenCapture: {
    const auto answered = trigger(r);
    return asleep_ ? Reply{{}, Mischief::Hang} : code(answered);
  }
  case op::kTerminateOpenCapture: return code(endBulb());
  default: return code(said::kOperationNotSupported);
  }
}

std::vector<ExposureSettings> StandIn::framesNow() const {
  const ExposureSettings middle = settings_.exposure();
  const int count = settings_.bracketFrames();
  std::vector<ExposureSettings> frames;
  for (int i = 0; i < count; ++i) {
    frames.push_back(middle);
    frames.back().time.value *= std::exp2((i - (count - 1) / 2.0) * settings_.bracketStep().value);
  }
  return frames;
}

StandIn::Answered StandIn::trigger(const ptp::Request& r) {
  if (busy_ || bulb_) return said::kDeviceBusy;
  if (touches(WireFaultKind::Asleep)) {
    asleep_ = true;
    return said::kGeneralError;
  }
  if (strikes(WireFaultKind::Busy) && refusals_++ < kRefusalsWhenBusy) return said::kDeviceBusy;
  if (touches(WireFaultKind::BatteryEmpty)) {
    settings_.setBattery(0);
    return said::kGeneralError;
  }
  constexpr double kRoomForOne = 1;
  if (card_.freeMegabytes() < kRoomForOne) return said::kStoreFull;
  const Capture order{framesNow(), r.transaction, Clock::now()};
  const bool open = r.operation == op::kInitiateOpenCapture;
  if (open != settings_.bulb()) return said::kAccessDenied;
  if (open) {
    bulb_ = order;
    return said::kOk;
  }
  orders_.push_back(order);
  busy_ = true;
  wake_.notify_all();
  return said::kOk;
}

StandIn::Answered StandIn::endBulb() {
  if (!bulb_) return said::kInvalidParameter;
  Capture order = *std::exchange(bulb_, std::nullopt);
  order.frames.resize(1);
  order.frames.front().time = {std::chrono::duration<double>(Clock::now() - order.began).count()};
  order.began = Clock::now() - seconds(order.frames.front().time.value);
  orders_.push_back(order);
  busy_ = true;
  wake_.notify_all();
  return said::kOk;
}

void StandIn::work(const std::stop_token& stop) {
  while (!stop.stop_requested()) {
    std::unique_lock lock(mutex_);
    wake_.wait(lock, stop, [&] { return !orders_.empty(); });
    if (orders_.empty()) return;
    const Capture order = orders_.front();
    orders_.pop_front();
    lock.unlock();
    capture(order, stop);
    lock.lock();
    busy_ = !orders_.empty();
  }
}

void StandIn::tell(std::uint16_t code, std::uint32_t parameter) {
  Listener listener;
  {
    const std::lock_guard lock(mutex_);
    listener = listener_;
  }
  if (listener.event) listener.event(code, parameter);
}

void StandIn::sleepUntil(Clock::time_point moment, const std::stop_token& stop) {
  std::unique_lock lock(mutex_);
  wake_.wait_until(lock, stop, moment, [] { return false; });
}

void StandIn::capture(const Capture& order, const std::stop_token& stop) {
  Capture next = order;
  for (const auto& settings : order.frames) {
    if (!exposeOne(settings, next, stop)) break;
    next.began = Clock::now() +
                 seconds(options_.profile.frameGap.value * std::min(1.0, options_.haste > 0 ? 1 / options_.haste : 0));
  }
}

/// False: nothing more comes of this order.
bool StandIn::exposeOne(const ExposureSettings& settings, const Capture& order, const std::stop_token& stop) {
  fs::path stem;
  bool both = false, silent = false, unplugged = false, last = false;
  {
    const std::lock_guard lock(mutex_);
    stem = card_.folder() / card_.nextName();
    both = options_.files == FilesWritten::Both;
    silent = strikes(WireFaultKind::Silent);
    unplugged = strikes(WireFaultKind::Unplugged);
    last = order.frames.back() == settings;
    if (std::exchange(changeCard_, false)) camera_.changeCard();
  }
  std::vector<SimulatedCamera::Output> outputs;
  if (options_.files != FilesWritten::Jpeg) outputs.push_back({FrameFormat::Dng, stem.string() + ".DNG"});
  if (both || options_.files == FilesWritten::Jpeg) outputs.push_back({FrameFormat::Jpeg, stem.string() + ".JPG"});
  const double share = options_.haste > 0 ? 1 / options_.haste : 0;
  const auto exposed = camera_.exposeTo(settings, outputs);
  sleepUntil(order.began + seconds((settings.time.value + options_.writeTime.value) * share), stop);
  std::vector<std::uint32_t> handles;
  std::function<void()> drop;
  {
    const std::lock_guard lock(mutex_);
    if (exposed)
      for (const auto& output : outputs) handles.push_back(card_.add(output.file));
    for (const auto handle : handles) frameOf_[handle] = frame_;
    if (exposed) ++frame_;
    refusals_ = 0;
    settings_.setBattery(camera_.status().battery);
    if (last || !exposed) busy_ = !orders_.empty();
    if (unplugged || (!exposed && exposed.error().code == ErrorCode::CameraGone)) drop = listener_.drop;
  }
  if (drop) drop();
  if (!exposed) {
    if (exposed.error().code == ErrorCode::CardFull) tell(ptp::event::kStoreFull, CardFiles::kStorage);
    if (exposed.error().code == ErrorCode::CameraGone) (void)camera_.connect();
    return false;
  }
  if (silent) return true;
  for (const auto handle : handles) tell(ptp::event::kObjectAdded, handle);
  if (last) tell(ptp::event::kCaptureComplete, order.transaction);
  return true;
}

} // namespace ml
