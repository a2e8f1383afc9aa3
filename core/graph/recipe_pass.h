// A layer's recipe at one moment in one view, planned: whole-picture work done, point steps ready to be fused.
#pragma once

#include <memory>
#include <vector>

#include "image/rows.h"
#include "scene/plan.h"

namespace oa {

class Puller;

/// A base (source, or the result of the last area step) and the point steps after it.
class RecipePass final : public RowMaker {
 public:
  /// The first `steps` steps of the recipe of a layer of the plan.
  RecipePass(const Puller& puller, int layer, std::size_t steps, const Moment& at, const PlaneView& view);
  /// Rows as they are.
  RecipePass(std::shared_ptr<const RowMaker> rows, int width);

  [[nodiscard]] int channels() const override { return channels_; }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return keepsOpaque_ && base_->hides(y, x0, n); }
  [[nodiscard]] bool full(int y, int x0, int n) const override { return bare() ? base_->full(y, x0, n) : RowMaker::full(y, x0, n); }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override { return base_->channels() == 4 && base_->nothing(y, x0, n); }
  [[nodiscard]] RowParts something(int y, int x0, int n) const override {
    return base_->channels() == 4 ? base_->something(y, x0, n) : RowMaker::something(y, x0, n);
  }
  [[nodiscard]] PixelBox bounds() const override { return channels_ == base_->channels() ? base_->bounds() : PixelBox(); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override;
  /// What is in one colour is better kept as that.
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override { return channels_ == 4 && !tint() ? inLight() : nullptr; }
  /// What finishes in linear light, where that costs no more; null where pixels would have to be decoded.
  [[nodiscard]] std::shared_ptr<const RecipePass> inLight() const;
  [[nodiscard]] bool makesSpans() const override { return base_->makesSpans(); }
  void span(int y, int x0, int n, float* out) const override;

  /// No point steps: the pass is its base.
  [[nodiscard]] bool bare() const { return points_.empty(); }
  [[nodiscard]] const RowMaker& base() const { return *base_; }
  [[nodiscard]] std::shared_ptr<const RowMaker> sharedBase() const { return base_; }
  [[nodiscard]] std::optional<Tint> tint() const override { return points_.empty() ? base_->tint() : std::nullopt; }
  [[nodiscard]] bool alphas(int y, int x0, int n, float* out) const override { return bare() && base_->alphas(y, x0, n, out); }
  [[nodiscard]] const float* stored(int y) const override { return points_.empty() ? base_->stored(y) : nullptr; }
  [[nodiscard]] bool paints() const override { return points_.empty() && base_->paints(); }
  void paint(int y, int x0, int n, float* onto) const override { base_->paint(y, x0, n, onto); }
  /// Applies the point steps to `n` pixels of the base from (x0, y) and writes RGBA; a field left over becomes grey.
  /// `scratch` has room for n pixels of four channels and may be `in`.
  void finish(const float* in, int n, int x0, int y, float* scratch, float* rgba) const;

 private:
  void applyPoints(const float* in, int n, int x0, int y, float* scratch, float* out) const;

  std::shared_ptr<const RowMaker> base_;
  std::vector<std::shared_ptr<const PointKernel>> points_;
  int width_;
  int channels_ = 1;
  bool opaque_ = true;
  bool keepsOpaque_ = true;  // the point steps do
  bool greyInLight_ = false;
};

/// How many of a recipe's first `steps` need more than a pixel's own value: the source and everything up to the last area step
/// that is there at the moment. What comes after is fused.
std::size_t wholeSteps(const Plan& plan, int layer, std::size_t steps, const Moment& at);

/// `t` of the way from one picture to another, pixel by pixel; a field beside a picture counts as grey.
std::shared_ptr<const RowMaker> mixedRows(std::shared_ptr<const RowMaker> from, std::shared_ptr<const RowMaker> to, double t, int width);

}  // namespace oa
