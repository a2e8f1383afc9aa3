// What is changed of single ones among many copies.
#pragma once

#include <algorithm>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "image/colour.h"

namespace oa {

struct CopyChange {
  std::uint64_t copy = 0;  ///< which of them: its key, two whole numbers below 2^32 in one
  bool out = false;        ///< it is left out
  Point by;                ///< so far beside its place, in pixels of the plane
  double turn = 0;         ///< degrees, clockwise
  double size = 1;
  std::optional<Colour> colour;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const CopyChange&) const = default;
  /// Whether it says anything.
  [[nodiscard]] bool plain() const { return *this == CopyChange{copy, false, {}, 0, 1, {}, {}}; }
};

/// Sorted by their copies, each once.
struct CopyChanges {
  std::vector<CopyChange> list;
  bool operator==(const CopyChanges&) const = default;

  [[nodiscard]] const CopyChange* find(std::uint64_t copy) const {
    const auto at = std::lower_bound(list.begin(), list.end(), copy, [](const CopyChange& c, std::uint64_t key) { return c.copy < key; });
    return at != list.end() && at->copy == copy ? &*at : nullptr;
  }
  /// Puts a change in its place, instead of what was said of that copy; one that says nothing takes it away.
  void put(const CopyChange& change) {
    const auto at =
        std::lower_bound(list.begin(), list.end(), change.copy, [](const CopyChange& c, std::uint64_t key) { return c.copy < key; });
    const bool there = at != list.end() && at->copy == change.copy;
    if (change.plain()) {
      if (there) list.erase(at);
    } else if (there) {
      *at = change;
    } else {
      list.insert(at, change);
    }
  }
};

inline constexpr std::size_t kMostCopyChanges = 10000;
inline constexpr double kMostCopyOffset = 16384;
inline constexpr double kMostCopySize = 100;

/// Where one of many copies lies, in pixels of its plane: what it is taken hold of by.
struct CopyPlace {
  std::uint64_t copy = 0;
  Point at;
  double turn = 0;  ///< degrees, clockwise
  double halfWidth = 0;
  double halfHeight = 0;
  bool out = false;
};

}  // namespace oa
