// Pictures that are wanted again, within a budget of bytes.
#pragma once

#include <cstddef>
#include <cstdint>
#include <deque>
#include <list>
#include <memory>
#include <mutex>
#include <unordered_map>
#include <utility>

#include "base/memory_budget.h"
#include "image/plane_view.h"
#include "image/rows.h"
#include "scene/scene.h"

namespace oa {

/// What a kept picture is of: so many steps of a layer's recipe at a frame of its own, in a view.
struct PlaneKey {
  static constexpr std::size_t kFinished = kMaxSteps + 1;  ///< for `steps`: with the mask as well
  Id layer = 0;
  std::size_t steps = 0;
  std::int64_t frame = 0;
  PlaneView view;
  bool operator==(const PlaneKey&) const = default;
};
struct PlaneKeyHash {
  std::size_t operator()(const PlaneKey& key) const;
};

/// Frames after which what nobody found has moved on.
inline constexpr int kForgotten = 64;

/// The pictures that were wanted last, the oldest given up first: where the budget is full, two for each new one while there is no
/// memory left, and whatever nobody found for many frames. Several renderers of one scene may share it.
class PlaneCache {
 public:
  /// As large as this machine has room for.
  static std::shared_ptr<PlaneCache> forMachine();
  explicit PlaneCache(std::size_t budget, MemoryBudget& memory = MemoryBudget::shared()) : budget_(budget), memory_(memory) {}

  /// Once for each frame that is rendered: by them it counts how long ago something was.
  void beginFrame();
  /// Null if it is not there.
  std::shared_ptr<const RowMaker> find(const PlaneKey& key);
  /// Whether somebody asked this for the same in this frame or one of so many before; from now on it was asked.
  bool wantedAgain(const PlaneKey& key, int frames);
  /// False where hardly any of a layer's pictures that were kept was ever found again: then only now and then one is, to see whether
  /// that has changed.
  bool worthKeeping(Id layer);
  /// Keeps rows that take `bytes`, unless the same are there, until they were not found for so many frames; what is larger than the
  /// budget is not kept.
  void put(const PlaneKey& key, std::shared_ptr<const RowMaker> rows, std::size_t bytes, int frames);
  [[nodiscard]] bool hasRoomFor(std::size_t bytes) const { return bytes <= budget_; }
  [[nodiscard]] std::size_t bytes() const;

 private:
  struct Entry {
    PlaneKey key;
    std::shared_ptr<const RowMaker> rows;
    std::size_t bytes;
    std::int64_t frames;  // that it stays without being found
    std::int64_t last;    // in which it was put or found
    bool found = false;
  };
  // How many of a layer's pictures were asked for, kept, and of those found again; and how many are there that were not.
  struct Record {
    int asked = 0;
    int kept = 0;
    int found = 0;
    int waiting = 0;
    [[nodiscard]] bool worth() const;
  };
  std::list<Entry>::iterator entryOf(const PlaneKey& key);
  void drop(std::list<Entry>::iterator entry);
  static constexpr std::size_t kRemembered = 4096;

  std::size_t budget_;
  MemoryBudget& memory_;
  mutable std::mutex mutex_;  // for all below
  std::size_t bytes_ = 0;
  std::int64_t frame_ = 0;
  std::list<Entry> entries_;  // the last wanted first
  // When each of the last ones was asked for last, and all that were asked in their order.
  std::unordered_map<PlaneKey, std::int64_t, PlaneKeyHash> asked_;
  std::deque<std::pair<PlaneKey, std::int64_t>> inOrder_;
  std::unordered_map<Id, Record> records_;
};

}  // namespace oa
