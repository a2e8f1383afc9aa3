#include "graph/plane_cache.h"

#include <algorithm>
#include <utility>

namespace oa {
namespace {

// Pictures of a layer that are kept before it is asked whether any was found again.
constexpr int kTried = 32;

}  // namespace

std::shared_ptr<const RowMaker> PlaneCache::find(const PlaneKey& key) {
  const auto found = std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.key == key; });
  if (found == entries_.end()) return nullptr;
  if (!std::exchange(found->found, true)) {
    ++records_[key.layer].found;
    --records_[key.layer].waiting;
  }
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
  constexpr int kNowAndThen = 16;
  Record& r = records_[layer];
  const bool worth = r.worth();
  // What was long ago counts less and less.
  if (r.kept >= 8 * kTried) {
    r.kept /= 2;
    r.found /= 2;
  }
  return worth || ++r.asked % kNowAndThen == 0;
}

void PlaneCache::put(const PlaneKey& key, std::shared_ptr<const RowMaker> rows, std::size_t bytes) {
  if (!hasRoomFor(bytes)) return;
  entries_.push_front({key, std::move(rows), bytes});
  bytes_ += bytes;
  Record& r = records_[key.layer];
  ++r.kept;
  ++r.waiting;
  while (bytes_ > budget_) drop(std::prev(entries_.end()));
  // Two for each that came while others go short.
  for (int i = 0; i < 2 && memory_.free() == 0 && entries_.size() > 1; ++i) drop(std::prev(entries_.end()));
  // Those of which hardly any is found again do not fill the memory: each takes that of an older one.
  if (r.worth() || r.waiting <= kTried) return;
  for (auto i = entries_.end(); i != entries_.begin();)
    if (--i; i->key.layer == key.layer && !i->found) return drop(i);
}

void PlaneCache::drop(std::list<Entry>::iterator entry) {
  bytes_ -= entry->bytes;
  if (!entry->found) --records_[entry->key.layer].waiting;
  entries_.erase(entry);
}

bool PlaneCache::Record::worth() const { return kept < kTried || found * 8 >= kept; }

}  // namespace oa
