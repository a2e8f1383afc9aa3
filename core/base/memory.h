// How much memory there is, and an allocation that fails as an error.
#pragma once

#include <cstddef>
#include <new>
#include <stdexcept>

#include "base/result.h"

namespace oa {

/// Bytes of memory that this process may use: the machine's, or its control group's limit where that is less.
std::size_t memoryOfMachine();

/// "1.5 GiB", "340 MiB", for the user.
std::string bytesText(double bytes);

/// Runs `body`, which gives a Status or Result; memory that cannot be had becomes an error.
template <class Body>
auto withMemory(Body body) -> decltype(body()) {
  try {
    return body();
  } catch (const std::bad_alloc&) {
    return fail("there is not enough memory for this; a smaller size needs less");
  } catch (const std::length_error&) {
    return fail("there is not enough memory for this; a smaller size needs less");
  }
}

}  // namespace oa
