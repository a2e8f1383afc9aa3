// The parameters of words, in the order in which their card reads: what they say, how they are set, their colours, letters, panel.
#pragma once

#include <span>

#include "params/ready_made.h"
#include "params/spec.h"

namespace oa {

std::span<const ParamSpec> wordsParams();
/// What the gallery offers.
std::span<const ReadyMade> readyWords();

}  // namespace oa
