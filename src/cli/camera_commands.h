// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/commands.h"

namespace ml::cli {

struct CamerasArguments {
  std::vector<std::string> addresses;
  std::string log;
  bool json = false;
};

int runCameras(const CamerasArguments& arguments);
/// `shoot --on`: what is in `arguments.out` already is not shot again.
int runShootByWire(const ShootArguments& arguments, const Progress& progress);

} // namespace ml::cli
