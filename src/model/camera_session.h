// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/simulated_camera.h"
#include "model/lane.h"
#include "model/locked_camera.h"
#include "model/notices.h"
#include "session/job.h"

#include <QImage>
#include <QObject>
#include <memory>
#include <optional>

namespace ml {

/// The camera at the view in hand: today the simulated one in the view's world. Its finder, its state, what goes wrong
/// on purpose.
class CameraSession : public QObject {
  Q_OBJECT

public:
  CameraSession(Works& works, Notices& notices, QObject* parent = nullptr)
      : QObject(parent), works_(works), notices_(notices) {}

  /// A new camera in this world; null: none is there.
  void enter(std::shared_ptr<const World> world, const View& view);
  /// Another model, or another hand: the camera becomes that of the view.
  void follow(const View& view);
  void leave() { enter(nullptr, {}); }

  [[nodiscard]] bool present() const { return camera_ != nullptr; }
  /// For work in the background.
  [[nodiscard]] std::shared_ptr<LockedCamera> camera() const { return camera_; }
  [[nodiscard]] std::optional<DeviceStatus> status() const {
    return camera_ ? std::optional(camera_->status()) : std::nullopt;
  }
  void connectCamera();
  void changeCard();
  /// Strikes at the second frame of what is shot next.
  void armFault(FaultKind fault);

  void brightenFinder(const View& view, double stops);
  /// Where a meter would start: three stops below the brightest reading, else at a bright interior, or at dusk.
  [[nodiscard]] ExposureSettings finderSettings(const View& view) const;
  void drawFinder(const View& view);
  [[nodiscard]] const QImage& finder() const { return finder_; }

signals:
  void changed();
  void finderDrawn();

private:
  Works& works_;
  Notices& notices_;
  std::shared_ptr<const World> world_;
  std::shared_ptr<SimulatedCamera> device_;
  std::shared_ptr<LockedCamera> camera_; ///< The same; finder and shooting ask from their own threads.
  double finderStops_ = 0;
  QImage finder_;
};

} // namespace ml
