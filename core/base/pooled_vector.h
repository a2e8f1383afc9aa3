// Vectors whose memory comes from the pool: what is made anew for every frame is not asked of the system each time.
#pragma once

#include <cstddef>
#include <cstdlib>
#include <new>
#include <type_traits>
#include <utility>
#include <vector>

#include "base/buffer_pool.h"

namespace oa {

template <class T>
struct PoolAllocator {
  using value_type = T;
  PoolAllocator() = default;
  template <class U>
  PoolAllocator(const PoolAllocator<U>&) {}
  T* allocate(std::size_t n) {
    const std::size_t bytes = bytesFor(n);
    void* memory = bytes >= kPooledBytes ? BufferPool::shared().take(bytes) : std::aligned_alloc(128, bytes);
    if (!memory) throw std::bad_alloc();
    return static_cast<T*>(memory);
  }
  void deallocate(T* p, std::size_t n) {
    const std::size_t bytes = bytesFor(n);
    bytes >= kPooledBytes ? BufferPool::shared().give(p) : std::free(p);
  }
  template <class U>
  bool operator==(const PoolAllocator<U>&) const {
    return true;
  }

 private:
  static std::size_t bytesFor(std::size_t n) { return (n * sizeof(T) + 127) / 128 * 128; }
};

template <class T>
using PooledVector = std::vector<T, PoolAllocator<T>>;

/// The same, but what it is resized to is memory as it comes: whoever asks for room fills all of it, on several threads perhaps.
template <class T>
requires std::is_trivially_copyable_v<T> && std::is_trivially_destructible_v<T>
struct RawPoolAllocator : PoolAllocator<T> {
  template <class U>
  struct rebind {
    using other = RawPoolAllocator<U>;
  };
  template <class U>
  void construct(U*) noexcept {}
  template <class U, class... Args>
  requires(sizeof...(Args) > 0) void construct(U* p, Args&&... args) { ::new (static_cast<void*>(p)) U(std::forward<Args>(args)...); }
};

template <class T>
using RawPooledVector = std::vector<T, RawPoolAllocator<T>>;

}  // namespace oa
