// The memory that all who keep pictures share: what one of them needs, others give up that have it only to be quicker.
#pragma once

#include <atomic>
#include <cstddef>
#include <functional>
#include <mutex>
#include <vector>

namespace oa {

class MemoryBudget {
 public:
  /// That of this process: three quarters of the memory that it may use.
  static MemoryBudget& shared();
  explicit MemoryBudget(std::size_t bytes) : bytes_(bytes) {}
  MemoryBudget(const MemoryBudget&) = delete;
  MemoryBudget& operator=(const MemoryBudget&) = delete;

  [[nodiscard]] std::size_t bytes() const { return bytes_; }
  [[nodiscard]] std::size_t used() const { return used_; }
  [[nodiscard]] std::size_t free() const;

  /// Who gives up first: memory that lies ready for nobody, finished pictures that can be made again, files that can be read again.
  enum class Turn { Idle, Pictures, Files };
  /// Has to give up so many bytes, or what it can. Called from any thread, also from one that works for it; it must not ask itself, and
  /// who holds a lock that it takes must not ask.
  using GiveUp = std::function<void(std::size_t missing)>;

  /// What one of them has.
  class Share {
   public:
    explicit Share(MemoryBudget& budget, Turn turn = Turn::Pictures, GiveUp giveUp = {});
    ~Share();
    Share(const Share&) = delete;
    Share& operator=(const Share&) = delete;
    void grow(std::size_t bytes);
    void shrink(std::size_t bytes);
    /// It has so many now. For who is alone with it, or holds a lock.
    void hold(std::size_t bytes);
    [[nodiscard]] std::size_t held() const { return held_; }
    /// What it may have: all that others do not.
    [[nodiscard]] std::size_t room() const;

   private:
    friend class MemoryBudget;
    MemoryBudget& budget_;
    Turn turn_;
    GiveUp giveUp_;
    std::atomic<std::size_t> held_{0};
  };

  /// Has others give up what they can until so many bytes are free. Whether they are.
  bool ask(std::size_t bytes);

 private:
  std::size_t bytes_;
  std::atomic<std::size_t> used_{0};
  std::mutex mutex_;
  std::vector<Share*> shares_;
};

}  // namespace oa
