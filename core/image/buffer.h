// Aligned float storage.
#pragma once

#include <cstddef>
#include <cstdlib>
#include <memory>
#include <new>

#include "image/rows.h"

namespace oa {

/// Uninitialised floats on a 128-byte boundary.
class FloatBuffer {
 public:
  FloatBuffer() = default;
  explicit FloatBuffer(std::size_t count) {
    const std::size_t bytes = (count * sizeof(float) + 127) / 128 * 128;
    data_.reset(static_cast<float*>(std::aligned_alloc(128, bytes == 0 ? 128 : bytes)));
    if (!data_) throw std::bad_alloc();
  }
  [[nodiscard]] float* data() { return data_.get(); }
  [[nodiscard]] const float* data() const { return data_.get(); }

 private:
  struct Free {
    void operator()(float* p) const { std::free(p); }
  };
  std::unique_ptr<float, Free> data_;
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

 private:
  int width_ = 0;
  int height_ = 0;
  int channels_ = 0;
  std::ptrdiff_t stride_ = 0;
  FloatBuffer buffer_;
};

}  // namespace oa
