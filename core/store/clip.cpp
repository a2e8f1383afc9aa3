#include "store/clip.h"

#include <algorithm>

#include "base/memory.h"

namespace oa {

Result<std::shared_ptr<Clip>> Clip::open(MediaKind kind, const MediaSource& source, std::string name, std::shared_ptr<ByteCache> cache,
                                         std::shared_ptr<const MovingInfo> known) {
  auto reader = openMoving(kind, source, std::move(known));
  if (!reader) return tl::unexpected(reader.error());
  std::shared_ptr<Clip> clip(new Clip(kind, source, std::move(name), std::move(cache)));
  clip->info_ = (*reader)->sharedInfo();
  clip->readers_.push_back({std::move(*reader), 0});
  return clip;
}

Clip::Clip(MediaKind kind, MediaSource source, std::string name, std::shared_ptr<ByteCache> cache)
    : kind_(kind), source_(std::move(source)), name_(std::move(name)), cache_(std::move(cache)) {}

Clip::~Clip() {
  {
    const std::scoped_lock lock(mutex_);
    quit_ = true;
  }
  wake_.notify_all();
  if (worker_.joinable()) worker_.join();
}

Result<Raster> Clip::picture(std::size_t index) {
  auto raster = decode(index);
  const std::scoped_lock lock(mutex_);
  // Who goes forward will want what comes next.
  const bool onward = index == last_ || index == last_ + 1;
  last_ = index;
  if (!raster || !onward || info_->times.size() < 2) return raster;
  wanted_ = index + 1;
  left_ = kAhead;
  if (!worker_.joinable()) worker_ = std::thread([this] { ahead(); });
  wake_.notify_all();
  return raster;
}

void Clip::ahead() {
  for (;;) {
    std::size_t index = 0;
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, [&] { return quit_ || left_ > 0; });
      if (quit_) return;
      index = wanted_ % info_->times.size();
      ++wanted_;
      --left_;
    }
    if (!decode(index)) {
      const std::scoped_lock lock(mutex_);
      left_ = 0;
    }
  }
}

MovingReader* Clip::readerFor(std::size_t index) {
  // The one that is nearest before it; beyond these a key picture is looked for, and the others stay where they are.
  constexpr std::size_t kNear = 48;
  Open* best = nullptr;
  for (Open& open : readers_)
    if (open.reader->next() <= index && index - open.reader->next() <= kNear && (!best || open.reader->next() > best->reader->next()))
      best = &open;
  if (!best && readers_.size() < kMostReaders && uses_ > 0) {
    if (auto reader = openMoving(kind_, source_, info_)) {
      readers_.push_back({std::move(*reader), 0});
      best = &readers_.back();
    }
  }
  if (!best) best = &*std::min_element(readers_.begin(), readers_.end(), [](const Open& a, const Open& b) { return a.used < b.used; });
  best->used = ++uses_;
  return best->reader.get();
}

Result<Raster> Clip::decode(std::size_t index) {
  const std::string key = name_ + "/" + std::to_string(index);
  if (const auto kept = cache_->find<Raster>(key)) return *kept;
  const std::scoped_lock lock(reading_);
  if (const auto kept = cache_->find<Raster>(key)) return *kept;
  auto raster = withMemory([&] { return readerFor(index)->picture(index); });
  if (raster) cache_->keep(key, std::make_shared<const Raster>(*raster), raster->bytes());
  return raster;
}

}  // namespace oa
