// Aligned float storage.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdlib>
#include <memory>
#include <new>

#include "base/buffer_pool.h"
#include "image/rows.h"

namespace oa {

struct GiveBack {
  std::size_t bytes = 0;
  void operator()(float* p) const { bytes >= kPooledBytes ? BufferPool::shared().give(p) : std::free(p); }
};

/// Uninitialised floats on a 128-byte boundary; large ones come from the pool.
class FloatBuffer {
 public:
  FloatBuffer() = default;
  explicit FloatBuffer(std::size_t count) {
    const std::size_t bytes = std::max<std::size_t>(128, (count * sizeof(float) + 127) / 128 * 128);
    void* memory = bytes >= kPooledBytes ? BufferPool::shared().take(bytes) : std::aligned_alloc(128, bytes);
    if (!memory) throw std::bad_alloc();
    data_ = {static_cast<float*>(memory), GiveBack{bytes}};
  }
  [[nodiscard]] float* data() { return data_.get(); }
  [[nodiscard]] const float* data() const { return data_.get(); }

 private:
  std::unique_ptr<float, GiveBack> data_;
};

/// The pixels of a whole field or picture, wherever they are kept.
struct PlanePixels {
  const float* first = nullptr;
  std::ptrdiff_t stride = 0;  ///< floats from row to row
  int width = 0;
  int height = 0;
  int channels = 1;
  [[nodiscard]] const float* row(int y) const { return first + y * stride; }
};

/// A whole field (1 channel) or picture (4 channels) with padded rows.
class Plane {
 public:
  Plane() = default;
  Plane(int width, int height, int channels)
      : width_(width),
        height_(height),
        channels_(channels),
        stride_(paddedRow(width, channels)),
        buffer_(static_cast<std::size_t>(stride_) * static_cast<std::size_t>(height)) {}

  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }
  [[nodiscard]] int channels() const { return channels_; }
  [[nodiscard]] std::ptrdiff_t stride() const { return stride_; }
  [[nodiscard]] float* row(int y) { return buffer_.data() + y * stride_; }
  [[nodiscard]] const float* row(int y) const { return buffer_.data() + y * stride_; }
  [[nodiscard]] PlanePixels pixels() const { return {buffer_.data(), stride_, width_, height_, channels_}; }

 private:
  int width_ = 0;
  int height_ = 0;
  int channels_ = 0;
  std::ptrdiff_t stride_ = 0;
  FloatBuffer buffer_;
};

}  // namespace oa
