// Numbers as people type them.
#pragma once

#include <string_view>

#include "base/result.h"
#include "params/spec.h"

namespace oa {

/// A number for a parameter, in the unit it is stored in: "90", "1,5", "1.234,5" (the separator that comes last and once parts
/// the decimals), "1 920", "2*120", "3:1", "1/3", "-12 + 5", each with the parameter's unit behind it or without. "50 %" of what
/// is stored as a share, or of plain numbers, is 0.5; a number without a sign of its own in a field of shares is percent, as
/// shown there. What cannot be read is a sentence.
Result<double> typedNumber(std::string_view text, const ParamSpec& spec);

}  // namespace oa
