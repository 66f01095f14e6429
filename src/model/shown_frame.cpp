// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/shown_frame.h"

#include "ingest/load_frame.h"
#include "model/pictures.h"

namespace ml {

QImage ShownFrame::imageOf(const Frame& frame) {
  QImage image = displayOf(frame);
  markExtremes(image);
  return image;
}

void ShownFrame::clear() {
  index_ = -1;
  frame_.reset();
  image_ = {};
}

void ShownFrame::load(int index, const std::filesystem::path& file) {
  works_.preview.start([this, index, file](const Progress&) -> std::function<void()> {
    auto loaded = loadFrame(file);
    if (!loaded) return [this, e = loaded.error()] { notices_.fail(e); };
    auto frame = std::make_shared<const Frame>(std::move(*loaded));
    return [this, index, frame, image = imageOf(*frame)] {
      index_ = index, frame_ = frame, image_ = image;
      emit drawn();
    };
  });
}

void ShownFrame::show(int index, std::shared_ptr<const Frame> frame, const QImage& image) {
  index_ = index;
  frame_ = std::move(frame);
  image_ = image;
  emit drawn();
}

QSize ShownFrame::fullSize() const {
  return frame_ ? QSize(frame_->width(), frame_->height()) : QSize();
}

void ShownFrame::showDetail(const QRectF& part) {
  if (!frame_) return;
  works_.detail.start([this, frame = frame_, part](const Progress&) -> std::function<void()> {
    const Roi pixels = pixelsOf(part, frame->width(), frame->height());
    QImage image = displayOf(*frame, pixels);
    markExtremes(image);
    const QRectF place(double(pixels.x) / frame->width(), double(pixels.y) / frame->height(),
                       double(pixels.width) / frame->width(), double(pixels.height) / frame->height());
    return [this, frame, image, place] {
      if (frame == frame_) emit detailDrawn(image, place);
    };
  });
}

} // namespace ml
