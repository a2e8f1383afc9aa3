#include "image/combined.h"

#include <algorithm>

#include "image/buffer.h"

namespace oa {
namespace {

class Combined final : public RowMaker {
 public:
  Combined(std::vector<std::shared_ptr<const RowMaker>> parts, int width, CombinedLook look, CombineSpan span)
      : parts_(std::move(parts)), width_(width), look_(look), span_(std::move(span)) {
    for (const auto& part : parts_) strides_.push_back(paddedRow(width, part->channels()));
  }
  [[nodiscard]] int channels() const override { return look_.channels; }
  [[nodiscard]] bool opaque() const override { return look_.opaque || look_.channels == 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    std::vector<FloatBuffer> made(parts_.size());
    for (std::size_t k = 0; k < parts_.size(); ++k) {
      if (parts_[k]->stored(y0)) continue;
      made[k] = FloatBuffer(static_cast<std::size_t>(strides_[k] * (y1 - y0)));
      parts_[k]->rows(y0, y1, made[k].data(), strides_[k]);
    }
    std::vector<const float*> rows(parts_.size());
    std::vector<const float*> at(parts_.size());
    for (int y = y0; y < y1; ++y) {
      for (std::size_t k = 0; k < parts_.size(); ++k)
        rows[k] = made[k].data() ? made[k].data() + (y - y0) * strides_[k] : parts_[k]->stored(y);
      for (int x = 0; x < width_; x += kSpanStep) {
        for (std::size_t k = 0; k < parts_.size(); ++k) at[k] = rows[k] + static_cast<std::ptrdiff_t>(x) * parts_[k]->channels();
        span_(at.data(), x, y, std::min(kSpanStep, width_ - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * look_.channels);
      }
    }
  }

 private:
  std::vector<std::shared_ptr<const RowMaker>> parts_;
  std::vector<std::ptrdiff_t> strides_;
  int width_;
  CombinedLook look_;
  CombineSpan span_;
};

}  // namespace

std::shared_ptr<const RowMaker> combinedRows(std::vector<std::shared_ptr<const RowMaker>> parts, int width, CombinedLook look,
                                             CombineSpan span) {
  return std::make_shared<Combined>(std::move(parts), width, look, std::move(span));
}

}  // namespace oa
