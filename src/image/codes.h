// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>
#include <utility>

namespace ml {

/// Code values as they lie in a file, never widened: three channels of 8 bits or of 16, or one of 16 that is what each
/// photosite of a mosaic says.
class Codes {
public:
  Codes() = default;
  Codes(Image<std::uint8_t> narrow) : narrow_(std::move(narrow)) {}
  Codes(Image<std::uint16_t> wide) : wide_(std::move(wide)) {}

  [[nodiscard]] bool isNarrow() const { return !narrow_.empty(); }
  [[nodiscard]] bool isMosaic() const { return wide_.channels() == 1; }
  [[nodiscard]] int width() const { return isNarrow() ? narrow_.width() : wide_.width(); }
  [[nodiscard]] int height() const { return isNarrow() ? narrow_.height() : wide_.height(); }
  [[nodiscard]] std::size_t size() const { return isNarrow() ? narrow_.size() : wide_.size(); }
  [[nodiscard]] bool empty() const { return narrow_.empty() && wide_.empty(); }
  [[nodiscard]] int maxCode() const { return isNarrow() ? 255 : 65535; }

  /// Of a mosaic: the one channel.
  [[nodiscard]] ImageView<const std::uint16_t> photosites() const { return wide_.view(); }

  /// Of three channels.
  [[nodiscard]] std::uint16_t at(int x, int y, int c) const {
    return isNarrow() ? narrow_.at(x, y)[c] : wide_.at(x, y)[c];
  }
  void set(int x, int y, int c, int code) {
    if (isNarrow())
      narrow_.at(x, y)[c] = std::uint8_t(code);
    else
      wide_.at(x, y)[c] = std::uint16_t(code);
  }
  /// Calls `work` with an ImageView of the type that is held: loops over many pixels are written once for both. Not of
  /// mosaics, unless `work` reckons with one channel.
  template <class Work> decltype(auto) visit(Work&& work) const {
    return isNarrow() ? std::forward<Work>(work)(narrow_.view()) : std::forward<Work>(work)(wide_.view());
  }
  [[nodiscard]] Codes clone() const {
    return isNarrow() ? Codes(narrow_.clone()) : wide_.empty() ? Codes() : Codes(wide_.clone());
  }

private:
  Image<std::uint8_t> narrow_;
  Image<std::uint16_t> wide_;
};

} // namespace ml
