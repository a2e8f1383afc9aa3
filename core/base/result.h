// Errors as values: every function that can fail returns a Result that must be looked at.
#pragma once

#include <string>
#include <tl/expected.hpp>
#include <utility>

namespace oa {

/// What went wrong, as one sentence fit for the user, and where: a path into the scene
/// ("layers[2].noise.detail") or a file name. `where` may be empty.
struct Error {
  std::string message;
  std::string where;

  /// "where: message", or the message alone.
  [[nodiscard]] std::string sentence() const { return where.empty() ? message : where + ": " + message; }
};

template <class T>
using Result = tl::expected<T, Error>;
using Status = tl::expected<void, Error>;

[[nodiscard]] inline tl::unexpected<Error> fail(std::string message, std::string where = {}) {
  return tl::unexpected<Error>(Error{std::move(message), std::move(where)});
}

}  // namespace oa
