// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// Where the rows of a picture lie that is never whole in memory.
class RowStore {
public:
  virtual ~RowStore() = default;
  [[nodiscard]] virtual int width() const = 0;
  [[nodiscard]] virtual int height() const = 0;
  [[nodiscard]] virtual int channels() const = 0;
  /// Rows [begin, begin + rows.height) into `rows`. From any thread.
  virtual void read(int begin, ImageView<float> rows) const = 0;
};

/// A picture that is read some rows at a time: from memory, where it lies, or from a store. Owns neither.
class PictureRows {
public:
  PictureRows(ImageView<const float> held) // NOLINT: a picture in memory is one whose rows can be read
      : width(held.width), height(held.height), channels(held.channels), held_(held) {}
  PictureRows(ImageView<float> held) : PictureRows(ImageView<const float>(held)) {}
  explicit PictureRows(const RowStore& store)
      : width(store.width()), height(store.height()), channels(store.channels()), store_(&store) {}

  int width, height, channels;

  /// Rows [begin, end), which hold as long as `room`.
  [[nodiscard]] ImageView<const float> rows(int begin, int end, Image<float>& room) const {
    if (!store_) return held_.crop({0, begin, width, end - begin});
    if (room.width() != width || room.height() < end - begin || room.channels() != channels)
      room = Image<float>(width, end - begin, channels);
    const ImageView<float> read = room.view().crop({0, 0, width, end - begin});
    store_->read(begin, read);
    return read;
  }
  /// All of it: where it lies, or read into `room`.
  [[nodiscard]] ImageView<const float> whole(Image<float>& room) const { return rows(0, height, room); }

private:
  ImageView<const float> held_;
  const RowStore* store_ = nullptr;
};

} // namespace ml
