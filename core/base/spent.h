// Where time goes, by whose work it is. Off in normal runs: then nothing is counted, and nothing asks for the time.
#pragma once

#include <atomic>
#include <chrono>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace oa {

/// Counts for whoever works within it (Within), also for helpers of theirs on other threads; others may work beside, counted by another
/// one or not at all. Owners are numbered, 0 being nobody in particular.
class Spent {
 public:
  using Owner = std::size_t;

  explicit Spent(std::size_t owners) : nanoseconds_(owners) {}
  Spent(const Spent&) = delete;
  Spent& operator=(const Spent&) = delete;

  /// Of all threads together; what an owner had others do is theirs.
  [[nodiscard]] double seconds(Owner owner) const { return static_cast<double>(nanoseconds_[owner].load()) * 1e-9; }
  [[nodiscard]] std::size_t owners() const { return nanoseconds_.size(); }

  /// The one that counts what this thread does; null: none does.
  static Spent* counting();
  /// Whose work this thread does.
  static Owner current();

 private:
  struct Here {
    Spent* spent = nullptr;
    Owner owner = 0;
    std::chrono::steady_clock::time_point since;
  };
  static thread_local Here here;
  // What has been done up to now is the present owner's.
  static void settle(std::chrono::steady_clock::time_point now);

 public:
  /// From here to its end `spent` counts what this thread does, for an owner; null: nothing is counted.
  class Within {
   public:
    explicit Within(Spent* spent, Owner owner = 0);
    ~Within();
    Within(const Within&) = delete;
    Within& operator=(const Within&) = delete;

   private:
    Here before_;
    bool changes_;
  };

  /// From here to its end this thread works for an owner, where anything is counted.
  class Scope {
   public:
    explicit Scope(Owner owner);
    ~Scope();
    Scope(const Scope&) = delete;
    Scope& operator=(const Scope&) = delete;

   private:
    Owner before_ = 0;
    bool counts_;
  };

 private:
  std::vector<std::atomic<std::int64_t>> nanoseconds_;
};

}  // namespace oa
