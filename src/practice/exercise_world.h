// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "camera/world.h"

#include <string>

namespace ml {

/// A world that ships, at 1/`shrunk` of its size. Errors: FileMissing where it does not, of World::load.
[[nodiscard]] Result<World> exerciseWorld(const std::string& id, int shrunk);

} // namespace ml
