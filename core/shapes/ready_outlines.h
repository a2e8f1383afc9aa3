// Outlines as a gallery offers them.
#pragma once

#include <span>

#include "params/ready_made.h"

namespace oa {

std::span<const ReadyMade> readyOutlines();

}  // namespace oa
