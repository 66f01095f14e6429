// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/call_thread.h"

#include <csignal>
#include <fcntl.h>
#include <sched.h>
#include <unistd.h>

namespace ml {

void CallThread::standApart() {
  // Writing to a connection that is gone is an error here, not the end of the program.
  sigset_t pipe;
  sigemptyset(&pipe);
  sigaddset(&pipe, SIGPIPE);
  pthread_sigmask(SIG_BLOCK, &pipe, nullptr);
  if (::unshare(CLONE_FILES) != 0) { // some containers forbid it: then standard input at least is there to be put back
    if (::fcntl(STDIN_FILENO, F_GETFD) < 0 && ::open("/dev/null", O_RDWR) < 0) return;
    return;
  }
  constexpr unsigned kFirst = 3; // after standard input, output and error
  ::close_range(kFirst, ~0U, 0);
#ifndef __SANITIZE_ADDRESS__
  // The library tells of lost connections on standard error; the program tells them in its own words.
  const int nothing = ::open("/dev/null", O_RDWR | O_CLOEXEC);
  if (nothing >= 0) ::dup2(nothing, STDERR_FILENO);
#endif
}

} // namespace ml
