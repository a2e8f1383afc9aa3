// The names of numbered pictures.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/result.h"

namespace oa {

/// Where numbered pictures go, and what stands before and after their number. A plain name has none.
struct Numbering {
  std::string folder;
  std::string before;
  std::string after = ".png";
  int digits = 4;
  bool numbered = true;

  [[nodiscard]] std::string name(std::int64_t number) const;
  /// Whether any picture of these names is there already.
  [[nodiscard]] bool anyThere() const;
  /// Names that go on after `last` without a gap: the rest of a longer, older sequence.
  [[nodiscard]] std::vector<std::string> thereAfter(std::int64_t last) const;
};

/// A folder ("pictures/"), a name with %d, %4d or %04d, or a plain name.
Result<Numbering> numberingFor(const std::string& path);

}  // namespace oa
