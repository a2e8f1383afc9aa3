// Operations on what is changed of single copies.
#pragma once

#include <cstdint>
#include <functional>
#include <vector>

#include "params/param.h"

namespace oa::edit {

/// Changes some of the copies; what then says nothing is forgotten, and what goes beyond its range is held there. Refused where more than
/// kMostCopyChanges would be changed. `param` holds CopyChanges.
Status changeCopies(Param& param, const std::vector<std::uint64_t>& copies, const std::function<void(CopyChange&)>& change);

/// What is said of a copy; of one that is as the others, nothing.
CopyChange changeOf(const CopyChanges& changes, std::uint64_t copy);

}  // namespace oa::edit
