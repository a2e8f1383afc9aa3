#include "graph/plane_cache.h"

#include <algorithm>
#include <utility>

namespace oa {

std::shared_ptr<const RowMaker> PlaneCache::find(const PlaneKey& key) {
  const auto found = std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.key == key; });
  if (found == entries_.end()) return nullptr;
  if (!std::exchange(found->found, true)) ++records_[key.layer].found;
  entries_.splice(entries_.begin(), entries_, found);
  return found->rows;
}

bool PlaneCache::wantedAgain(const PlaneKey& key) {
  if (std::find(asked_.begin(), asked_.end(), key) != asked_.end()) return true;
  asked_.push_back(key);
  if (asked_.size() > kRemembered) asked_.pop_front();
  return false;
}

bool PlaneCache::worthKeeping(Id layer) {
  constexpr int kTried = 32;
  constexpr int kNowAndThen = 16;
  Record& r = records_[layer];
  const bool worth = r.kept < kTried || r.found * 8 >= r.kept;
  // What was long ago counts less and less.
  if (r.kept >= 8 * kTried) r = {r.asked, r.kept / 2, r.found / 2};
  return worth || ++r.asked % kNowAndThen == 0;
}

void PlaneCache::put(const PlaneKey& key, std::shared_ptr<const RowMaker> rows, std::size_t bytes) {
  if (!hasRoomFor(bytes)) return;
  entries_.push_front({key, std::move(rows), bytes});
  ++records_[key.layer].kept;
  bytes_ += bytes;
  const auto dropLast = [&] {
    bytes_ -= entries_.back().bytes;
    entries_.pop_back();
  };
  while (bytes_ > budget_) dropLast();
  // Two for each that came while others go short.
  for (int i = 0; i < 2 && memory_.free() == 0 && entries_.size() > 1; ++i) dropLast();
}

}  // namespace oa
