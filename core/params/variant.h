// Other settings that a gallery offers a step with.
#pragma once

#include <string_view>
#include <utility>
#include <vector>

#include "params/spec.h"

namespace oa {

/// Values that differ from a step's own, and what of it moves.
struct StepVariant {
  std::string_view name;
  std::string_view help;
  std::vector<std::pair<std::string_view, Value>> values = {};
  struct Moves {
    std::string_view param;
    MotionKind kind = MotionKind::Swing;
    Value far = 0.0;  ///< of a swing
    int laps = 1;
  };
  std::vector<Moves> moves = {};
};

}  // namespace oa
