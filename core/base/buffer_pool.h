// Memory for pictures, used again: what is given back is kept for the next that asks, so that a frame does not begin with pages
// that the system must clear first.
#pragma once

#include <cstddef>
#include <list>
#include <mutex>
#include <unordered_map>

#include "base/memory_budget.h"

namespace oa {

/// From so many bytes on a buffer is worth pooling; what is smaller the allocator keeps itself.
inline constexpr std::size_t kPooledBytes = std::size_t{32} << 10;

class BufferPool {
 public:
  /// The one that every picture comes from.
  static BufferPool& shared();

  /// What is taken and what lies ready counts within `memory`; what lies ready is given up where others need it.
  explicit BufferPool(std::size_t idleBudget, MemoryBudget& memory = MemoryBudget::shared())
      : budget_(idleBudget), memory_(memory), share_(memory, MemoryBudget::Turn::Idle, [this](std::size_t missing) { giveUp(missing); }) {}
  ~BufferPool();
  BufferPool(const BufferPool&) = delete;
  BufferPool& operator=(const BufferPool&) = delete;

  /// At least `bytes` bytes, uninitialised, on a 128-byte boundary: the smallest that lies ready and is not more than twice as large, or
  /// new. Throws std::bad_alloc.
  void* take(std::size_t bytes);
  /// Gives back what was taken.
  void give(void* memory) noexcept;
  /// Frees what is not in use.
  void trim();

  /// Bytes that lie ready.
  [[nodiscard]] std::size_t idle() const;

 private:
  struct Idle {
    void* memory;
    std::size_t bytes;
  };
  void makeRoom(std::size_t budget) noexcept;
  void giveUp(std::size_t bytes);

  std::size_t budget_;
  mutable std::mutex mutex_;
  std::size_t idleBytes_ = 0;
  std::list<Idle> idle_;  // given back last first
  std::unordered_map<const void*, std::size_t> taken_;
  MemoryBudget& memory_;
  MemoryBudget::Share share_;
};

}  // namespace oa
