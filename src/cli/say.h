// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/arguments.h"

#include <cstdio>
#include <string>

namespace ml::cli {

inline int refuse(const Error& error) {
  std::fprintf(stderr, "%s\n", error.message.c_str());
  return exitCodeFor(error);
}

inline int wrongUse(const std::string& sentence) {
  return refuse({ErrorCode::InvalidArgument, sentence});
}

inline void say(const std::string& sentence) {
  std::printf("%s\n", sentence.c_str());
}

} // namespace ml::cli
