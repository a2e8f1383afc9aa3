#include "media/key_groups.h"

#include <algorithm>

namespace oa {
namespace {

// A key picture is made anew from nothing, and differs from the one before by both their errors, which in slow scenes are more
// than a step of the motion: the joint would stand out, or rest. So pictures around every key are as exact as the format gets;
// the others may err, since each errs as the one before it.
constexpr std::int64_t kExactBefore = 8;
constexpr std::int64_t kExactAfter = 3;
constexpr std::int64_t kLongestGroup = 300;

}  // namespace

std::int64_t groupLength(std::int64_t run) {
  const std::int64_t groups = (run + kLongestGroup - 1) / kLongestGroup;
  return (run + groups - 1) / groups;
}

bool nearKey(std::int64_t frame, std::int64_t run) {
  const std::int64_t group = groupLength(run);
  const std::int64_t inGroup = frame % group;
  const std::int64_t end = std::min(group, run - frame + inGroup);
  return inGroup < kExactAfter || inGroup >= end - kExactBefore;
}

std::string exactZones(std::int64_t run, const std::string& between, const std::string& how, const std::string& before) {
  std::string zones;
  for (std::int64_t frame = 0; frame < run; ++frame) {
    if (!nearKey(frame, run)) continue;
    std::int64_t last = frame;
    while (last + 1 < run && nearKey(last + 1, run)) ++last;
    zones += (zones.empty() ? before : between) + std::to_string(frame) + "," + std::to_string(last) + how;
    frame = last;
  }
  return zones;
}

}  // namespace oa
