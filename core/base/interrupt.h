// What an interrupt does: unfinished files go, then the process ends by the signal, as shells expect.
#pragma once

namespace oa {

/// Must come before any thread is made: SIGINT, SIGTERM and SIGHUP are waited for on a thread of its own from here on.
void cleanUpOnInterrupts();

/// Opens what is closed of the three standard descriptors, so that no file of ours gets their numbers; true if standard
/// output was closed.
bool guardStandardDescriptors();

}  // namespace oa
