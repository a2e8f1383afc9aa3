#include "render/layer_pass.h"

#include <algorithm>
#include <cstring>

#include "image/buffer.h"
#include "image/grey.h"

namespace oa {

LayerPass::LayerPass(const Layer& layer, std::size_t first, std::size_t last, std::shared_ptr<const RowMaker> base, const Moment& at,
                     const FrameInfo& frame)
    : base_(std::move(base)), width_(frame.width) {
  if (base_) {
    channels_ = base_->channels();
    opaque_ = base_->opaque();
  }
  for (std::size_t i = first; i < last; ++i) {
    const RecipeStep& step = layer.recipe[i];
    const bool source = step.spec->kind == StepKind::Source;
    // A recipe without its source has nothing to show; a source cannot be switched off, only hidden.
    if (!step.on && !source) continue;
    const StepContext context(step.spec->params, step.params, at, frame);
    switch (step.spec->kind) {
      case StepKind::Source:
        base_ = step.spec->source(context);
        channels_ = base_->channels();
        opaque_ = base_->opaque();
        break;
      case StepKind::Point:
        points_.push_back(step.spec->point(context, channels_));
        channels_ = points_.back()->outChannels();
        opaque_ = opaque_ && points_.back()->keepsOpaque();
        break;
      case StepKind::Area: {
        std::shared_ptr<const RowMaker> next = step.spec->area(context, *this, frame.width, frame.height);
        base_ = std::move(next);
        points_.clear();
        channels_ = base_->channels();
        opaque_ = base_->opaque();
        break;
      }
    }
  }
}

// Intermediate results alternate between nothing but `scratch` (fields) and `out` (pictures), so that each
// step reads and writes what the L1 cache holds.
void LayerPass::applyPoints(const float* in, int n, int x0, int y, float* scratch, float* out) const {
  const float* from = in;
  int have = base_->channels();
  for (const auto& point : points_) {
    float* to = point->outChannels() == channels_ ? out : scratch;
    point->apply(from, to, n, x0, y);
    from = to;
    have = point->outChannels();
  }
  if (from != out) std::memcpy(out, from, sizeof(float) * static_cast<std::size_t>(n) * static_cast<std::size_t>(have));
}

void LayerPass::finish(const float* in, int n, int x0, int y, float* scratch, float* rgba) const {
  if (channels_ == 4) return applyPoints(in, n, x0, y, scratch, rgba);
  for (const auto& point : points_) {
    point->apply(in, scratch, n, x0, y);
    in = scratch;
  }
  greyToRgba(in, n, rgba);
}

void LayerPass::rows(int y0, int y1, float* out, std::ptrdiff_t stride) const {
  const int have = base_->channels();
  if (points_.empty()) return base_->rows(y0, y1, out, stride);
  const std::ptrdiff_t baseStride = paddedRow(width_, have);
  FloatBuffer buffer(static_cast<std::size_t>(baseStride * (y1 - y0)));
  base_->rows(y0, y1, buffer.data(), baseStride);
  for (int y = y0; y < y1; ++y) {
    float* row = buffer.data() + (y - y0) * baseStride;
    applyPoints(row, width_, 0, y, row, out + (y - y0) * stride);
  }
}

std::size_t wholeSteps(const Layer& layer) {
  std::size_t count = 1;
  for (std::size_t i = 0; i < layer.recipe.size(); ++i)
    if (layer.recipe[i].on && layer.recipe[i].spec->kind != StepKind::Point) count = i + 1;
  return count;
}

}  // namespace oa
