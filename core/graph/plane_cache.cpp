#include "graph/plane_cache.h"

#include <algorithm>
#include <bit>
#include <utility>

#include "base/memory.h"
#include "base/random.h"

namespace oa {
namespace {

// Pictures of a layer that are kept before it is asked whether any was found again.
constexpr int kTried = 32;

}  // namespace

std::size_t PlaneKeyHash::operator()(const PlaneKey& key) const {
  const auto mixed = [](std::uint64_t hash, auto value) { return mix64(hash ^ static_cast<std::uint64_t>(value)); };
  const auto number = [](double v) { return std::bit_cast<std::uint64_t>(v + 0.0); };  // -0 is 0
  std::uint64_t hash = mixed(mixed(mixed(0, key.layer), key.steps), key.frame);
  const PlaneView& v = key.view;
  for (const double d : {v.left, v.top, v.scale, v.frameWidth, v.xx, v.xy}) hash = mixed(hash, number(d));
  return static_cast<std::size_t>(mixed(mixed(hash, v.width), v.height));
}

std::shared_ptr<PlaneCache> PlaneCache::forMachine() {
  return std::make_shared<PlaneCache>(std::clamp<std::size_t>(memoryOfMachine() / 6, std::size_t{512} << 20, std::size_t{4} << 30));
}

std::size_t PlaneCache::bytes() const {
  const std::scoped_lock lock(mutex_);
  return bytes_;
}

std::list<PlaneCache::Entry>::iterator PlaneCache::entryOf(const PlaneKey& key) {
  return std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.key == key; });
}

void PlaneCache::beginFrame() {
  const std::scoped_lock lock(mutex_);
  ++frame_;
  for (auto i = entries_.begin(); i != entries_.end();) {
    const auto entry = i++;
    if (frame_ - entry->last > entry->frames) drop(entry);
  }
}

std::shared_ptr<const RowMaker> PlaneCache::find(const PlaneKey& key) {
  const std::scoped_lock lock(mutex_);
  const auto found = entryOf(key);
  if (found == entries_.end()) return nullptr;
  if (!std::exchange(found->found, true)) {
    ++records_[key.layer].found;
    --records_[key.layer].waiting;
  }
  found->last = frame_;
  entries_.splice(entries_.begin(), entries_, found);
  return found->rows;
}

bool PlaneCache::wantedAgain(const PlaneKey& key, int frames) {
  const std::scoped_lock lock(mutex_);
  const auto [entry, first] = asked_.try_emplace(key, frame_);
  const bool again = !first && frame_ - entry->second <= frames;
  entry->second = frame_;
  inOrder_.emplace_back(key, frame_);
  if (inOrder_.size() > kRemembered) {
    const auto& [oldest, when] = inOrder_.front();
    // It may have been asked for again since.
    if (const auto found = asked_.find(oldest); found != asked_.end() && found->second == when) asked_.erase(found);
    inOrder_.pop_front();
  }
  return again;
}

bool PlaneCache::worthKeeping(Id layer) {
  constexpr int kNowAndThen = 16;
  const std::scoped_lock lock(mutex_);
  Record& r = records_[layer];
  const bool worth = r.worth();
  // What was long ago counts less and less.
  if (r.kept >= 8 * kTried) {
    r.kept /= 2;
    r.found /= 2;
  }
  return worth || ++r.asked % kNowAndThen == 0;
}

void PlaneCache::put(const PlaneKey& key, std::shared_ptr<const RowMaker> rows, std::size_t bytes, int frames) {
  if (!hasRoomFor(bytes)) return;
  const std::scoped_lock lock(mutex_);
  if (entryOf(key) != entries_.end()) return;
  entries_.push_front({key, std::move(rows), bytes, frames, frame_});
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
