// A layer's recipe at one moment, planned: whole-picture work done, point steps ready to be fused.
#pragma once

#include <memory>
#include <vector>

#include "image/rows.h"
#include "scene/scene.h"

namespace oa {

/// A base (source, or the result of the last area step) and the point steps after it.
class LayerPass final : public RowMaker {
 public:
  /// Plans recipe steps [first, last) on top of `base` (null: the recipe begins with its source).
  LayerPass(const Layer& layer, std::size_t first, std::size_t last, std::shared_ptr<const RowMaker> base, const Moment& at,
            const FrameInfo& frame);

  [[nodiscard]] int channels() const override { return channels_; }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override;

  [[nodiscard]] const RowMaker& base() const { return *base_; }
  [[nodiscard]] std::shared_ptr<const RowMaker> sharedBase() const { return base_; }
  [[nodiscard]] const float* stored(int y) const override { return points_.empty() ? base_->stored(y) : nullptr; }
  /// Applies the point steps to `n` pixels of the base from (x0, y) and writes RGBA; a field left over becomes grey.
  /// `scratch` has room for n pixels of four channels and may be `in`.
  void finish(const float* in, int n, int x0, int y, float* scratch, float* rgba) const;

 private:
  void applyPoints(const float* in, int n, int x0, int y, float* scratch, float* out) const;

  std::shared_ptr<const RowMaker> base_;
  std::vector<std::unique_ptr<PointKernel>> points_;
  int width_;
  int channels_ = 1;
  bool opaque_ = true;
};

/// How many leading steps of a recipe need more than a pixel's own value: the source and everything up to
/// the last area step. What comes after is fused.
std::size_t wholeSteps(const Layer& layer);

}  // namespace oa
