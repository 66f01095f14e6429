// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <tl/expected.hpp>
#include <utility>

namespace ml {

/// What went wrong, for callers that must act on it. The sentence for the user is in Error::message.
enum class ErrorCode {
  InvalidArgument,
  FileMissing,
  FileUnreadable,
  UnsupportedFormat,
  MissingExposure,
  SizeMismatch,
  TooFewFrames,
  CannotAlign,
  Contradiction, ///< The frames of a set cannot all be what they say they are.
  CameraRefused,
  CameraGone,
  CardFull,
  CannotWrite,
  OutOfMemory,
  Stopped,
};

struct Error {
  ErrorCode code = ErrorCode::InvalidArgument;
  std::string message; ///< One sentence: names the file or value and says what to do.
};

template <class T> using Result = tl::expected<T, Error>;

/// `what`: the work, as it begins a sentence.
[[nodiscard]] Error outOfMemory(const std::string& what);

inline tl::unexpected<Error> fail(ErrorCode code, std::string message) {
  return tl::unexpected<Error>(Error{code, std::move(message)});
}
inline tl::unexpected<Error> passOn(Error error) {
  return tl::unexpected<Error>(std::move(error));
}
[[nodiscard]] tl::unexpected<Error> stopped();

} // namespace ml
