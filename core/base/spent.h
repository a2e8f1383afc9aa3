// Where time goes, by whose work it is. Off in normal runs: then nothing is counted, and nothing asks for the time.
#pragma once

#include <atomic>
#include <chrono>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace oa {

/// Counts while it lives, on all threads; one at a time. Owners are numbered, 0 being nobody in particular.
class Spent {
 public:
  using Owner = std::size_t;

  explicit Spent(std::size_t owners);
  ~Spent();
  Spent(const Spent&) = delete;
  Spent& operator=(const Spent&) = delete;

  /// Of all threads together; what an owner had others do is theirs.
  [[nodiscard]] double seconds(Owner owner) const { return static_cast<double>(nanoseconds_[owner].load()) * 1e-9; }
  [[nodiscard]] std::size_t owners() const { return nanoseconds_.size(); }

  /// The one that counts; null: none does.
  static Spent* counting() { return active.load(std::memory_order_relaxed); }
  /// Whose work this thread does.
  static Owner current();

  /// From here to its end this thread works for an owner.
  class Scope {
   public:
    explicit Scope(Owner owner);
    ~Scope();
    Scope(const Scope&) = delete;
    Scope& operator=(const Scope&) = delete;

   private:
    Spent* spent_;
    Owner before_ = 0;
    bool outermost_ = false;
  };

 private:
  static std::atomic<Spent*> active;
  std::vector<std::atomic<std::int64_t>> nanoseconds_;
};

}  // namespace oa
