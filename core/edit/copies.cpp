#include "edit/copies.h"

#include <algorithm>
#include <cmath>
#include <string>

namespace oa::edit {

CopyChange changeOf(const CopyChanges& changes, std::uint64_t copy) {
  const CopyChange* found = changes.find(copy);
  if (found) return *found;
  CopyChange none;
  none.copy = copy;
  return none;
}

Status changeCopies(Param& param, const std::vector<std::uint64_t>& copies, const std::function<void(CopyChange&)>& change) {
  CopyChanges changes = std::get<CopyChanges>(param.base);
  for (const std::uint64_t copy : copies) {
    CopyChange one = changeOf(changes, copy);
    change(one);
    one.copy = copy;
    const auto within = [](double v, double low, double high) { return std::isfinite(v) ? std::clamp(v, low, high) : 0; };
    one.by = {within(one.by.x, -kMostCopyOffset, kMostCopyOffset), within(one.by.y, -kMostCopyOffset, kMostCopyOffset)};
    one.turn = within(one.turn, -36000, 36000);
    one.size = within(one.size, 0, kMostCopySize);
    changes.put(one);
  }
  if (changes.list.size() > kMostCopyChanges)
    return fail("at most " + std::to_string(kMostCopyChanges) + " copies can be changed one by one");
  param.base = param.motion.far = std::move(changes);
  return {};
}

}  // namespace oa::edit
