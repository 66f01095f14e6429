// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/gphoto.h"
#include "base/phrase.h"

#include <cstdlib>
#include <dlfcn.h>

namespace ml {
namespace {

tl::unexpected<Error> missing() {
  return fail(ErrorCode::CameraRefused,
              phrase("Cameras are driven by libgphoto2, which is not on this system; install the package libgphoto2-6. "
                     "The simulated camera and the watched folder work without it."));
}

Result<GPhoto> load() {
  const char* named = std::getenv("MELLOW_LANTERN_CAMERA_LIBRARY");
  void* library = ::dlopen(named && *named ? named : "libgphoto2.so.6", RTLD_NOW | RTLD_LOCAL);
  if (!library) return missing();
  GPhoto g;
#define ML_FIND(name)                                                                                                  \
  g.name = reinterpret_cast<decltype(g.name)>(::dlsym(library, #name));                                                \
  if (!g.name) return missing();
  ML_GPHOTO_FUNCTIONS(ML_FIND)
#undef ML_FIND
  return g;
}

} // namespace

Result<const GPhoto*> GPhoto::find() {
  static const Result<GPhoto> found = load();
  if (!found) return passOn(found.error());
  return &*found;
}

std::mutex& GPhoto::opening() {
  static std::mutex mutex;
  return mutex;
}

} // namespace ml
