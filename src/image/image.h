// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/large_memory.h"

#include <algorithm>
#include <cassert>
#include <cstddef>
#include <memory>
#include <type_traits>

namespace ml {

struct Roi {
  int x = 0, y = 0, width = 0, height = 0;
  friend bool operator==(const Roi&, const Roi&) = default;
};

/// Row-major, interleaved; `stride` counts elements, >= width * channels. Does not own; constness of the elements is
/// T's.
template <class T> struct ImageView {
  T* data = nullptr;
  int width = 0, height = 0, channels = 0;
  std::ptrdiff_t stride = 0;

  [[nodiscard]] T* row(int y) const { return data + y * stride; }
  [[nodiscard]] T* at(int x, int y) const { return row(y) + static_cast<std::ptrdiff_t>(x) * channels; }
  [[nodiscard]] bool empty() const { return width <= 0 || height <= 0; }
  [[nodiscard]] ImageView crop(const Roi& r) const {
    assert(r.x >= 0 && r.y >= 0 && r.x + r.width <= width && r.y + r.height <= height);
    return {at(r.x, r.y), r.width, r.height, channels, stride};
  }
  operator ImageView<const T>() const { return {data, width, height, channels, stride}; }
};

/// Owns its pixels; moves, and copies only when asked to (`clone`). A new image is not cleared.
template <class T> class Image {
public:
  Image() = default;
  Image(int width, int height, int channels)
      : width_(width), height_(height), channels_(channels),
        data_(static_cast<T*>(allocateLarge(size() * sizeof(T))), FreeLarge{size() * sizeof(T)}) {}

  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }
  [[nodiscard]] int channels() const { return channels_; }
  [[nodiscard]] bool empty() const { return !data_; }
  [[nodiscard]] std::size_t size() const { return static_cast<std::size_t>(width_) * height_ * channels_; }
  [[nodiscard]] T* data() { return data_.get(); }
  [[nodiscard]] const T* data() const { return data_.get(); }
  [[nodiscard]] T* row(int y) { return data_.get() + static_cast<std::size_t>(y) * width_ * channels_; }
  [[nodiscard]] const T* row(int y) const { return data_.get() + static_cast<std::size_t>(y) * width_ * channels_; }
  [[nodiscard]] T* at(int x, int y) { return row(y) + static_cast<std::size_t>(x) * channels_; }
  [[nodiscard]] const T* at(int x, int y) const { return row(y) + static_cast<std::size_t>(x) * channels_; }

  [[nodiscard]] ImageView<T> view() { return {data(), width_, height_, channels_, std::ptrdiff_t{width_} * channels_}; }
  [[nodiscard]] ImageView<const T> view() const {
    return {data(), width_, height_, channels_, std::ptrdiff_t{width_} * channels_};
  }
  void fill(T value) { std::fill_n(data(), size(), value); }
  [[nodiscard]] Image clone() const {
    Image copy(width_, height_, channels_);
    std::copy_n(data(), size(), copy.data());
    return copy;
  }

  /// Keeps only `r`, in the memory that is there: cheaper than a copy, but what is left out is not given back.
  void crop(const Roi& r) {
    assert(r.x >= 0 && r.y >= 0 && r.width > 0 && r.height > 0 && r.x + r.width <= width_ && r.y + r.height <= height_);
    T* out = data_.get();
    for (int y = 0; y < r.height; ++y, out += static_cast<std::size_t>(r.width) * channels_) {
      const T* in = at(r.x, r.y + y);
      std::copy(in, in + static_cast<std::size_t>(r.width) * channels_, out); // moves towards the start
    }
    width_ = r.width;
    height_ = r.height;
  }

private:
  int width_ = 0, height_ = 0, channels_ = 0;
  static_assert(std::is_trivially_copyable_v<T>);
  std::unique_ptr<T[], FreeLarge> data_;
};

} // namespace ml
