// Numbers of formulas as vectors make them, whichever target is at work.
#pragma once

#include <vector>

namespace oa::test {

/// Each to the power `p`.
std::vector<float> powersOf(const std::vector<float>& a, double p);
struct Turns {
  std::vector<float> sine, cosine;
};
Turns turnsOf(const std::vector<float>& angles);

}  // namespace oa::test
