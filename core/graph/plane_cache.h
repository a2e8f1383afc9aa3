// Pictures that are wanted again, within a budget of bytes.
#pragma once

#include <cstddef>
#include <cstdint>
#include <deque>
#include <list>
#include <memory>
#include <unordered_map>

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

/// The pictures that were wanted last, the oldest given up first: where the budget is full, and two for each new one while there is no
/// memory left. Used by one thread at a time.
class PlaneCache {
 public:
  explicit PlaneCache(std::size_t budget, MemoryBudget& memory = MemoryBudget::shared()) : budget_(budget), memory_(memory) {}

  /// Null if it is not there.
  std::shared_ptr<const RowMaker> find(const PlaneKey& key);
  /// Whether somebody asked this before for the same; from now on it was asked.
  bool wantedAgain(const PlaneKey& key);
  /// False where hardly any of a layer's pictures that were kept was ever found again: then only now and then one is, to see whether
  /// that has changed.
  bool worthKeeping(Id layer);
  /// Keeps rows that take `bytes`; what is larger than the budget is not kept.
  void put(const PlaneKey& key, std::shared_ptr<const RowMaker> rows, std::size_t bytes);
  [[nodiscard]] bool hasRoomFor(std::size_t bytes) const { return bytes <= budget_; }
  [[nodiscard]] std::size_t bytes() const { return bytes_; }

 private:
  struct Entry {
    PlaneKey key;
    std::shared_ptr<const RowMaker> rows;
    std::size_t bytes;
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
  void drop(std::list<Entry>::iterator entry);
  static constexpr std::size_t kRemembered = 1024;

  std::size_t budget_;
  MemoryBudget& memory_;
  std::size_t bytes_ = 0;
  std::list<Entry> entries_;    // the last wanted first
  std::deque<PlaneKey> asked_;  // the last ones
  std::unordered_map<Id, Record> records_;
};

}  // namespace oa
