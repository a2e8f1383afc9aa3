#include "model/playback_cache.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"

namespace oa::app {
namespace {

// What a kept picture costs beside its pixels, by estimate.
constexpr std::size_t kOverhead = 256;

std::size_t cost(const QImage& image) { return static_cast<std::size_t>(image.sizeInBytes()) + kOverhead; }
double cost(QSize size) { return 4.0 * size.width() * size.height() + kOverhead; }

}  // namespace

void PlaybackCache::reset(int frames) {
  pictures_.clear();
  bytes_ = 0;
  sharp_ = 0;
  frames_ = std::max(1, frames);
}

QSize PlaybackCache::sizeFor(QSize wanted) const {
  const double shrink = std::sqrt(static_cast<double>(budget_) / (cost(wanted) * frames_));
  if (shrink >= 1) return wanted;
  // A little less than would just fit: sizes are whole pixels.
  const double held = std::max(0.5, shrink * 0.995);
  return {std::max(16, static_cast<int>(wanted.width() * held)), std::max(16, static_cast<int>(wanted.height() * held))};
}

void PlaybackCache::setSize(QSize size) {
  size_ = size;
  sharp_ = static_cast<int>(std::count_if(pictures_.begin(), pictures_.end(), [&](const auto& p) { return p.second.size() == size_; }));
}

int PlaybackCache::capacity() const {
  return static_cast<int>(std::min<double>(frames_, std::max(1.0, std::floor(static_cast<double>(budget_) / cost(size_)))));
}

int PlaybackCache::ahead(int frame, int hand) const { return static_cast<int>(floorMod(frame - hand, frames_)); }

void PlaybackCache::drop(std::map<int, QImage>::iterator at) {
  bytes_ -= cost(at->second);
  if (at->second.size() == size_) --sharp_;
  pictures_.erase(at);
}

std::map<int, QImage>::iterator PlaybackCache::furthest(int hand) {
  return std::max_element(pictures_.begin(), pictures_.end(),
                          [&](const auto& a, const auto& b) { return ahead(a.first, hand) < ahead(b.first, hand); });
}

void PlaybackCache::setBudget(std::size_t budget, int hand) {
  budget_ = budget;
  while (bytes_ > budget_) drop(furthest(hand));
}

bool PlaybackCache::put(int frame, const QImage& image, int hand) {
  frame = static_cast<int>(floorMod(frame, frames_));
  if (const auto old = pictures_.find(frame); old != pictures_.end()) drop(old);
  const std::size_t needs = cost(image);
  if (needs > budget_) return false;
  while (bytes_ + needs > budget_) {
    const auto last = furthest(hand);
    if (ahead(last->first, hand) < ahead(frame, hand)) return false;
    drop(last);
  }
  bytes_ += needs;
  if (image.size() == size_) ++sharp_;
  pictures_.emplace(frame, image);
  return true;
}

QImage PlaybackCache::at(int frame) const {
  const auto found = pictures_.find(static_cast<int>(floorMod(frame, frames_)));
  return found == pictures_.end() ? QImage() : found->second;
}

bool PlaybackCache::sharp(int frame) const { return at(frame).size() == size_; }

std::vector<int> PlaybackCache::next(int hand, int count) const {
  std::vector<int> frames;
  // Of what has no room none is worth making.
  if (sharp_ >= frames_ || cost(size_) > static_cast<double>(budget_)) return frames;
  const int reach = capacity();
  for (int i = 0; i < reach && static_cast<int>(frames.size()) < count; ++i) {
    const int frame = static_cast<int>(floorMod(hand + i, frames_));
    if (!sharp(frame)) frames.push_back(frame);
  }
  return frames;
}

int PlaybackCache::next(int hand) const {
  const std::vector<int> one = next(hand, 1);
  return one.empty() ? -1 : one.front();
}

double PlaybackCache::filled() const { return std::min(1.0, static_cast<double>(sharp_) / std::max(1, capacity())); }

}  // namespace oa::app
