// What was made at some cost, kept under names within a budget of bytes; what was not asked for longest goes first.
#pragma once

#include <cstddef>
#include <list>
#include <memory>
#include <mutex>
#include <string>
#include <unordered_map>

#include "base/memory_budget.h"

namespace oa {

class ByteCache {
 public:
  /// Gives up what it has where `memory` is asked for more than there is.
  explicit ByteCache(std::size_t budget, MemoryBudget& memory = MemoryBudget::shared())
      : budget_(budget), share_(memory, MemoryBudget::Turn::Files, [this](std::size_t missing) { giveUp(missing); }) {}
  ByteCache(const ByteCache&) = delete;
  ByteCache& operator=(const ByteCache&) = delete;

  /// Null if it is not there.
  template <class T>
  std::shared_ptr<const T> find(const std::string& key) {
    return std::static_pointer_cast<const T>(findAny(key));
  }
  /// Not kept if it is larger than the budget, or there already.
  void keep(const std::string& key, std::shared_ptr<const void> what, std::size_t bytes);
  void clear();
  [[nodiscard]] std::size_t bytes() const;
  [[nodiscard]] std::size_t budget() const { return budget_; }

 private:
  struct Kept {
    std::shared_ptr<const void> what;
    std::size_t bytes = 0;
    std::list<std::string>::iterator turn;
  };
  std::shared_ptr<const void> findAny(const std::string& key);
  void giveUp(std::size_t bytes);
  void dropLast();  // with the lock held

  std::size_t budget_;
  mutable std::mutex mutex_;
  std::unordered_map<std::string, Kept> kept_;
  std::list<std::string> turns_;  // asked for last first
  std::size_t bytes_ = 0;
  // It counts nothing: pictures count where their memory comes from.
  MemoryBudget::Share share_;
};

}  // namespace oa
