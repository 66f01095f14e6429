// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/tiff_open.h"

#include <cstdarg>
#include <cstdio>

namespace ml {
namespace {

thread_local std::string lastMessage;

void keepMessage(const char*, const char* format, va_list arguments) {
  char text[300];
  std::vsnprintf(text, sizeof text, format, arguments);
  lastMessage = text;
}

} // namespace

Tiff openTiff(const std::filesystem::path& file, const char* mode) {
  static const bool quiet = [] {
    TIFFSetErrorHandler(keepMessage);
    TIFFSetWarningHandler(nullptr);
    return true;
  }();
  (void)quiet;
  lastMessage.clear();
  return {TIFFOpen(file.c_str(), mode), TIFFClose};
}

const std::string& tiffMessage() {
  return lastMessage;
}

} // namespace ml
