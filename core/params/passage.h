// How a layer or a step arrives and leaves, as it is declared, edited and saved: a table of parameters for each of the two.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "loop/passing.h"
#include "params/param.h"

namespace oa {

/// All that a layer's arriving or leaving is told by. The first kStepPassageParams of them, when and how fast, are those of a step.
std::span<const ParamSpec> passageSpecs();
inline constexpr std::size_t kStepPassageParams = 4;
std::span<const ParamSpec> stepPassageSpecs();

struct Passage {
  std::vector<Param> params;  ///< in the order of passageSpecs(), or of stepPassageSpecs()
  std::string extra = {};     ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Passage&) const = default;
};
/// With every parameter as the table has it.
Passage newPassage(std::span<const ParamSpec> specs);

/// Both ways; none: it is there from the first frame to the last.
struct Passages {
  std::optional<Passage> arrive;
  std::optional<Passage> leave;
  [[nodiscard]] bool any() const { return arrive || leave; }
  [[nodiscard]] const std::optional<Passage>& way(bool leaving) const { return leaving ? leave : arrive; }
  [[nodiscard]] std::optional<Passage>& way(bool leaving) { return leaving ? leave : arrive; }
  bool operator==(const Passages&) const = default;
};

/// The numbers that it comes to, in seconds or with `rate` times of them.
Passing passingOf(const Passage& passage, double rate = 1);
Passings passingsOf(const Passages& passages, double rate = 1);

/// What the gallery of arrivals offers: each sets some parameters and leaves the rest as the table has it.
struct ReadyPassage {
  std::string_view name;
  bool pieces = false;  ///< only for what passes letter by letter
  void (*set)(Passing& passing) = nullptr;
};
std::span<const ReadyPassage> readyPassages();
/// A passage that comes to these numbers.
Passage passageOf(const Passing& passing);

}  // namespace oa
