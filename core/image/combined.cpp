#include "image/combined.h"

#include <algorithm>

#include "image/buffer.h"

namespace oa {
namespace {

class Combined final : public RowMaker {
 public:
  Combined(std::vector<std::shared_ptr<const RowMaker>> parts, int width, CombinedLook look, CombineSpan span)
      : parts_(std::move(parts)), width_(width), look_(look), span_(std::move(span)) {
    for (const auto& part : parts_) inSpans_ = inSpans_ && (part->makesSpans() || part->stored(0));
  }
  [[nodiscard]] int channels() const override { return look_.channels; }
  [[nodiscard]] bool opaque() const override { return look_.opaque || look_.channels == 1; }
  [[nodiscard]] bool makesSpans() const override { return inSpans_; }
  [[nodiscard]] bool costly() const override { return true; }
  void span(int y, int x0, int n, float* out) const override {
    // Those of few parts need no memory of their own.
    if (parts_.size() <= kFew) {
      alignas(64) float room[kFew * kPartRoom];
      const float* at[kFew] = {};
      combine(y, x0, n, at, room, out);
      return;
    }
    FloatBuffer room(roomForSpans());
    std::vector<const float*> at(parts_.size());
    combine(y, x0, n, at.data(), room.data(), out);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    // Only parts that do not come in spans, or lie finished, are made as rows.
    std::vector<FloatBuffer> made(parts_.size());
    std::vector<const float*> at(parts_.size());
    const auto strideOf = [&](std::size_t k) { return paddedRow(width_, parts_[k]->channels()); };
    for (std::size_t k = 0; k < parts_.size(); ++k) {
      if (parts_[k]->makesSpans() || parts_[k]->stored(y0)) continue;
      made[k] = FloatBuffer(static_cast<std::size_t>(strideOf(k) * (y1 - y0)));
      parts_[k]->rows(y0, y1, made[k].data(), strideOf(k));
    }
    FloatBuffer room(roomForSpans());
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < width_; x += kSpanStep) {
        for (std::size_t k = 0; k < parts_.size(); ++k)
          at[k] =
              made[k].data() ? made[k].data() + (y - y0) * strideOf(k) + static_cast<std::ptrdiff_t>(x) * parts_[k]->channels() : nullptr;
        combine(y, x, std::min(kSpanStep, width_ - x), at.data(), room.data(),
                out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * look_.channels);
      }
  }

 private:
  static constexpr std::size_t kPartRoom = static_cast<std::size_t>(kSpanStep + kSpanPadding) * 4;
  static constexpr std::size_t kFew = 3;
  [[nodiscard]] std::size_t roomForSpans() const { return parts_.size() * kPartRoom; }

  // `at` says where parts lie that were made already.
  void combine(int y, int x0, int n, const float** at, float* room, float* out) const {
    for (std::size_t k = 0; k < parts_.size(); ++k) {
      if (at[k]) continue;
      const RowMaker& part = *parts_[k];
      if (const float* row = part.stored(y)) {
        at[k] = row + static_cast<std::ptrdiff_t>(x0) * part.channels();
        continue;
      }
      float* const to = room + k * kPartRoom;
      part.span(y, x0, n, to);
      at[k] = to;
    }
    span_(at, x0, y, n, out);
  }

  std::vector<std::shared_ptr<const RowMaker>> parts_;
  int width_;
  CombinedLook look_;
  CombineSpan span_;
  bool inSpans_ = true;
};

}  // namespace

std::shared_ptr<const RowMaker> combinedRows(std::vector<std::shared_ptr<const RowMaker>> parts, int width, CombinedLook look,
                                             CombineSpan span) {
  return std::make_shared<Combined>(std::move(parts), width, look, std::move(span));
}

}  // namespace oa
