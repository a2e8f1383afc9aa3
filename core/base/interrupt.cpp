#include "base/interrupt.h"

#include <fcntl.h>
#include <unistd.h>

#include <csignal>
#include <thread>

#include "base/output_file.h"

namespace oa {

void cleanUpOnInterrupts() {
  sigset_t signals;
  sigemptyset(&signals);
  for (const int signal : {SIGINT, SIGTERM, SIGHUP}) sigaddset(&signals, signal);
  ::pthread_sigmask(SIG_BLOCK, &signals, nullptr);
  std::thread([signals] {
    int signal = 0;
    if (::sigwait(&signals, &signal) != 0) return;
    abandonUnfinished();
    std::signal(signal, SIG_DFL);
    sigset_t one;
    sigemptyset(&one);
    sigaddset(&one, signal);
    ::pthread_sigmask(SIG_UNBLOCK, &one, nullptr);
    ::kill(::getpid(), signal);
  }).detach();
}

bool guardStandardDescriptors() {
  bool outputClosed = false;
  for (const int descriptor : {STDIN_FILENO, STDOUT_FILENO, STDERR_FILENO}) {
    if (::fcntl(descriptor, F_GETFD) >= 0) continue;
    outputClosed = outputClosed || descriptor == STDOUT_FILENO;
    // The lowest free number is taken: this one.
    if (::open("/dev/null", descriptor == STDIN_FILENO ? O_RDONLY : O_WRONLY) < 0) return outputClosed;
  }
  return outputClosed;
}

}  // namespace oa
