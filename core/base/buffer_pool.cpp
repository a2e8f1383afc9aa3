#include "base/buffer_pool.h"

#include <sys/mman.h>

#include <algorithm>
#include <bit>
#include <cstdlib>
#include <new>

#include "base/memory.h"

namespace oa {
namespace {

constexpr std::size_t kHugePage = std::size_t{2} << 20;

// Sizes grow by an eighth of a power of two, so that pictures of nearly one size share their memory and little of it is wasted.
std::size_t sizeFor(std::size_t bytes) {
  const std::size_t step = std::max<std::size_t>(std::bit_floor(bytes) / 8, 4096);
  return (bytes + step - 1) / step * step;
}

}  // namespace

BufferPool& BufferPool::shared() {
  // Never taken down: pictures may outlive whatever is static. A tenth of the machine's memory, but not without an end.
  static auto* pool = new BufferPool(std::clamp<std::size_t>(memoryOfMachine() / 10, std::size_t{64} << 20, std::size_t{1} << 30));
  return *pool;
}

BufferPool::~BufferPool() { trim(); }

void* BufferPool::take(std::size_t bytes) {
  const std::size_t size = sizeFor(bytes);
  {
    const std::scoped_lock lock(mutex_);
    auto found = idle_.end();
    for (auto i = idle_.begin(); i != idle_.end(); ++i)
      if (i->bytes >= size && i->bytes <= 2 * size && (found == idle_.end() || i->bytes < found->bytes)) found = i;
    if (found != idle_.end()) {
      void* memory = found->memory;
      taken_.emplace(memory, found->bytes);
      idleBytes_ -= found->bytes;
      idle_.erase(found);
      return memory;
    }
  }
  (void)memory_.ask(size);
  void* memory =
      std::aligned_alloc(size >= kHugePage ? kHugePage : 128, size >= kHugePage ? (size + kHugePage - 1) / kHugePage * kHugePage : size);
  // A wish: where the system has no such pages, nothing is lost.
  if (memory && size >= kHugePage) (void)::madvise(memory, size, MADV_HUGEPAGE);
  if (!memory) {
    // What lies ready in other sizes may be what is missing.
    trim();
    memory = std::aligned_alloc(128, size);
    if (!memory) throw std::bad_alloc();
  }
  const std::scoped_lock lock(mutex_);
  try {
    taken_.emplace(memory, size);
  } catch (const std::bad_alloc&) {
    std::free(memory);
    throw;
  }
  share_.grow(size);
  return memory;
}

void BufferPool::give(void* memory) noexcept {
  if (!memory) return;
  const std::scoped_lock lock(mutex_);
  const auto own = taken_.find(memory);
  const std::size_t size = own->second;
  taken_.erase(own);
  try {
    idle_.push_front({memory, size});
    idleBytes_ += size;
  } catch (const std::bad_alloc&) {
    std::free(memory);
    share_.shrink(size);
    return;
  }
  makeRoom(budget_);
}

void BufferPool::trim() {
  const std::scoped_lock lock(mutex_);
  makeRoom(0);
}

void BufferPool::giveUp(std::size_t bytes) {
  const std::scoped_lock lock(mutex_);
  makeRoom(idleBytes_ > bytes ? idleBytes_ - bytes : 0);
}

// What has lain longest goes first.
void BufferPool::makeRoom(std::size_t budget) noexcept {
  while (idleBytes_ > budget) {
    idleBytes_ -= idle_.back().bytes;
    share_.shrink(idle_.back().bytes);
    std::free(idle_.back().memory);
    idle_.pop_back();
  }
}

std::size_t BufferPool::idle() const {
  const std::scoped_lock lock(mutex_);
  return idleBytes_;
}

}  // namespace oa
