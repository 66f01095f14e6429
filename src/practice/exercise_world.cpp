// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/exercise_world.h"

#include "base/phrase.h"
#include "session/locations.h"

namespace ml {

Result<World> exerciseWorld(const std::string& id, int shrunk) {
  const auto folder = findWorld(id);
  if (!folder)
    return fail(ErrorCode::FileMissing,
                phrase("The world \"{}\" does not ship with this program; choose another exercise.", id));
  const auto world = World::load(*folder);
  if (!world) return passOn(world.error());
  return world->shrunk(shrunk);
}

} // namespace ml
