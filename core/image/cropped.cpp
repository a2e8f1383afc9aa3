#include "image/cropped.h"

#include <algorithm>
#include <cstring>

#include "image/buffer.h"

namespace oa {
namespace {

class Cropped final : public RowMaker {
 public:
  Cropped(std::shared_ptr<const RowMaker> rows, int x, int y, int width, int have)
      : rows_(std::move(rows)), x_(x), y_(y), width_(width), have_(have) {}
  [[nodiscard]] int channels() const override { return rows_->channels(); }
  [[nodiscard]] bool opaque() const override { return rows_->opaque(); }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return rows_->hides(y + y_, x0 + x_, n); }
  [[nodiscard]] bool full(int y, int x0, int n) const override { return rows_->full(y + y_, x0 + x_, n); }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override { return rows_->nothing(y + y_, x0 + x_, n); }
  [[nodiscard]] RowParts something(int y, int x0, int n) const override {
    return rows_->something(y + y_, x0 + x_, n).moved(-x_, x0, x0 + n);
  }
  [[nodiscard]] PixelBox bounds() const override { return rows_->bounds().moved(-x_, -y_); }
  [[nodiscard]] bool makesSpans() const override { return rows_->makesSpans(); }
  void span(int y, int x0, int n, float* out) const override { rows_->span(y + y_, x0 + x_, n, out); }
  [[nodiscard]] bool paints() const override { return rows_->paints(); }
  void paint(int y, int x0, int n, float* onto) const override { rows_->paint(y + y_, x0 + x_, n, onto); }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    auto made = rows_->linear();
    return made ? std::make_shared<Cropped>(std::move(made), x_, y_, width_, have_) : nullptr;
  }
  [[nodiscard]] std::optional<Tint> tint() const override { return rows_->tint(); }
  [[nodiscard]] bool alphas(int y, int x0, int n, float* out) const override { return rows_->alphas(y + y_, x0 + x_, n, out); }
  [[nodiscard]] const float* stored(int y) const override {
    const float* row = rows_->stored(y + y_);
    return row ? row + static_cast<std::ptrdiff_t>(x_) * channels() : nullptr;
  }
  [[nodiscard]] const float* storedPart(int y, int x0, int n) const override { return rows_->storedPart(y + y_, x0 + x_, n); }
  [[nodiscard]] StoredShares storedShares(int y, int x0, int n) const override { return rows_->storedShares(y + y_, x0 + x_, n); }
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
    const std::ptrdiff_t wide = paddedRow(have_, channels());
    FloatBuffer whole(static_cast<std::size_t>(wide * (y1 - y0)));
    rows_->rows(y0 + y_, y1 + y_, whole.data(), wide);
    for (int y = y0; y < y1; ++y) std::memcpy(out + (y - y0) * stride, whole.data() + (y - y0) * wide + x_ * have, bytes);
  }

 private:
  std::shared_ptr<const RowMaker> rows_;
  int x_;
  int y_;
  int width_;
  int have_;
};

class Patched final : public RowMaker {
 public:
  Patched(std::shared_ptr<const RowMaker> rows, const PixelBox& box, int width) : rows_(std::move(rows)), box_(box), width_(width) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return holds(y, x0, n) && rows_->hides(y - box_.y0, x0 - box_.x0, n); }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override {
    const int from = std::max(x0, box_.x0);
    const int to = std::min(x0 + n, box_.x1);
    return y < box_.y0 || y >= box_.y1 || from >= to || rows_->nothing(y - box_.y0, from - box_.x0, to - from);
  }
  [[nodiscard]] RowParts something(int y, int x0, int n) const override {
    const int from = std::max(x0, box_.x0);
    const int to = std::min(x0 + n, box_.x1);
    if (y < box_.y0 || y >= box_.y1 || from >= to) return {};
    return rows_->something(y - box_.y0, from - box_.x0, to - from).moved(box_.x0, from, to);
  }
  [[nodiscard]] PixelBox bounds() const override { return box_.within(rows_->bounds().moved(box_.x0, box_.y0)); }
  [[nodiscard]] bool makesSpans() const override { return rows_->makesSpans() || rows_->stored(0) != nullptr; }
  void span(int y, int x0, int n, float* out) const override {
    const int from = std::clamp(box_.x0 - x0, 0, n);
    const int to = std::clamp(box_.x1 - x0, from, n);
    const bool inside = y >= box_.y0 && y < box_.y1 && to > from;
    float* const there = out + static_cast<std::ptrdiff_t>(from) * 4;
    if (inside && rows_->makesSpans())
      rows_->span(y - box_.y0, x0 + from - box_.x0, to - from, there);
    else if (inside)
      std::memcpy(there, rows_->stored(y - box_.y0) + static_cast<std::ptrdiff_t>(x0 + from - box_.x0) * 4,
                  sizeof(float) * static_cast<std::size_t>(to - from) * 4);
    clear(out, 0, inside ? from : n);
    if (inside) clear(out, to, n);
  }
  [[nodiscard]] bool paints() const override { return rows_->paints(); }
  void paint(int y, int x0, int n, float* onto) const override {
    const int from = std::clamp(box_.x0 - x0, 0, n);
    const int to = std::clamp(box_.x1 - x0, from, n);
    if (y >= box_.y0 && y < box_.y1 && to > from)
      rows_->paint(y - box_.y0, x0 + from - box_.x0, to - from, onto + static_cast<std::ptrdiff_t>(from) * 4);
  }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    auto made = rows_->linear();
    return made ? std::make_shared<Patched>(std::move(made), box_, width_) : nullptr;
  }
  [[nodiscard]] std::optional<Tint> tint() const override { return rows_->tint(); }
  [[nodiscard]] bool alphas(int y, int x0, int n, float* out) const override {
    return holds(y, x0, n) && rows_->alphas(y - box_.y0, x0 - box_.x0, n, out);
  }
  [[nodiscard]] const float* storedPart(int y, int x0, int n) const override {
    return holds(y, x0, n) ? rows_->storedPart(y - box_.y0, x0 - box_.x0, n) : nullptr;
  }
  [[nodiscard]] StoredShares storedShares(int y, int x0, int n) const override {
    return holds(y, x0, n) ? rows_->storedShares(y - box_.y0, x0 - box_.x0, n) : StoredShares{};
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const int from = std::clamp(box_.y0, y0, y1);
    const int to = std::clamp(box_.y1, from, y1);
    // What its kernels write beyond the box is cleared after.
    if (to > from) rows_->rows(from - box_.y0, to - box_.y0, out + (from - y0) * stride + static_cast<std::ptrdiff_t>(box_.x0) * 4, stride);
    for (int y = y0; y < y1; ++y) {
      float* row = out + (y - y0) * stride;
      const bool inside = y >= from && y < to;
      clear(row, 0, inside ? box_.x0 : width_);
      if (inside) clear(row, box_.x1, width_);
    }
  }

 private:
  [[nodiscard]] bool holds(int y, int x0, int n) const { return y >= box_.y0 && y < box_.y1 && x0 >= box_.x0 && x0 + n <= box_.x1; }
  static void clear(float* row, int from, int to) {
    std::memset(row + static_cast<std::ptrdiff_t>(from) * 4, 0, sizeof(float) * 4 * static_cast<std::size_t>(std::max(0, to - from)));
  }
  std::shared_ptr<const RowMaker> rows_;
  PixelBox box_;
  int width_;
};

}  // namespace

std::shared_ptr<const RowMaker> patched(std::shared_ptr<const RowMaker> rows, const PixelBox& box, int width) {
  return std::make_shared<Patched>(std::move(rows), box, width);
}

std::shared_ptr<const RowMaker> cropped(std::shared_ptr<const RowMaker> rows, int x, int y, int width, int have) {
  if (x == 0 && y == 0 && width == have) return rows;
  return std::make_shared<Cropped>(std::move(rows), x, y, width, have);
}

}  // namespace oa
