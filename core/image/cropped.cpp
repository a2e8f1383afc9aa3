#include "image/cropped.h"

#include <algorithm>
#include <cstring>

#include "image/buffer.h"

namespace oa {
namespace {

class Cropped final : public RowMaker {
 public:
  Cropped(std::shared_ptr<const RowMaker> rows, int x, int y, int width) : rows_(std::move(rows)), x_(x), y_(y), width_(width) {}
  [[nodiscard]] int channels() const override { return rows_->channels(); }
  [[nodiscard]] bool opaque() const override { return rows_->opaque(); }
  [[nodiscard]] PixelBox bounds() const override { return rows_->bounds().moved(-x_, -y_); }
  [[nodiscard]] bool makesSpans() const override { return rows_->makesSpans(); }
  void span(int y, int x0, int n, float* out) const override { rows_->span(y + y_, x0 + x_, n, out); }
  [[nodiscard]] const float* stored(int y) const override {
    const float* row = rows_->stored(y + y_);
    return row ? row + static_cast<std::ptrdiff_t>(x_) * channels() : nullptr;
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const auto have = static_cast<std::ptrdiff_t>(channels());
    if (rows_->makesSpans()) {
      for (int y = y0; y < y1; ++y)
        for (int x = 0; x < width_; x += kSpanStep) span(y, x, std::min(kSpanStep, width_ - x), out + (y - y0) * stride + x * have);
      return;
    }
    const std::size_t bytes = sizeof(float) * static_cast<std::size_t>(width_ * have);
    if (rows_->stored(y0 + y_)) {
      for (int y = y0; y < y1; ++y) std::memcpy(out + (y - y0) * stride, stored(y), bytes);
      return;
    }
    const std::ptrdiff_t wide = paddedRow(x_ + width_, channels());
    FloatBuffer whole(static_cast<std::size_t>(wide * (y1 - y0)));
    rows_->rows(y0 + y_, y1 + y_, whole.data(), wide);
    for (int y = y0; y < y1; ++y) std::memcpy(out + (y - y0) * stride, whole.data() + (y - y0) * wide + x_ * have, bytes);
  }

 private:
  std::shared_ptr<const RowMaker> rows_;
  int x_;
  int y_;
  int width_;
};

}  // namespace

std::shared_ptr<const RowMaker> cropped(std::shared_ptr<const RowMaker> rows, int x, int y, int width) {
  if (x == 0 && y == 0) return rows;
  return std::make_shared<Cropped>(std::move(rows), x, y, width);
}

}  // namespace oa
