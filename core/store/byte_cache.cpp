#include "store/byte_cache.h"

namespace oa {

void ByteCache::clear() {
  const std::scoped_lock lock(mutex_);
  kept_.clear();
  turns_.clear();
  bytes_ = 0;
}

std::size_t ByteCache::bytes() const {
  const std::scoped_lock lock(mutex_);
  return bytes_;
}

std::shared_ptr<const void> ByteCache::findAny(const std::string& key) {
  const std::scoped_lock lock(mutex_);
  const auto found = kept_.find(key);
  if (found == kept_.end()) return nullptr;
  turns_.splice(turns_.begin(), turns_, found->second.turn);
  return found->second.what;
}

void ByteCache::dropLast() {
  const auto last = kept_.find(turns_.back());
  bytes_ -= last->second.bytes;
  kept_.erase(last);
  turns_.pop_back();
}

void ByteCache::giveUp(std::size_t bytes) {
  const std::scoped_lock lock(mutex_);
  const std::size_t left = bytes_ > bytes ? bytes_ - bytes : 0;
  while (bytes_ > left) dropLast();
}

void ByteCache::keep(const std::string& key, std::shared_ptr<const void> what, std::size_t bytes) {
  const std::scoped_lock lock(mutex_);
  if (bytes > budget_ || kept_.count(key) != 0) return;
  while (bytes_ + bytes > budget_ && !turns_.empty()) dropLast();
  turns_.push_front(key);
  kept_.emplace(key, Kept{std::move(what), bytes, turns_.begin()});
  bytes_ += bytes;
}

}  // namespace oa
