// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/simulated_camera.h"
#include "model/lane.h"
#include "model/locked_camera.h"
#include "model/notices.h"
#include "session/job.h"
#include "tether/wired_camera.h"

#include <QImage>
#include <QObject>
#include <QTimer>
#include <memory>
#include <optional>

namespace ml {

/// The camera at the view in hand: the simulated one in the view's world, or a real one that is connected. Its finder,
/// its state, what goes wrong on purpose. Nothing here waits for a camera.
class CameraSession : public QObject {
  Q_OBJECT

public:
  CameraSession(Works& works, Notices& notices, QObject* parent = nullptr);

  /// A new camera in this world; null: none is there. Told by `entered`.
  void enter(std::shared_ptr<const World> world, const View& view);
  /// Another model, or another hand: the camera becomes that of the view.
  void follow(const View& view);
  void leave() { enter(nullptr, {}); }

  /// A real camera is pointed by hand; a simulated one where the world is known in all directions.
  [[nodiscard]] bool canBePointed() const { return wired_ || !world_ || world_->hasAllDirections(); }
  /// The simulated camera looks there from now on.
  void point(const Aim& aim, const View& view);
  /// There again, whatever turned it since.
  void pointAnew();

  [[nodiscard]] bool present() const { return wired_ || camera_; }
  /// For work in the background.
  [[nodiscard]] std::shared_ptr<Camera> camera() const {
    return wired_ ? std::shared_ptr<Camera>(wired_) : std::shared_ptr<Camera>(camera_);
  }
  [[nodiscard]] std::optional<DeviceStatus> status() const {
    return present() ? std::optional(camera()->status()) : std::nullopt;
  }
  void connectCamera();

  /// A real camera, as portOf takes its address, at every view until another is chosen. It is there once it answers.
  void useWired(const QString& address, const View& view);
  void useSimulated();
  [[nodiscard]] bool hasSimulated() const { return camera_ != nullptr; }
  /// Null: the simulated one, or none.
  [[nodiscard]] std::shared_ptr<const WiredCamera> wired() const { return wired_; }
  /// The model of the real one; empty: none.
  [[nodiscard]] QString wiredName() const;
  /// As it was typed or found last, also by an earlier program when that told.
  [[nodiscard]] const QString& lastAddress() const { return lastAddress_; }
  void setLastAddress(const QString& address) { lastAddress_ = address; }
  /// How long a set waits for a real camera that is gone.
  void setPatience(Seconds patience);
  /// Looks what is connected by USB; `foundChanged` when it is known.
  void look();
  [[nodiscard]] const std::vector<FoundCamera>& found() const { return found_; }
  /// Times that the real camera has, with those of the plan that are left to bulb; empty: any.
  [[nodiscard]] std::vector<Seconds> timesFor(const std::vector<ExposureSettings>& frames) const;
  /// Nobody waits for a camera any longer: the program ends.
  void giveUp();
  void changeCard();
  /// Strikes at the second frame of what is shot next.
  void armFault(FaultKind fault);

  void brightenFinder(const View& view, double stops);
  /// Where a meter would start: three stops below the brightest reading, else at a bright interior, or at dusk.
  [[nodiscard]] ExposureSettings finderSettings(const View& view) const;
  void drawFinder(const View& view);
  [[nodiscard]] const QImage& finder() const { return finder_; }

signals:
  void entered();
  void changed();
  void foundChanged();
  void finderDrawn();

private:
  void askHowItIs();

  Works& works_;
  Notices& notices_;
  std::shared_ptr<const World> world_;
  std::shared_ptr<SimulatedCamera> device_;
  std::shared_ptr<LockedCamera> camera_; ///< The same; finder and shooting ask from their own threads.
  std::shared_ptr<WiredCamera> wired_;
  std::shared_ptr<WiredCamera> connecting_; ///< Not there yet.
  bool wasConnected_ = false;
  QString lastAddress_;
  std::vector<FoundCamera> found_;
  QTimer howItIs_;
  Seconds patience_{20};
  std::optional<std::pair<Aim, double>> pointing_; ///< And the focal length, mm on a sensor 36 mm wide.
  double finderStops_ = 0;
  QImage finder_;
};

} // namespace ml
