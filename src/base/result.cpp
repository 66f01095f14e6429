// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/result.h"

#include "base/phrase.h"

namespace ml {

Error outOfMemory(const std::string& what) {
  return {ErrorCode::OutOfMemory, phrase("{} needs more memory than there is; close other programs, or work on smaller "
                                         "frames, and try again.",
                                         what)};
}

tl::unexpected<Error> stopped() {
  return fail(ErrorCode::Stopped, phrase("Stopped; nothing was written."));
}

} // namespace ml
