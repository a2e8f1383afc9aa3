#include "image/stacked.h"

#include <algorithm>
#include <cstring>

#include "image/blend.h"
#include "image/buffer.h"
#include "image/grey.h"

namespace oa {
namespace {

// Rows of others, made for a maker of one's own.
class Rows {
 public:
  Rows(const RowMaker& maker, int y0, int y1, int width)
      : stride_(paddedRow(width, maker.channels())), buffer_(static_cast<std::size_t>(stride_ * (y1 - y0))), y0_(y0) {
    maker.rows(y0, y1, buffer_.data(), stride_);
  }
  [[nodiscard]] float* row(int y) { return buffer_.data() + (y - y0_) * stride_; }

 private:
  std::ptrdiff_t stride_;
  FloatBuffer buffer_;
  int y0_;
};

class Stacked final : public RowMaker {
 public:
  Stacked(std::vector<std::shared_ptr<const RowMaker>> pictures, int width) : pictures_(std::move(pictures)), width_(width) {
    bounds_ = {0, 0, 0, 0};
    for (const auto& picture : pictures_) {
      bounds_ = bounds_.with(picture->bounds());
      paints_ = paints_ && picture->paints();
    }
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override {
    return std::all_of(pictures_.begin(), pictures_.end(), [=](const auto& picture) {
      const PixelBox box = picture->bounds();
      const int from = std::max(x0, box.x0);
      const int to = std::min(x0 + n, box.x1);
      return !box.rows(y, y + 1) || from >= to || picture->nothing(y, from, to - from);
    });
  }
  [[nodiscard]] PixelBox bounds() const override { return bounds_; }
  [[nodiscard]] std::optional<Tint> tint() const override {
    std::optional<Tint> one;
    for (const auto& picture : pictures_) {
      const auto own = picture->tint();
      if (!own || (one && *one != *own)) return std::nullopt;
      one = own;
    }
    return one;
  }
  [[nodiscard]] bool makesSpans() const override { return paints_; }
  [[nodiscard]] bool costly() const override { return true; }
  void span(int y, int x0, int n, float* out) const override {
    std::memset(out, 0, sizeof(float) * 4 * static_cast<std::size_t>(n));
    paint(y, x0, n, out);
  }
  [[nodiscard]] bool paints() const override { return paints_; }
  void paint(int y, int x0, int n, float* onto) const override {
    for (const auto& picture : pictures_)
      if (picture->bounds().rows(y, y + 1)) picture->paint(y, x0, n, onto);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    if (paints_) {
      for (int y = y0; y < y1; ++y)
        for (int x = 0; x < width_; x += kSpanStep)
          span(y, x, std::min(kSpanStep, width_ - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * 4);
      return;
    }
    for (int y = y0; y < y1; ++y) std::memset(out + (y - y0) * stride, 0, sizeof(float) * static_cast<std::size_t>(width_) * 4);
    for (const auto& picture : pictures_) {
      const PixelBox box = picture->bounds().within({0, y0, width_, y1});
      if (box.empty()) continue;
      Rows made(*picture, box.y0, box.y1, width_);
      for (int y = box.y0; y < box.y1; ++y) laySpan(made.row(y) + box.x0 * 4, out + (y - y0) * stride + box.x0 * 4, box.x1 - box.x0);
    }
  }

 private:
  std::vector<std::shared_ptr<const RowMaker>> pictures_;
  int width_;
  PixelBox bounds_;
  bool paints_ = true;
};

class AlphaOf final : public RowMaker {
 public:
  AlphaOf(std::shared_ptr<const RowMaker> picture, int width) : picture_(std::move(picture)), width_(width) {}
  [[nodiscard]] int channels() const override { return 1; }
  [[nodiscard]] bool makesSpans() const override { return picture_->makesSpans(); }
  [[nodiscard]] bool costly() const override { return picture_->costly(); }
  void span(int y, int x0, int n, float* out) const override {
    alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
    picture_->span(y, x0, n, made);
    takeAlpha(made, n, out);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    if (makesSpans()) {
      for (int y = y0; y < y1; ++y)
        for (int x = 0; x < width_; x += kSpanStep) span(y, x, std::min(kSpanStep, width_ - x), out + (y - y0) * stride + x);
      return;
    }
    Rows made(*picture_, y0, y1, width_);
    for (int y = y0; y < y1; ++y) takeAlpha(made.row(y), width_, out + (y - y0) * stride);
  }

 private:
  std::shared_ptr<const RowMaker> picture_;
  int width_;
};

class Tinted final : public RowMaker {
 public:
  Tinted(std::shared_ptr<const RowMaker> field, const Colour& c, double strength, int width)
      : field_(std::move(field)), colour_{c.r * c.a, c.g * c.a, c.b * c.a, c.a}, strength_(static_cast<float>(strength)), width_(width) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool makesSpans() const override { return field_->makesSpans(); }
  [[nodiscard]] bool costly() const override { return field_->costly(); }
  [[nodiscard]] std::optional<Tint> tint() const override { return tintOf({colour_[0], colour_[1], colour_[2], colour_[3]}); }
  void span(int y, int x0, int n, float* out) const override {
    alignas(128) float made[kSpanStep + kSpanPadding];
    field_->span(y, x0, n, made);
    tintCover(made, n, strength_, colour_, out);
  }
  [[nodiscard]] bool paints() const override { return makesSpans(); }
  void paint(int y, int x0, int n, float* onto) const override {
    alignas(128) float shares[kSpanStep + kSpanPadding];
    field_->span(y, x0, n, shares);
    coverShares(shares, n, strength_);
    layTint(shares, colour_, onto, n);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    Rows made(*field_, y0, y1, width_);
    for (int y = y0; y < y1; ++y) tintCover(made.row(y), width_, strength_, colour_, out + (y - y0) * stride);
  }

 private:
  std::shared_ptr<const RowMaker> field_;
  float colour_[4];
  float strength_;
  int width_;
};

class Painted final : public RowMaker {
 public:
  Painted(std::shared_ptr<const RowMaker> shape, std::shared_ptr<const RowMaker> paint, int width)
      : shape_(std::move(shape)), paint_(std::move(paint)), width_(width) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] PixelBox bounds() const override { return shape_->bounds(); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    Rows made(*shape_, y0, y1, width_);
    Rows paint(*paint_, y0, y1, width_);
    FloatBuffer grey(static_cast<std::size_t>(paddedRow(width_, 4)));
    for (int y = y0; y < y1; ++y) {
      const float* shape = made.row(y);
      const float* in = paint.row(y);
      if (paint_->channels() == 1) {
        greyToRgba(in, width_, grey.data());
        in = grey.data();
      }
      float* to = out + (y - y0) * stride;
      for (int x = 0; x < width_; ++x)
        for (int c = 0; c < 4; ++c) to[x * 4 + c] = in[x * 4 + c] * shape[x * 4 + 3];
    }
  }

 private:
  std::shared_ptr<const RowMaker> shape_;
  std::shared_ptr<const RowMaker> paint_;
  int width_;
};

}  // namespace

std::unique_ptr<RowMaker> stackedRows(std::vector<std::shared_ptr<const RowMaker>> pictures, int width) {
  return std::make_unique<Stacked>(std::move(pictures), width);
}

std::shared_ptr<const RowMaker> alphaRows(std::shared_ptr<const RowMaker> picture, int width) {
  return std::make_shared<AlphaOf>(std::move(picture), width);
}

std::shared_ptr<const RowMaker> tintedRows(std::shared_ptr<const RowMaker> field, const Colour& colour, double strength, int width) {
  return std::make_shared<Tinted>(std::move(field), colour, strength, width);
}

std::shared_ptr<const RowMaker> paintedRows(std::shared_ptr<const RowMaker> shape, std::shared_ptr<const RowMaker> paint, int width) {
  return std::make_shared<Painted>(std::move(shape), std::move(paint), width);
}

}  // namespace oa
