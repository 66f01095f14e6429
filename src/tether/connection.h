// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "image/image.h"
#include "tether/gphoto.h"

#include <chrono>
#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// A setting as the camera offers it.
struct WireSetting {
  std::string name, label, value;
  bool readOnly = false;
  std::vector<std::string> choices; ///< Empty: not a list.
};

/// A file on the camera.
struct CameraFileName {
  std::string folder, name;
  [[nodiscard]] std::string whole() const { return folder + "/" + name; }
  friend bool operator==(const CameraFileName&, const CameraFileName&) = default;
};

struct CameraEvent {
  enum class Kind { None, FileAdded, CaptureComplete, CardFull, Other } kind = Kind::None;
  CameraFileName file;
};

/// A camera that is open. Every call may wait for the camera; all are made on one thread. Errors: CameraGone when the
/// connection is lost (nothing works from then on, open it again), CameraRefused, CardFull, CannotWrite.
class Connection {
public:
  /// "usb:001,004", "ptpip:127.0.0.1:15740:15740"; see portOf. `model` empty: found by the port.
  static Result<std::unique_ptr<Connection>> open(const std::string& port, const std::string& model);
  ~Connection();
  Connection(const Connection&) = delete;
  Connection& operator=(const Connection&) = delete;

  [[nodiscard]] const std::string& model() const { return model_; }
  [[nodiscard]] bool hasPreview() const { return hasPreview_; }
  /// All that the camera offers, by name.
  [[nodiscard]] Result<std::map<std::string, WireSetting>> settings();
  [[nodiscard]] Result<WireSetting> setting(const std::string& name);
  /// False: the camera is busy, try again.
  Result<bool> set(const std::string& name, const std::string& value);
  /// Begins an exposure. False: the camera is busy, try again.
  Result<bool> trigger();
  /// What happened next; returns after `wait` at the latest, often at once.
  Result<CameraEvent> event(std::chrono::milliseconds wait);
  /// Leaves the whole file at `target`, or nothing.
  Result<void> fetch(const CameraFileName& file, const std::filesystem::path& target);
  [[nodiscard]] Result<std::vector<CameraFileName>> files();
  /// Megabytes free on the card; nothing: the camera does not say.
  [[nodiscard]] std::optional<double> freeMegabytes();
  /// A JPEG of what the finder shows.
  Result<std::vector<unsigned char>> preview();

private:
  explicit Connection(const GPhoto& library) : g_(library) {}
  Result<void> begin(const std::string& port, const std::string& model);
  [[nodiscard]] tl::unexpected<Error> failed(int code, const std::string& doing);
  [[nodiscard]] bool answers();
  Result<void> listFolder(const std::string& folder, int depth, std::vector<CameraFileName>& out);
  [[nodiscard]] WireSetting read(CameraWidget* widget) const;

  const GPhoto& g_;
  GPContext* context_ = nullptr;
  ::Camera* camera_ = nullptr;
  std::string model_;
  bool hasPreview_ = false;
};

/// The library's name for what a person types: "192.168.1.20", "192.168.1.20:15740", "ptpip:...", "usb:001,004".
/// Errors: InvalidArgument with examples.
[[nodiscard]] Result<std::string> portOf(const std::string& address);

struct FoundCamera {
  std::string model, port;
};
/// What is connected by USB now; waits for the library, a few seconds at most. Errors: as GPhoto::find.
[[nodiscard]] Result<std::vector<FoundCamera>> findCameras();

} // namespace ml
