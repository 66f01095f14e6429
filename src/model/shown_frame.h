// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"
#include "model/lane.h"
#include "model/notices.h"

#include <QImage>
#include <QObject>
#include <QRectF>
#include <filesystem>
#include <memory>

namespace ml {

/// The one frame of the active set that is on screen, as it lies in memory and as the camera would show it.
class ShownFrame : public QObject {
  Q_OBJECT

public:
  ShownFrame(Works& works, Notices& notices, QObject* parent = nullptr)
      : QObject(parent), works_(works), notices_(notices) {}

  /// None, until it is drawn.
  void clear();
  /// Chosen, not drawn yet; -1: none.
  void choose(int index) { index_ = index; }
  /// Reads it and shows it.
  void load(int index, const std::filesystem::path& file);
  void show(int index, std::shared_ptr<const Frame> frame, const QImage& image);
  /// As the camera would show it, extremes marked; from any thread.
  [[nodiscard]] static QImage imageOf(const Frame& frame);

  [[nodiscard]] int index() const { return index_; }
  [[nodiscard]] const std::shared_ptr<const Frame>& frame() const { return frame_; }
  [[nodiscard]] const QImage& image() const { return image_; }
  /// Of the file; empty: none is shown.
  [[nodiscard]] QSize fullSize() const;
  /// A part (0..1) pixel by pixel; answered by detailDrawn.
  void showDetail(const QRectF& part);

signals:
  void drawn();
  void detailDrawn(const QImage& part, const QRectF& place);

private:
  Works& works_;
  Notices& notices_;
  int index_ = -1;
  std::shared_ptr<const Frame> frame_;
  QImage image_;
};

} // namespace ml
