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
inline Error outOfMemory(const std::string& what) {
  return {ErrorCode::OutOfMemory,
          what + " needs more memory than there is; close other programs, or work on smaller frames, and try again."};
}

inline tl::unexpected<Error> fail(ErrorCode code, std::string message) {
  return tl::unexpected<Error>(Error{code, std::move(message)});
}
inline tl::unexpected<Error> passOn(Error error) {
  return tl::unexpected<Error>(std::move(error));
}
inline tl::unexpected<Error> stopped() {
  return fail(ErrorCode::Stopped, "Stopped; nothing was written.");
}

} // namespace ml
