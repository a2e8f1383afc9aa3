#include "base/memory_budget.h"

#include <algorithm>

#include "base/memory.h"

namespace oa {

MemoryBudget& MemoryBudget::shared() {
  // Never taken down: pictures may outlive whatever is static.
  static auto* budget = new MemoryBudget(memoryOfMachine() / 4 * 3);
  return *budget;
}

std::size_t MemoryBudget::free() const {
  const std::size_t used = used_;
  return used < bytes_ ? bytes_ - used : 0;
}

bool MemoryBudget::ask(std::size_t bytes) {
  if (free() >= bytes) return true;
  const std::scoped_lock lock(mutex_);
  for (const Turn turn : {Turn::Idle, Turn::Pictures, Turn::Files})
    for (const Share* share : shares_) {
      const std::size_t there = free();
      if (there >= bytes) return true;
      if (share->turn_ == turn && share->giveUp_) share->giveUp_(bytes - there);
    }
  return free() >= bytes;
}

MemoryBudget::Share::Share(MemoryBudget& budget, Turn turn, GiveUp giveUp) : budget_(budget), turn_(turn), giveUp_(std::move(giveUp)) {
  const std::scoped_lock lock(budget_.mutex_);
  budget_.shares_.push_back(this);
}

MemoryBudget::Share::~Share() {
  {
    const std::scoped_lock lock(budget_.mutex_);
    std::erase(budget_.shares_, this);
  }
  budget_.used_ -= held_;
}

void MemoryBudget::Share::grow(std::size_t bytes) {
  held_ += bytes;
  budget_.used_ += bytes;
}

void MemoryBudget::Share::shrink(std::size_t bytes) {
  held_ -= bytes;
  budget_.used_ -= bytes;
}

std::size_t MemoryBudget::Share::room() const {
  const std::size_t used = budget_.used_;
  const std::size_t own = held_;
  const std::size_t others = used > own ? used - own : 0;
  return budget_.bytes_ > others ? budget_.bytes_ - others : 0;
}

void MemoryBudget::Share::hold(std::size_t bytes) {
  const std::size_t had = held_;
  bytes > had ? grow(bytes - had) : shrink(had - bytes);
}

}  // namespace oa
