// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/version.h"

namespace ml {

const char* version() {
  return ML_VERSION;
}

} // namespace ml
